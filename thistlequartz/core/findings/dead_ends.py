"""Dead ends: contradictions, answers that stop everything, situations with no way out."""

from collections.abc import Iterator
from itertools import product
from typing import Any, Final

from thistlequartz.core.engines.solver.terms import FALSE, TRUE, all_of, any_of, none_of
from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.kernel import lower
from thistlequartz.core.language import tree
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable, Unsatisfiable
from thistlequartz.core.translation import LAST, tr

from .context import (
    SearchContext,
    blocks,
    each_pair,
    is_about_missing,
    is_about_others,
    is_agreement,
    is_demand,
)
from .finding import Finding

DONE: Final = {"save": tr("saved"), "submit": tr("submitted")}
_LOCKED: Final = {
    (True, True): tr("{name} needs {field} while {rules} locks it blank: nobody can fill it in."),
    (True, False): tr("{name} needs {field} while {rules} lock it blank: nobody can fill it in."),
    (False, True): tr(
        "{name} needs {field} while {rules} locks it at {value}: nobody can fill it in."
    ),
    (False, False): tr(
        "{name} needs {field} while {rules} lock it at {value}: nobody can fill it in."
    ),
}
"""By whether the field is blank, and whether one rule locks it."""
MOST_SITUATIONS: Final = 24
"""Of answers that bounds hang on, for two rules."""


def nobody_goes_through(look: SearchContext) -> Iterator[Finding]:
    """F40: nothing that can be entered can be saved, or submitted."""
    moments: tuple[Moment, ...] = ("save", "submit")
    for moment in moments:
        answer = look.ask("F40", (), TRUE, RuleAssumptions(moment))
        if isinstance(answer, Satisfiable):
            look.nothing("F40")
        if isinstance(answer, Unsatisfiable) and answer.rules:
            several = len(answer.rules) > 1
            yield Finding(
                "F40",
                "wrong",
                (
                    tr(
                        "No record can be {done}, whatever is entered: {rules} leave nothing "
                        "that goes through."
                    )
                    if several
                    else tr(
                        "No record can be {done}, whatever is entered: {rules} leaves nothing "
                        "that goes through."
                    )
                ).format(done=DONE[moment], rules=look.named(answer.rules)),
                tr("Change what one of them asks, or when it applies.")
                if several
                else tr("Change what it asks, or when it applies."),
                answer.rules,
            )
            return


def contradictions(look: SearchContext) -> Iterator[Finding]:
    """F04: two blocking rules, a situation, and nothing to fill in that meets both."""
    asked = [
        one
        for one in look.checks
        if blocks(one) and not is_about_missing(one) and not is_about_others(one)
    ]
    for one, other in each_pair(asked):
        shared = tuple(key for key in one.judged_by if key in other.judged_by)
        if not shared or {("F03", one.rule.key), ("F03", other.rule.key)} & look.explained:
            continue
        found = _contradiction(look, one, other, shared)
        if found is not None:
            yield found


def _contradiction(
    look: SearchContext, one: CompiledRule, other: CompiledRule, shared: tuple[str, ...]
) -> Finding | None:
    record = look.prover.record
    terms, more = look.terms(one), look.terms(other)
    both = all_of((terms.applies, more.applies, *map(record.is_relevant, shared)))
    filled = [none_of(record.values[key].blank) for key in shared]
    satisfied = all_of((*filled, none_of(terms.violated), none_of(more.violated)))
    about = (one.rule.key, other.rule.key)
    governors = {*one.governors, *other.governors} - set(shared)
    hanging = sorted(governors & {*one.judged_by, *other.judged_by})
    answers = [look.answers(key) for key in hanging]
    if any(not given for given in answers):
        hanging, answers = [], []
    ways = list(product(*answers))
    for way in ways[:MOST_SITUATIONS]:
        situation = all_of(
            look.has_value(key, value) for key, value in zip(hanging, way, strict=True)
        )
        here = all_of((both, situation))
        answer = look.ask("F04", about, all_of((here, satisfied)), RuleAssumptions())
        if isinstance(answer, Satisfiable):
            continue
        if not isinstance(answer, Unsatisfiable):
            return None
        shown = look.prover.ask(here, RuleAssumptions(), lambda judged: True)
        if not isinstance(shown, Satisfiable):
            continue  # the two never apply together
        given = sorted(governors | {*hanging})
        when = _when(look, given, [shown.judged.settled.value_of(key) for key in given])
        return Finding(
            "F04",
            "wrong",
            tr(
                "{named} contradict one another{when}: nothing that is entered in {labels} meets "
                "both.",
                named=look.named(about),
                when=when,
                labels=look.labels(shared),
            ),
            tr("Change what one of them asks, or when it applies."),
            about,
            shared,
            shown.witness,
            about,
        )
    look.nothing("F04")
    return None


def _when(look: SearchContext, keys: list[str], values: list[Any]) -> str:
    """“ when Kind is Fish and Mass is 3 g”: a situation, by its governing answers."""
    said = [
        tr("{label} is {key}", label=look.label(key), key=look.shown(key, v))
        for key, v in zip(keys, values, strict=True)
    ]
    return tr(" when {situation}", situation=LAST["and"].join(said)) if said else ""


def answers_that_stop(look: SearchContext) -> Iterator[Finding]:
    """F05: with some answer no record can be saved, or submitted, whatever else is entered."""
    governing = dict.fromkeys(
        key for one in look.rules for key in (*one.governors, *one.judged_by) if look.answers(key)
    )
    for key in governing:
        for answer in (*look.answers(key), None):
            found = _stopped(look, key, answer)
            if found is not None:
                yield found


def _stopped(look: SearchContext, key: str, answer: Any) -> Finding | None:
    holds = look.has_value(key, answer)
    # Others may forbid what is refused on purpose, too, and then it is not refused on purpose.
    meant = frozenset(
        one.rule.key for one in look.checks if blocks(one) and _is_meant(one, key, answer)
    )
    through = look.ask("F05", (), holds, RuleAssumptions("submit", meant), fields=(key,))
    if isinstance(through, Satisfiable):
        look.nothing("F05")
        return None
    if not isinstance(through, Unsatisfiable) or not through.rules:
        return None
    moment: Moment = "submit"
    saved = look.prover.ask(holds, RuleAssumptions("save", meant))
    if isinstance(saved, Unsatisfiable):
        moment, through = "save", saved
    anyhow = look.prover.ask(holds, RuleAssumptions())
    if not isinstance(anyhow, Satisfiable):
        return None  # nobody can give that answer at all
    return Finding(
        "F05",
        "wrong",
        look.because(
            tr(
                "With {field} {answer} no record can be {done}",
                field=look.label(key),
                answer=look.shown(key, answer),
                done=DONE[moment],
            ),
            through.rules,
        ),
        tr(
            "Change one of these rules, or say that this answer stops the record by a rule of "
            "its own."
        ),
        through.rules,
        (key,),
        saved.witness if isinstance(saved, Satisfiable) else anyhow.witness,
        through.rules,
    )


def _is_meant(one: CompiledRule, key: str, answer: Any) -> bool:
    """Whether a rule is there to refuse that answer: the field's own demand its blank, a consent
    its no, a rule about nothing else any.
    """
    if key not in one.rule.targets:
        return False
    if (answer is None and is_about_missing(one)) or is_agreement(one):
        return True
    return {*one.judged_by, *one.governors} == {key}


def required_and_closed(look: SearchContext) -> Iterator[Finding]:
    """F06: a field is required while nobody can fill it in, or its rule falls silent.

    The latter where another rule closes the field in the situation the rule was written for.
    """
    for one in look.checks:
        if not is_demand(one):
            continue
        for key in one.rule.targets:
            if blocks(one):
                yield from _locked(look, one, key)
                yield from _waiting(look, one, key)
            if one.lowered.when is not None:
                yield from _silent(look, one, key)


def _locked(look: SearchContext, one: CompiledRule, key: str) -> Iterator[Finding]:
    record, rule = look.prover.record, one.rule.key
    if key not in record.locked:
        return
    proposed = any_of(
        offered[key][0]
        for other in look.part("proposing")
        for offered in (record.offered(other),)
        if key in offered
    )
    stuck = all_of(
        (
            look.terms(one).applies,
            look.terms(one).violated,
            record.is_relevant(key),
            record.locked[key],
            none_of(proposed),
            look.prover.world.is_new,
        )
    )
    answer = look.ask(
        "F06", (rule,), stuck, RuleAssumptions("save", frozenset({rule})), fields=(key,)
    )
    if isinstance(answer, Unsatisfiable):
        look.nothing("F06")
    if not isinstance(answer, Satisfiable):
        return
    locks = tuple(
        other.rule.key
        for other in look.part("locking")
        if key in other.rule.targets
        and answer.judged.findings[other.rule.key].status not in ("disabled", "not_applicable")
    )
    value = answer.judged.settled.value_of(key)
    says = _LOCKED[value is None, len(locks) == 1]
    yield Finding(
        "F06",
        "wrong",
        says.format(
            name=look.name(rule),
            field=look.label(key),
            rules=look.named(locks),
            value=look.shown(key, value),
        ),
        tr("Give it a starting value or a proposal, or need it only where it is open."),
        (rule, *locks),
        (key,),
        answer.witness,
        locks,
    )


def _waiting(look: SearchContext, one: CompiledRule, key: str) -> Iterator[Finding]:
    record, rule = look.prover.record, one.rule.key
    if key not in record.waiting:
        return
    for wait in look.part("waiting"):
        until = wait.lowered.until
        if key not in wait.rule.targets or until is None:
            continue
        read = tree.fields_read(until)
        shut = all_of(none_of(look.enterable(other)) for other in read)
        stuck = all_of(
            (
                look.terms(one).applies,
                record.values[key].blank,
                look.terms(wait).applies,
                record.is_relevant(key),
                none_of(record.truth(lower(until, look.form.vocabulary)).true),
                shut,
                look.prover.world.is_new,
                look.prover.world.is_entry_point("desk"),
            )
        )
        answer = look.ask(
            "F06", (rule,), stuck, RuleAssumptions("save", frozenset({rule})), fields=(key,)
        )
        if isinstance(answer, Unsatisfiable):
            look.nothing("F06")
        if isinstance(answer, Satisfiable):
            waits = look.labels(tuple(sorted(read)))
            yield Finding(
                "F06",
                "wrong",
                tr(
                    "{name} needs {label}, which waits for {waits}, and that cannot be given "
                    "either.",
                    name=look.name(rule),
                    label=look.label(key),
                    waits=waits,
                ),
                tr("Let it wait for something that can be given, or need it only then."),
                (rule, wait.rule.key),
                (key,),
                answer.witness,
                (wait.rule.key,),
            )


def _silent(look: SearchContext, one: CompiledRule, key: str) -> Iterator[Finding]:
    record, rule = look.prover.record, one.rule.key
    closed = record.closed.get(key, FALSE)
    goal = all_of((look.terms(one).applies, closed))
    answer = look.ask(
        "F06", (rule,), goal, RuleAssumptions("save", frozenset({rule})), fields=(key,)
    )
    if isinstance(answer, Unsatisfiable):
        look.nothing("F06")
    if not isinstance(answer, Satisfiable):
        return
    closing = tuple(
        other.rule.key
        for other in (*look.part("closing"), *look.part("opening"))
        if key in other.rule.targets
        and (answer.judged.findings[other.rule.key].status == "not_applicable")
        == (other.part == "opening")
    )
    if not closing:
        return
    look.explained.add(("F07", rule))
    yield Finding(
        "F06",
        "doubtful",
        tr(
            "{name} needs {label} where {named} lets it not be asked: then nothing is required.",
            name=look.name(rule),
            label=look.label(key),
            named=look.named(closing),
        ),
        tr("Say both with one condition, or open the field wherever it is required."),
        (rule, *closing),
        (key,),
        answer.witness,
        closing,
    )
