"""A rule while it is written: how it would be lowered, and what would keep it from working."""

from thistlequartz.core.language import FormulaError, Problem
from thistlequartz.core.ruleset import LoweredRule, Rule, lower_rule
from thistlequartz.core.ruleset.placeholders import message_problems

from .compiled_form import CompiledForm


def lowered_in(form: CompiledForm, rule: Rule) -> LoweredRule | None:
    """The rule among the fields of a form; None where its formulas cannot be read."""
    try:
        return lower_rule(rule, form.language)
    except FormulaError:
        return None


def problems_in(form: CompiledForm, rule: Rule, replaces: str | None = None) -> tuple[Problem, ...]:
    """Return what keeps `rule` from working in a form, and what its message lacks.

    It stands in the place of the rule with the key `replaces`, or as a further one.
    """
    try:
        found = _circle(form, lower_rule(rule, form.language), replaces)
    except FormulaError as error:
        found = error.problems
    return (*found, *message_problems(rule, form.language.vocabulary))


def _circle(form: CompiledForm, lowered: LoweredRule, replaces: str | None) -> tuple[Problem, ...]:
    """That fields would decide about one another by it."""
    rule = lowered.rule
    if not rule.enabled or lowered.checks:
        return ()
    rules = form.form.rules
    keys = {one.key for one in rules}
    if replaces in keys:
        written = tuple(rule if one.key == replaces else one for one in rules)
    else:
        if rule.key in keys:
            rule = rule.model_copy(update={"key": f"{rule.key}_{len(keys)}"})
        written = (*rules, rule)
    whole = form.rewritten(form.form.model_copy(update={"rules": written}))
    if not any(rule.key in one.rules for one in whole.circles):
        return ()
    return whole.problems[rule.key]
