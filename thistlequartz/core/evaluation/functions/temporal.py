"""Dates, times and durations: clauses 10.3.4.1 and 10.3.4.9."""

import calendar
from collections.abc import Callable
from datetime import date, datetime, time, timedelta, timezone
from decimal import Decimal
from typing import Any

from thistlequartz.core.values import (
    DateType,
    Months,
    read_date_time,
    read_time,
    read_value,
)

from .text import position


def _date(*parts: Any) -> date | None:
    match parts:
        case (str() as text,):
            read = read_value(text, DateType())
            return read if isinstance(read, date) else None
        case (datetime() as moment,):
            return moment.date()
        case (date() as day,):
            return day
        case (year, month, day):
            return date(position(year), position(month), position(day))
        case _:
            return None


def _time(*parts: Any) -> time | None:
    match parts:
        case (str() as text,):
            return read_time(text)
        case (datetime() as moment,):
            return moment.timetz()
        case (time() as clock,):
            return clock
        case (date(),):
            return time()
        case (hour, minute, second, *rest):
            whole = int(second)
            micro = int((second - whole) * 1_000_000)
            offset = rest[0] if rest else None
            zone = timezone(offset) if isinstance(offset, timedelta) else None
            return time(position(hour), position(minute), whole, micro, zone)
        case _:
            return None


def _date_and_time(*parts: Any) -> datetime | None:
    match parts:
        case (str() as text,):
            return read_date_time(text)
        case (datetime() as moment,):
            return moment
        case (date() as day, time() as clock):
            return datetime.combine(day, clock)
        case _:
            return None


def _months_between(begin: Any, end: Any) -> Months | None:
    """Whole months from one day to the other, towards zero."""
    if not isinstance(begin, date) or not isinstance(end, date):
        return None
    if _day(end) < _day(begin):
        back = _months_between(end, begin)
        return Months(-back.count) if back else None
    count = (end.year - begin.year) * 12 + end.month - begin.month
    return Months(count - (1 if end.day < begin.day else 0))


def _day(value: Any) -> date:
    if isinstance(value, datetime):
        return value.date()
    if not isinstance(value, date):
        raise TypeError
    return value


FUNCTIONS: dict[str, Callable[..., Any]] = {
    "date": _date,
    "time": _time,
    "date and time": _date_and_time,
    "years and months duration": _months_between,
    "day of year": lambda value: Decimal(_day(value).timetuple().tm_yday),
    "day of week": lambda value: calendar.day_name[_day(value).weekday()],
    "month of year": lambda value: calendar.month_name[_day(value).month],
    "week of year": lambda value: Decimal(_day(value).isocalendar().week),
}
