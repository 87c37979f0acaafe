"""Conversion: clause 10.3.4.1, and the functions of contexts, clause 10.3.4.8."""

from collections.abc import Callable
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

from thistlequartz.core.evaluation.operations import RangeValue, equal
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


def _is(a: Any, b: Any) -> bool | None:
    return equal(a, b)


def _get_value(context: Any, key: Any) -> Any:
    return context.get(key) if isinstance(context, dict) else None


def _get_entries(context: Any) -> Any:
    if not isinstance(context, dict):
        return None
    return [{"key": key, "value": value} for key, value in context.items()]


FUNCTIONS: dict[str, Callable[..., Any]] = {
    "number": _number,
    "string": written,
    "duration": _duration,
    "is": _is,
    "get value": _get_value,
    "get entries": _get_entries,
}
