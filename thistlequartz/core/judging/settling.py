"""Settling: for every field first its state, then its value, in dependency order."""

from collections.abc import Mapping
from datetime import date, datetime, time
from decimal import ROUND_HALF_EVEN, Decimal
from typing import Any

from thistlequartz.core.engines.environment import CLOSED, NOW, TODAY
from thistlequartz.core.functions.operations import ARITHMETIC, UNREADABLE
from thistlequartz.core.language import Declaration, Vocabulary
from thistlequartz.core.values import (
    PLAIN,
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    Fault,
    NumberType,
    ReadingSettings,
    ReferenceType,
    TextType,
    TimeType,
    Value,
    ValueType,
    YesNoType,
    in_zone,
    read_value,
)

from .circumstances import Circumstances
from .compiling.compiled_rule import CompiledRule
from .compiling.settlement import FieldCondition
from .entry_reader import ReadRecord
from .field_plan import FieldPlan
from .other_records.records import for_conditions
from .program import Program
from .settled import NotRelevantDisplay, Settled


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
    environment[NOW] = now_there(circumstances, program.zone)
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


def now_there(circumstances: Circumstances, zone: str) -> datetime | None:
    """`now` as the clock of the form's zone shows it; null near the ends of time."""
    now = circumstances.now
    if now is None or now.tzinfo is None:
        return now
    try:
        return in_zone(now, zone)
    except OverflowError:
        return None


def is_readable(record: ReadRecord, settled: Settled) -> bool:
    """Whether every value of a record could be read, and computed."""
    if record.faulty:
        return False
    environment = settled.environment
    return not settled.derived or all(environment[key] is not UNREADABLE for key in settled.derived)


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
            if plan.settlement.starting and key not in self.record.supplied:
                self.settled.environment[key] = self._starting_value(key, plan)

    def _starting_value(self, key: str, plan: FieldPlan) -> Any:
        for one in plan.settlement.starting:
            if one.applies(self.settled.environment):
                value = dict(one.values)[key](self.settled.environment)
                declared = self.fields[key]
                return for_conditions(coerced(value, declared), declared.type)
        return None

    def settle_state(self, key: str, plan: FieldPlan) -> None:
        settled, environment = self.settled, self.settled.environment
        for cause in plan.closed:
            if cause.is_so(environment):
                settled.closed[key] = _display(cause.rule)
                return
        for cause in plan.locked:
            if cause.is_so(environment):
                settled.locked[key] = cause.rule.rule.key
                break
        for cause in plan.waiting:
            if cause.is_so(environment):
                settled.waiting[key] = cause.rule.waiting_for
                break

    def settle_value(self, key: str, plan: FieldPlan) -> None:
        settled, environment = self.settled, self.settled.environment
        source = next((source for state, source in plan.sources if self._is(state, key)), None)
        if source == "nothing":
            environment[key] = None
        elif source == "computed":
            settled.derived.add(key)
            settled.overruled.add(key)
            environment[key] = self._derived(key, plan, self.fields[key].type)
        elif source == "kept":
            settled.overruled.add(key)
            if self.circumstances.event == "create":
                environment[key] = self._starting_value(key, plan)
            else:
                stored = self.record.before.get(key)
                environment[key] = for_conditions(stored, self.fields[key].type)

    def _is(self, state: FieldCondition, key: str) -> bool:
        if state == "closed":
            return key in self.settled.closed
        return state == "derived" or (key in self.settled.locked and key not in self.applied)

    def _derived(self, key: str, plan: FieldPlan, type_: ValueType) -> Any:
        environment = self.settled.environment
        for one in plan.settlement.deriving:
            if one.applies(environment):
                value = dict(one.values)[key](environment)
                if value is UNREADABLE:
                    return value
                return for_conditions(coerced(value, self.fields[key]), type_)
        return None


def _display(rule: CompiledRule) -> NotRelevantDisplay:
    """How a rule that closes a field shows it."""
    document = rule.rule
    shown: NotRelevantDisplay = getattr(document, "shown", "hidden")
    return getattr(document, "otherwise", shown)


def coerced(value: Any, declared: Declaration) -> Value | None:
    """Return a computed value as the field can hold it; None where it cannot.

    Rounded half-even; a text is normalised as when typed.
    """
    type_ = declared.type
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
            return _read(value, type_, declared.settings)
        case ChoicesType() if isinstance(value, list):
            return _read(value, type_)
        case DateTimeType() if isinstance(value, datetime):
            return _read(value, type_)
        case _:
            return None


def _read(value: object, type_: ValueType, settings: ReadingSettings = PLAIN) -> Value | None:
    read = read_value(value, type_, settings.as_stored())
    return None if isinstance(read, Fault) else read


def _rounded(value: Decimal, scale: int | None) -> Decimal | None:
    if not value.is_finite():
        return None
    if scale is not None:
        value = value.quantize(Decimal(1).scaleb(-scale), ROUND_HALF_EVEN, ARITHMETIC)
    read = read_value(value, NumberType(scale))
    return read if isinstance(read, Decimal) else None
