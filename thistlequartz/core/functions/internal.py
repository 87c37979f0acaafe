"""Functions of rules beside FEEL's own: formats, patterns, properties, types, sign, case.

Formulas cannot call these by name; sugar of the surface lowers to them.
"""

from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

from thistlequartz.core.formats import NAMED_FORMATS, compile_pattern
from thistlequartz.core.values import Months, folded

from . import operations
from .operations import RangeValue, any_true, equal
from .record import Function, function


def _in_format(value: Any, key: str, country: str | None) -> bool | None:
    if not isinstance(value, str):
        return None
    return NAMED_FORMATS[key].why_not(value, country) is None


def _fits_pattern(value: Any, pattern: str) -> bool | None:
    if not isinstance(value, str):
        return None
    return compile_pattern(pattern).fullmatch(value) is not None


def _is_in(value: Any, given: Any) -> bool | None:
    """Whether a value is in a list or range, or equal to a single value."""
    if isinstance(given, RangeValue):
        return given.contains(value)
    if isinstance(given, list):
        if isinstance(value, list) and (equal(value, given) or equal(_as_set(value), given)):
            return True
        return any_true(
            equal(value, one) if isinstance(one, list) else _is_in(value, one) for one in given
        )
    return equal(value, given)


def _property(value: Any, name: str) -> Any:
    if isinstance(value, list):
        return [operations.property_of(one, name) for one in value]
    return operations.property_of(value, name)


def _as_set(value: Any) -> Any:
    """Codes of choices, whose order says nothing; anything else as it is."""
    if isinstance(value, list) and all(isinstance(one, str) for one in value):
        return sorted(set(value))
    return value


def _folded(value: Any) -> Any:
    return folded(value) if isinstance(value, str) else value


_INSTANCES: dict[str, tuple[type, ...]] = {
    "number": (Decimal,),
    "string": (str,),
    "boolean": (bool,),
    "date": (date,),
    "time": (time,),
    "date and time": (datetime,),
    "days and time duration": (timedelta,),
    "years and months duration": (Months,),
    "list": (list,),
    "context": (dict,),
}


def _instance(value: Any, name: str) -> bool:
    """Whether the value is of the type itself; null is of none (clause 10.3.2.13)."""
    return value is not None if name == "Any" else type(value) in _INSTANCES.get(name, ())


INTERNAL: dict[str, Function] = {
    one.name: one
    for one in (
        function("in format", "value: text, format: text, country: text", "boolean",
                 "whether a text is written in a named format", "", _in_format),
        function("fits pattern", "value: text, pattern: text", "boolean",
                 "whether a pattern matches a text from end to end", "", _fits_pattern),
        function("is in", "value: any, given: any", "boolean",
                 "whether a value is in a list or range, or equal to a single value", "", _is_in,
                 strict=False),
        function("property", "value: any, name: text", "any",
                 "a property of a date, time, duration or range, or an entry", "", _property),
        function("is of type", "value: any, name: text", "boolean",
                 "whether a value is of a type", "", _instance, strict=False),
        function("fold case", "value: any", "text", "a text without regard to case", "", _folded),
        function("as set", "value: any", "list", "the items of a list, each once, in one order", "",
                 _as_set),
        function("negate", "value: any", "same", "with its sign turned", "", operations.negate,
                 monotone="falling"),
    )
}  # fmt: skip
"""By name."""
