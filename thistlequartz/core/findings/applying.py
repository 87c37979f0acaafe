"""Rules that never apply, always apply, are always violated, or are never in force."""

from collections.abc import Iterator
from datetime import timedelta
from typing import Any, Final

import z3

from thistlequartz.core.engines.solver.terms import TRUE, all_of, none_of
from thistlequartz.core.judging import CompiledRule, Judgement
from thistlequartz.core.kernel import lower
from thistlequartz.core.language import condition_words, plain, tree
from thistlequartz.core.solving.prover import (
    RuleAssumptions,
    Satisfiable,
    Undecided,
    Unsatisfiable,
)
from thistlequartz.core.translation import listed, tr
from thistlequartz.core.types import show_value

from .context import SearchContext, blocks
from .drawn_records import example_by_drawing
from .finding import Finding, SuggestedFix
from .suggested_fixes import without_part

SOON: Final = timedelta(days=30)


def never_applies(look: SearchContext) -> Iterator[Finding]:
    """F01: its condition cannot be true, or its targets are never relevant where it is."""
    for one in look.rules:
        key = one.rule.key
        if _is_over(look, one) or ("F01", key) in look.explained:
            continue
        applies, own = look.terms(one).applies, records_of(one)
        asked = all_of((applies, look.there(one.rule.targets)))
        # A rule that closes acts on a field just so that it is not asked.
        goal = applies if one.part == "closing" else asked
        answer = look.prover.ask(goal, own, applies_in := _applies(one))
        if isinstance(answer, Undecided):
            drawn = example_by_drawing(look, [one], own, lambda _, judged: applies_in(judged))
            answer = drawn or answer
        if isinstance(answer, Undecided):
            look.not_decided("F01", (key,), (), answer.why)
        if isinstance(answer, Satisfiable):
            look.nothing("F01")
            continue
        if not isinstance(answer, Unsatisfiable):
            continue
        look.explained.add(("F03", key))
        look.explained.add(("F02", key))
        look.explained.add(("F31", key))
        if isinstance(look.prover.ask(applies, own), Unsatisfiable):
            says = tr(
                "{name} can never apply: {never_true}",
                name=look.name(key),
                never_true=_never_true(look, one, own),
            )
        else:
            says = tr(
                "{name} never has anything to say: wherever its condition is true, {labels} is "
                "not asked",
                name=look.name(key),
                labels=look.labels(one.rule.targets),
            )
        yield Finding(
            "F01",
            "wrong",
            look.because(says, answer.rules),
            tr("Change its condition so that it can be true, or remove the rule."),
            (key,),
            tuple(one.rule.targets),
            proof=answer.rules,
            fix=SuggestedFix(tr("Remove {name}.", name=look.name(key)), removed=(key,)),
        )


def _never_true(look: SearchContext, one: CompiledRule, own: RuleAssumptions) -> str:
    """That its condition is never true; of several parts, which of them cannot be true at once."""
    when = one.lowered.when
    parts = list(when.parts) if isinstance(when, tree.And) else []
    record = look.prover.record

    def clash(some: list[tree.Node]) -> bool:
        truths = [record.truth(lower(node, look.form.vocabulary)).true for node in some]
        return isinstance(
            look.prover.ask(all_of((record.counts(one), *truths)), own), Unsatisfiable
        )

    if len(parts) < 2 or not clash(parts):
        return tr("its condition is never true")
    for part in list(parts):
        fewer = [other for other in parts if other is not part]
        if fewer and clash(fewer):
            parts = fewer
    said = [f"“{plain(condition_words(part, look.form.vocabulary))}”" for part in parts]
    if len(said) == 1:
        return tr("{part} is never true", part=said[0])
    return tr("{parts} are never true at once", parts=listed(said))


def records_of(one: CompiledRule) -> RuleAssumptions:
    """Return the records on which a rule acts.

    For an effect every record that can be entered; for a check those that the other blocks on
    saving let through.
    """
    return (
        RuleAssumptions() if one.is_effect else RuleAssumptions("save", frozenset({one.rule.key}))
    )


def _applies(one: CompiledRule) -> Any:
    def applies(judged: Judgement) -> bool:
        finding = judged.findings[one.rule.key]
        if not one.is_effect:
            return finding.applies
        if finding.status in ("disabled", "out_of_scope", "not_applicable"):
            return False
        asked = not judged.settled.closed.keys() >= set(one.rule.targets)
        return one.part == "closing" or asked

    return applies


def _is_over(look: SearchContext, one: CompiledRule) -> bool:
    """Whether it is over, which is another finding."""
    until = one.rule.in_force_to
    return until is not None and until < look.today


def always_violated(look: SearchContext) -> Iterator[Finding]:
    """F03 and F32: nobody can satisfy it, whatever is entered."""
    for one in look.checks:
        key = one.rule.key
        code = "F03" if blocks(one) else "F32"
        if ("F03", key) in look.explained or _is_over(look, one):
            continue
        terms = look.terms(one)
        own = RuleAssumptions("save", frozenset({key}))
        answer = look.ask(code, (key,), terms.satisfied, own)
        if isinstance(answer, Satisfiable):
            look.nothing(code)
        if not isinstance(answer, Unsatisfiable):
            continue
        shown = look.prover.ask(terms.violated, own)
        if isinstance(shown, Unsatisfiable):
            continue  # it has nothing to check
        look.explained.add(("F07", key))
        what = (
            tr("{name} stops every record that it can judge: nothing that can be entered meets it")
            if blocks(one)
            else tr(
                "{name} speaks of every record that it can judge: nothing that can be entered "
                "meets it"
            )
        )
        yield Finding(
            code,
            "wrong",
            look.because(what.format(name=look.name(key)), answer.rules),
            tr("Change what it asks, or when it applies."),
            (key,),
            tuple(one.rule.targets),
            shown.witness if isinstance(shown, Satisfiable) else None,
            answer.rules,
        )


def always_true(look: SearchContext) -> Iterator[Finding]:
    """F31: a condition is always true where its rule can apply, or a part of it never matters."""
    for one in look.rules:
        when, key = one.lowered.when, one.rule.key
        if when is None or ("F31", key) in look.explained or _is_over(look, one):
            continue
        counts = look.terms(one).counts
        yield from _idle(look, one, when, counts)


def _idle(
    look: SearchContext, one: CompiledRule, when: tree.Node, counts: Any
) -> Iterator[Finding]:
    key, record = one.rule.key, look.prover.record
    under = records_of(one)

    def truth(node: tree.Node) -> Any:
        return record.truth(lower(node, look.form.vocabulary)).true

    whole = look.ask("F31", (key,), all_of((counts, none_of(truth(when)))), under)
    if isinstance(whole, Unsatisfiable):
        yield Finding(
            "F31",
            "doubtful",
            look.because(
                tr(
                    "The condition of {name} is always true: the rule applies whatever is answered",
                    name=look.name(key),
                ),
                whole.rules,
            ),
            tr("Say the rule without its condition, or correct the condition."),
            (key,),
            proof=whole.rules,
            fix=_without_condition(look, one),
        )
        return
    look.nothing("F31")
    parts = when.parts if isinstance(when, tree.And | tree.Or) else ()
    for place, part in enumerate(parts):
        others = [truth(other) for at, other in enumerate(parts) if at != place]
        if isinstance(when, tree.And):
            goal = all_of((counts, *others, none_of(truth(part))))
            never = tr(
                "A part of the condition of {name} never matters: “{part}” is true wherever the "
                "rest of it is"
            )
        else:
            goal = all_of((counts, truth(part), *map(none_of, others)))
            never = tr(
                "A part of the condition of {name} never matters: “{part}” adds nothing: the "
                "rest of it is true wherever it is"
            )
        answer = look.ask("F31", (key,), goal, under)
        if isinstance(answer, Satisfiable):
            look.nothing("F31")
        if isinstance(answer, Unsatisfiable):
            said = plain(condition_words(part, look.form.vocabulary))
            yield Finding(
                "F31",
                "doubtful",
                look.because(never.format(name=look.name(key), part=said), answer.rules),
                tr("Leave the part out, or correct it."),
                (key,),
                proof=answer.rules,
                fix=SuggestedFix(
                    tr("{name} without that part of its condition.", name=look.name(key)),
                    rules=(shorter,),
                )
                if (shorter := without_part(one.rule, when, place))
                else None,
            )
            return


def _without_condition(look: SearchContext, one: CompiledRule) -> SuggestedFix:
    """Without its condition; a rule that opens or closes is nothing without one, so it goes."""
    if one.part in ("opening", "closing"):
        return SuggestedFix(
            tr("Remove {name}.", name=look.name(one.rule.key)), removed=(one.rule.key,)
        )
    return SuggestedFix(
        tr("{name} without its condition.", name=look.name(one.rule.key)),
        rules=(one.rule.model_copy(update={"when": None}),),
    )


def never_in_force(look: SearchContext) -> Iterator[Finding]:
    """F24: it is over, ends soon, or counts nowhere."""
    for one in look.form.rules:
        rule, key = one.rule, one.rule.key
        if not rule.enabled:
            continue
        until = rule.in_force_to
        if until is not None and until < look.today:
            yield Finding(
                "F24",
                "wrong",
                tr(
                    "{name} is over: it counted until {until}.",
                    name=look.name(key),
                    until=show_value(until),
                ),
                tr("Give it a later day, or remove it."),
                (key,),
                fix=SuggestedFix(tr("Remove {name}.", name=look.name(key)), removed=(key,)),
            )
            continue
        if until is not None and until <= look.today + SOON:
            yield Finding(
                "F24",
                "doubtful",
                tr(
                    "{name} ends soon: it counts until {until}.",
                    name=look.name(key),
                    until=show_value(until),
                ),
                tr("Give it a later day if it is to go on."),
                (key,),
            )
        counts = all_of((look.prover.record.counts(one), _on_creation(look, one)))
        if z3.is_true(counts):
            look.nothing("F24")
        elif isinstance(look.prover.ask(counts), Unsatisfiable):
            look.explained |= {(code, key) for code in ("F01", "F02", "F03", "F31")}
            yield Finding(
                "F24",
                "wrong",
                tr(
                    "{name} is never in force: the records, ways in, roles and layouts it counts "
                    "for exclude one another.",
                    name=look.name(key),
                ),
                tr("Widen for whom and for what it counts."),
                (key,),
            )
        else:
            look.nothing("F24")


def _on_creation(look: SearchContext, one: CompiledRule) -> Any:
    """A starting value is given on creation only, and on creation nothing has changed."""
    return look.prover.world.is_new if one.part == "starting" else TRUE
