"""Checks that other rules make superfluous."""

from collections.abc import Iterator

from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable, Unsatisfiable
from thistlequartz.core.translation import tr

from .context import SearchContext, hardness, is_violated
from .finding import Finding, SuggestedFix


def superfluous(look: SearchContext) -> Iterator[Finding]:
    """F02: no record that other blocks let through violates it; F07: others are as severe.

    Of two rules that say the same the later one is told.
    """
    gone: set[str] = set()
    for one in reversed(look.checks):
        key = one.rule.key
        if ("F02", key) in look.explained:
            continue
        violated, without = look.terms(one).violated, frozenset({key, *gone})
        answer = look.ask(
            "F02", (key,), violated, RuleAssumptions("save", without), is_violated(key)
        )
        if isinstance(answer, Satisfiable):
            look.nothing("F02")
            harder = tuple(
                other.rule.key
                for other in look.checks
                if other is not one
                and other.rule.key not in gone
                and all(a >= b for a, b in zip(hardness(other), hardness(one), strict=True))
            )
            implied = look.ask("F07", (key,), violated, RuleAssumptions(also=harder))
            if isinstance(implied, Satisfiable):
                look.nothing("F07")
            if isinstance(implied, Unsatisfiable) and implied.rules:
                gone.add(key)
                if ("F07", key) in look.explained:
                    continue
                yield _of_its_own(look, one, implied.rules)
        elif isinstance(answer, Unsatisfiable):
            gone.add(key)
            if answer.rules and all(_alike(look, one, other) for other in answer.rules):
                yield _of_its_own(look, one, answer.rules)
            else:
                yield _never(look, one, answer.rules)


def _alike(look: SearchContext, one: CompiledRule, key: str) -> bool:
    other = look.form.usable[key].rule
    return other.kind == one.rule.kind and set(other.targets) & set(one.rule.targets) != set()


def _of_its_own(look: SearchContext, one: CompiledRule, by: tuple[str, ...]) -> Finding:
    key = one.rule.key
    return Finding(
        "F07",
        "doubtful",
        tr(
            "{name} says nothing of its own: where it is violated {named} is violated too, and "
            "speaks at least as hard.",
            name=look.name(key),
            named=look.named(by),
        ),
        tr("Remove it, or make it say more."),
        (key,),
        tuple(one.rule.targets),
        proof=by,
        fix=SuggestedFix(tr("Remove {name}.", name=look.name(key)), removed=(key,)),
    )


def _never(look: SearchContext, one: CompiledRule, by: tuple[str, ...]) -> Finding:
    key = one.rule.key
    says = (
        (
            tr(
                "{name} can never be violated: {rules} stops every record by which it would be "
                "violated."
            )
            if len(by) == 1
            else tr(
                "{name} can never be violated: {rules} stop every record by which it would be "
                "violated."
            )
        )
        if by
        else tr("{name} can never be violated: nothing that can be entered lets it be violated.")
    )
    return Finding(
        "F02",
        "doubtful",
        says.format(name=look.name(key), rules=look.named(by)),
        tr("Remove it, or correct what it asks."),
        (key,),
        tuple(one.rule.targets),
        proof=by,
        fix=SuggestedFix(tr("Remove {name}.", name=look.name(key)), removed=(key,)),
    )
