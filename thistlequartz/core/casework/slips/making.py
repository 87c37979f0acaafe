"""Every small mistake of the list made in a copy of a form, one at a time."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from thistlequartz.core.evaluation import CompiledForm
from thistlequartz.core.evaluation.verdict import SEVERITIES
from thistlequartz.core.expression import (
    FormulaError,
    condition_words,
    plain,
    read_formula,
    tree,
    write_formula,
)
from thistlequartz.core.ruleset import (
    Bound,
    CheckRule,
    EffectRule,
    Form,
    LockRule,
    Moment,
    NamedCondition,
    RangeRule,
    Rule,
    Severities,
    lower_rule,
    rule_sentence,
)
from thistlequartz.core.values import NumberType, read_written

from .conditions import Kind, Variant, variants

MOST_OF_A_RULE = 60
_FORMULAS = ("when", "must", "no_other", "until", "formula")
_CAN_BE_UNCONDITIONAL = ("derive", "propose", "start", "wait")
_MILDER: dict[str, str] = {"block": "warns", "warn": "only notes", "note": "says nothing"}
_MOMENT_WORDS: dict[Moment, str] = {"entry": "typing", "save": "saving", "submit": "submitting"}
_PROVABLE: tuple[Moment, ...] = ("save", "submit")


@dataclass(frozen=True, slots=True)
class Slip:
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


def slips_of(form: CompiledForm) -> Iterator[Slip]:
    """The slips of every rule that is switched on and can be used, and of shared conditions."""
    for rule in form.form.rules:
        if rule.on and rule.key not in form.problems:
            yield from _of_rule(form, rule)
    used = {
        node.key
        for one in form.rules
        for formula in one.conditions
        for node in tree.walk(formula)
        if isinstance(node, tree.Named)
    }
    for named in form.form.conditions:
        if named.key in used:
            yield from _of_condition(form, named)


def _of_rule(form: CompiledForm, rule: Rule) -> Iterator[Slip]:
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
        yield Slip(
            key=f"{rule.key}:{kind}:{count}",
            kind=kind,
            rule=rule.key,
            condition=None,
            subject=rule.name,
            words=words,
            sentence=plain(rule_sentence(lowered, form.vocabulary, form.layouts)),
            form=form.form.model_copy(update={"rules": rules}),
        )


def _of_condition(form: CompiledForm, named: NamedCondition) -> Iterator[Slip]:
    for count, variant in enumerate(_rewritten(named.condition), 1):
        changed = named.model_copy(update={"condition": write_formula(variant.node)})
        conditions = tuple(changed if one.key == named.key else one for one in form.form.conditions)
        yield Slip(
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
    return f"“{named.name}” is met when {plain(condition_words(node, form.vocabulary))}."


_Changed = tuple[Kind, str, Rule]


def _changed_rules(rule: Rule, form: CompiledForm) -> Iterator[_Changed]:
    if isinstance(rule, RangeRule):
        yield from _bounds(rule)
    yield from _formulas(rule)
    yield from _conditions(rule)
    if not isinstance(rule, EffectRule):
        yield from _severities(rule)
        yield from _moments(rule)
    if rule.kind == "mandatory":
        yield "locked", "its field is locked instead of needed", _as_lock(rule)


def _bounds(rule: RangeRule) -> Iterator[_Changed]:
    for end in ("lower", "upper"):
        bound: Bound | None = getattr(rule, end)
        if bound is None:
            continue
        words = "itself is refused" if bound.inclusive else "itself is let through"
        turned = bound.model_copy(update={"inclusive": not bound.inclusive})
        yield "bound", f"the {end} bound {words}", rule.model_copy(update={end: turned})
        for kind, told, value in _bound_values(bound.value):
            changed = bound.model_copy(update={"value": value})
            yield kind, told, rule.model_copy(update={end: changed})


def _bound_values(text: str) -> Iterator[tuple[Kind, str, str]]:
    number = read_written(text, NumberType())
    if isinstance(number, Decimal):
        for variant in variants(tree.Number(number)):
            assert isinstance(variant.node, tree.Number)
            yield variant.kind, variant.words, f"{variant.node.value:f}"
        return
    for variant in _rewritten(text):
        yield variant.kind, variant.words, write_formula(variant.node)


def _rewritten(text: str) -> Iterator[Variant]:
    try:
        node = read_formula(text)
    except FormulaError:
        return
    yield from variants(node)


def _formulas(rule: Rule) -> Iterator[_Changed]:
    for name in _FORMULAS:
        text = getattr(rule, name, None)
        if text:
            yield from _replaced(text, lambda new, name=name: _with(rule, **{name: new}))  # type: ignore[misc]
    if rule.kind == "derive":
        yield from _replaced(rule.value, lambda new: _with(rule, value=new))
    if rule.kind == "propose":
        for place, one in enumerate(rule.sets):

            def put(new: str, place: int = place, one: Any = one) -> Rule:
                changed = one.model_copy(update={"value": new})
                return _with(rule, sets=(*rule.sets[:place], changed, *rule.sets[place + 1 :]))

            yield from _replaced(one.value, put)


def _replaced(text: str, put: Callable[[str], Rule]) -> Iterator[_Changed]:
    for variant in _rewritten(text):
        try:
            yield variant.kind, variant.words, put(write_formula(variant.node))
        except FormulaError:
            continue


def _conditions(rule: Rule) -> Iterator[_Changed]:
    if rule.when is None:
        return
    if not isinstance(rule, EffectRule) or rule.kind in _CAN_BE_UNCONDITIONAL:
        yield "condition_dropped", "its condition is left out", _with(rule, when=None)
    yield "turned_round", "its condition is turned round", _with(rule, when=f"not({rule.when})")


def _severities(rule: CheckRule) -> Iterator[_Changed]:
    for moment in _PROVABLE:
        severity = rule.severity.at(moment)
        if severity == "off" or rule.hold:
            continue
        milder = SEVERITIES[SEVERITIES.index(severity) - 1]
        words = f"it {_MILDER[severity]} on {_MOMENT_WORDS[moment]}"
        yield "severity", words, _with(rule, severity=_spoken(rule.severity, {moment: milder}))


def _moments(rule: CheckRule) -> Iterator[_Changed]:
    said = rule.severity
    if rule.hold:
        yield "moment", "it no longer sets the record on hold", _with(rule, hold=False)
        return
    if said.save == said.submit == "off":
        return
    if said.save != said.submit:
        swapped = _spoken(said, {"save": said.submit, "submit": said.save})
        yield "moment", "saving and submitting are confused", _with(rule, severity=swapped)
    for moment in _PROVABLE:
        if said.at(moment) != "off":
            words = f"it says nothing on {_MOMENT_WORDS[moment]}"
            yield "moment", words, _with(rule, severity=_spoken(said, {moment: "off"}))
    typing = Severities(entry="warn")
    yield "moment", "it speaks while typing only", _with(rule, severity=typing)


def _spoken(severities: Severities, changes: dict[Any, Any]) -> Severities:
    return severities.model_copy(update=changes)


def _as_lock(rule: Rule) -> Rule:
    return LockRule(
        key=rule.key,
        name=rule.name,
        targets=rule.targets,
        when=rule.when,
        scope=rule.scope,
        in_force_from=rule.in_force_from,
        in_force_to=rule.in_force_to,
        changed_fields=rule.changed_fields,
    )


def _with(rule: Rule, **changes: Any) -> Rule:
    return rule.model_copy(update=changes)
