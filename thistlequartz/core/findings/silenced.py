"""Checks that a blank silences, results nobody can fill, fields that nothing satisfies."""

from collections.abc import Iterator
from typing import Any, Final

from thistlequartz.core.engines.solver import ValueTerm
from thistlequartz.core.engines.solver.terms import all_of, any_of, none_of
from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.kernel import lower
from thistlequartz.core.language import condition_words, plain, tree
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable, Unsatisfiable
from thistlequartz.core.translation import tr

from .context import SearchContext, blocks, is_demand
from .finding import Finding


def silenced_by_a_blank(look: SearchContext) -> Iterator[Finding]:
    """F35: a part of an *and* is false, and the check says nothing, as another part is blank."""
    for one in look.checks:
        for check in one.lowered.checks:
            if isinstance(check.must, tree.And) and getattr(one.rule, "must", None):
                yield from _silenced(look, one, check.must)


def _silenced(look: SearchContext, one: CompiledRule, must: tree.And) -> Iterator[Finding]:
    rule, record = one.rule.key, look.prover.record
    every = [key for key in sorted(tree.fields_read(must)) if key in look.form.fields]
    for part in must.parts:
        own = tree.fields_read(part) & set(every)
        others = [key for key in every if key not in own]
        if not own or not others or not isinstance(part, tree.Comparison | tree.Membership):
            continue
        false = record.truth(lower(part, look.form.vocabulary)).false
        filled = all_of(none_of(record.values[key].blank) for key in sorted(own))
        blank = any_of(look.has_value(key, None) for key in others)
        goal = all_of((look.terms(one).applies, false, filled, blank))
        under = RuleAssumptions("save", frozenset({rule}))
        answer = look.ask("F35", (rule,), goal, under, fields=tuple(sorted(own)))
        if isinstance(answer, Unsatisfiable):
            look.nothing("F35")
        if not isinstance(answer, Satisfiable):
            continue
        environment = answer.judged.settled.environment
        empty = tuple(key for key in others if environment.get(key) is None)
        said = plain(condition_words(part, look.form.vocabulary))
        yield Finding(
            "F35",
            "doubtful",
            tr(
                "{name} says nothing while {fields} is blank, though “{part}” could speak alone "
                "and is not met.",
                name=look.name(rule),
                fields=look.labels(empty),
                part=said,
            ),
            tr("Make a rule of its own of that part, or require what may be blank."),
            (rule,),
            tuple(sorted(own)),
            answer.witness,
        )
        return


_UNFILLED: Final = {
    (True, True): tr(
        "{rules} requires {result}, which is computed from {source}, and nothing requires {source}."
    ),
    (True, False): tr(
        "{rules} require {result}, which is computed from {source}, and nothing requires {source}."
    ),
    (False, True): tr(
        "{rules} checks {result}, which is computed from {source}, and nothing requires {source}."
    ),
    (False, False): tr(
        "{rules} check {result}, which is computed from {source}, and nothing requires {source}."
    ),
}
"""By whether a rule requires the result, and whether it is one rule."""


def results_nobody_requires(look: SearchContext) -> Iterator[Finding]:
    """F36: a result is required or checked, and a field that it is computed from may be blank."""
    sources: dict[str, dict[str, str]] = {}
    for one in look.part("deriving"):
        for key in one.rule.targets:
            for read in one.reads:
                if read != key:
                    sources.setdefault(key, {}).setdefault(read, one.rule.key)
    unfilled: dict[tuple[str, str], list[tuple[CompiledRule, Satisfiable]]] = {}
    for one in look.checks:
        if not blocks(one):
            continue
        for key in one.rule.targets:
            for read, answer in _unfilled(look, one, key, sources.get(key, {})):
                unfilled.setdefault((key, read), []).append((one, answer))
    for (key, read), found in unfilled.items():
        rules = tuple(one.rule.key for one, _ in found)
        says = _UNFILLED[any(is_demand(one) for one, _ in found), len(rules) == 1]
        yield Finding(
            "F36",
            "doubtful",
            says.format(rules=look.named(rules), result=look.label(key), source=look.label(read)),
            tr(
                "Require {source}, or say what {result} is while it is blank.",
                source=look.label(read),
                result=look.label(key),
            ),
            (*rules, sources[key][read]),
            (key, read),
            found[0][1].witness,
        )


def _unfilled(
    look: SearchContext, one: CompiledRule, key: str, sources: dict[str, str]
) -> Iterator[tuple[str, Satisfiable]]:
    """The first field that may be blank, with an example."""
    record, rule = look.prover.record, one.rule.key
    for read in sources:
        if read in record.derived or read not in look.form.fields:
            continue
        goal = all_of(
            (look.terms(one).applies, look.has_value(key, None), look.has_value(read, None))
        )
        under = RuleAssumptions("submit", frozenset({rule}))
        answer = look.ask("F36", (rule,), goal, under, fields=(key, read))
        if isinstance(answer, Unsatisfiable):
            look.nothing("F36")
        if isinstance(answer, Satisfiable):
            yield read, answer
            return


def nothing_satisfies(look: SearchContext) -> Iterator[Finding]:
    """F37: nobody can satisfy a text's own rules together: no text fits them all."""
    for key, declared in look.form.fields.items():
        own = tuple(
            one.rule.key
            for one in look.checks
            if blocks(one) and key in one.rule.targets and not is_demand(one)
        )
        term: Any = look.prover.record.values[key]
        if not own or not declared.type.is_free_text or not isinstance(term, ValueTerm):
            continue
        goal = all_of((look.there((key,)), none_of(term.blank)))
        answer = look.ask("F37", own, goal, RuleAssumptions(also=own), fields=(key,))
        if isinstance(answer, Satisfiable):
            look.nothing("F37")
        if not isinstance(answer, Unsatisfiable) or not answer.rules:
            continue
        if any(("F03", rule) in look.explained for rule in answer.rules):
            continue
        yield Finding(
            "F37",
            "wrong",
            tr(
                "No text of {label} meets {named} together, so it can never be filled in.",
                label=look.label(key),
                named=look.named(answer.rules),
            ),
            tr("Change one of them so that some text fits all."),
            answer.rules,
            (key,),
        )
