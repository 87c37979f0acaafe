"""Conversion: clause 10.3.4.1, and the functions of contexts, clause 10.3.4.8."""

from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

from thistlequartz.core.values import (
    Fault,
    Months,
    NumberType,
    read_duration,
    read_value,
    to_json,
    write_date_time,
    write_duration,
    write_time,
)

from .operations import RangeValue, equal
from .record import function

_GROUPING = (" ", ",", ".", None)
_POINT = (".", ",", None)


def _number(text: Any, grouping: Any = None, point: Any = None) -> Any:
    if isinstance(text, Decimal):
        return text
    if not isinstance(text, str) or grouping not in _GROUPING or point not in _POINT:
        return None
    if grouping is not None and grouping == point:
        return None
    plain = text.replace(grouping, "") if grouping else text
    if point == ",":
        if "." in plain:
            return None
        plain = plain.replace(",", ".")
    if any(character not in "0123456789.-" for character in plain):
        return None
    read = read_value(plain, NumberType())
    return None if isinstance(read, Fault) else read


def written(value: Any) -> str | None:
    """A value as `string` gives it."""
    match value:
        case None:
            return None
        case bool():
            return "true" if value else "false"
        case str():
            return value
        case Decimal():
            return plain_number(value)
        case datetime():
            return write_date_time(value)
        case date():
            return str(to_json(value))
        case time():
            return write_time(value)
        case timedelta() | Months():
            return write_duration(value)
        case list():
            return f"[{', '.join(_inside(item) for item in value)}]"
        case dict():
            return f"{{{', '.join(f'{key}: {_inside(item)}' for key, item in value.items())}}}"
        case RangeValue():
            opening, closing = "[("[not value.low_included], "])"[not value.high_included]
            return f"{opening}{written(value.low)}..{written(value.high)}{closing}"
        case _:
            return None


def plain_number(value: Decimal) -> str:
    """A number without an exponent and without trailing zeros after the point."""
    text = f"{value:f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def _inside(value: Any) -> str:
    return f'"{value}"' if isinstance(value, str) else (written(value) or "null")


def _duration(text: Any) -> Any:
    return read_duration(text) if isinstance(text, str) else None


def _not(value: Any) -> bool | None:
    return not value if isinstance(value, bool) else None


def _get_value(context: Any, key: Any) -> Any:
    return context.get(key) if isinstance(context, dict) else None


def _get_entries(context: Any) -> Any:
    if not isinstance(context, dict):
        return None
    return [{"key": key, "value": value} for key, value in context.items()]


FUNCTIONS = (
    function("number", "from: any, grouping separator?: text, decimal separator?: text", "number",
             "a text as a number", 'number("1 000,50", " ", ",") = 1000.5', _number),
    function("string", "from: any", "text", "a value as text", 'string(1.50) = "1.5"', written),
    function("duration", "from: text", "any", "a text such as P1D or P1Y8M as a duration",
             'duration("P1D") = duration("PT24H")', _duration),
    function("not", "negand: boolean", "boolean", "true when the condition is false",
             "not(1 > 2)", _not),
    function("is", "value1: any, value2: any", "boolean", "whether two values are identical",
             'is(date("2026-06-12"), date("2026-06-12"))', equal, strict=False),
    function("get value", "m: context, key: text", "any", "the value of an entry",
             'get value({mass: 2}, "mass") = 2', _get_value),
    function("get entries", "m: context", "list", "the entries as a list",
             'count(get entries({mass: 2, count: 3})) = 2', _get_entries),
)  # fmt: skip
