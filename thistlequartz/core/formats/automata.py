"""Patterns as finite automata: what two of them share, and the shortest texts that fit.

A pattern with a part whose meaning might differ from that of RE2 has no automaton here. So whoever
is told that no text fits can rely on it.
"""

import re
from collections import deque
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any, Final

import interegular
from interegular.fsm import anything_else

MOST_STATES: Final = 3_000
"""Of an automaton; a larger one is given up."""
MOST_REPEATS: Final = 1_000
_MOST_STEPS: Final = 20_000
"""Of one search for texts."""
_LENGTHS_UP_TO: Final = 5_000
_LETTERS_EACH: Final = 3
"""Characters that are tried for each class of a pattern."""
_ELSE: Final = "~ÿ§"
"""What stands for a character that no pattern names."""
_WORD, _SPACE = "A-Za-z0-9_", r"\t\n\f\r "
_PLAIN_ESCAPES: Final = frozenset("dDntrfv")
_TOKEN: Final = re.compile(
    r"\\(?P<escaped>.)|(?P<group>\(\?[:i]\)?)|(?P<named>\[:)|(?P<repeat>\{[0-9,]+\})|(?P<one>.)",
    re.DOTALL,
)


@dataclass(frozen=True)
class Automaton:
    """The texts that fit, end to end."""

    machine: Any
    """Of the library, which is not typed."""

    def __and__(self, other: "Automaton") -> "Automaton | None":
        """The texts that fit both; None where that would be too large."""
        if len(self.machine.states) * len(other.machine.states) > _MOST_STEPS:
            return None
        return Automaton(self.machine & other.machine)

    @cached_property
    def others(self) -> "Automaton":
        """The texts that do not fit."""
        return Automaton(self.machine.everythingbut())

    @cached_property
    def is_empty(self) -> bool:
        """Whether no text fits."""
        return bool(self.machine.empty())

    @cached_property
    def lengths(self) -> tuple[int, int | None] | None:
        """Return the fewest and the most characters of a text that fits.

        The most is None where there is no limit; the whole is None where no text fits.
        """
        live = {one for one in self.machine.states if self.machine.islive(one)}
        at, fewest, seen = {self.machine.initial} & live, None, 0
        for seen in range(_LENGTHS_UP_TO):
            if not at:
                break
            if fewest is None and at & self.machine.finals:
                fewest = seen
            at = {end for one in at for end in self.machine.map.get(one, {}).values()} & live
        if fewest is None:
            return None
        return fewest, None if at else seen - 1

    def every_text(self, most: int) -> list[str] | None:
        """Return all texts that fit, in some order.

        None where they are more than `most`, or where a character that no pattern names may occur.
        """
        machine, found = self.machine, list[str]()
        live = {one for one in machine.states if machine.islive(one)}
        members = machine.alphabet.by_transition
        waiting = [(machine.initial, "")] if machine.initial in live else []
        while waiting:
            state, text = waiting.pop()
            if state in machine.finals:
                found.append(text)
            # Each that waits leads to at least one text.
            if len(found) > most or len(waiting) > most or len(text) > _LENGTHS_UP_TO:
                return None
            for symbol, end in machine.map.get(state, {}).items():
                if end not in live:
                    continue
                if anything_else in members[symbol]:
                    return None
                waiting += ((end, text + letter) for letter in members[symbol])
        return found

    def texts(self, most: int) -> Iterator[str]:
        """Some texts that fit, shortest first: not all, as of each class of characters few."""
        machine, found, steps = self.machine, 0, 0
        letters = _letters_of(machine)
        live = {one for one in machine.states if machine.islive(one)}
        waiting = deque([(machine.initial, "")] if machine.initial in live else [])
        while waiting and found < most and steps < _MOST_STEPS:
            steps += 1
            state, text = waiting.popleft()
            if state in machine.finals:
                found += 1
                yield text
            for symbol, end in machine.map.get(state, {}).items():
                if end in live:
                    waiting.extend((end, text + letter) for letter in letters[symbol])


def automaton_of(pattern: str, *, search: bool = False) -> Automaton | None:
    """Return the automaton of a pattern, or, on a `search`, of texts that contain it.

    None where that cannot be said for sure.
    """
    return _automaton(pattern, search)


def of_length(fewest: int, most: int | None) -> Automaton | None:
    """The texts of so many characters; None where they are too many to count."""
    if max(fewest, most or 0) > MOST_REPEATS:
        return None
    return _automaton(f"(?s:.){{{fewest},{'' if most is None else most}}}", False, raw=True)


def literal(text: str) -> Automaton:
    """That one text."""
    found = _automaton("".join(map(_escaped, text)), False, raw=True)
    assert found is not None
    return found


def around(text: str, *, before: bool, after: bool) -> Automaton | None:
    """The texts that hold another, with anything `before` or `after` it where that may be."""
    anything = "(?s:.*)"
    inner = "".join(map(_escaped, text))
    return _automaton(f"{anything * before}{inner}{anything * after}", False, raw=True)


TRIMMED: Final = r"[^\s](?:(?:.|\n)*[^\s])?"
"""Texts that neither begin nor end with white space."""
FILLED: Final = r"(?:.|\n)*[^\s](?:.|\n)*"
"""Texts that are not blank."""


@lru_cache(maxsize=512)
def _automaton(pattern: str, search: bool, raw: bool = False) -> Automaton | None:
    said = pattern if raw else _as_said_here(pattern, search)
    if said is None:
        return None
    try:
        machine = interegular.parse_pattern(said).to_fsm()
    except (interegular.InvalidSyntax, interegular.Unsupported, RecursionError, ValueError):
        return None
    return Automaton(machine) if len(machine.states) <= MOST_STATES else None


def _as_said_here(pattern: str, search: bool) -> str | None:
    """The pattern in the words of the library, end to end; None where a part means another thing
    there, or might.
    """
    ignores_case = pattern.startswith("(?i)")
    rest = pattern.removeprefix("(?i)")
    begins, ends = rest.startswith("^"), rest.endswith("$") and not rest.endswith("\\$")
    rest = rest[begins : len(rest) - ends]
    if ignores_case and not rest.isascii():
        return None
    said: list[str] = []
    depth = in_class = 0
    for token in _TOKEN.finditer(rest):
        text = token.group()
        if escaped := token["escaped"]:
            if escaped in "ws":
                inner = _WORD if escaped == "w" else _SPACE
                text = inner if in_class else f"[{inner}]"
            elif escaped in "WS" and not in_class:
                text = f"[^{_WORD if escaped == 'W' else _SPACE}]"
            elif escaped.isalnum() and escaped not in _PLAIN_ESCAPES:
                return None
        elif token["group"]:
            if text != "(?:":
                return None
            depth += 1
        elif token["named"] and in_class:
            return None
        elif in_class:
            first = said[-1] == "[" or said[-2:] == ["[", "^"]
            in_class = text != "]" or first
            if text == "[" or (text == "]" and first):
                text = f"\\{text}"
        elif text == "[":
            in_class = 1
        elif token["repeat"]:
            if any(int(one or 0) > MOST_REPEATS for one in text[1:-1].split(",")):
                return None
        elif text in "^$" or (text == "|" and not depth and (begins or ends)):
            return None
        else:
            depth += (text == "(") - (text == ")")
        said.append(text)
    whole = f"(?:{''.join(said)})"
    if ignores_case:
        whole = f"(?i:{whole})"
    if search:
        anything = "(?s:.*)"
        whole = f"{'' if begins else anything}{whole}{'' if ends else anything}"
    return whole


def _escaped(letter: str) -> str:
    return letter if letter.isalnum() else f"\\{letter}"


def _letters_of(machine: Any) -> dict[Any, list[str]]:
    """Some characters for each class of the alphabet, those that people write first."""
    found = {}
    for number, members in machine.alphabet.by_transition.items():
        named = sorted((one for one in members if one is not anything_else), key=_rank)
        found[number] = (named or list(_ELSE))[:_LETTERS_EACH]
    return found


def _rank(letter: str) -> tuple[bool, bool, str]:
    return not letter.isalnum(), not letter.isprintable(), letter
