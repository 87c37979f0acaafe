"""Dates, times and durations: clauses 10.3.4.1 and 10.3.4.9."""

import calendar
from datetime import date, datetime, time, timedelta, timezone
from decimal import Decimal
from typing import Any

from thistlequartz.core.values import Months, read_date, read_date_time, read_time

from .record import function
from .text import position


def _date(*parts: Any) -> date | None:
    match parts:
        case (str() as text,):
            return read_date(text)
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


FUNCTIONS = (
    function("date", "from: any | year: number, month: number, day: number", "date",
             "a text, a date-time or three numbers as a date",
             'date(2026, 6, 12) = date("2026-06-12")', _date),
    function("time",
             "from: any | hour: number, minute: number, second: number, offset?: days duration",
             "time", "a text, a date-time or numbers as a time",
             'time(9, 30, 0) = time("09:30:00")', _time),
    function("date and time", "from: any | date: temporal, time: time", "date and time",
             "a text, or a date and a time, as a date-time",
             'date and time(date("2026-06-12"), time("09:30:00")).hour = 9', _date_and_time),
    function("years and months duration", "from: temporal, to: temporal", "months duration",
             "whole years and months between two days",
             'years and months duration(date("2025-06-12"), date("2026-07-11")) = duration("P1Y")',
             _months_between),
    function("day of year", "date: temporal", "number", "which day of the year, from 1",
             'day of year(date("2019-09-17")) = 260',
             lambda value: Decimal(_day(value).timetuple().tm_yday)),
    function("day of week", "date: temporal", "text", "the name of the weekday, such as Tuesday",
             'day of week(date("2019-09-17")) = "Tuesday"',
             lambda value: calendar.day_name[_day(value).weekday()]),
    function("month of year", "date: temporal", "text", "the name of the month, such as September",
             'month of year(date("2019-09-17")) = "September"',
             lambda value: calendar.month_name[_day(value).month]),
    function("week of year", "date: temporal", "number", "which week of the year, by ISO 8601",
             'week of year(date("2019-09-17")) = 38',
             lambda value: Decimal(_day(value).isocalendar().week)),
)  # fmt: skip
