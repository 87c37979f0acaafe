"""Every small mistake of the list made in a copy of a form, one at a time."""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, cast

from thistlequartz.core.enumerations import hardness
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.kinds import CHECK_KINDS, EFFECT_KINDS, KINDS, FormulaSlot, RuleMutation
from thistlequartz.core.kinds.base.mutations import Kind, Variant, variants
from thistlequartz.core.language import (
    FormulaError,
    condition_words,
    plain,
    read_formula,
    tree,
    write_formula,
)
from thistlequartz.core.ruleset import (
    SEVERITIES,
    CheckRule,
    Form,
    Moment,
    NamedCondition,
    Rule,
    Severities,
    lower_rule,
    rule_sentence,
)
from thistlequartz.core.translation import tr
from thistlequartz.core.types import NumberType, read_written

MOST_OF_A_RULE = 60
_MILDER: dict[str, str] = {
    "block": tr("warns"),
    "warn": tr("only notes"),
    "note": tr("says nothing"),
}
_MOMENT_WORDS: dict[Moment, str] = {
    "entry": tr("typing"),
    "save": tr("saving"),
    "submit": tr("submitting"),
}
_PROVABLE: tuple[Moment, ...] = ("save", "submit")


@dataclass(frozen=True, slots=True)
class Mutation:
    """One mistake made in a form."""

    key: str
    """Its name among the slips of the form, the same as long as the rule is."""
    kind: Kind
    rule: str | None
    """The rule it was made in, or None for a shared condition."""
    condition: str | None
    subject: str
    """The name of the rule or of the condition."""
    words: str
    """What is wrong: “a zero too many: 88,500 for 8,850”."""
    sentence: str
    """How the rule or the condition reads with the mistake."""
    form: Form
    """The whole form with the mistake in it."""


def mutants_of(form: CompiledForm) -> Iterator[Mutation]:
    """The slips of every rule that is switched on and can be used, and of shared conditions."""
    for rule in form.form.rules:
        if rule.enabled and rule.key not in form.problems:
            yield from _of_rule(form, rule)
    used = {
        node.key
        for one in form.rules
        for formula in one.conditions
        for node in tree.walk(formula)
        if isinstance(node, tree.NamedConditionUse)
    }
    for named in form.form.conditions:
        if named.key in used:
            yield from _of_condition(form, named)


def _of_rule(form: CompiledForm, rule: Rule) -> Iterator[Mutation]:
    written = rule.model_dump_json()
    seen = {written}
    count = 0
    for kind, words, changed in _changed_rules(rule, form):
        mark = changed.model_dump_json()
        if mark in seen or count == MOST_OF_A_RULE:
            continue
        seen.add(mark)
        try:
            lowered = lower_rule(changed, form.language)
        except FormulaError:
            continue
        count += 1
        rules = tuple(changed if one.key == rule.key else one for one in form.form.rules)
        yield Mutation(
            key=f"{rule.key}:{kind}:{count}",
            kind=kind,
            rule=rule.key,
            condition=None,
            subject=rule.name,
            words=words,
            sentence=plain(rule_sentence(lowered, form.vocabulary, form.layouts)),
            form=form.form.model_copy(update={"rules": rules}),
        )


def _of_condition(form: CompiledForm, named: NamedCondition) -> Iterator[Mutation]:
    for count, variant in enumerate(_rewritten(named.condition), 1):
        changed = named.model_copy(update={"condition": write_formula(variant.node)})
        conditions = tuple(changed if one.key == named.key else one for one in form.form.conditions)
        yield Mutation(
            key=f"{named.key}:{variant.kind}:{count}",
            kind=variant.kind,
            rule=None,
            condition=named.key,
            subject=named.name,
            words=variant.words,
            sentence=_condition_sentence(variant.node, named, form),
            form=form.form.model_copy(update={"conditions": conditions}),
        )


def _condition_sentence(node: tree.Node, named: NamedCondition, form: CompiledForm) -> str:
    return tr(
        "“{name}” is met when {condition}.",
        name=named.name,
        condition=plain(condition_words(node, form.vocabulary)),
    )


def _changed_rules(rule: Rule, form: CompiledForm) -> Iterator[RuleMutation]:
    kind = KINDS[rule.kind]
    yield from kind.mutations(rule)
    for slot in kind.formulas(rule):
        yield from _in_formula(slot)
    if rule.when is not None:
        yield from _in_formula(FormulaSlot(rule.when, lambda new: _with(rule, when=new)))
    yield from _conditions(rule)
    if rule.kind in CHECK_KINDS:
        yield from _severities(cast("CheckRule", rule))
        yield from _moments(cast("CheckRule", rule))


def _in_formula(slot: FormulaSlot[Any]) -> Iterator[RuleMutation]:
    number = read_written(slot.text, NumberType()) if slot.typed else None
    if isinstance(number, Decimal):
        for variant in variants(tree.Number(number)):
            assert isinstance(variant.node, tree.Number)
            yield RuleMutation(variant.kind, variant.words, slot.put(f"{variant.node.value:f}"))
        return
    for variant in _rewritten(slot.text):
        try:
            yield RuleMutation(variant.kind, variant.words, slot.put(write_formula(variant.node)))
        except FormulaError:
            continue


def _rewritten(text: str) -> Iterator[Variant]:
    try:
        node = read_formula(text)
    except FormulaError:
        return
    yield from variants(node)


def _conditions(rule: Rule) -> Iterator[RuleMutation]:
    if rule.when is None:
        return
    effect = EFFECT_KINDS.get(rule.kind)
    if effect is None or effect.can_be_unconditional:
        dropped = _with(rule, when=None)
        yield RuleMutation("condition_dropped", tr("its condition is left out"), dropped)
    turned = _with(rule, when=f"not({rule.when})")
    yield RuleMutation("turned_round", tr("its condition is turned round"), turned)


def _severities(rule: CheckRule) -> Iterator[RuleMutation]:
    for moment in _PROVABLE:
        severity = rule.severity.at(moment)
        if severity == "none" or rule.hold:
            continue
        milder = SEVERITIES[hardness(severity) - 1]
        words = tr(
            "it {milder} on {moment}", milder=_MILDER[severity], moment=_MOMENT_WORDS[moment]
        )
        yield RuleMutation(
            "severity", words, _with(rule, severity=_spoken(rule.severity, {moment: milder}))
        )


def _moments(rule: CheckRule) -> Iterator[RuleMutation]:
    said = rule.severity
    if rule.hold:
        yield RuleMutation(
            "moment", tr("it no longer sets the record on hold"), _with(rule, hold=False)
        )
        return
    if said.save == said.submit == "none":
        return
    if said.save != said.submit:
        swapped = _spoken(said, {"save": said.submit, "submit": said.save})
        told = tr("saving and submitting are confused")
        yield RuleMutation("moment", told, _with(rule, severity=swapped))
    for moment in _PROVABLE:
        if said.at(moment) != "none":
            words = tr("it says nothing on {moment}", moment=_MOMENT_WORDS[moment])
            yield RuleMutation(
                "moment", words, _with(rule, severity=_spoken(said, {moment: "none"}))
            )
    typing = Severities(entry="warn")
    yield RuleMutation("moment", tr("it speaks while typing only"), _with(rule, severity=typing))


def _spoken(severities: Severities, changes: dict[Any, Any]) -> Severities:
    return severities.model_copy(update=changes)


def _with(rule: Rule, **changes: Any) -> Rule:
    return rule.model_copy(update=changes)
