"""Conversion: clause 10.3.4.1, and the functions of contexts, clause 10.3.4.8."""

import re
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

from thistlequartz.core.types import NumberType, read_value
from thistlequartz.core.values import (
    Fault,
    Months,
    read_duration,
    to_json,
    write_date_time,
    write_duration,
    write_time,
)

from .operations import RangeValue, equal
from .record import function
from .work import spend

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
            return _short(write_date_time(value))
        case date():
            return str(to_json(value))
        case time():
            return _short(write_time(value))
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


def _short(clock: str) -> str:
    """A time without noughts at the end of its fraction."""
    return re.sub(r"(\.[0-9]*?)0+(?![0-9])", r"\1", clock)


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


def _context(entries: Any) -> Any:
    """A context of entries with `key` and `value`; null where a key is missing or comes twice."""
    made: dict[str, Any] = {}
    for one in entries if isinstance(entries, list) else [entries]:
        key = one.get("key") if isinstance(one, dict) else None
        if not isinstance(key, str) or key in made or "value" not in one:
            return None
        made[key] = one["value"]
    return made


def _put(context: Any, keys: Any, value: Any) -> Any:
    """The context with an entry put in or changed; of several keys, each lies in the one before."""
    if not isinstance(context, dict):
        return None
    key, *inner = keys if isinstance(keys, list) and keys else [keys]
    if not isinstance(key, str):
        return None
    if inner:
        value = _put(context.get(key, {}), inner, value)
        if value is None:
            return None
    return {**context, key: value}


def _merge(contexts: Any) -> Any:
    merged: dict[str, Any] = {}
    for one in contexts if isinstance(contexts, list) else [contexts]:
        if not isinstance(one, dict):
            return None
        spend(len(one))
        merged |= one
    return merged


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
    function("context", "entries: list", "any", "a context of entries with key and value",
             'context([{key: "mass", value: 2}]).mass = 2', _context),
    function("context put",
             "context: context, key: text, value: any | context: context, keys: list, value: any",
             "any", "a context with an entry put in or changed",
             'context put({mass: 2}, "mass", 3).mass = 3', _put, strict=False),
    function("context merge", "contexts: list", "any",
             "several contexts as one; of entries of one name the last counts",
             "context merge([{mass: 2}, {count: 3}]).count = 3", _merge),
)  # fmt: skip
