"""Showing: a value as people read it, and as JSON carries it."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from typing import Literal
from zoneinfo import ZoneInfo

from thistlequartz.core.translation import tr, tr_count

from .month_names import MONTHS, SHORT_MONTHS
from .quantity import Quantity
from .reading_settings import ReadingSettings
from .temporal import Months, write_date_time, write_duration, write_offset, write_time
from .value import Stored, Value

DateStyle = Literal["11 June 2026", "11 Jun 2026", "June 11, 2026", "2026-06-11"]
NumberStyle = Literal["1,234.5", "1.234,5", "1 234.5", "1 234,5"]
"""Each is its own example; every way to write a day can be read back without doubt."""


@dataclass(frozen=True, slots=True)
class WritingStyle:
    """How somebody likes to read days and numbers."""

    dates: DateStyle = "11 June 2026"
    numbers: NumberStyle = "1,234.5"


USUAL = WritingStyle()
_THIN = "\N{NARROW NO-BREAK SPACE}"
_MARKS: dict[NumberStyle, dict[int, int]] = {
    "1.234,5": str.maketrans(",.", ".,"),
    "1 234.5": str.maketrans(",", _THIN),
    "1 234,5": str.maketrans(",.", f"{_THIN},"),
}
_CLOSE_UNITS = ("°", "′", "″")
"""Units written without a space before them."""
_UNGROUPED = 3
"""Digits that have no marks of thousands between them."""


def show_number(
    value: Decimal, unit: str | None, unit_first: bool, grouped: bool, style: WritingStyle
) -> str:
    """A number with marks of thousands, and with its unit where it has one."""
    number = str(value)  # much faster than a format, where it says the same
    if "E" in number or len(number.partition(".")[0]) > _UNGROUPED:
        number = f"{value:,f}" if grouped else f"{value:f}"
    if number[0] == "-":
        number = f"−{number[1:]}"
    if style is not USUAL and style.numbers in _MARKS:
        number = number.translate(_MARKS[style.numbers])
    if not unit:
        return number
    space = "" if unit in _CLOSE_UNITS else " "
    return f"{unit}{space}{number}" if unit_first else f"{number}{space}{unit}"


def show_day(value: date, style: WritingStyle) -> str:
    """A day in a style."""
    match style.dates:
        case "11 June 2026":
            return tr(
                "{day} {month} {year:04}",
                day=value.day,
                month=MONTHS[value.month - 1],
                year=value.year,
            )
        case "11 Jun 2026":
            return tr(
                "{day} {month} {year:04}",
                day=value.day,
                month=SHORT_MONTHS[value.month - 1],
                year=value.year,
            )
        case "June 11, 2026":
            return tr(
                "{month} {day}, {year:04}",
                month=MONTHS[value.month - 1],
                day=value.day,
                year=value.year,
            )
        case "2026-06-11":
            return value.isoformat()


def show_clock(value: time) -> str:
    """A time of day, to the minute where it has no seconds."""
    if value.microsecond:
        return f"{value:%H:%M:%S}.{value.microsecond:06}".rstrip("0")
    return f"{value:%H:%M:%S}" if value.second else f"{value:%H:%M}"


def show_instant(value: datetime, zone: str, style: WritingStyle) -> str:
    """An instant in a zone."""
    local = value if value.tzinfo is None else value.astimezone(ZoneInfo(zone))
    shown = f"{show_day(local.date(), style)}, {show_clock(local.time())}"
    # In the hour that comes twice when clocks are put back, the offset tells which it is.
    twice = local.tzinfo and local.utcoffset() != local.replace(fold=1 - local.fold).utcoffset()
    return f"{shown} {write_offset(local)}" if twice else shown


def show_length(value: timedelta | Months) -> str:
    """A length of time in words: “1 year 8 months”, “2 days”."""
    if isinstance(value, Months):
        years, months = divmod(abs(value.count), 12)
        parts = [
            (years, tr_count("{count} year", "{count} years", years)),
            (months, tr_count("{count} month", "{count} months", months)),
        ]
        negative = value.count < 0
    else:
        size, negative = abs(value), value < timedelta(0)
        hours, rest = divmod(size.seconds, 3600)
        minutes, seconds = divmod(rest, 60)
        parts = [
            (size.days, tr_count("{count} day", "{count} days", size.days)),
            (hours, tr_count("{count} hour", "{count} hours", hours)),
            (minutes, tr_count("{count} minute", "{count} minutes", minutes)),
            (seconds or size.microseconds, _seconds(seconds, size.microseconds)),
        ]
    said = " ".join(words for count, words in parts if count) or tr("no time")
    return tr("minus {length}", length=said) if negative else said


def _seconds(whole: int, micro: int) -> str:
    if not micro:
        return tr_count("{count} second", "{count} seconds", whole)
    exact = f"{whole}.{micro:06}".rstrip("0")
    return tr("{seconds} seconds", seconds=exact)


def to_entry(value: Value | None, settings: ReadingSettings) -> Stored:
    """`value` as it is entered in a field with these settings, so that it is read as the same."""
    if isinstance(value, Decimal) and settings.decimal_mark == "comma":
        return str(to_json(value)).replace(".", ",")
    return to_json(value)


def to_json(value: Value | None) -> Stored:
    """`value` as it is stored: decimals as plain text, dates and times by ISO 8601, in UTC."""
    match value:
        case Quantity(amount=amount, unit=unit):
            return f"{amount:f} {unit}"
        case Decimal():
            return f"{value:f}"
        case datetime():
            return write_date_time(value.astimezone(UTC) if value.tzinfo else value)
        case time():
            return write_time(value)
        case date():
            return value.isoformat()
        case timedelta() | Months():
            return write_duration(value)
        case tuple():
            return list(value)
        case _:
            return value
