"""What happens to a record, in the terms in which a case says what it expects."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time
from typing import cast
from zoneinfo import ZoneInfo

from thistlequartz.core.enumerations import Status, outcome_of
from thistlequartz.core.judging import (
    Circumstances,
    CompiledForm,
    Judgement,
    JudgeRequest,
    Lookup,
    ReadRecord,
    Screener,
    Settled,
)
from thistlequartz.core.kinds import EFFECT_KINDS
from thistlequartz.core.ruleset import (
    Case,
    CaseCircumstances,
    Entered,
    Expected,
    FieldStateName,
    Outcome,
    Severity,
)
from thistlequartz.core.values import Value, to_json

from .case_records import CaseRecords

NOON = time(12)


@dataclass(frozen=True, slots=True)
class Observed:
    """What happened. Two are equal where nobody could tell them apart by a case."""

    save: Outcome
    submit: Outcome
    violated: tuple[str, ...]
    on_hold: bool
    offered: Mapping[str, Mapping[str, Entered]]
    field_states: Mapping[str, FieldStateName]
    computed: Mapping[str, Entered]
    faults: tuple[str, ...] = ()
    statuses: Mapping[str, Status] = field(default_factory=dict)
    stored: Mapping[str, Entered] = field(default_factory=dict)
    """These three only where a case asks for one of them."""

    def as_expected(self) -> Expected:
        """The same, as an expectation."""
        return Expected(
            save=self.save,
            submit=self.submit,
            violated=self.violated,
            on_hold=self.on_hold,
            offered={rule: dict(values) for rule, values in self.offered.items()},
            field_states=dict(self.field_states),
            computed=dict(self.computed),
        )


def noon_of(day: date, form: CompiledForm) -> datetime:
    """Noon of a day in the form's zone."""
    return datetime.combine(day, NOON, ZoneInfo(form.form.zone))


def circumstances_of(form: CompiledForm, said: CaseCircumstances) -> Circumstances:
    """The circumstances of a case, as the core judges under them."""
    now = noon_of(said.as_of, form)
    return Circumstances(said.as_of, now, said.event, said.entry_point, said.layout, said.role)


def lookup_of(form: CompiledForm, case: Case) -> Lookup:
    """The other records a case knows of."""
    return CaseRecords(form, case.others)


def read_case(form: CompiledForm, case: Case) -> ReadRecord:
    """The record of a case, read once. What the form does not know is left out."""
    stored = case.circumstances.stored if case.circumstances.event == "update" else None
    return form.read(case.values, stored=stored, lookup=lookup_of(form, case))


class Observer:
    """Observes many records of one form, whatever their circumstances."""

    def __init__(self, form: CompiledForm) -> None:
        self.form = form
        self._screeners: dict[Circumstances, Screener] = {}
        targets = {"state": set[str](), "value": set[str]()}
        for one in form.rules:
            decides = EFFECT_KINDS[one.rule.kind].decides if one.is_effect else None
            if decides:
                targets[decides].update(one.rule.targets)
        self.stateful = [key for key in form.fields if key in targets["state"]]
        """The fields of which a rule decides whether and how they are asked."""
        self.derived = [key for key in form.fields if key in targets["value"]]
        """Those that are computed."""

    def observe(
        self,
        record: ReadRecord,
        circumstances: Circumstances,
        applied: tuple[str, ...] = (),
        wanted: Expected | None = None,
    ) -> Observed:
        """What happens to a record that was read, as far as `wanted` looks. Never raises."""
        closer = wanted is not None and wanted.looks_closer
        if applied or record.faulty or closer:
            judged = self.form.judged(JudgeRequest(record, circumstances, applied=applied))
            return self.of_judged(judged, closer=closer)
        screener = self._screeners.get(circumstances)
        if screener is None:
            screener = self._screeners[circumstances] = self.form.screener_of(circumstances)
        settled = self.form.settled(record, circumstances)
        screened = screener.screen(record, settled)
        offered = {
            one.rule: _offered(one.values) for one in self.form.offered(settled, circumstances)
        }
        speaking = dict.fromkeys(
            one.rule for one in screened.violations if (one.save, one.submit) != ("none", "none")
        )
        held = any(one.enters_hold for one in screened.violations)
        return Observed(
            screened.save,
            screened.submit,
            tuple(speaking),
            held,
            offered,
            self._asked(settled),
            self._computed(settled),
        )

    def of_judged(self, judged: Judgement, *, closer: bool = False) -> Observed:
        """What happens to a record that was judged; `closer` says whether that is all looked at."""
        violated = []
        spoken: dict[str, list[Severity]] = {"save": ["none"], "submit": ["none"]}
        held = False
        for one in judged.program.checks:
            if not judged.findings[one.rule.key].is_violated:
                continue
            save, submit = one.severities["save"], one.severities["submit"]
            spoken["save"].append(save)
            spoken["submit"].append(submit)
            held = held or one.check_rule.hold
            if (save, submit) != ("none", "none"):
                violated.append(one.rule.key)
        if judged.has_faults:
            spoken = {"save": ["block"], "submit": ["block"]}
        outcomes = [outcome_of(one) for one in spoken.values()]
        position = {rule.key: place for place, rule in enumerate(judged.form.rules)}
        offered = {
            one.rule: _offered(one.values) for one in judged.proposals if one.state == "offered"
        }
        seen = Observed(
            outcomes[0],
            outcomes[1],
            tuple(sorted(violated, key=position.__getitem__)),
            held,
            offered,
            self._asked(judged.settled),
            self._computed(judged.settled),
        )
        if not closer:
            return seen
        verdict = judged.verdict("submit")
        return replace(
            seen,
            faults=tuple(key for key, state in verdict.fields.items() if state.fault),
            statuses={one.rule: one.status for one in verdict.results},
            stored={
                key: cast(Entered, to_json(value)) for key, value in (verdict.stores or {}).items()
            },
        )

    def _asked(self, settled: Settled) -> dict[str, FieldStateName]:
        states: dict[str, FieldStateName] = {}
        for key in self.stateful:
            if key in settled.closed:
                states[key] = "not_relevant"
            elif key in settled.locked:
                states[key] = "read_only"
            else:
                states[key] = "waiting" if key in settled.waiting else "relevant"
        return states

    def _computed(self, settled: Settled) -> dict[str, Entered]:
        return {key: cast(Entered, to_json(settled.value_of(key))) for key in self.derived}


def _offered(values: Mapping[str, Value]) -> dict[str, Entered]:
    return {key: cast(Entered, to_json(value)) for key, value in values.items()}
