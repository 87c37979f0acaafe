"""Settling: for every field first its state, then its value, in dependency order."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from thistlequartz.core.engines.environment import CLOSED, NOW, TODAY
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.language import Declaration, Vocabulary
from thistlequartz.core.types import (
    ValueType,
)
from thistlequartz.core.values import Value, in_zone

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
    return declared.type.coerced(value, declared.settings)
