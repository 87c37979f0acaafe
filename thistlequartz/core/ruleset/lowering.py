"""From a rule as written to the trees that every reader of rules understands, by its kind."""

from thistlequartz.core.kinds import (
    CHECK_KINDS,
    EFFECT_KINDS,
    Effect,
    Language,
    Lowered,
    Rule,
)
from thistlequartz.core.kinds.base.formulas import FormulaReader
from thistlequartz.core.kinds.base.lowered import check_of, condition_of
from thistlequartz.core.language import FormulaError, tree
from thistlequartz.core.translation import tr

LoweredRule = Lowered[Rule]


def lower_rule(rule: Rule, language: Language) -> LoweredRule:
    """`rule` as trees. Raises FormulaError with every problem and its place in the rule."""
    reader = FormulaReader(language)
    if not rule.targets:
        said = tr("It names no field that it is about.")
        reader.report(said, tr("Choose the field, or several."), "targets", unsaid=True)
    for name in ("targets", "changed_fields"):
        for position, key in enumerate(getattr(rule, name)):
            reader.known(key, f"{name}.{position}")
    when = None if rule.when is None else reader.condition(rule.when, "when")
    effect, musts, judges_blanks = Effect(), [], False
    if rule.kind in EFFECT_KINDS:
        effect = EFFECT_KINDS[rule.kind].effect(rule, when, reader)
    else:
        kind = CHECK_KINDS[rule.kind]
        musts, judges_blanks = kind.musts(rule, reader), kind.judges_blanks
    if reader.problems:
        raise FormulaError(dict.fromkeys(reader.problems))
    return Lowered(
        rule,
        when,
        applies=condition_of(rule, when, language),
        governors=frozenset(rule.changed_fields) | (tree.fields_read(when) if when else set()),
        checks=tuple(check_of(*must, judges_blanks, language) for must in musts),
        effect=effect,
    )
