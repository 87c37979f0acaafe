"""Which arguments a built-in function can take, by their types."""

from thistlequartz.core.functions import Parameter, Shape
from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
    ChoiceType,
    DateTimeType,
    DateType,
    DaysType,
    MonthsType,
    NumberType,
    TextType,
    TimeType,
    YesNoType,
)

from . import tree
from .shapes import ContextType, KnownType, ListType, in_words

SHAPES: dict[Shape, KnownType] = {
    "boolean": YesNoType(),
    "text": TextType(),
    "number": NumberType(),
    "date": DateType(),
    "time": TimeType(),
    "date and time": DateTimeType(),
    "days duration": DaysType(),
    "months duration": MonthsType(),
    "list": ListType(),
    "context": ContextType(),
}
_TEMPORAL = (DateType, TimeType, DateTimeType)


def shape_words(shape: Shape) -> str:
    """What a parameter takes, in words."""
    kind = SHAPES.get(shape)
    return in_words(kind) if kind else tr("a date or time")


def fits(shape: Shape, found: KnownType) -> bool:
    """Whether an argument can be given; a single value stands for a list of one."""
    if shape in ("any", "list", "same", "range"):
        return True
    if shape == "temporal":
        return isinstance(found, _TEMPORAL)
    if shape == "text":
        return isinstance(found, TextType | ChoiceType)
    return isinstance(found, type(SHAPES[shape]))


def matched(way: tuple[Parameter, ...], node: tree.Call) -> list[Parameter] | None:
    """The parameter of each argument in this way of calling; None where they do not fit it."""
    if node.names:
        by_name = {parameter.name: parameter for parameter in way}
        if not set(node.names) <= set(by_name):
            return None
        return [by_name[name] for name in node.names]
    count = len(node.arguments)
    if count > len(way) and not (way and way[-1].repeated):
        return None
    return [way[min(position, len(way) - 1)] for position in range(count)]
