"""A condition or formula with one small mistake in it, in every way people make them."""

from collections.abc import Iterator
from dataclasses import fields, replace
from decimal import Decimal
from typing import Final, Literal, NamedTuple

from thistlequartz.core.language import tree
from thistlequartz.core.translation import tr
from thistlequartz.core.types import show_value

Kind = Literal[
    "bound",
    "zero",
    "and_or",
    "condition_dropped",
    "blank_forgotten",
    "turned_round",
    "blank_spoils_total",
    "severity",
    "moment",
    "locked",
]
_INCLUSIVE: dict[str, tree.ComparisonOperator] = {"<": "<=", "<=": "<", ">": ">=", ">=": ">"}
_TEN = Decimal(10)


class Variant(NamedTuple):
    """The node with one mistake, and what the mistake is, in words."""

    kind: Kind
    words: str
    node: tree.Node


def variants(node: tree.Node) -> Iterator[Variant]:
    """`node` with one mistake in it, each in turn."""
    yield from _here(node)
    for part in fields(node):
        value = getattr(node, part.name)
        if isinstance(value, tree.Node):
            for one in variants(value):
                yield one._replace(node=replace(node, **{part.name: one.node}))  # type: ignore[arg-type]
        elif isinstance(value, tuple):
            for place, inner in enumerate(value):
                for one in variants(inner) if isinstance(inner, tree.Node) else ():
                    whole = (*value[:place], one.node, *value[place + 1 :])
                    yield one._replace(node=replace(node, **{part.name: whole}))  # type: ignore[arg-type]


def _here(node: tree.Node) -> Iterator[Variant]:
    match node:
        case tree.Comparison(operator, left, right):
            yield from _comparison(node, operator, left, right)
        case tree.UnaryTest(operator, _) if operator in _INCLUSIVE:
            slipped = replace(node, operator=_INCLUSIVE[operator])
            yield Variant("bound", _bound_words(operator), slipped)
        case tree.Interval(_, _, low, high):
            yield Variant("bound", end_words("lower", low), replace(node, low_included=not low))
            yield Variant("bound", end_words("upper", high), replace(node, high_included=not high))
        case tree.Number(value) if value != 0:
            yield from _zeros(value)
        case tree.And(parts) | tree.Or(parts):
            yield from _joined(node, parts)
        case tree.Not(operand):
            yield Variant("turned_round", tr("“not” is left out"), operand)
        case tree.Call("sum", (tree.ListOf(items),)) | tree.Call("sum", items) if len(items) > 1:
            total = items[0]
            for one in items[1:]:
                total = tree.Arithmetic("+", total, one)
            yield Variant("blank_spoils_total", tr("one blank item makes the total blank"), total)


def _comparison(
    node: tree.Comparison, operator: str, left: tree.Node, right: tree.Node
) -> Iterator[Variant]:
    if operator in _INCLUSIVE:
        yield Variant("bound", _bound_words(operator), replace(node, operator=_INCLUSIVE[operator]))
        return
    turned: tree.ComparisonOperator = "!=" if operator == "=" else "="
    words = tr("“is” and “is not” are confused")
    if tree.blank_tested(node) is not None:
        words = tr("“blank” and “filled” are confused")
    yield Variant("turned_round", words, replace(node, operator=turned))
    for one, other in ((left, right), (right, left)):
        if isinstance(one, tree.Field) and isinstance(other, tree.Boolean):
            opposite = tree.Comparison(turned, one, tree.Boolean(not other.value))
            yield Variant("blank_forgotten", tr("the blank answer is forgotten"), opposite)


def _joined(node: tree.And | tree.Or, parts: tuple[tree.Node, ...]) -> Iterator[Variant]:
    if isinstance(node, tree.And):
        yield Variant("and_or", tr("“or” is written for “and”"), tree.Or(parts))
    else:
        yield Variant("and_or", tr("“and” is written for “or”"), tree.And(parts))
    for place, part in enumerate(parts):
        rest = (*parts[:place], *parts[place + 1 :])
        fewer = rest[0] if len(rest) == 1 else type(node)(rest)
        if tree.blank_tested(part) is not None:
            yield Variant("blank_forgotten", tr("the blank part is left out"), fewer)
        else:
            yield Variant(
                "condition_dropped", tr("part {place} of it is left out", place=place + 1), fewer
            )


def _zeros(value: Decimal) -> Iterator[Variant]:
    for changed, words in (
        (value * _TEN, tr("a zero too many: {changed} for {value}")),
        (value / _TEN, tr("a zero too few: {changed} for {value}")),
    ):
        yield Variant(
            "zero",
            words.format(changed=show_value(changed), value=show_value(value)),
            tree.Number(changed),
        )


def _bound_words(operator: str) -> str:
    return tr(
        "“{inclusive}” is written for “{operator}”",
        inclusive=_INCLUSIVE[operator],
        operator=operator,
    )


_ENDS: Final = {
    ("lower", True): tr("the lower bound itself is refused"),
    ("lower", False): tr("the lower bound itself is let through"),
    ("upper", True): tr("the upper bound itself is refused"),
    ("upper", False): tr("the upper bound itself is let through"),
}


def end_words(end: str, included: bool) -> str:
    """A bound that belongs to its range, or does not, taken for the other."""
    return _ENDS[end, included]
