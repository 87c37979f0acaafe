"""What kind of value a type, a constant, an operation or a function gives."""

from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

from thistlequartz.core.functions import Shape
from thistlequartz.core.language.arithmetic_types import result_type
from thistlequartz.core.language.shapes import (
    ContextType,
    KnownType,
    ListType,
    RangeType,
)
from thistlequartz.core.language.tree import ArithmeticOperator
from thistlequartz.core.types import (
    DateTimeType,
    DateType,
    DaysType,
    FieldType,
    MonthsType,
    NumberType,
    TextType,
    TimeType,
    YesNoType,
)
from thistlequartz.core.values import Months

from .nodes import Kind

_TYPES: dict[Kind, KnownType] = {
    "text": TextType(),
    "number": NumberType(),
    "boolean": YesNoType(),
    "date": DateType(),
    "time": TimeType(),
    "date_time": DateTimeType(),
    "days": DaysType(),
    "months": MonthsType(),
    "list": ListType(),
    "range": RangeType(),
    "context": ContextType(),
}
_KINDS: dict[type[KnownType], Kind] = {type(type_): kind for kind, type_ in _TYPES.items()}
_RESULTS: dict[Shape, Kind] = {
    "boolean": "boolean",
    "text": "text",
    "number": "number",
    "date": "date",
    "time": "time",
    "date and time": "date_time",
    "days duration": "days",
    "months duration": "months",
    "list": "list",
    "range": "range",
    "context": "context",
}


def kind_of_type(type_: KnownType) -> Kind:
    """What the values of a field are to an engine."""
    return type_.kind if isinstance(type_, FieldType) else _KINDS[type(type_)]


def kind_of_result(shape: Shape) -> Kind:
    """What a function gives."""
    return _RESULTS.get(shape, "unknown")


def kind_of_arithmetic(operator: ArithmeticOperator, left: Kind, right: Kind) -> Kind:
    """What an operation gives, by the kinds of its operands."""
    if left not in _TYPES or right not in _TYPES:
        return "unknown"
    given = result_type(operator, _TYPES[left], _TYPES[right])
    return kind_of_type(given) if given else "unknown"


def kind_of_value(value: Any) -> Kind:
    """What a constant is."""
    match value:
        case bool():
            return "boolean"
        case Decimal():
            return "number"
        case str():
            return "text"
        case datetime():
            return "date_time"
        case date():
            return "date"
        case time():
            return "time"
        case timedelta():
            return "days"
        case Months():
            return "months"
        case _:
            return "unknown"
