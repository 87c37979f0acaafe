"""From what the rules say to the verdict of a moment."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from thistlequartz.core.expression import Vocabulary
from thistlequartz.core.ruleset import Field, Form, Moment, Rule, Severity, severity_of
from thistlequartz.core.values import Fault, Value

from . import reasons
from .entry import ReadRecord
from .findings import Finding, marking
from .program import Program
from .rules import CompiledRule
from .settling import Settled
from .trace import Explanation, explanation
from .verdict import (
    OUTCOME_OF,
    SEVERITIES,
    FieldState,
    Mark,
    Proposal,
    RuleResult,
    SectionState,
    Verdict,
    Waiver,
)
from .waivers import basis_of, waiver_state

BOTH_MOMENTS: tuple[Moment, ...] = ("save", "submit")
_HELD = "This record is on hold, so it cannot be submitted."
_HELD_UP = f"{_HELD} Fill in what is missing, then have the hold lifted: a steward can do that."
_HELD_STILL = f"{_HELD} Nothing is missing any more: save it, and have a steward lift the hold."


@dataclass(frozen=True, slots=True)
class Judged:
    """One record judged, before any moment is looked at."""

    form: Form
    rules: Mapping[str, CompiledRule]
    """Those that can be used, by key."""
    program: Program
    record: ReadRecord
    settled: Settled
    findings: Mapping[str, Finding]
    vocabulary: Vocabulary
    layout: str | None
    proposals: tuple[Proposal, ...] = ()
    touched: frozenset[str] = frozenset()
    waivers: Mapping[str, Waiver | str] | None = None
    held: bool = False

    def verdict(self, moment: Moment) -> Verdict:
        """The verdict of one moment."""
        compiled = {one.rule.key: one for one in self.program.checks}
        results = tuple(
            self._result(rule, compiled.get(rule.key), moment) for rule in self.form.rules
        )
        fields = self._field_states(moment)
        for result in results:
            if result.acknowledged:
                for key in compiled[result.rule].rule.targets:
                    if fields[key].value is not None:
                        fields[key].acknowledged = result.acknowledged
        held_by = tuple(
            key
            for key, one in compiled.items()
            if one.check_rule.hold and self.findings[key].status == "broken"
        )
        refusals = self._refusals(moment, held_by)
        outcome = OUTCOME_OF[self._hardest(moment, results, fields, refusals)]
        lacking = any(result.waiver in ("demanded", "lapsed") for result in results)
        return Verdict(
            moment=moment,
            outcome=outcome,
            may_pass=outcome != "blocked" and not lacking,
            results=results,
            fields=fields,
            ignored=self._ignored(),
            on_hold=self.held or bool(held_by),
            held_by=held_by,
            refusals=refusals,
            proposals=self.proposals,
            drops=self._drops(),
            stores=self._stores(),
            sections=self._sections(results, fields),
        )

    def _refusals(self, moment: Moment, held_by: tuple[str, ...]) -> tuple[str, ...]:
        if not self.held or moment != "submit":
            return ()
        return (_HELD_UP if held_by else _HELD_STILL,)

    @property
    def has_faults(self) -> bool:
        """Whether a field in play holds what cannot be read, and that counts."""
        settled = self.settled
        return self.record.faulty and any(
            isinstance(reading, Fault)
            and key not in settled.closed
            and key not in settled.overruled
            for key, reading in self.record.readings.items()
        )

    def explain(self, rule: str) -> Explanation:
        """How a rule came to its status, part by part. Raises KeyError for an unknown rule."""
        finding = self.findings[rule]
        compiled = self.rules.get(rule)
        if compiled is None:
            return Explanation(rule, finding.status, finding.reason, None, None, (), {})
        return explanation(compiled, finding, self.settled, self.vocabulary)

    def _hardest(
        self,
        moment: Moment,
        results: tuple[RuleResult, ...],
        fields: Mapping[str, FieldState],
        refusals: tuple[str, ...],
    ) -> Severity:
        stopped = bool(refusals) or any(state.fault for state in fields.values())
        if stopped and moment != "entry":
            return "block"
        spoken = {one.severity for one in results if one.status == "broken"}
        return max(spoken, key=SEVERITIES.index, default="off")

    def _result(self, rule: Rule, compiled: CompiledRule | None, moment: Moment) -> RuleResult:
        finding = self.findings[rule.key]
        if compiled is None or finding.status == "target_not_in_play":
            return RuleResult(rule.key, finding.status, severity_of(rule, moment), finding.reason)
        severity = compiled.severities[moment]
        if severity == "off":
            return RuleResult(rule.key, "silent", severity, reasons.silent_by_setting(moment))
        if moment == "entry" and self.touched.isdisjoint(compiled.heard):
            said_then = reasons.silent_until_touched(compiled.reads, self.vocabulary)
            return RuleResult(rule.key, "silent", severity, said_then)
        checking = compiled.check_rule
        result = RuleResult(
            rule.key,
            finding.status,
            severity,
            finding.reason,
            finding.messages,
            checking.placement,
            checking.hold and moment == "save",
        )
        if finding.status == "kept" and moment == "entry" and checking.acknowledged:
            return replace(result, acknowledged=checking.acknowledged)
        if finding.status == "broken" and severity == "warn" and checking.reason_demanded:
            return self._waived(result, compiled, moment)
        return result

    def _waived(self, result: RuleResult, compiled: CompiledRule, moment: Moment) -> RuleResult:
        if moment == "entry":
            return result
        basis = basis_of(compiled, self.findings[result.rule], self.settled)
        state = waiver_state(result.rule, basis, self.waivers or {})
        return replace(result, waiver=state, basis=basis)

    def _field_states(self, moment: Moment) -> dict[str, FieldState]:
        marks = self._marks(moment)
        settled, readings = self.settled, self.record.readings
        states: dict[str, FieldState] = {}
        for field in self.form.fields:
            key = field.key
            if key in settled.closed:
                shown = "hidden" if field.helper else settled.closed[key]
                states[key] = FieldState(None, in_play=False, shown=shown)
                continue
            reading, fault = readings[key], None
            if isinstance(reading, Fault) and key not in settled.overruled:
                fault = reading.message if moment != "entry" or key in self.touched else None
            states[key] = FieldState(
                value=settled.value_of(key),
                fault=fault,
                mark=marks.get(key),
                shown="hidden" if field.helper or self._left_out(field) else "open",
                locked=key in settled.locked or key in settled.derived,
                derived=key in settled.derived,
                waiting=settled.waiting.get(key),
            )
        return states

    def _left_out(self, field: Field) -> bool:
        """Whether the layout does not show the field; it stays in play."""
        return self.layout is not None and self.layout not in (field.layouts or (self.layout,))

    def _marks(self, moment: Moment) -> dict[str, Mark]:
        marks: dict[str, Mark] = {}
        for compiled in marking(self.findings, self.program):
            mark = _mark(compiled, moment)
            for key in compiled.rule.targets if mark else ():
                if key not in marks or marks[key].kind == "expected":
                    marks[key] = mark  # type: ignore[assignment]
        return marks

    def _ignored(self) -> dict[str, str]:
        ignored = dict(self.record.ignored)
        for key in sorted(self.settled.overruled & self.record.supplied):
            if self.record.readings[key] != self.settled.value_of(key):
                label = self.vocabulary[key].label
                why = "is computed" if key in self.settled.derived else "is locked"
                ignored[key] = f"{label} {why} here, so what was sent for it does not count."
        return ignored

    def _drops(self) -> tuple[str, ...]:
        kept = {field.key for field in self.form.fields if field.keep}
        before = self.record.before
        return tuple(
            key for key in self.settled.closed if key not in kept and before.get(key) is not None
        )

    def _stores(self) -> dict[str, Value]:
        stores: dict[str, Value] = {}
        for field in self.form.fields:
            if field.helper:
                continue
            if field.key in self.settled.closed:
                before = self.record.before.get(field.key) if field.keep else None
                value = None if isinstance(before, Fault) else before
            else:
                value = self.settled.value_of(field.key)
            if value is not None:
                stores[field.key] = value
        return stores

    def _sections(
        self, results: tuple[RuleResult, ...], fields: Mapping[str, FieldState]
    ) -> dict[str, SectionState]:
        if not self.form.sections:
            return {}
        wanting = {key for key, state in fields.items() if state.fault}
        for result in results:
            if result.status == "broken" and result.severity == "block":
                wanting.update(key for message in result.messages for key in message.fields)
        states: dict[str, SectionState] = {}
        for section in self.form.sections:
            own = {field.key for field in self.form.fields if field.section == section.key}
            count = len(own & wanting)
            states[section.key] = SectionState(count, count == 0)
        return states


def _mark(compiled: CompiledRule, moment: Moment) -> Mark | None:
    """Demanded where this or a next moment blocks, expected where one of them notes or warns.

    Both saving and submitting can come next while typing; after submitting comes nothing.
    """
    ahead: tuple[Moment, ...] = ("submit",) if moment == "submit" else BOTH_MOMENTS
    for next_moment in ahead:
        if compiled.severities[next_moment] == "block":
            return Mark("demanded", next_moment)
    for next_moment in ahead:
        if compiled.severities[next_moment] != "off":
            return Mark("expected", next_moment)
    return None
