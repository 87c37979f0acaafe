"""One rule, ready to be asked: its formulas as functions, its messages in words."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from thistlequartz.core.engines.environment import Environment, Evaluator, again
from thistlequartz.core.engines.traced import interpret, traced
from thistlequartz.core.formats import NAMED_FORMATS
from thistlequartz.core.judging.other_records.port import NUMBER
from thistlequartz.core.judging.other_records.violating_record import Double, double_in
from thistlequartz.core.kinds import CHECK_KINDS, EFFECT_KINDS, CheckKind, part_of
from thistlequartz.core.kinds.base.kind import Part
from thistlequartz.core.language import condition_words, plain, tree
from thistlequartz.core.ruleset import (
    MOMENTS,
    Check,
    CheckRule,
    Language,
    LoweredRule,
    Moment,
    Rule,
    Severity,
    drafted_message,
    severity_of,
    waiting_reason,
)
from thistlequartz.core.translation import LAST, listed, tr

from .messages import Filler, Message, filler, plain_message

_OF_OTHERS = tree.Referred | tree.Unique | tree.NoOther


@dataclass(frozen=True, slots=True)
class CompiledCheck:
    """One condition that must hold."""

    check: Check
    asked: Evaluator
    message: Message
    reads: tuple[str, ...]
    needed: tuple[str, ...]
    double: Double | None
    """What finds the other record that it was violated by."""
    fill: Filler | None = None
    """What fills the message, where it has placeholders."""

    def satisfied(self, environment: Environment) -> bool | None:
        """Whether the record satisfies it; None where it cannot be evaluated."""
        answer = self.asked(environment)
        return answer if isinstance(answer, bool) else None


@dataclass(frozen=True, slots=True)
class CompiledRule:
    """A rule whose formulas have been turned into functions."""

    rule: Rule
    lowered: LoweredRule
    reads: tuple[str, ...]
    """Every field it targets or reads, in the order of the form."""
    trigger_fields: frozenset[str]
    """What must have been left for it to speak while typing: one of the fields it reads, or the
    second entry where it waits for one."""
    governors: tuple[str, ...]
    condition: str
    """When it applies, in words."""
    when: Evaluator | None
    severities: Mapping[Moment, Severity]
    judged_by: tuple[str, ...]
    """The fields that its checks read, each once."""
    checks: tuple[CompiledCheck, ...] = ()
    until: Evaluator | None = None
    waiting_for: str = ""
    values: tuple[tuple[str, Evaluator], ...] = ()

    @property
    def sources(self) -> frozenset[str]:
        """What the values it gives are computed from."""
        read = [tree.fields_read(node) for _, node in self.lowered.values]
        return self.lowered.governors.union(*read)

    @property
    def conditions(self) -> Iterator[tree.Node]:
        """Every condition it asks: when it applies, what its fields wait for, what must hold."""
        lowered = self.lowered
        if lowered.when is not None:
            yield lowered.when
        if lowered.until is not None:
            yield lowered.until
        yield from (check.must for check in lowered.checks)

    @property
    def looks_at_others(self) -> bool:
        """Whether what it says hangs on other records."""
        nodes = (*self.conditions, *(node for _, node in self.lowered.values))
        return any(isinstance(one, _OF_OTHERS) for node in nodes for one in tree.walk(node))

    @property
    def check_rule(self) -> CheckRule:
        """The rule, as one of the kinds that check."""
        return self.rule  # type: ignore[return-value]

    @property
    def is_effect(self) -> bool:
        """Whether it is of a kind with an effect."""
        return self.rule.kind in EFFECT_KINDS

    @property
    def check_kind(self) -> CheckKind[Any] | None:
        """Its kind, where that checks."""
        return CHECK_KINDS.get(self.rule.kind)

    @property
    def asks_for_play(self) -> bool:
        """Whether it has nothing to say while all its targets are not relevant."""
        kind = EFFECT_KINDS.get(self.rule.kind)
        return kind is None or not kind.told_out_of_play

    @property
    def part(self) -> Part | None:
        """Where in an evaluation it has its place, of a rule with an effect."""
        return part_of(self.rule)

    def applies(self, environment: Environment) -> bool:
        """Whether its condition is true, and a field it watches has changed."""
        return self.when is None or self.when(environment) is True


def compile_rule(lowered: LoweredRule, language: Language) -> CompiledRule:
    """`lowered` ready to be asked."""
    rule, vocabulary = lowered.rule, language.vocabulary

    in_order = language.in_order

    def compiled(check: Check) -> CompiledCheck:
        worded = getattr(rule, "message", None)
        text = plain_message(worded) if worded else drafted_message(lowered, check, vocabulary)
        return CompiledCheck(
            check=check,
            asked=traced(check.satisfied),
            message=Message(text, check.targets),
            reads=in_order(check.reads | set(check.targets)),
            needed=in_order(check.needed),
            double=double_in(check.satisfied),
            fill=filler(rule, check, worded, vocabulary) if worded else None,
        )

    reads, conditions, kind = lowered.reads, [], CHECK_KINDS.get(rule.kind)
    if rule.changed_fields:
        labels = [vocabulary[key].label for key in rule.changed_fields]
        conditions.append(tr("{fields} has changed", fields=listed(labels, "or")))
    if lowered.when is not None:
        conditions.append(plain(condition_words(lowered.when, vocabulary)))
    checks = tuple(compiled(check) for check in lowered.checks)
    return CompiledRule(
        rule=rule,
        lowered=lowered,
        reads=in_order(reads),
        trigger_fields=frozenset(map(again, rule.targets) if kind and kind.second_entry else reads),
        governors=in_order(lowered.governors),
        condition=LAST["and"].join(conditions),
        when=traced(lowered.applies) if lowered.applies else None,
        severities={moment: severity_of(rule, moment) for moment in MOMENTS},
        judged_by=tuple(dict.fromkeys(key for check in checks for key in check.reads)),
        checks=checks,
        until=interpret(lowered.until, vocabulary) if lowered.until else None,
        waiting_for=waiting_reason(lowered, vocabulary) if lowered.until else "",
        values=tuple((key, interpret(node, vocabulary)) for key, node in lowered.values),
    )


def why_unfit(check: CompiledCheck, environment: Environment) -> str | None:
    """What is wrong with a text that does not fit its format, beyond that it does not."""
    must = check.check.must
    if not isinstance(must, tree.MatchesFormat) or not isinstance(must.value, tree.Field):
        return None
    return NAMED_FORMATS[must.format].why_not(environment[must.value.key], must.country)


def told(compiled: CompiledRule, check: CompiledCheck, environment: Environment) -> Message:
    """What a violated check tells, and in which record what it must differ from stands."""
    message = _worded(compiled, check, environment)
    double = check.double(environment) if check.double else None
    number = double and double[NUMBER]
    if number is None:
        return message
    return Message(
        tr("{text} See record {number}.", text=message.text, number=number), message.fields
    )


def _worded(compiled: CompiledRule, check: CompiledCheck, environment: Environment) -> Message:
    """Its message; a drafted one also says what is wrong with a format."""
    if check.fill is not None:
        return Message(check.fill(environment), check.message.fields)
    if getattr(compiled.rule, "message", None) is not None:
        return check.message
    why = why_unfit(check, environment)
    return Message(f"{check.message.text} {why}", check.message.fields) if why else check.message
