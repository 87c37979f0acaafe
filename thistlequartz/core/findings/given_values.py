"""Values that the form itself gives: starting values, starters, proposals, derived values."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from datetime import datetime
from functools import partial
from typing import Any

from thistlequartz.core.cases.observing import noon_of
from thistlequartz.core.engines.solver.terms import all_of, any_of, equal, none_of
from thistlequartz.core.judging import Circumstances, CompiledRule, Judgement, JudgeRequest
from thistlequartz.core.ruleset import CaseCircumstances, Entered, usual_role
from thistlequartz.core.solving.prover import (
    RuleAssumptions,
    Satisfiable,
    Undecided,
    Unsatisfiable,
)
from thistlequartz.core.solving.settled_terms import SettledRecord
from thistlequartz.core.solving.witness import Witness
from thistlequartz.core.translation import tr

from .context import (
    SearchContext,
    blocks,
    claims_key,
    each_pair,
    is_about_missing,
    is_agreement,
    is_demand,
)
from .drawn_records import example_by_drawing
from .finding import Finding


def starting_values(look: SearchContext) -> Iterator[Finding]:
    """F13: a constant starting value or a starter violates a rule, or answers for the clerk."""
    constants = {
        key: one
        for one in look.part("starting")
        if getattr(one.rule, "value", None) is not None
        for key in one.rule.targets
    }
    for key, start in constants.items():
        yield from _answered_for(look, key, start)
    if constants:
        yield from _violated_by(look, None, {}, frozenset(constants), tuple(constants.values()))
    for starter in look.form.form.starters:
        given = {**starter.values}
        label = tr("The starter “{label}”", label=starter.label)
        yield from _violated_by(look, label, given, frozenset(given), ())


def _answered_for(look: SearchContext, key: str, start: CompiledRule) -> Iterator[Finding]:
    if not look.answers(key):
        return  # a number or a text that mostly fits is let stand, and answers no question
    for one in look.checks:
        if key not in one.rule.targets or not blocks(one):
            continue
        if not is_demand(one):
            continue
        consent = is_agreement(one)
        says = (
            tr("{name} answers the consent {rule} asks for before anybody has looked at {field}.")
            if consent
            else tr("{name} answers what {rule} asks for before anybody has looked at {field}.")
        )
        yield Finding(
            "F13",
            "wrong" if consent else "doubtful",
            says.format(
                name=look.name(start.rule.key),
                rule=look.name(one.rule.key),
                field=look.label(key),
            ),
            tr("Let the field begin blank, so that whoever fills it in decides."),
            (start.rule.key, one.rule.key),
            (key,),
            Witness(CaseCircumstances(as_of=look.today)),
        )


def _violated_by(
    look: SearchContext,
    giver: str | None,
    given: Mapping[str, Any],
    keys: frozenset[str],
    starts: tuple[CompiledRule, ...],
) -> Iterator[Finding]:
    """What a new record violates that holds only what is given to it."""
    form = look.form
    now: datetime = noon_of(look.today, form)
    role = usual_role(form.form)
    begun = form.starting_values(today=look.today, now=now, role=role)
    values: dict[str, Entered] = {}
    for key in form.fields:
        if key in given:
            values[key] = given[key]
        elif key in begun and key not in keys:
            continue
    record = form.read({**begun, **values})
    judged = form.judged(
        JudgeRequest(record, Circumstances(look.today, now, "create", "desk", None, role))
    )
    for one in look.checks:
        finding = judged.findings[one.rule.key]
        reads = set(finding.reads)
        if not finding.is_violated or is_about_missing(one) or not reads & keys:
            continue
        about = tuple(sorted(reads & keys))
        starting = [start for start in starts if set(start.rule.targets) & reads]
        said = giver or look.named(tuple(dict.fromkeys(s.rule.key for s in starting)))
        yield Finding(
            "F13",
            "wrong",
            tr(
                "{proposal} gives {fields} a value that {rule} refuses.",
                proposal=said,
                fields=look.labels(about),
                rule=look.name(one.rule.key),
            ),
            tr("Give another value, or correct the rule."),
            (*dict.fromkeys(s.rule.key for s in starting), one.rule.key),
            about,
            Witness(CaseCircumstances(as_of=look.today), values),
        )


def blank_in_unique(look: SearchContext) -> Iterator[Finding]:
    """F22: a rule of uniqueness over a field that may be blank, or that starting values violate."""
    constants = {
        key
        for one in look.part("starting")
        if getattr(one.rule, "value", None) is not None
        for key in one.rule.targets
    }
    for one in look.checks:
        if not claims_key(one):
            continue
        rule = one.rule.key
        for key in one.rule.targets:
            goal = all_of((look.terms(one).applies, look.has_value(key, None)))
            answer = look.ask("F22", (rule,), goal, RuleAssumptions("submit"), fields=(key,))
            if isinstance(answer, Unsatisfiable):
                look.nothing("F22")
            if isinstance(answer, Satisfiable):
                yield Finding(
                    "F22",
                    "doubtful",
                    tr(
                        "{name} says nothing of records in which {label} is blank, and such a "
                        "record can be submitted.",
                        name=look.name(rule),
                        label=look.label(key),
                    ),
                    tr(
                        "Let {label} be required, or dismiss this if it is meant.",
                        label=look.label(key),
                    ),
                    (rule,),
                    (key,),
                    answer.witness,
                )
                break
        if set(one.rule.targets) <= constants:
            shut = set(one.rule.targets) <= look.prover.record.locked.keys()
            yield Finding(
                "F22",
                "wrong",
                (
                    tr(
                        "Every new record starts with the same {fields}, so by {name} there can "
                        "be no second one."
                    )
                    if shut
                    else tr(
                        "Every new record starts with the same {fields}, so by {name} a second "
                        "one is refused until that is changed."
                    )
                ).format(fields=look.labels(one.rule.targets), name=look.name(rule)),
                tr("Start them blank."),
                (rule,),
                tuple(one.rule.targets),
                Witness(CaseCircumstances(as_of=look.today)),
            )


def proposals_that_violate(look: SearchContext) -> Iterator[Finding]:
    """F25: a proposal, applied, violates a rule of the field it sets."""
    record, world = look.prover.record, look.prover.world
    for one in look.part("proposing"):
        rule = one.rule.key
        offered = record.offered(one)
        if not offered:
            continue
        after = SettledRecord(world, {key: value for key, (_, value) in offered.items()})
        checks = [
            check for check in look.checks if blocks(check) and set(check.reads) & set(offered)
        ]
        there = any_of(is_offered for is_offered, _ in offered.values())
        violated = any_of(
            all_of((none_of(look.terms(check).violated), after.rules[check.rule.key].violated))
            for check in checks
        )
        violated_by_it = partial(_newly_violated, look, rule, checks)
        answer = look.prover.ask(all_of((there, violated)), RuleAssumptions(), _offers(rule))
        if isinstance(answer, Unsatisfiable):
            look.nothing("F25")
            continue
        why = answer.why if isinstance(answer, Undecided) else tr("its witness did not show it")
        if not isinstance(answer, Satisfiable) or not violated_by_it(answer.witness, answer.judged):
            drawn = example_by_drawing(look, [one, *checks], RuleAssumptions(), violated_by_it)
            if drawn is None:
                look.not_decided("F25", (rule,), tuple(offered), why)
                continue
            answer = drawn
        hit = violated_by_it(answer.witness, answer.judged)
        yield Finding(
            "F25",
            "wrong",
            tr(
                "What {name} proposes for {labels} is refused by {named} once it is applied.",
                name=look.name(rule),
                labels=look.labels(tuple(offered)),
                named=look.named(tuple(hit)),
            ),
            tr("Propose another value, or correct the rule."),
            (rule, *hit),
            tuple(offered),
            answer.witness,
        )


def _newly_violated(
    look: SearchContext,
    rule: str,
    checks: Sequence[CompiledRule],
    witness: Witness,
    judged: Judgement,
) -> list[str]:
    """The checks that a record violates once it has taken what a rule offers it, and not before."""
    if not _offers(rule)(judged):
        return []
    after = witness.judged(look.form, (rule,)).findings
    return [
        key
        for key in (check.rule.key for check in checks)
        if after[key].is_violated and not judged.findings[key].is_violated
    ]


def _offers(rule: str) -> Callable[[Judgement], bool]:
    """Whether a record is offered what a rule proposes."""
    return lambda judged: any(
        one.rule == rule and one.state == "offered" for one in judged.proposals
    )


def derived_twice(look: SearchContext) -> Iterator[Finding]:
    """F26: two rules derive one field, and both can apply with different values."""
    record = look.prover.record
    deriving = look.part("deriving")
    for key in record.derived:
        rules = [one for one in deriving if key in dict(one.lowered.values)]
        for one, other in each_pair(rules):
            otherwise = other is rules[-1] and other.lowered.applies is None
            if otherwise and one.lowered.applies is not None:
                continue
            about = (one.rule.key, other.rule.key)
            first, second = (
                record.term(record.lowered(dict(r.lowered.values)[key])) for r in (one, other)
            )
            same = equal(first, second)
            if same is None:
                look.not_decided("F26", about, (key,), tr("their values cannot be compared"))
                continue
            both = all_of((look.terms(one).applies, look.terms(other).applies, none_of(same)))
            answer = look.ask("F26", about, both, RuleAssumptions(), fields=(key,))
            if isinstance(answer, Unsatisfiable):
                look.nothing("F26")
            if isinstance(answer, Satisfiable):
                yield Finding(
                    "F26",
                    "doubtful",
                    tr(
                        "{named} both derive {label} in one situation, with different values; "
                        "the first of them counts.",
                        named=look.named(about),
                        label=look.label(key),
                    ),
                    tr(
                        "Let their conditions exclude one another, or leave out the condition of "
                        "the last."
                    ),
                    about,
                    (key,),
                    answer.witness,
                )
