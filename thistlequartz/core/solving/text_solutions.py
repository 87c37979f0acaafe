"""Texts made to the length, pattern, format and case that a solver model asks for.

Where no such text can be, that is proved by automata, and told as a fact that the solver lacked.
"""

from collections.abc import Callable, Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import reduce
from typing import Any, Final

import z3

from thistlequartz.core.engines.solver import TextTerms
from thistlequartz.core.engines.solver.terms import all_of, any_of, none_of
from thistlequartz.core.formats import NAMED_FORMATS
from thistlequartz.core.formats.automata import (
    FILLED,
    TRIMMED,
    Automaton,
    around,
    automaton_of,
    of_length,
)
from thistlequartz.core.values import ReadingSettings, normalised

MOST_TRIED: Final = 120
_LENGTH: Final = ("string length",)
_TURNED: Final = ("fold case", "upper case", "lower case", "trim")
_CASES: Final = {"upper": "[^a-z]*", "lower": "[^A-Z]*"}


@dataclass(frozen=True, slots=True)
class TextConstraint:
    """One answer that a model wants of a text."""

    name: tuple[object, ...]
    function: Any
    fact: Callable[[str], Any]
    answer: Any

    def at(self, place: Any) -> Any:
        """That the text at a place gives this answer."""
        return self.function(place) == self.answer

    def is_given_by(self, text: str) -> bool:
        """Whether a text gives it."""
        told = self.fact(text)
        return told is None or z3.is_true(z3.simplify(told == self.answer))

    @property
    def automaton(self) -> Automaton | None:
        """The texts that give it; None where that cannot be said."""
        if self.name == _LENGTH:
            count = self.answer.as_long()
            return of_length(count, count)
        if not z3.is_bool(self.answer):
            return None
        found = _fitting(*self.name)
        return found.others if found and z3.is_false(self.answer) else found


def _fitting(name: object, *given: object) -> Automaton | None:
    match name, *given:
        case "fits pattern", str(pattern):
            return automaton_of(pattern)
        case "matches", str(pattern):
            return automaton_of(pattern, search=True)
        case "contains", str(text):
            return around(text, before=True, after=True)
        case "starts with", str(text):
            return around(text, before=False, after=True)
        case "ends with", str(text):
            return around(text, before=True, after=False)
        case _:
            return None


class TextMaker:
    """Makes the texts of one model, each for the places of the record where it stands."""

    def __init__(self, texts: TextTerms, evaluate: Callable[[Any], Any], names: Collection[str]):
        """`evaluate` gives the value of a term in the model; `names` are those it is about."""
        self.texts = texts
        self._questions = [
            (name, function, fact)
            for name, function, fact in texts.questions()
            if function.name() in names
        ]
        self._evaluate = evaluate
        self._used: set[str] = set()

    def make(
        self, number: int, places: Sequence[Any], settings: Sequence[ReadingSettings]
    ) -> str | Any | None:
        """Return a text for a number that stands for no known text.

        Where there is no such text, what is so of its places in every record; None where neither is
        known.
        """
        wanted = list(self._wanted(number))
        said = [(one, one.automaton) for one in wanted]
        automata = [(one, found) for one, found in said if found is not None]
        own = [found for one in settings for found in _of_settings(one)]
        whole = _all_of([*own, *(found for _, found in automata)])
        if whole is not None and whole.is_empty:
            needed, there = _needed(automata, own), places[0]
            same = [other == there for other in places[1:]]
            told = [one.at(there) for one in needed if one.name != _LENGTH]
            return none_of(all_of([*same, *told, *_lengths_missed(needed, own, there)]))
        for text in self._candidates(wanted, whole):
            known = self.texts.is_known(text)
            if known or text in self._used or not self._suits(text, wanted, settings):
                continue
            self._used.add(text)
            return text
        return self._of_known_ones(whole, [one for one, _ in automata], places)

    def _wanted(self, number: int) -> Iterator[TextConstraint]:
        for name, function, fact in self._questions:
            if name[0] not in _TURNED and name[-1] != "blank":
                answer = self._evaluate(function(z3.IntVal(number)))
                yield TextConstraint(name, function, fact, answer)

    def _candidates(
        self, wanted: Iterable[TextConstraint], whole: Automaton | None
    ) -> Iterator[str]:
        for one in wanted:
            match one.name:
                case ("in format", str(key), country) if z3.is_true(one.answer):
                    yield from _examples(key, country if isinstance(country, str) else None)
        if whole is not None:
            every = whole.every_text(MOST_TRIED)
            yield from whole.texts(MOST_TRIED) if every is None else sorted(every, key=len)

    def _suits(
        self, text: str, wanted: Iterable[TextConstraint], settings: Iterable[ReadingSettings]
    ) -> bool:
        same = all(normalised(text, one) == text for one in settings)
        return same and all(one.is_given_by(text) for one in wanted)

    def _of_known_ones(
        self, whole: Automaton | None, wanted: Sequence[TextConstraint], places: Sequence[Any]
    ) -> Any | None:
        """Where the few texts that would do are all known: that it is one of them. All its places
        are the same then, as what each of them makes of a text is among what it has to be.
        """
        every = whole.every_text(MOST_TRIED) if whole is not None else None
        if every is None or not all(map(self.texts.is_known, every)):
            return None
        there = places[0]
        same = [other == there for other in places[1:]]
        told = all_of([*same, *(one.at(there) for one in wanted)])
        return z3.Implies(told, any_of(there == self.texts.number(one) for one in every))


def _all_of(automata: Sequence[Automaton]) -> Automaton | None:
    found: Automaton | None = automaton_of(FILLED)
    return reduce(lambda one, other: one & other if one else None, automata, found)


def _lengths_missed(
    needed: Sequence[TextConstraint], own: Sequence[Automaton], place: Any
) -> Iterator[Any]:
    """Where a length is among the answers: that it is one that no text has of those that give the
    others, so that not each length has to be learnt by itself.
    """
    for one in needed:
        if one.name == _LENGTH:
            rest = [found for other in needed if other is not one and (found := other.automaton)]
            whole = _all_of([*own, *rest])
            lengths = whole.lengths if whole is not None else None
            at, count = one.function(place), one.answer.as_long()
            if lengths is not None and count < lengths[0]:
                yield at < lengths[0]
            elif lengths is not None and lengths[1] is not None and count > lengths[1]:
                yield at > lengths[1]
            else:
                yield one.at(place)


def _needed(
    wanted: Sequence[tuple[TextConstraint, Automaton]], own: Sequence[Automaton]
) -> list[TextConstraint]:
    """As few of the answers as no text gives together."""
    needed = list(wanted)
    for one in wanted:
        fewer = [other for other in needed if other is not one]
        whole = _all_of([*own, *(found for _, found in fewer)])
        if whole is not None and whole.is_empty:
            needed = fewer
    return [one for one, _ in needed]


def _of_settings(settings: ReadingSettings) -> Iterator[Automaton]:
    if settings.trim and (trimmed := automaton_of(TRIMMED)):
        yield trimmed
    case = _CASES.get(settings.letter_case or "")
    if case and (found := automaton_of(case)):
        yield found


def _examples(key: str, country: str | None = None) -> Iterator[str]:
    named = NAMED_FORMATS[key]
    for example in dict.fromkeys((named.example_in(country), named.example)):
        if named.why_not(example, country) is None:
            yield example
