"""A part of a condition that turns alone: two records alike otherwise, or a proof of none."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final

from thistlequartz.core.drafting.decisions import Decision, Vector
from thistlequartz.core.engines.solver import TruthTerm
from thistlequartz.core.engines.solver.terms import FALSE, TRUE, all_of, any_of, none_of
from thistlequartz.core.judging import CompiledRule, Judgement
from thistlequartz.core.language import tree
from thistlequartz.core.translation import tr

from .prover import ANY, Answer, Prover, RuleAssumptions, Satisfiable, Undecided, Unsatisfiable

MOST_SETTINGS: Final = 24
"""Ways in which the other parts can stand that are looked at before it is given up."""
TOO_MANY: Final = tr("the other parts can stand in too many ways")

Looked = Callable[[Judgement, str], bool]
"""Whether a rule's condition was looked at in a record."""


@dataclass(frozen=True, slots=True)
class IndependencePair:
    """Two records that show it: with the part true, and with it false."""

    with_it: Satisfiable
    without_it: Satisfiable


@dataclass(frozen=True, slots=True)
class NeverEvaluated:
    """The decision is asked in no record at all."""


def turns_alone(
    prover: Prover, one: CompiledRule, decision: Decision, place: int, looked: Looked
) -> IndependencePair | Unsatisfiable | NeverEvaluated | Undecided:
    """Return whether a part of a rule's decision can turn alone, and the decision with it.

    Over every record there could be; `looked` says whether a judged record evaluated the decision.
    """
    turning = _Turning(prover, one, decision, place, looked)
    answer = turning.answer()
    never = isinstance(answer, Unsatisfiable) and turning.is_never_asked()
    return NeverEvaluated() if never else answer


class _Turning:
    def __init__(
        self, prover: Prover, one: CompiledRule, decision: Decision, place: int, looked: Looked
    ) -> None:
        self.prover = prover
        self.rule = one
        self.decision = decision
        self.place = place
        self.looked = looked
        record = prover.record
        self.parts = [record.truth(record.lowered(node)) for node in decision.parts]
        known = dict(zip(decision.parts, self.parts, strict=True))
        part = decision.parts[place]
        with_it, without_it = (
            self._turned(_come_to(decision.node, {**known, part: truth})) for truth in (_YES, _NO)
        )
        self.turns = with_it != without_it
        """That the decision turns with the part, as the others stand."""

    def answer(self) -> IndependencePair | Unsatisfiable | Undecided:
        """All of it."""
        excluded: list[Any] = []
        undecided: Undecided | None = None
        while len(excluded) < MOST_SETTINGS:
            first = self._find(True, all_of((self.turns, *excluded)))
            if not isinstance(first, Satisfiable):
                return undecided or first
            others = all_of(self._others_as_in(first.judged))
            second = self._find(False, others, first.judged)
            if isinstance(second, Satisfiable):
                return IndependencePair(first, second)
            if isinstance(second, Undecided):
                undecided = second
            excluded.append(none_of(others))
        return undecided or Undecided(TOO_MANY)

    def _find(self, truth: bool, goal: Any, beside: Judgement | None = None) -> Answer:
        """A record in which the part is true, or false, the others as `beside`; first one that
        nothing else stops.
        """
        part = self.parts[self.place]
        whole = all_of((*self._asked(), part.true if truth else part.false, goal))

        def confirms(judged: Judgement) -> bool:
            if not self.looked(judged, self.rule.rule.key):
                return False
            vector = self._vector(judged)
            if beside is None:
                return vector[self.place] is truth
            like = list(self._vector(beside))
            like[self.place] = truth
            ends = (self.decision.turned(one.settled.environment) for one in (judged, beside))
            return vector == tuple(like) and next(ends) != next(ends)

        spared = frozenset((self.rule.rule.key,))
        quiet = self.prover.ask(whole, RuleAssumptions("submit", without=spared), confirms)
        return quiet if isinstance(quiet, Satisfiable) else self.prover.ask(whole, ANY, confirms)

    def is_never_asked(self) -> bool:
        """Whether that is proved."""
        return isinstance(self.prover.ask(all_of(self._asked()), ANY), Unsatisfiable)

    def _asked(self) -> Iterator[Any]:
        """That the decision is asked at all."""
        record, one = self.prover.record, self.rule
        if one.asks_for_play:
            yield any_of(map(record.is_relevant, one.rule.targets))
        if self.decision.part == "when":
            yield record.counts(one)
            return
        terms = record.terms(one)
        judged = any_of(end for one in terms.checks for end in (one.true, one.false))
        yield all_of((terms.applies, judged))

    def _turned(self, truth: TruthTerm) -> Any:
        """What the decision comes to, as Decision.turned says it."""
        return truth.true if self.decision.part == "when" else none_of(truth.false)

    def _vector(self, judged: Judgement) -> Vector:
        return self.decision.vector(judged.settled.environment)

    def _others_as_in(self, judged: Judgement) -> Iterator[Any]:
        for place, (term, stands) in enumerate(zip(self.parts, self._vector(judged), strict=True)):
            if place != self.place:
                yield (
                    (term.true if stands else term.false)
                    if isinstance(stands, bool)
                    else none_of(any_of((term.true, term.false)))
                )


def _come_to(node: tree.Node, parts: Mapping[tree.Node, TruthTerm]) -> TruthTerm:
    """What a condition comes to where its parts come to these, by FEEL's logic of three values."""
    match node:
        case tree.And(operands):
            some = [_come_to(one, parts) for one in operands]
            return TruthTerm(all_of(one.true for one in some), any_of(one.false for one in some))
        case tree.Or(operands):
            some = [_come_to(one, parts) for one in operands]
            return TruthTerm(any_of(one.true for one in some), all_of(one.false for one in some))
        case tree.Not(operand):
            inner = _come_to(operand, parts)
            return TruthTerm(inner.false, inner.true)
        case tree.NamedConditionUse(_, condition):
            return _come_to(condition, parts)
        case _:
            return parts[node]


_YES: Final = TruthTerm(TRUE, FALSE)
_NO: Final = TruthTerm(FALSE, TRUE)
