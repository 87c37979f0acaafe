"""Fixes for tiers: one bound is moved to close a gap or an overlap without a new one."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import fields, replace
from typing import Any, Final

from thistlequartz.core.judging import CompiledRule, compile_rule
from thistlequartz.core.language import (
    FormulaError,
    condition_words,
    plain,
    read_formula,
    tree,
    write_formula,
)
from thistlequartz.core.language.clauses import literal
from thistlequartz.core.ruleset import lower_rule
from thistlequartz.core.translation import tr

from .context import SearchContext
from .finding import SuggestedFix

Faults = Callable[[Sequence[CompiledRule]], frozenset[Any]]
"""The gaps and overlaps that tiers leave."""
_ORDERS: Final = {"<": ("<", "<="), "<=": ("<=", "<"), ">": (">", ">="), ">=": (">=", ">")}
"""The same bound, as it is first and then with or without the value itself."""


def meeting(
    look: SearchContext,
    rules: Sequence[CompiledRule],
    about: Sequence[str],
    ends: Sequence[Any],
    faults: Faults,
) -> SuggestedFix | None:
    """Return the first change of a rule in `about` with fewer faults and no new ones.

    It moves one of its bounds from one of `ends` to another; None where there is no such change.
    """
    before = faults(rules)
    for key in about:
        one = look.form.usable[key]
        for when in _moved(one, [end for end in ends if end is not None]):
            try:
                changed = one.rule.model_copy(update={"when": write_formula(when)})
                lowered = lower_rule(changed, look.form.language)
            except FormulaError:
                continue
            compiled = compile_rule(lowered, look.form.language)
            after = faults([compiled if rule is one else rule for rule in rules])
            if after < before and lowered.when is not None:
                words = plain(condition_words(lowered.when, look.form.vocabulary))
                return SuggestedFix(
                    tr("{name} applies when {words}.", name=look.name(key), words=words),
                    rules=(changed,),
                )
    return None


def _moved(one: CompiledRule, ends: Sequence[Any]) -> Iterator[tree.Node]:
    """The condition of a rule with one of its bounds moved."""
    if one.rule.when is None:
        return

    def bounds(node: tree.Node) -> Iterator[tree.Node]:
        """This very node with a bound moved."""
        match node:
            case tree.Comparison(operator, left, right) if operator in _ORDERS:
                for to, order in _places(ends, _ORDERS[operator]):
                    if _is_end(right, ends):
                        yield replace(node, operator=order, right=to)
                    elif _is_end(left, ends):
                        yield replace(node, operator=order, left=to)
            case tree.UnaryTest(operator, operand) if operator in _ORDERS:
                if _is_end(operand, ends):
                    for to, order in _places(ends, _ORDERS[operator]):
                        yield replace(node, operator=order, operand=to)
            case tree.Interval(low, high, low_included, high_included):
                if _is_end(high, ends):
                    for to, included in _places(ends, (high_included, not high_included)):
                        yield replace(node, high=to, high_included=included)
                if _is_end(low, ends):
                    for to, included in _places(ends, (low_included, not low_included)):
                        yield replace(node, low=to, low_included=included)

    yield from _anywhere(read_formula(one.rule.when), bounds)


def _places(ends: Sequence[Any], ways: Sequence[Any]) -> Iterator[tuple[tree.Node, Any]]:
    """Each end, as it is written, with each way of taking it in."""
    for end in ends:
        for way in ways:
            yield literal(end), way


def _is_end(node: tree.Node, ends: Sequence[Any]) -> bool:
    return isinstance(node, tree.Number | tree.Date) and node.value in ends


def _anywhere(
    node: tree.Node, change: Callable[[tree.Node], Iterator[tree.Node]]
) -> Iterator[tree.Node]:
    """The tree with one node changed, in each way and at each place."""
    yield from change(node)
    for part in fields(node):
        value = getattr(node, part.name)
        for other in _changed(value, change):
            with_other: dict[str, Any] = {part.name: other}
            yield replace(node, **with_other)


def _changed(value: Any, change: Callable[[tree.Node], Iterator[tree.Node]]) -> Iterator[Any]:
    """A part of a node, a node or several of them, with one node in it changed."""
    if isinstance(value, tree.Node):
        yield from _anywhere(value, change)
    elif isinstance(value, tuple):
        for place, inner in enumerate(value):
            for other in _changed(inner, change):
                yield (*value[:place], other, *value[place + 1 :])
