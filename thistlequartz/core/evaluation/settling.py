"""Settling: for every field first its state, then its value, in dependency order."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time
from decimal import ROUND_HALF_EVEN, Decimal
from typing import Any, Literal

from thistlequartz.core.engines.environment import CLOSED, NOW, TODAY
from thistlequartz.core.expression import Vocabulary
from thistlequartz.core.functions.operations import ARITHMETIC, UNREADABLE
from thistlequartz.core.values import (
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    Fault,
    NumberType,
    ReferenceType,
    TextType,
    TimeType,
    Value,
    ValueType,
    YesNoType,
    read_value,
)

from .circumstances import AT_A_SCREEN, Circumstances
from .entry import ReadRecord
from .lookup import for_conditions
from .program import FieldPlan, Program

Shown = Literal["closed", "hidden"]


@dataclass(slots=True)
class Settled:
    """The state and the value of every field, for one record under some circumstances."""

    environment: dict[str, Any]
    closed: dict[str, Shown] = field(default_factory=dict)
    locked: dict[str, str] = field(default_factory=dict)
    """Fields locked by a rule, with the key of the rule."""
    derived: set[str] = field(default_factory=set)
    waiting: dict[str, str] = field(default_factory=dict)
    overruled: set[str] = field(default_factory=set)
    """Fields whose entry does not count: derived, locked, or set by a proposal."""
    said: dict[str, str] = field(default_factory=dict)
    """What reasons say of a field's value, once it has been put into words."""

    def value_of(self, key: str) -> Value | None:
        """The value of a field, as it is stored; None where it is blank or cannot be read."""
        value = self.environment.get(key)
        match value:
            case list():
                return tuple(value)
            case datetime():
                return value.astimezone(UTC)
            case _:
                return None if value is UNREADABLE else value


def settle(
    record: ReadRecord,
    program: Program,
    circumstances: Circumstances,
    fields: Vocabulary,
    applied: Mapping[str, Any] | None = None,
) -> Settled:
    """What the rules with an effect make of `record`. `applied` are proposed values, by field."""
    environment = dict(record.base)
    environment[TODAY] = circumstances.today
    environment[NOW] = circumstances.now
    environment["event"] = circumstances.event
    environment["entry_point"] = circumstances.entry_point
    environment["role"] = circumstances.role
    settled = Settled(environment)
    settler = _Settler(record, program, circumstances, fields, settled, applied or {})
    settler.start()
    for key, value in (applied or {}).items():
        environment[key] = value
        settled.overruled.add(key)
    for kind, key in program.order:
        plan = program.plans[key]
        if kind == "state":
            settler.settle_state(key, plan)
        else:
            settler.settle_value(key, plan)
    if settled.closed:
        environment[CLOSED] = frozenset(settled.closed)
    return settled


class _Settler:
    def __init__(
        self,
        record: ReadRecord,
        program: Program,
        circumstances: Circumstances,
        fields: Vocabulary,
        settled: Settled,
        applied: Mapping[str, Any],
    ) -> None:
        self.record = record
        self.program = program
        self.circumstances = circumstances
        self.fields = fields
        self.settled = settled
        self.applied = applied

    def start(self) -> None:
        """Starting values, on creation, for what was not supplied."""
        if self.circumstances.event != "create":
            return
        for key, plan in self.program.plans.items():
            if plan.starting and key not in self.record.supplied:
                self.settled.environment[key] = self._starting_value(key, plan)

    def _starting_value(self, key: str, plan: FieldPlan) -> Any:
        for one in plan.starting:
            if one.applies(self.settled.environment):
                value = dict(one.values)[key](self.settled.environment)
                return for_conditions(coerced(value, self.fields[key].type), self.fields[key].type)
        return None

    def settle_state(self, key: str, plan: FieldPlan) -> None:
        settled, environment = self.settled, self.settled.environment
        opened = [one for one in plan.opening if one.applies(environment)]
        if plan.opening and not opened:
            settled.closed[key] = getattr(plan.opening[0].rule, "otherwise", "hidden")
        for one in plan.closing:
            if one.applies(environment):
                settled.closed.setdefault(key, getattr(one.rule, "shown", "hidden"))
                break
        if key in settled.closed:
            return
        for one in plan.locking:
            if one.applies(environment):
                settled.locked[key] = one.rule.key
                break
        if self.circumstances.entry_point in AT_A_SCREEN:
            for one in plan.waiting:
                waits = one.until is not None and one.until(environment) is not True
                if waits and one.applies(environment):
                    settled.waiting[key] = one.waiting_for
                    break

    def settle_value(self, key: str, plan: FieldPlan) -> None:
        settled, environment = self.settled, self.settled.environment
        type_ = self.fields[key].type
        if key in settled.closed:
            environment[key] = None
        elif plan.deriving:
            settled.derived.add(key)
            settled.overruled.add(key)
            environment[key] = self._derived(key, plan, type_)
        elif key in settled.locked and key not in self.applied:
            settled.overruled.add(key)
            if self.circumstances.event == "create":
                environment[key] = self._starting_value(key, plan)
            else:
                environment[key] = for_conditions(self.record.before.get(key), type_)

    def _derived(self, key: str, plan: FieldPlan, type_: ValueType) -> Any:
        environment = self.settled.environment
        for one in plan.deriving:
            if one.applies(environment):
                value = dict(one.values)[key](environment)
                return (
                    value if value is UNREADABLE else for_conditions(coerced(value, type_), type_)
                )
        return None


def coerced(value: Any, type_: ValueType) -> Value | None:
    """A computed value as the field's type can hold it: rounded half-even; None where it cannot."""
    match type_:
        case NumberType(scale):
            return _rounded(value, scale) if isinstance(value, Decimal) else None
        case DateType() if isinstance(value, date):
            return value.date() if isinstance(value, datetime) else value
        case TimeType() if isinstance(value, time):
            return value.replace(tzinfo=None)
        case YesNoType() if isinstance(value, bool):
            return value
        case ChoiceType(choices) if isinstance(value, str):
            return value if any(choice.code == value for choice in choices) else None
        case TextType() | ReferenceType() if isinstance(value, str):
            return _read(value, type_)
        case ChoicesType() if isinstance(value, list):
            return _read(value, type_)
        case DateTimeType() if isinstance(value, datetime):
            return _read(value, type_)
        case _:
            return None


def _read(value: object, type_: ValueType) -> Value | None:
    read = read_value(value, type_)
    return None if isinstance(read, Fault) else read


def _rounded(value: Decimal, scale: int | None) -> Decimal | None:
    if not value.is_finite():
        return None
    if scale is not None:
        value = value.quantize(Decimal(1).scaleb(-scale), ROUND_HALF_EVEN, ARITHMETIC)
    read = read_value(value, NumberType(scale))
    return read if isinstance(read, Decimal) else None
