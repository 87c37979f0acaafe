"""The bounds that rules compare with, and the values that stand on them and beside them.

Boundary value analysis by ISO/IEC/IEEE 29119-4: of each bound, the last value on its one side and
the first on the other (two-value), or the value on it with both neighbours (three-value).
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from fractions import Fraction
from functools import lru_cache
from typing import Literal, cast

from thistlequartz.core.engines.environment import Environment, Evaluator
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.judging import CompiledForm, CompiledRule
from thistlequartz.core.language import Vocabulary, condition_words, plain, tree
from thistlequartz.core.types import ValueType
from thistlequartz.core.types.domain import GridPoint, place_of

Part = Literal["when", "must"]
_MIRRORED: dict[tree.ComparisonOperator, tree.OrderOperator] = {
    "<": ">",
    "<=": ">=",
    ">": "<",
    ">=": "<=",
}
_COUNTING = ("string length", "count")


@dataclass(frozen=True, slots=True)
class BoundaryComparison:
    """One comparison by order in a rule: what stands left is held against what stands right."""

    part: Part
    operator: tree.OrderOperator
    left: tree.Node
    right: tree.Node
    step: GridPoint
    """Between neighbouring values of what stands left."""
    words: str

    def sides(self, environment: Environment) -> tuple[GridPoint, GridPoint] | None:
        """Return the last value on the true side and the first on the false side.

        None where this record has no bound.
        """
        bound = place_of(_evaluator(self.right)(environment))
        if bound is None:
            return None
        upward = self.operator in ("<", "<=")
        on_grid = bound % self.step == 0
        rounded = (bound // self.step) * self.step
        if upward:
            true = rounded - self.step if self.operator == "<" and on_grid else rounded
            return true, true + self.step
        first = rounded if on_grid else rounded + self.step
        true = first + self.step if self.operator == ">" and on_grid else first
        return true, true - self.step

    def places(self, environment: Environment, values: Literal[2, 3]) -> tuple[GridPoint, ...]:
        """The places of its two-value or three-value set, in order."""
        sides = self.sides(environment)
        if sides is None:
            return ()
        bound = place_of(_evaluator(self.right)(environment))
        assert bound is not None
        if values == 2 or bound % self.step != 0:
            return tuple(sorted(sides))
        return (bound - self.step, bound, bound + self.step)

    def stands(self, environment: Environment) -> GridPoint | None:
        """Where what stands left stands for this record."""
        return place_of(_evaluator(self.left)(environment))


def bounds_of(one: CompiledRule, form: CompiledForm) -> tuple[BoundaryComparison, ...]:
    """Every bound of a rule, in its condition and in what must hold; each once."""
    found: dict[BoundaryComparison, None] = {}
    lowered = one.lowered
    if lowered.when is not None:
        found.update(dict.fromkeys(_bounds(lowered.when, "when", form.vocabulary)))
    for check in lowered.checks:
        found.update(dict.fromkeys(_bounds(check.must, "must", form.vocabulary)))
    return tuple(found)


def _bounds(node: tree.Node, part: Part, vocabulary: Vocabulary) -> Iterator[BoundaryComparison]:
    match node:
        case tree.NoOther() | tree.Quantified() | tree.For() | tree.Filter():
            return  # what stands in them is asked once for each record or item
        case tree.Comparison(operator, left, right) if operator in _MIRRORED:
            yield from _bound(part, operator, left, right, vocabulary)
        case tree.Membership(value, tests):
            for test in tests:
                for operator, bound in _ends(test):
                    yield from _bound(part, operator, value, bound, vocabulary)
    for inner in tree.children(node):
        yield from _bounds(inner, part, vocabulary)


def _ends(test: tree.Node) -> Iterator[tuple[tree.ComparisonOperator, tree.Node]]:
    match test:
        case tree.Interval(low, high, low_included, high_included):
            yield (">=" if low_included else ">"), low
            yield ("<=" if high_included else "<"), high
        case tree.UnaryTest(operator, operand) if operator in _MIRRORED:
            yield operator, operand


def _bound(
    part: Part,
    written: tree.ComparisonOperator,
    left: tree.Node,
    right: tree.Node,
    vocabulary: Vocabulary,
) -> Iterator[BoundaryComparison]:
    operator = cast("tree.OrderOperator", written)
    if not _reads(left):
        left, right = right, left
        operator = _MIRRORED[operator]
    step = step_of(left, vocabulary)
    if _reads(left) and step is not None:
        words = plain(condition_words(tree.Comparison(operator, left, right), vocabulary))
        yield BoundaryComparison(part, operator, left, right, step, words)


def _reads(node: tree.Node) -> bool:
    return bool(tree.fields_read(node))


def step_of(node: tree.Node, vocabulary: Vocabulary) -> GridPoint | None:
    """The distance of neighbouring values of `node`; None where it has no order."""
    if isinstance(node, tree.Call) and node.function in _COUNTING:
        return Fraction(1)
    steps = [
        step
        for key in tree.fields_read(node)
        if key in vocabulary and (step := _step(vocabulary[key].type)) is not None
    ]
    return min(steps, default=None)


def _step(type_: ValueType) -> GridPoint | None:
    domain = None if type_.is_free_text else type_.domain(date.min)
    return domain.step if domain else None


@lru_cache(maxsize=4_096)
def _evaluator(node: tree.Node) -> Evaluator:
    return interpret(node)
