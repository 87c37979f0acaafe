"""How one field is settled: the description that judging and the solver both follow.

A field has first its state, then its value. Each state is told by the first of its causes that is
so; the value comes from the first source whose state is so, else it is as entered.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal, NamedTuple

from .compiled_rule import CompiledRule

FieldCondition = Literal["closed", "derived", "locked"]
ValueSource = Literal["nothing", "computed", "kept"]
VALUE_SOURCES: Final[tuple[tuple[FieldCondition, ValueSource], ...]] = (
    ("closed", "nothing"),
    ("derived", "computed"),
    ("locked", "kept"),
)
"""Where a value comes from, the first state that is so first: from nothing, from the first deriving
rule that applies, or from what was stored, on creation from the first starting rule that applies.
"""


class Counts(NamedTuple):
    """A rule is in scope and in force."""

    rule: CompiledRule


class Applies(NamedTuple):
    """A rule counts and its condition is true."""

    rule: CompiledRule


class AwaitsCondition(NamedTuple):
    """What a rule waits for is not true."""

    rule: CompiledRule


class AtScreen(NamedTuple):
    """A person fills in the form."""


class IsOpen(NamedTuple):
    """The field is not closed."""


class AllHold(NamedTuple):
    """Every part is true."""

    parts: "tuple[SettlingCondition, ...]"


class AnyHolds(NamedTuple):
    """Some part is true."""

    parts: "tuple[SettlingCondition, ...]"


class NoneHolds(NamedTuple):
    """No part is true."""

    parts: "tuple[SettlingCondition, ...]"


SettlingCondition = (
    Counts | Applies | AwaitsCondition | AtScreen | IsOpen | AllHold | AnyHolds | NoneHolds
)


class Cause(NamedTuple):
    """What brings a field into a state, and the rule that tells how."""

    condition: SettlingCondition
    rule: CompiledRule


@dataclass(frozen=True, slots=True)
class Settlement:
    """The causes of the states of one field, and the rules that give it a value."""

    closed: tuple[Cause, ...] = ()
    locked: tuple[Cause, ...] = ()
    waiting: tuple[Cause, ...] = ()
    derived: SettlingCondition | None = None
    deriving: tuple[CompiledRule, ...] = ()
    starting: tuple[CompiledRule, ...] = ()


def settlement_of(rules: Sequence[CompiledRule]) -> Settlement:
    """Return how the rules with an effect on one field settle it."""
    parts: dict[str, list[CompiledRule]] = {}
    for one in rules:
        parts.setdefault(one.part or "", []).append(one)
    opening, deriving = parts.get("opening", []), tuple(parts.get("deriving", ()))
    closed = [Cause(Applies(one), one) for one in parts.get("closing", ())]
    if opening:
        counts = AnyHolds(tuple(Counts(one) for one in opening))
        none_opens = NoneHolds(tuple(Applies(one) for one in opening))
        closed.insert(0, Cause(AllHold((counts, none_opens)), opening[0]))
    return Settlement(
        tuple(closed),
        tuple(Cause(AllHold((IsOpen(), Applies(one))), one) for one in parts.get("locking", ())),
        tuple(
            Cause(AllHold((AtScreen(), IsOpen(), AwaitsCondition(one), Applies(one))), one)
            for one in parts.get("waiting", ())
        ),
        AnyHolds(tuple(Counts(one) for one in deriving)) if deriving else None,
        deriving,
        tuple(parts.get("starting", ())),
    )
