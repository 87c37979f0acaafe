"""A lowest and a highest value, or one of the two."""

from collections.abc import Iterator
from typing import Any, Literal

from thistlequartz.core.documents import Document, Formula
from thistlequartz.core.language import tree
from thistlequartz.core.language.clauses import literal
from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
    NumberType,
    ValueType,
    read_written,
)
from thistlequartz.core.types.base import OfferedPart
from thistlequartz.core.values import Fault

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import CheckKind, FormulaSlot, KindPlaceholder, RuleMutation, as_it_is, no_names
from .base.lowered import Check
from .base.mutations import end_words
from .base.phrases import each_check, told_of_must
from .base.targets import of_each_target, place_of_target


class Bound(Document):
    """An end of a range: a value as people type it (`90`, `11 June 2026`), or FEEL (`today`)."""

    value: Formula
    inclusive: bool = True


class RangeRule(CheckBase):
    """A value, its length in characters or its number of choices lies between bounds.

    One of the two bounds may be left out.
    """

    kind: Literal["range"] = "range"
    of: Literal["value", "length", "count"] = "value"
    lower: Bound | None = None
    upper: Bound | None = None


_ENDS = ("lower", "upper")
_COUNTED = NumberType(scale=0)
_ORDERED_ONE = tr("Choose a number, a date, a time or a duration, or say what is allowed.")
_INSTEAD: dict[OfferedPart | None, str] = {
    "count": tr("Choose “in number of choices”, or say what is allowed."),
    "length": tr("Choose “in length”, or say what is allowed."),
}
"""By what can be asked of it: what to choose where its value has no order."""
_Literal = tree.Number | tree.Date | tree.Time | tree.DateTime | tree.Duration


def _within(rule: RangeRule, target: tree.Field, reader: FormulaReader) -> tree.Node | None:
    measured = _measured(rule, target, reader)
    if measured is None:
        return None
    value, type_ = measured
    low = _bound(rule.lower, "lower.value", type_, reader)
    high = _bound(rule.upper, "upper.value", type_, reader)
    if rule.lower is None and rule.upper is None:
        said = tr("A range needs a lowest value, a highest value, or both.")
        reader.report(said, tr("Give one of them."), "lower.value")
    if low and high and rule.lower and rule.upper:
        if _wrong_way_round(low, high, rule):
            reader.report(
                tr("No value lies between these bounds."), tr("Swap or widen them."), "upper.value"
            )
            return None
        bounds = tree.Interval(low, high, rule.lower.inclusive, rule.upper.inclusive)
        return tree.Membership(value, (bounds,))
    if low and rule.lower:
        return tree.Comparison(">=" if rule.lower.inclusive else ">", value, low)
    if high and rule.upper:
        return tree.Comparison("<=" if rule.upper.inclusive else "<", value, high)
    return None


def _measured(
    rule: RangeRule, target: tree.Field, reader: FormulaReader
) -> tuple[tree.Node, ValueType] | None:
    """What the bounds are held against, and its type."""
    declared = reader.language.vocabulary[target.key]
    if rule.of == "value" and declared.type.is_ordered:
        return target, declared.type
    if rule.of == declared.type.part:
        function = "string length" if rule.of == "length" else "count"
        return tree.Call(function, (target,)), _COUNTED
    message, remedy = {
        "value": (
            tr("{label} has no order, so it cannot have a range."),
            _INSTEAD.get(declared.type.part, _ORDERED_ONE),
        ),
        "length": (
            tr("{label} is not a text, so its length cannot have a range."),
            tr("Choose a text field."),
        ),
        "count": (
            tr("{label} does not take several choices, so their number cannot have a range."),
            tr("Choose a field of several choices."),
        ),
    }[rule.of]
    reader.report(message.format(label=declared.label), remedy, place_of_target(rule, target))
    return None


def _bound(
    bound: Bound | None, place: str, type_: ValueType, reader: FormulaReader
) -> tree.Node | None:
    if bound is None:
        return None
    if not bound.value:
        if place.startswith("lower"):
            said = tr("The lowest value is not given.")
            remedy = tr("Give the lowest value, or choose “no lowest”.")
        else:
            said = tr("The highest value is not given.")
            remedy = tr("Give the highest value, or choose “no highest”.")
        reader.report(said, remedy, place, unsaid=True)
        return None
    # A bound may be finer than the field, and is shown by the field's own unit.
    plain = read_written(bound.value, type_.unrounded())
    if plain is not None and not isinstance(plain, Fault):
        return literal(plain)
    return reader.read(bound.value, place, wanted=type(type_.formula_type()))


def _wrong_way_round(low: tree.Node, high: tree.Node, rule: RangeRule) -> bool:
    if not isinstance(low, _Literal) or not isinstance(high, _Literal):
        return False
    closed = rule.lower and rule.lower.inclusive and rule.upper and rule.upper.inclusive
    a, b = low.value, high.value
    return bool(a > b or (a == b and not closed))  # type: ignore[operator]


def _bounds(rule: RangeRule) -> Iterator[tuple[str, Bound]]:
    for end in _ENDS:
        bound = getattr(rule, end)
        if bound is not None:
            yield end, bound


def _formulas(rule: RangeRule) -> Iterator[FormulaSlot[RangeRule]]:
    for end, bound in _bounds(rule):

        def put(new: str, end: str = end, bound: Bound = bound) -> RangeRule:
            return rule.model_copy(update={end: bound.model_copy(update={"value": new})})

        yield FormulaSlot(bound.value, put, typed=True)


def _ends_confused(rule: RangeRule) -> Iterator[RuleMutation]:
    for end, bound in _bounds(rule):
        turned = bound.model_copy(update={"inclusive": not bound.inclusive})
        yield RuleMutation(
            "bound",
            end_words(end, bound.inclusive),
            rule.model_copy(update={end: turned}),
        )


def _placeholders(rule: RangeRule) -> tuple[KindPlaceholder, ...]:
    lowest = KindPlaceholder(
        "lowest", tr("the lower bound"), lambda check: _held(check)[0], _shown_as
    )
    highest = KindPlaceholder(
        "highest", tr("the upper bound"), lambda check: _held(check)[1], _shown_as
    )
    ends = ((rule.lower, lowest), (rule.upper, highest))
    return tuple(placeholder for bound, placeholder in ends if bound is not None)


def _held(check: Check) -> tuple[tree.Node | None, tree.Node | None]:
    """The lower and the upper bound that a range puts on its target."""
    match check.must:
        case tree.Membership(_, (tree.Interval(low, high),)):
            return low, high
        case tree.Comparison(">=" | ">", _, bound):
            return bound, None
        case tree.Comparison("<=" | "<", _, bound):
            return None, bound
        case _:
            return None, None


def _shown_as(rule: Any, target: ValueType) -> ValueType | None:
    return target if rule.of == "value" else None


KIND = CheckKind(
    document=RangeRule,
    formulas=_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=_ends_confused,
    musts=of_each_target(_within),
    judges_blanks=False,
    marks=False,
    agreement=False,
    hints=True,
    second_entry=False,
    other_records=False,
    claims_key=False,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=_placeholders,
    neighbour="values",
)
