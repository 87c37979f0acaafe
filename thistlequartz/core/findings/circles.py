"""Circles: fields that decide about one another, and proposals that offer one another."""

from collections.abc import Iterator
from functools import partial
from itertools import islice
from typing import Any, Final

from thistlequartz.core.engines.solver import Term
from thistlequartz.core.engines.solver.terms import all_of, any_of, equal, merged, none_of
from thistlequartz.core.judging import CompiledRule, circle_words
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable, Unsatisfiable
from thistlequartz.core.solving.settled_terms import SettledRecord
from thistlequartz.core.solving.witness import Witness
from thistlequartz.core.translation import tr
from thistlequartz.core.values import to_json

from .context import SearchContext
from .finding import Finding

LONGEST: Final = 5
"""Proposals in one circle."""
MOST: Final = 80
"""Circles that are asked about, the shorter ones first; of more it is said that there are more."""
ROUNDS: Final = 3
"""How often a circle is walked before it is said that it has no end."""


def fields_in_a_circle(look: SearchContext) -> Iterator[Finding]:
    """F39: fields decide about one another, so that none of the rules by which they do is used."""
    names = {rule.key: rule.name for rule in look.form.form.rules}
    for circle in look.form.circles:
        says, how = circle_words(circle, names, look.form.fields)
        others = tuple(key for key in circle.rules if key != circle.cut)
        yield Finding("F39", "wrong", says, how, (circle.cut, *others), circle.fields)
    if not look.form.circles:
        look.nothing("F39")


def proposals_in_a_circle(look: SearchContext) -> Iterator[Finding]:
    """F33: applying one proposal offers the next, and in the end the first one again."""
    told: list[set[str]] = []
    every = _circles(look)
    for circle in islice(every, MOST):
        rules = tuple(one.rule.key for one in circle)
        if any(known <= set(rules) for known in told):
            continue
        goal = _comes_round(look, circle)
        if goal is None:
            look.not_decided("F33", rules, (), tr("what they propose cannot be compared"))
            continue
        answer = look.prover.ask(goal, RuleAssumptions(), shows=partial(_goes_round, look, rules))
        if isinstance(answer, Unsatisfiable):
            look.nothing("F33")
        elif not isinstance(answer, Satisfiable):
            look.not_decided("F33", rules, (), answer.why)
        else:
            told.append(set(rules))
            yield Finding(
                "F33",
                "doubtful",
                (
                    tr(
                        "The proposals {rules} follow one another in a circle: applying one "
                        "offers the next, without end."
                    )
                    if len(rules) > 1
                    else tr(
                        "The proposal {rules} follows itself: applying one offers the next, "
                        "without end."
                    )
                ).format(rules=look.named(rules)),
                tr("Let one of them no longer be offered once its value stands."),
                rules,
                witness=answer.witness,
            )
    further = next(every, None)
    if further is not None:
        rules = tuple(one.rule.key for one in further)
        look.not_decided("F33", rules, (), tr("there are more circles than are asked about"))


def _circles(look: SearchContext) -> Iterator[list[CompiledRule]]:
    """Each circle of proposals that set what the next one reads, once: from its first rule on; the
    shorter ones first.
    """
    rules = look.part("proposing")
    sets = [{key for key, _ in one.lowered.values} for one in rules]
    # What is offered hangs on what a rule reads, on what else it stands behind, and on its targets.
    reads = [{*one.reads, *one.rule.targets, *own} for one, own in zip(rules, sets, strict=True)]
    reads = [look.behind(read) for read in reads]

    def walk(path: list[int], length: int) -> Iterator[list[CompiledRule]]:
        if len(path) == length:
            if sets[path[-1]] & reads[path[0]]:
                yield [rules[one] for one in path]
            return
        for place in range(path[0] + 1, len(rules)):
            if place not in path and sets[path[-1]] & reads[place]:
                yield from walk([*path, place], length)

    for length in range(1, LONGEST + 1):
        for first in range(len(rules)):
            yield from walk([first], length)


def _comes_round(look: SearchContext, circle: list[CompiledRule]) -> Any | None:
    """That each is offered once the one before it was applied, and the first one again."""
    applied: dict[str, Term] = {}
    record, there = look.prover.record, []
    for one in (*circle, circle[0]):
        changes = []
        for key, (is_offered, value) in record.offered(one).items():
            same = equal(value, record.values[key])
            after = merged(is_offered, value, record.values[key])
            if same is None or after is None:
                return None
            changes.append(all_of((is_offered, none_of(same))))
            applied[key] = after
        there.append(any_of(changes))
        record = SettledRecord(look.prover.world, dict(applied))
    return all_of(there)


def _goes_round(look: SearchContext, rules: tuple[str, ...], witness: Witness) -> bool:
    """Whether the evaluator offers each in turn, round after round."""
    now = witness
    for rule in rules * ROUNDS:
        judged = now.judged(look.form)
        offer = next(
            (one for one in judged.proposals if one.rule == rule and one.state == "offered"), None
        )
        if offer is None:
            return False
        stores = now.judged(look.form, (rule,)).verdict("save").stores
        if stores is None:  # it cannot be saved yet, and what is proposed is typed over
            given = look.form.as_entered({k: to_json(v) for k, v in offer.values.items()})
            now = Witness(now.circumstances, {**now.values, **given}, now.others)
            continue
        stored = {key: to_json(value) for key, value in stores.items()}
        said = now.circumstances.model_copy(update={"event": "update", "stored": stored})
        now = Witness(said, look.form.as_entered(stored), now.others)
    return True
