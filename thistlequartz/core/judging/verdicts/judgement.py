"""From what the rules say to the verdict of a moment."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import cast

from thistlequartz.core.engines.environment import other
from thistlequartz.core.enumerations import STORING_MOMENTS, outcome_of
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.judging.compiling.compiled_rule import CompiledRule
from thistlequartz.core.judging.entry_reader import ReadRecord
from thistlequartz.core.judging.evaluation import Evaluation
from thistlequartz.core.judging.program import Program
from thistlequartz.core.judging.settled import STORED_AS_READ, Settled
from thistlequartz.core.judging.wording.reason_wording import Phrases, ReasonWording
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Field, Form, Moment, Severity
from thistlequartz.core.translation import tr
from thistlequartz.core.values import Fault, Stored, Value, to_json

from .explanation import Explanation, explanation
from .results import Results, RuleAtMoment
from .verdict import (
    FieldMark,
    FieldState,
    Proposal,
    RuleResult,
    SectionState,
    Verdict,
    Waiver,
)

_LACKING = frozenset({"required", "lapsed"})
_HELD = tr("This record is on hold, so it cannot be submitted.")
_HELD_UP = tr(
    "{held} Fill in what is missing, then ask a steward to release it from hold.", held=_HELD
)
_HELD_STILL = tr(
    "{held} It is complete: save it, and have a steward release it from hold.", held=_HELD
)


@dataclass(frozen=True)
class Judgement:
    """One record judged, before any moment is looked at; what moments share is found once."""

    form: Form
    rules: Mapping[str, CompiledRule]
    """Those that can be used, by key."""
    speaking: Mapping[Moment, tuple[RuleAtMoment, ...]]
    program: Program
    record: ReadRecord
    settled: Settled
    findings: Mapping[str, Evaluation]
    vocabulary: Vocabulary
    fields: Vocabulary
    phrases: Phrases
    sentences: Phrases
    layout: str | None
    proposals: tuple[Proposal, ...] = ()
    touched: frozenset[str] = frozenset()
    waivers: Mapping[str, Waiver | str] | None = None
    held: bool = False

    @cached_property
    def words(self) -> ReasonWording:
        """The reasons in words."""
        return ReasonWording(self.settled, self.vocabulary, self.phrases, self.sentences)

    @property
    def doubles(self) -> Iterator[dict[str, Stored]]:
        """What was read of the other records by which rules about others are violated."""
        environment = self.settled.environment
        for key, finding in self.findings.items():
            if finding.is_violated:
                for check in self.program.by_key[key].checks:
                    there = check.double(environment) if check.double else None
                    read = {
                        key: to_json(value)
                        for key in self.vocabulary
                        if there and (value := there.get(other(key))) is not UNREADABLE
                    }
                    if any(value is not None for value in read.values()):
                        yield read

    def verdict(self, moment: Moment) -> Verdict:
        """The verdict of one moment."""
        made_from = Results(self.findings, self.words, self.touched, self.waivers or {})
        results = made_from.at(moment, self.speaking[moment])
        fields = self._field_states(moment)
        for result in results if moment == "entry" else ():
            if result.confirmation:
                for key in self.program.by_key[result.rule].rule.targets:
                    if fields[key].value is not None:
                        fields[key] = replace(fields[key], confirmation=result.confirmation)
        findings = self.findings
        held_by = tuple([key for key in self.program.holding if findings[key].is_violated])
        refusals = self._refusals(moment, held_by)
        violated = [one for one in results if one.is_violated]
        outcome = outcome_of(self._severities(moment, violated, refusals))
        lacking = any(one.waiver in _LACKING for one in violated)
        return Verdict(
            moment=moment,
            outcome=outcome,
            may_pass=outcome != "blocked" and not lacking,
            results=results,
            fields=fields,
            ignored=self._ignored,
            on_hold=self.held or bool(held_by),
            held_by=held_by,
            refusals=refusals,
            proposals=self.proposals,
            drops=self._drops,
            stores=self._stores,
            sections=self._sections(results, fields),
        )

    def _refusals(self, moment: Moment, held_by: tuple[str, ...]) -> tuple[str, ...]:
        if not self.held or moment != "submit":
            return ()
        return (_HELD_UP if held_by else _HELD_STILL,)

    @property
    def has_faults(self) -> bool:
        """Whether a relevant field holds what cannot be read, and that counts."""
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
            return Explanation(
                rule, finding.status, self.words.of(rule, finding.reason), None, None, (), {}
            )
        return explanation(compiled, finding, self.words)

    def _severities(
        self, moment: Moment, violated: list[RuleResult], refusals: tuple[str, ...]
    ) -> Iterable[Severity]:
        if moment != "entry" and (refusals or self.has_faults):
            return ("block",)
        return (one.severity for one in violated)

    def _field_states(self, moment: Moment) -> dict[str, FieldState]:
        marks = self._marks(moment)
        if moment == "entry":
            return {key: state.marked(marks.get(key)) for key, state in self._typing()}
        states = self._states.copy()
        for key, mark in marks.items():
            if states[key].relevant:
                states[key] = states[key].marked(mark)
        return states

    def _typing(self) -> Iterator[tuple[str, FieldState]]:
        """While typing, a fault is told once its field has been left."""
        for key, state in self._states.items():
            quiet = state.fault and key not in self.touched
            yield key, replace(state, fault=None) if quiet else state

    @cached_property
    def _states(self) -> dict[str, FieldState]:
        """The states of the fields after typing, before any is marked."""
        settled, readings = self.settled, self.record.readings
        closed, locked, derived = settled.closed, settled.locked, settled.derived
        faulty, waiting, values = self.record.faulty, settled.waiting, self._values
        if not (
            faulty or closed or locked or derived or waiting or self.layout or self.program.helpers
        ):
            return {key: FieldState(value) for key, value in values.items()}
        states: dict[str, FieldState] = {}
        for field in self.form.fields:
            key = field.key
            if key in closed:
                display = "hidden" if field.helper else closed[key]
                states[key] = FieldState(None, relevant=False, display=display)
                continue
            fault = None
            if faulty and key not in settled.overruled:
                reading = readings[key]
                fault = reading.message if isinstance(reading, Fault) else None
            hidden = field.helper or (self.layout is not None and self._left_out(field))
            states[key] = FieldState(
                values[key],
                fault,
                None,
                True,
                "hidden" if hidden else "enterable",
                key in locked or key in derived,
                key in derived,
                waiting.get(key),
            )
        return states

    @cached_property
    def _values(self) -> Mapping[str, Value | None]:
        """What each field holds, as it is stored."""
        if not (self.record.faulty or self.program.plans or self.settled.overruled):
            return cast("Mapping[str, Value | None]", self.record.readings)
        return {key: self._value(key) for key in self.fields}

    def _value(self, key: str) -> Value | None:
        """What a field holds: as it was given, where that stands."""
        value, read = self.settled.environment[key], self.record.readings[key]
        if type(value) not in STORED_AS_READ:
            return self.settled.value_of(key)
        given = type(read) is not type(value) and value is not None and read == value
        return read if given else value  # type: ignore[return-value]

    def _left_out(self, field: Field) -> bool:
        """Whether the layout does not show the field; it stays relevant."""
        return self.layout is not None and self.layout not in (field.layouts or (self.layout,))

    def _marks(self, moment: Moment) -> dict[str, FieldMark]:
        marks: dict[str, FieldMark] = {}
        for compiled in self.program.marking:
            if not self.findings[compiled.rule.key].applies:
                continue
            mark = _mark(compiled, moment)
            for key in compiled.rule.targets if mark else ():
                if key not in marks or marks[key].kind == "recommended":
                    marks[key] = mark  # type: ignore[assignment]
        return marks

    @cached_property
    def _ignored(self) -> dict[str, str]:
        ignored = dict(self.record.ignored)
        for key in sorted(self.settled.overruled & self.record.supplied):
            if self.record.readings[key] != self.settled.value_of(key):
                label = self.vocabulary[key].label
                why = tr("is computed") if key in self.settled.derived else tr("is locked")
                ignored[key] = tr(
                    "{label} {why} here, so what was sent for it does not count.",
                    label=label,
                    why=why,
                )
        return ignored

    @cached_property
    def _drops(self) -> tuple[str, ...]:
        if not self.settled.closed:
            return ()
        kept = {field.key for field in self.form.fields if field.keep}
        before = self.record.before
        return tuple(
            key for key in self.settled.closed if key not in kept and before.get(key) is not None
        )

    @cached_property
    def _stores(self) -> dict[str, Value]:
        stores = {key: value for key, value in self._values.items() if value is not None}
        for key in self.program.helpers:
            stores.pop(key, None)
        for field in self.form.fields if self.settled.closed else ():
            before = self.record.before.get(field.key) if field.keep else None
            if field.key in self.settled.closed:
                stores.pop(field.key, None)
                if before is not None and not isinstance(before, Fault):
                    stores[field.key] = before
        return stores

    def _sections(
        self, results: tuple[RuleResult, ...], fields: Mapping[str, FieldState]
    ) -> dict[str, SectionState]:
        if not self.form.sections:
            return {}
        wanting = {key for key, state in fields.items() if state.fault}
        for result in results:
            if result.blocks:
                wanting.update(key for message in result.messages for key in message.fields)
        states: dict[str, SectionState] = {}
        for section in self.form.sections:
            own = {field.key for field in self.form.fields if field.section == section.key}
            count = len(own & wanting)
            states[section.key] = SectionState(count, count == 0)
        return states


def _mark(compiled: CompiledRule, moment: Moment) -> FieldMark | None:
    """Required where this or a next moment blocks, recommended where one of them notes or warns.

    Both saving and submitting can come next while typing; after submitting comes nothing.
    """
    ahead: tuple[Moment, ...] = ("submit",) if moment == "submit" else STORING_MOMENTS
    for next_moment in ahead:
        if compiled.severities[next_moment] == "block":
            return FieldMark("required", next_moment)
    for next_moment in ahead:
        if compiled.severities[next_moment] != "none":
            return FieldMark("recommended", next_moment)
    return None
