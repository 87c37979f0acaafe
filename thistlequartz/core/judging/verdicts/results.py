"""What each rule says at one moment."""

from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple, cast

from thistlequartz.core.enumerations import Status
from thistlequartz.core.judging.compiling.compiled_rule import CompiledRule
from thistlequartz.core.judging.evaluation import Evaluation
from thistlequartz.core.judging.wording import reasons
from thistlequartz.core.judging.wording.reason_wording import ReasonWording
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import MOMENTS, CheckRule, Moment, Placement, Rule, Severity
from thistlequartz.core.ruleset import severity_of as severity_of_rule

from .verdict import RuleResult, Waiver
from .waivers import basis_of, waiver_state

_SILENT = {one: reasons.silent_by_setting(one) for one in MOMENTS}
_OUTSIDE: frozenset[Status] = frozenset({"unfinished", "disabled", "out_of_scope", "not_relevant"})
"""Of a rule that has nothing to say, whatever its severity."""


class RuleAtMoment(NamedTuple):
    """How a rule speaks at one moment, whatever the record."""

    rule: str
    compiled: CompiledRule | None
    """None: it never speaks, as it has an effect or cannot be used."""
    severity: Severity
    placement: Placement
    enters_hold: bool
    demands: bool
    """Whether a warning passes only with a reason."""
    until: str = ""
    """Until what it is silent while typing."""


def speakers(
    rules: Iterable[Rule], compiled: Mapping[str, CompiledRule], vocabulary: Vocabulary
) -> dict[Moment, tuple[RuleAtMoment, ...]]:
    """How every rule speaks at every moment, in the order of the form."""
    rules = list(rules)
    return {
        moment: tuple(_speaker(one, compiled, moment, vocabulary) for one in rules)
        for moment in MOMENTS
    }


def _speaker(
    rule: Rule, compiled: Mapping[str, CompiledRule], moment: Moment, vocabulary: Vocabulary
) -> RuleAtMoment:
    severity = severity_of_rule(rule, moment)
    usable = compiled.get(rule.key)
    if usable is None or usable.is_effect:
        return RuleAtMoment(rule.key, None, severity, "field", False, False)
    rule = cast("CheckRule", rule)
    demands = severity == "warn" and rule.reason_required and moment != "entry"
    enters_hold = moment == "save" and rule.hold
    speaks_later = moment == "entry" and severity != "none"
    until = reasons.silent_until_touched(usable.reads, vocabulary) if speaks_later else ""
    return RuleAtMoment(rule.key, usable, severity, rule.placement, enters_hold, demands, until)


class Results(NamedTuple):
    """What the results of one record are made from."""

    findings: Mapping[str, Evaluation]
    words: ReasonWording
    touched: frozenset[str]
    waivers: Mapping[str, Waiver | str]

    def at(self, moment: Moment, speaking: tuple[RuleAtMoment, ...]) -> tuple[RuleResult, ...]:
        """The result of every rule, in the order of the form."""
        if moment == "entry":
            return tuple([self._while_typing(one) for one in speaking])
        findings, words, silent = self.findings, self.words, _SILENT[moment]
        made: list[RuleResult] = []
        new: Any = tuple.__new__
        for rule, compiled, severity, placement, enters_hold, demands, _ in speaking:
            status, why, messages, _, _ = findings[rule]
            if compiled is None or status in _OUTSIDE:
                result = RuleResult(rule, status, severity, why, words)
            elif severity == "none":
                result = RuleResult(rule, "silent", severity, silent, words)
            else:
                # The tuple itself: its class would fill in the three blanks, in twice the time.
                result = new(
                    RuleResult,
                    (
                        rule,
                        status,
                        severity,
                        why,
                        words,
                        messages,
                        placement,
                        enters_hold,
                        None,
                        None,
                        "",
                    ),
                )
                if demands and status == "violated":
                    result = self._waived(result, compiled)
            made.append(result)
        return tuple(made)

    def _while_typing(self, speaker: RuleAtMoment) -> RuleResult:
        rule, compiled, severity, placement, _, _, until = speaker
        status, why, messages, _, _ = self.findings[rule]
        if compiled is None or status in _OUTSIDE:
            return RuleResult(rule, status, severity, why, self.words)
        if severity == "none":
            return RuleResult(rule, "silent", severity, _SILENT["entry"], self.words)
        if self.touched.isdisjoint(compiled.trigger_fields):
            return RuleResult(rule, "silent", severity, until, self.words)
        result = RuleResult(rule, status, severity, why, self.words, messages, placement)
        confirmation = compiled.check_rule.confirmation
        return result._replace(confirmation=confirmation) if status == "satisfied" else result

    def _waived(self, result: RuleResult, compiled: CompiledRule) -> RuleResult:
        basis = basis_of(compiled, self.findings[result.rule], self.words.settled)
        state = waiver_state(result.rule, basis, self.waivers)
        return result._replace(waiver=state, basis=basis)
