"""Two writings of one form, told apart over every record there could be."""

from collections.abc import Iterator, Sequence
from typing import Any

import z3

from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.engines.solver.terms import FALSE, NULL, all_of, any_of, equal, none_of
from thistlequartz.core.judging import CompiledForm, CompiledRule
from thistlequartz.core.ruleset import SEVERITIES, Moment
from thistlequartz.core.translation import tr

from .prover import (
    ANY,
    Answer,
    Prover,
    RuleAssumptions,
    Satisfiable,
    Shows,
    Undecided,
    Unsatisfiable,
)
from .settled_terms import RuleTerms, SettledRecord

_SEEN_AT: tuple[Moment, ...] = ("save", "submit")
NOT_SAID = tr("two parts of it cannot be held against each other")
STARTS = tr("what a new record begins with is not part of it")


class _NotSaid(Exception):
    """Two parts cannot be held against each other."""


def told_apart(
    prover: Prover, other: CompiledForm, touched: Sequence[CompiledRule], shows: Shows
) -> Answer:
    """Return whether some record tells the form of `prover` from `other`.

    `other` differs in the rules `touched`. Told apart by what saving or submitting may do, by what
    is violated, on hold, asked, computed or offered; `shows` looks at a witness.

    It speaks of entries that can be read; Impossible says that no such record tells them apart.
    """
    if any(one.part == "starting" for one in touched):
        return Undecided(STARTS)
    writings = _Writings(prover, other, touched)
    try:
        differences = list(writings.differences())
    except _NotSaid:
        return Undecided(NOT_SAID)
    answer: Answer = Unsatisfiable()
    for goal in differences:
        answer = _shown(prover, goal, writings, shows)
        if not isinstance(answer, Unsatisfiable):
            break
    return answer


def _shown(prover: Prover, goal: Any, writings: "_Writings", shows: Shows) -> Answer:
    """First of a record that nothing else stops, where the difference stands out."""
    spared = frozenset(one.rule.key for one in writings.touched)
    alone = prover.ask(goal, RuleAssumptions("submit", without=spared), shows=shows)
    return alone if isinstance(alone, Satisfiable) else prover.ask(goal, ANY, shows=shows)


class _Writings:
    def __init__(
        self, prover: Prover, other: CompiledForm, touched: Sequence[CompiledRule]
    ) -> None:
        self.prover = prover
        self.other = other
        self.touched = touched
        self.rules = {one.rule.key: one for one in prover.form.rules}

    def differences(self) -> Iterator[Any]:
        """Conditions, one of which is met by every record that tells the writings apart."""
        mine = self.prover.record
        kinds = (
            kind
            for one in self.touched
            for kind in (one.check_kind, self.rules[one.rule.key].check_kind)
        )
        if None not in kinds:
            # What records come to is the same: the rules alone are held against each other.
            yield any_of(
                self._speaks_otherwise(one, mine.rules[one.rule.key], mine.terms(one), alone=True)
                for one in self.touched
            )
            return
        world = mine.world
        yield self._settled_otherwise(mine, SettledRecord(world, form=self.other, like=mine))
        proposing = [one for one in mine.form.rules if one.part == "proposing" and one.rule.enabled]
        set_by_them = {key for one in proposing for key, _ in one.lowered.values}
        if set_by_them:
            # Once proposals are applied, whatever they set.
            applied = {
                key: world.variable(f"applied.{key}", mine.form.fields[key].type)
                for key in sorted(set_by_them)
            }
            first = SettledRecord(world, applied)
            second = SettledRecord(world, applied, self.other, like=first)
            yield self._settled_otherwise(first, second)

    def _settled_otherwise(self, mine: SettledRecord, theirs: SettledRecord) -> Any:
        """That a field is asked otherwise, or comes to something else, or a rule speaks
        otherwise, as far as that is seen of both.
        """
        seen, seen_there = Observer(mine.form), Observer(theirs.form)
        parts = [
            _are_two(getattr(mine, state).get(key, FALSE), getattr(theirs, state).get(key, FALSE))
            for state in ("closed", "locked", "waiting")
            for key in seen.stateful
            if key in seen_there.stateful
        ]
        parts += [
            self._differ(mine.values[key], theirs.values[key])
            for key in seen.derived
            if key in seen_there.derived
        ]
        for one in theirs.form.rules:
            before = self.rules.get(one.rule.key)
            if before is None:
                raise _NotSaid  # it can be used in one of the writings only
            if one.rule.enabled and before.rule.enabled:
                parts += self._says_otherwise(before, mine, one, theirs)
        return any_of(parts)

    def _says_otherwise(
        self,
        before: CompiledRule,
        mine: SettledRecord,
        one: CompiledRule,
        theirs: SettledRecord,
    ) -> Iterator[Any]:
        terms, their_terms = mine.rules[before.rule.key], theirs.rules[one.rule.key]
        if before.check_kind is not None and one.check_kind is not None:
            if terms is not their_terms:
                yield self._speaks_otherwise(one, terms, their_terms)
            return
        for rule, said in ((before, terms), (one, their_terms)):
            if rule.check_kind is not None and _speaks(rule):
                yield said.violated
        offered = mine.offered(before) if before.part == "proposing" else {}
        others = theirs.offered(one) if one.part == "proposing" else {}
        for key in {**offered, **others}:
            there, value = offered.get(key, (FALSE, NULL))
            their_there, their_value = others.get(key, (FALSE, NULL))
            yield _are_two(there, their_there)
            yield all_of((there, their_there, self._differ(value, their_value)))

    def _differ(self, one: Any, other: Any) -> Any:
        if one is other:
            return FALSE
        same = equal(one, other)
        if same is None:
            raise _NotSaid
        return none_of(same)

    def _speaks_otherwise(
        self, one: CompiledRule, mine: RuleTerms, theirs: RuleTerms, *, alone: bool = False
    ) -> Any:
        """That what a rule says is seen in one writing and not in the other; `alone`, where no
        other rule speaks differently, so that it is not seen where one of them speaks as hard.
        """
        before = self.rules[one.rule.key]
        mine_seen, theirs_seen = mine.violated, theirs.violated
        parts = [
            all_of((mine_seen, _known(_speaks(before))))
            != all_of((theirs_seen, _known(_speaks(one)))),
            all_of((mine_seen, _known(before.check_rule.hold)))
            != all_of((theirs_seen, _known(one.check_rule.hold))),
        ]
        for moment in _SEEN_AT:
            hard, their_hard = (SEVERITIES.index(rule.severities[moment]) for rule in (before, one))
            if hard == their_hard:
                continue  # where only one of them is violated, that is seen above
            drowned = self._as_hard_as(max(hard, their_hard), moment) if alone else FALSE
            parts.append(all_of((mine_seen, theirs_seen, none_of(drowned))))
        return any_of(parts)

    def _as_hard_as(self, severity: int, moment: Moment) -> Any:
        """That a rule that is the same in both writings speaks at least so hard."""
        touched = {one.rule.key for one in self.touched}
        return any_of(
            terms.violated
            for key, terms in self.prover.record.rules.items()
            if key not in touched
            and self.rules[key].check_kind is not None
            and SEVERITIES.index(self.rules[key].severities[moment]) >= severity
        )


def _speaks(one: CompiledRule) -> bool:
    return any(one.severities[moment] != "none" for moment in _SEEN_AT)


def _are_two(one: Any, other: Any) -> Any:
    return FALSE if one is other else one != other


def _known(truth: bool) -> Any:
    return z3.BoolVal(truth)
