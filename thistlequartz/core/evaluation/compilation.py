"""Compiling a form once, so that many records can be judged by it."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from thistlequartz.core.expression import (
    FormulaError,
    Problem,
    Vocabulary,
    condition_words,
    plain,
    tree,
)
from thistlequartz.core.formats import NAMED_FORMATS
from thistlequartz.core.ruleset import (
    Check,
    EntryPoint,
    Event,
    Form,
    MandatoryRule,
    Moment,
    Rule,
    RuleSet,
    drafted_message,
    lower_rule,
    vocabulary_of,
)
from thistlequartz.core.values import Fault, Reading, read_value

from . import reasons
from .circumstances import Circumstances
from .interpretation import TODAY, Environment, Evaluator, interpret
from .operations import UNREADABLE
from .verdict import OUTCOME_OF, SEVERITIES, FieldState, Mark, Message, RuleResult, Status, Verdict

BOTH_MOMENTS: tuple[Moment, ...] = ("save", "submit")


def compile_ruleset(ruleset: RuleSet, *, form: str) -> "CompiledForm":
    """The form `form` of `ruleset`, ready to judge. Raises KeyError where there is no such form.

    A rule whose formulas cannot be used is kept as unfinished: it says so and has no effect.
    """
    return CompiledForm(ruleset.form(form))


@dataclass(frozen=True, slots=True)
class _CompiledCheck:
    check: Check
    must: Evaluator
    message: Message
    reads: tuple[str, ...]
    needed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _CompiledRule:
    rule: Rule
    reads: tuple[str, ...]
    """Every field it targets or reads, in the order of the form."""
    governors: tuple[str, ...]
    condition: str
    """When it applies, in words."""
    when: Evaluator | None
    checks: tuple[_CompiledCheck, ...]


@dataclass(frozen=True, slots=True)
class _Finding:
    """What a rule says of the values, whatever the moment."""

    status: Status
    reason: str
    messages: tuple[Message, ...] = ()
    applies: bool = False


class CompiledForm:
    """A form whose rules have been read, typed and turned into functions."""

    def __init__(self, form: Form) -> None:
        self.form = form
        self.vocabulary: Vocabulary = vocabulary_of(form)
        self.problems: dict[str, tuple[Problem, ...]] = {}
        self._rules: dict[str, _CompiledRule] = {}
        for rule in form.rules:
            try:
                self._rules[rule.key] = _compile_rule(rule, self.vocabulary)
            except FormulaError as error:
                self.problems[rule.key] = error.problems

    def judge(
        self,
        values: Mapping[str, object],
        *,
        moment: Moment,
        today: date,
        event: Event = "create",
        entry_point: EntryPoint = "desk",
        role: str | None = None,
        touched: Collection[str] = (),
    ) -> Verdict:
        """The verdict of one moment on a record. `touched` counts while typing only."""
        return self.judge_moments(
            values,
            moments=(moment,),
            today=today,
            event=event,
            entry_point=entry_point,
            role=role,
            touched=touched,
        )[moment]

    def judge_moments(
        self,
        values: Mapping[str, object],
        *,
        today: date,
        moments: Iterable[Moment] = BOTH_MOMENTS,
        event: Event = "create",
        entry_point: EntryPoint = "desk",
        role: str | None = None,
        touched: Collection[str] = (),
    ) -> dict[Moment, Verdict]:
        """The verdicts of several moments on one record, with the values judged once.

        `values` go by field key, as people typed them or as JSON carries them. Never raises
        for any values: what cannot be read is a fault of its field, what is unknown is ignored
        and said.
        """
        readings = {
            key: read_value(values.get(key), declared.type)
            for key, declared in self.vocabulary.items()
        }
        ignored = {
            key: "There is no such field in this form."
            for key in values
            if key not in self.vocabulary
        }
        environment: dict[str, Any] = {
            key: UNREADABLE if isinstance(reading, Fault) else reading
            for key, reading in readings.items()
        }
        environment[TODAY] = today
        circumstances = Circumstances(today, event, entry_point, role)
        findings = {
            rule.key: self._find(rule, circumstances, environment, readings)
            for rule in self.form.rules
        }
        return {
            moment: self._verdict(moment, readings, findings, ignored, frozenset(touched))
            for moment in moments
        }

    def _find(
        self,
        rule: Rule,
        circumstances: Circumstances,
        environment: Environment,
        readings: Mapping[str, Reading],
    ) -> _Finding:
        compiled = self._rules.get(rule.key)
        if compiled is None:
            first = self.problems[rule.key][0]
            return _Finding("unfinished", f"{first.message} {first.remedy}")
        if not rule.on:
            return _Finding("off", reasons.switched_off())
        outside = reasons.out_of_scope(rule, circumstances)
        if outside:
            return _Finding("out_of_scope", outside)
        if compiled.when is not None and compiled.when(environment) is not True:
            said = reasons.does_not_apply(
                compiled.condition, compiled.governors, readings, self.vocabulary
            )
            return _Finding("does_not_apply", said)
        return self._judge_checks(compiled, environment, readings)

    def _judge_checks(
        self, compiled: _CompiledRule, environment: Environment, readings: Mapping[str, Reading]
    ) -> _Finding:
        broken: list[_CompiledCheck] = []
        kept: list[_CompiledCheck] = []
        for check in compiled.checks:
            if any(environment.get(key) is None for key in check.needed):
                continue
            holds = check.must(environment)
            if holds is not None:
                (kept if holds else broken).append(check)
        judged = broken or kept
        if not judged:
            asked = _merged(compiled.checks)
            said = reasons.nothing_to_judge(asked, readings, self.vocabulary)
            return _Finding("nothing_to_judge", said, applies=True)
        said = reasons.judged(_merged(judged), readings, self.vocabulary)
        explained = [(check, _why_unfit(check, environment)) for check in broken]
        said = " ".join([said, *(why for _, why in explained if why)])
        drafted = compiled.rule.message is None
        messages = tuple(
            Message(f"{check.message.text} {why}", check.message.fields)
            if why and drafted
            else check.message
            for check, why in explained
        )
        return _Finding("broken" if broken else "kept", said, messages, applies=True)

    def _verdict(
        self,
        moment: Moment,
        readings: Mapping[str, Reading],
        findings: Mapping[str, _Finding],
        ignored: Mapping[str, str],
        touched: frozenset[str],
    ) -> Verdict:
        results = tuple(
            self._result(rule, findings[rule.key], moment, touched) for rule in self.form.rules
        )
        faults = any(isinstance(reading, Fault) for reading in readings.values())
        hardest = max(
            (SEVERITIES.index(r.severity) for r in results if r.status == "broken"), default=0
        )
        if faults and moment != "entry":
            hardest = SEVERITIES.index("block")
        outcome = OUTCOME_OF[SEVERITIES[hardest]]
        return Verdict(
            moment=moment,
            outcome=outcome,
            may_pass=outcome != "blocked",
            results=results,
            fields=self._field_states(moment, readings, findings, touched),
            ignored=ignored,
        )

    def _result(
        self, rule: Rule, finding: _Finding, moment: Moment, touched: frozenset[str]
    ) -> RuleResult:
        severity = rule.severity.at(moment)
        if finding.status in ("unfinished", "off", "out_of_scope"):
            return RuleResult(rule.key, finding.status, severity, finding.reason)
        if severity == "off":
            return RuleResult(rule.key, "silent", severity, reasons.silent_by_setting(moment))
        compiled = self._rules[rule.key]
        if moment == "entry" and touched.isdisjoint(compiled.reads):
            said = reasons.silent_until_touched(compiled.reads, self.vocabulary)
            return RuleResult(rule.key, "silent", severity, said)
        return RuleResult(
            rule=rule.key,
            status=finding.status,
            severity=severity,
            reason=finding.reason,
            messages=finding.messages,
            placement=rule.placement,
        )

    def _field_states(
        self,
        moment: Moment,
        readings: Mapping[str, Reading],
        findings: Mapping[str, _Finding],
        touched: frozenset[str],
    ) -> dict[str, FieldState]:
        marks: dict[str, Mark] = {}
        for rule in self.form.rules:
            if isinstance(rule, MandatoryRule) and findings[rule.key].applies:
                mark = _mark(rule, moment)
                for key in rule.targets if mark else ():
                    if key not in marks or marks[key].kind == "expected":
                        marks[key] = mark  # type: ignore[assignment]
        states: dict[str, FieldState] = {}
        for key, reading in readings.items():
            if isinstance(reading, Fault):
                told = moment != "entry" or key in touched
                states[key] = FieldState(None, reading.message if told else None, marks.get(key))
            else:
                states[key] = FieldState(reading, None, marks.get(key))
        return states


def _why_unfit(check: _CompiledCheck, environment: Environment) -> str | None:
    """What is wrong with a text that does not fit its format, beyond that it does not."""
    must = check.check.must
    if not isinstance(must, tree.Fits) or not isinstance(must.value, tree.Field):
        return None
    return NAMED_FORMATS[must.format].why_not(environment[must.value.key], must.country)


def _merged(checks: Iterable[_CompiledCheck]) -> list[str]:
    """The fields that any of the checks reads, each once."""
    return list(dict.fromkeys(key for check in checks for key in check.reads))


def _compile_rule(rule: Rule, vocabulary: Vocabulary) -> _CompiledRule:
    lowered = lower_rule(rule, vocabulary)

    def in_order(keys: Iterable[str]) -> tuple[str, ...]:
        wanted = set(keys)
        return tuple(key for key in vocabulary if key in wanted)

    def compiled(check: Check) -> _CompiledCheck:
        text = rule.message or drafted_message(lowered, check, vocabulary)
        return _CompiledCheck(
            check=check,
            must=interpret(check.must),
            message=Message(text, check.targets),
            reads=in_order(check.needed | set(check.targets)),
            needed=in_order(check.needed),
        )

    return _CompiledRule(
        rule=rule,
        reads=in_order(lowered.reads),
        governors=in_order(lowered.governors),
        condition=plain(condition_words(lowered.when, vocabulary)) if lowered.when else "",
        when=interpret(lowered.when) if lowered.when else None,
        checks=tuple(compiled(check) for check in lowered.checks),
    )


def _mark(rule: MandatoryRule, moment: Moment) -> Mark | None:
    """Demanded where this or a next moment blocks, expected where one of them notes or warns.

    Both saving and submitting can come next while typing; after submitting comes nothing.
    """
    ahead: tuple[Moment, ...] = ("submit",) if moment == "submit" else BOTH_MOMENTS
    for next_moment in ahead:
        if rule.severity.at(next_moment) == "block":
            return Mark("demanded", next_moment)
    for next_moment in ahead:
        if rule.severity.at(next_moment) != "off":
            return Mark("expected", next_moment)
    return None
