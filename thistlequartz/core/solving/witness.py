"""From a model of the solver to a record that can be judged, opened on the bench and kept."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from decimal import ROUND_FLOOR, Context, Decimal
from fractions import Fraction
from typing import Any, Final

import z3

from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.observing import circumstances_of
from thistlequartz.core.engines.environment import again
from thistlequartz.core.engines.solver import CodesTerm, Term, TruthTerm, ValueTerm
from thistlequartz.core.engines.solver.terms import any_of, value_at
from thistlequartz.core.judging import CompiledForm, Judgement, JudgeRequest
from thistlequartz.core.ruleset import (
    Case,
    CaseCircumstances,
    Entered,
    Expected,
    OtherRecord,
    usual_role,
)
from thistlequartz.core.types import ValueType
from thistlequartz.core.values import ReadingSettings, normalised, to_entry, to_json

from .facts import FREE
from .record_variables import RecordVariables
from .settled_terms import SettledRecord
from .text_solutions import TextMaker

_FILLER: Final = "Text"
_LONGEST: Final = 5_000
_FIRST_NUMBER: Final = 1_000
"""From which on records that nobody named are numbered."""


@dataclass(frozen=True, slots=True)
class Witness:
    """A record that shows something, with what it is judged under and the records it knows of."""

    circumstances: CaseCircumstances
    values: dict[str, Entered] = field(default_factory=dict)
    """By entry, as people type them."""
    others: tuple[OtherRecord, ...] = ()

    def case(self, name: str) -> Case:
        """The record as a case that expects nothing yet."""
        return Case(
            key="drafted",
            name=name,
            circumstances=self.circumstances,
            values=self.values,
            others=self.others,
            expected=Expected(),
        )

    def judged(self, form: CompiledForm, applied: tuple[str, ...] = ()) -> Judgement:
        """What the evaluator says of it."""
        said = self.circumstances
        stored = said.stored if said.event == "update" else None
        record = form.read(self.values, stored=stored, lookup=CaseRecords(form, self.others))
        return form.judged(JudgeRequest(record, circumstances_of(form, said), applied=applied))


def fields_in(names: frozenset[str]) -> frozenset[str]:
    """The fields whose parts bear some names."""
    return frozenset(name.removesuffix("?").partition(" ")[0] for name in names)


class SolverModel:
    """What the solver gave."""

    def __init__(
        self, world: RecordVariables, record: SettledRecord, model: Any, names: frozenset[str]
    ) -> None:
        """`names` are those that the question was about; all else is blank, and as usual."""
        self.world = world
        self._names = names
        self._keys = fields_in(names)
        self._record = record
        self._model = model
        self._made: dict[int, str] = {}
        self.unmade: tuple[str, ...] = ()
        """The fields for which it wants texts that could not be made."""

    def make_texts(self) -> list[Any]:
        """Make the unknown texts that the model asks for.

        Where there are none, return what is so of every record.
        """
        form, world = self.world.form, self.world
        places: dict[int, list[tuple[Any, ReadingSettings]]] = {}
        fields: dict[int, str] = {}
        lemmas = []
        given = (
            *((key, key, one) for key, one in world.entered.items()),
            *((again(key), key, one) for key, one in world.second.items()),
            *((f"stored.{key}", key, one) for key, one in world.stored.items()),
        )
        for name, key, term in given:
            declared = form.fields[key]
            if name not in self._keys or not declared.type.is_free_text:
                continue
            if not isinstance(term, ValueTerm) or self.satisfies(term.blank):
                continue
            settings = declared.settings
            number = self.whole(term.at)
            text = world.texts.text(number)
            if text is None:
                places.setdefault(number, []).append((term.at, settings))
                fields.setdefault(number, key)
            elif normalised(text, settings) != text:
                # The field makes another text of it, so this one is never its value.
                lemmas.append(any_of((term.blank, term.at != number)))
        maker = TextMaker(world.texts, self._evaluated, self._names)
        for number, where in places.items():
            made = maker.make(number, [at for at, _ in where], [one for _, one in where])
            if isinstance(made, str):
                self._made[number] = made
            elif made is not None:
                lemmas.append(made)
            else:
                self.unmade += (fields[number],)
        return lemmas

    def _evaluated(self, term: Any) -> Any:
        return self._model.eval(term, model_completion=True)

    def satisfies(self, condition: Any) -> bool:
        """Whether a condition is so in it."""
        return bool(z3.is_true(self._model.eval(condition, model_completion=True)))

    def given(self) -> list[Any]:
        """That all that a record is made of is as it is in it."""
        return [
            declared() == self._model[declared]
            for declared in self._model.decls()
            if not declared.arity() and declared.name() in self._names
            if not declared.name().startswith(FREE)
        ]

    def whole(self, at: Any) -> int:
        """A whole number in it."""
        found: int = self._model.eval(at, model_completion=True).as_long()
        return found

    def value(self, term: Term, *, reference: bool = False) -> Any:
        """The value of a term, as it is stored; None where it is blank."""
        match term:
            case TruthTerm(true, false):
                return True if self.satisfies(true) else False if self.satisfies(false) else None
            case CodesTerm(members):
                found = tuple(code for code, one in members.items() if self.satisfies(one))
                return found or None
            case ValueTerm(kind, blank, at):
                if self.satisfies(blank):
                    return None
                number = self._model.eval(at, model_completion=True)
                if kind == "text":
                    return self._text(number.as_long(), reference=reference)
                return value_at(kind, _exact(number))
            case _:
                return None

    def _text(self, number: int, *, reference: bool) -> str:
        known = self.world.texts.text(number)
        if known is not None:
            return known
        if number not in self._made:
            place = len(self._made) + 1
            made = str(_FIRST_NUMBER + place) if reference else f"{_FILLER} {place}"
            length = self._length(number)
            if length and not reference:
                made = made[:length].ljust(min(length, _LONGEST), "x")
            self._made[number] = made
        return self._made[number]

    def _length(self, number: int) -> int | None:
        function = self.world.texts.known_question(("string length",))
        return None if function is None else self.whole(function(z3.IntVal(number)))

    def witness(self, usually: Witness) -> Witness:
        """The record; what the question was not about is as it is `usually`."""
        world = self.world
        new = "event" not in self._names or self.satisfies(world.is_new)
        entered = {
            key: self._entry(key, one) for key, one in world.entered.items() if self._asked(key)
        }
        second = {
            again(key): self._entry(key, one)
            for key, one in world.second.items()
            if self._asked(again(key))
        }
        given = {**entered, **second}
        given |= {key: one for key, one in usually.values.items() if key not in given}
        values = {key: one for key, one in given.items() if one not in (None, "", [])}
        if new:
            # What is sent as blank does not start as something else.
            values |= {key: None for key in world.started if key not in values}
        layout = world.layouts[self.whole(world.layout) if "layout" in self._names else 0]
        role: str | None = usual_role(self.world.form.form)
        if {"role", "role?"} & self._names:
            role = self.value(world.role)
        circumstances = CaseCircumstances(
            as_of=date.fromordinal(self.whole(world.today))
            if "today" in self._names
            else world.from_day,
            event="create" if new else "update",
            stored={} if new else self._stored(world.stored, "stored."),
            entry_point=world.texts.text(self.whole(world.entry_point.at))
            if "entry_point" in self._names
            else "desk",
            layout=layout,
            role=role,
        )
        others = tuple(self._others())
        known = {(one.form, one.number) for one in others}
        more = (one for one in usually.others if (one.form, one.number) not in known)
        return Witness(circumstances, values, (*others, *more))

    def _asked(self, name: str) -> bool:
        """Whether a field is one of those the question was about."""
        return name in self._keys

    def _entry(self, key: str, term: Term) -> Any:
        declared = self.world.form.fields[key]
        reference = bool(declared.type.referred_form)
        return to_entry(self.value(term, reference=reference), declared.settings)

    def _stored(self, terms: Mapping[str, Term], prefix: str) -> dict[str, Entered]:
        form = self.world.form
        found = {
            key: to_json(self.value(one, reference=bool(form.fields[key].type.referred_form)))
            for key, one in terms.items()
            if self._asked(f"{prefix}{key}")
        }
        return {key: one for key, one in found.items() if one is not None}

    def _others(self) -> Iterator[OtherRecord]:
        seen: set[tuple[str, str]] = set()
        form = self.world.form
        for prefix, terms in (("", self.world.entered), ("stored.", self.world.stored)):
            for key, term in terms.items():
                other = form.fields[key].type.referred_form
                if not self._asked(f"{prefix}{key}"):
                    continue
                if other and isinstance(term, ValueTerm):
                    number = self.value(term, reference=True)
                    if number is not None and (other, number) not in seen:
                        seen.add((other, number))
                        yield self._referred(other, number, self.whole(term.at), key)
        for which, terms in list(self.world.others.items()):
            there = self.world.there[which]
            if str(there) in self._names and self.satisfies(there):
                prefix = f"{self.world.other_name(which)}."
                yield OtherRecord(number="1", values=self._stored(terms, prefix))
        for keys, taken in self._record.taken_keys.items():
            if str(taken) in self._names and self.satisfies(taken):
                held = {key: self._record.values[key] for key in keys}
                yield OtherRecord(number="2", values=self._stored(held, ""))

    def _referred(self, form: str, number: str, at: int, key: str) -> OtherRecord:
        fields = self.world.form.fields[key].fields or {}
        values = {}
        for name, term, type_ in self.world.held_by_referred(form, z3.IntVal(at)):
            # Of this very record nothing may have been asked: then the model says nothing that
            # is bound to be a value, and what nobody asked for is left blank.
            if name in fields and self._is_held(term, type_):
                values[name] = to_json(self.value(term))
        filled = {name: one for name, one in values.items() if one is not None}
        return OtherRecord(form=form, number=number, values=filled)

    def _is_held(self, term: Term, type_: ValueType) -> bool:
        """Whether the model gives a value that a field can hold."""
        held = type_.solver_range()
        if held is None or not isinstance(term, ValueTerm) or self.satisfies(term.blank):
            return True
        number = _exact(self._model.eval(term.at, model_completion=True))
        return bool(held.first <= number * 10**held.digits <= held.last)


def _exact(number: Any) -> Decimal | int:
    """A number of the model; one that no decimal says exactly is cut off."""
    if z3.is_int_value(number):
        found: int = number.as_long()
        return found
    if not z3.is_rational_value(number):
        number = number.approx(_DIGITS)
    fraction = Fraction(number.numerator_as_long(), number.denominator_as_long())
    exact = _EXACT.divide(Decimal(fraction.numerator), Decimal(fraction.denominator))
    return _EXACT.quantize(exact, Decimal(1).scaleb(-_DIGITS)).normalize(_EXACT)


_DIGITS: Final = 20
_EXACT: Final = Context(prec=100, rounding=ROUND_FLOOR)
