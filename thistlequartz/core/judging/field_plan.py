"""How the fields of a program are settled: the descriptions, ready for one record's values."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from thistlequartz.core.engines.environment import Environment

from .circumstances import AT_A_SCREEN, Circumstances
from .compiling.compiled_rule import CompiledRule
from .compiling.settlement import (
    VALUE_SOURCES,
    AllHold,
    AnyHolds,
    Applies,
    AtScreen,
    AwaitsCondition,
    Cause,
    Counts,
    FieldCondition,
    IsOpen,
    NoneHolds,
    Settlement,
    SettlingCondition,
    ValueSource,
    settlement_of,
)

Asked = Callable[[Environment], bool]


@dataclass(frozen=True, slots=True)
class ReadyCause:
    """A cause of a state, ready to be asked of a record that is not closed by then."""

    is_so: Asked
    rule: CompiledRule


@dataclass(frozen=True, slots=True)
class FieldPlan:
    """How one field is settled, by the rules that count."""

    settlement: Settlement
    closed: tuple[ReadyCause, ...]
    locked: tuple[ReadyCause, ...]
    waiting: tuple[ReadyCause, ...]
    sources: tuple[tuple[FieldCondition, ValueSource], ...]
    """Where its value may come from, by the state that makes it so, the first first."""

    @property
    def is_closable(self) -> bool:
        """Whether a rule may close the field."""
        return bool(self.closed)


def field_plan(rules: Sequence[CompiledRule], circumstances: Circumstances) -> FieldPlan:
    """Return how the rules of one field that count under `circumstances` settle it."""
    settlement = settlement_of(rules)

    def ready(causes: tuple[Cause, ...]) -> tuple[ReadyCause, ...]:
        asked = ((_asked(one.condition, circumstances), one.rule) for one in causes)
        return tuple(
            ReadyCause(_always if is_so is True else is_so, rule)
            for is_so, rule in asked
            if is_so is not False
        )

    closed, locked = ready(settlement.closed), ready(settlement.locked)
    possible = {"closed": closed, "derived": settlement.deriving, "locked": locked}
    return FieldPlan(
        settlement,
        closed,
        locked,
        ready(settlement.waiting),
        tuple((state, source) for state, source in VALUE_SOURCES if possible[state]),
    )


def _always(_: Environment) -> bool:
    return True


def _asked(condition: SettlingCondition, circumstances: Circumstances) -> Asked | bool:
    """What asks a condition of a record, or whether it is so whatever the record."""
    match condition:
        case Counts() | IsOpen():
            return True
        case AtScreen():
            return circumstances.entry_point in AT_A_SCREEN
        case Applies(rule):
            return rule.applies
        case AwaitsCondition(rule):
            until = rule.until
            return until is not None and (lambda environment: until(environment) is not True)
        case AllHold(parts):
            return _all_of([_asked(one, circumstances) for one in parts])
        case AnyHolds(parts):
            return _negated(_all_of([_negated(_asked(one, circumstances)) for one in parts]))
        case NoneHolds(parts):
            return _all_of([_negated(_asked(one, circumstances)) for one in parts])


def _all_of(parts: list[Asked | bool]) -> Asked | bool:
    if False in parts:
        return False
    open_ = [one for one in parts if not isinstance(one, bool)]
    if not open_:
        return True
    if len(open_) == 1:
        return open_[0]
    return lambda environment: all(one(environment) for one in open_)


def _negated(asked: Asked | bool) -> Asked | bool:
    if isinstance(asked, bool):
        return not asked
    return lambda environment: not asked(environment)
