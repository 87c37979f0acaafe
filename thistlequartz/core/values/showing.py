"""Showing: a value as people read it, and as JSON carries it."""

from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from zoneinfo import ZoneInfo

from .reading import Value
from .temporal import Months, write_date_time, write_time
from .types import Choosing, DateTimeType, NumberType, ReferenceType, ValueType

_CLOSE_UNITS = ("°", "′", "″")
"""Units written without a space before them."""
Stored = str | bool | list[str] | None
"""What JSON carries for a value."""


def show_value(value: Value | None, type_: ValueType | None = None) -> str:
    """`value` in plain words: thousands marks, written months, labels of choices, the unit."""
    match value:
        case None:
            return "blank"
        case bool():
            return "yes" if value else "no"
        case Decimal():
            return _number(value, type_ if isinstance(type_, NumberType) else NumberType())
        case datetime():
            return _instant(value, type_.zone if isinstance(type_, DateTimeType) else "UTC")
        case date():
            return f"{value.day} {value:%B} {value.year}"
        case time():
            return _clock(value)
        case tuple() | list():
            labels = [type_.label_of(c) if isinstance(type_, Choosing) else c for c in value]
            return " and ".join([", ".join(labels[:-1]), labels[-1]] if labels[1:] else labels)
        case str():
            if isinstance(type_, Choosing):
                return type_.label_of(value)
            return value if isinstance(type_, ReferenceType) else f"“{value}”"


def _number(value: Decimal, type_: NumberType) -> str:
    number = (f"{value:,f}" if type_.grouped else f"{value:f}").replace("-", "−")
    if not type_.unit:
        return number
    space = "" if type_.unit in _CLOSE_UNITS else " "
    return f"{type_.unit}{space}{number}" if type_.unit_first else f"{number}{space}{type_.unit}"


def _clock(value: time) -> str:
    return f"{value:%H:%M:%S}" if value.second or value.microsecond else f"{value:%H:%M}"


def _instant(value: datetime, zone: str) -> str:
    local = value if value.tzinfo is None else value.astimezone(ZoneInfo(zone))
    return f"{local.day} {local:%B} {local.year}, {_clock(local.time())}"


def show_length(value: timedelta | Months) -> str:
    """A length of time in words: “1 year 8 months”, “2 days”."""
    if isinstance(value, Months):
        years, months = divmod(abs(value.count), 12)
        parts = [(years, "year"), (months, "month")]
        negative = value.count < 0
    else:
        size, negative = abs(value), value < timedelta(0)
        hours, rest = divmod(size.seconds, 3600)
        parts = [(size.days, "day"), (hours, "hour"), (rest // 60, "minute"), (rest % 60, "second")]
    said = [f"{count} {unit}{'' if count == 1 else 's'}" for count, unit in parts if count]
    return ("minus " if negative else "") + (" ".join(said) or "no time")


def to_json(value: Value | None) -> Stored:
    """`value` as it is stored: decimals as plain text, dates and times by ISO 8601, in UTC."""
    match value:
        case Decimal():
            return f"{value:f}"
        case datetime():
            return write_date_time(value.astimezone(UTC) if value.tzinfo else value)
        case time():
            return write_time(value)
        case date():
            return value.isoformat()
        case tuple():
            return list(value)
        case _:
            return value
