"""Durations as people type and read them: “2 h 30 min”, “1 year 6 months”, ISO 8601."""

import re
from datetime import timedelta
from fractions import Fraction
from functools import lru_cache
from typing import Final, Literal, get_args

from thistlequartz.core.translation import tr, tr_count

from .fault import Fault, quoted
from .numbers import read_number
from .reading_settings import DecimalMark
from .temporal import Months, read_duration

DurationUnit = Literal["year", "month", "day", "hour", "minute", "second"]
DURATION_UNITS: Final[tuple[DurationUnit, ...]] = get_args(DurationUnit)
_EXACT: Final[dict[str, int]] = {
    "week": 604_800,
    "day": 86_400,
    "hour": 3_600,
    "minute": 60,
    "second": 1,
}
"""Seconds."""
_CALENDAR: Final[dict[str, int]] = {"year": 12, "month": 1}
"""Months."""
_SHORT: Final[dict[str, str]] = {
    "w": "week", "wk": "week", "d": "day", "h": "hour", "hr": "hour", "hrs": "hour",
    "min": "minute", "mins": "minute", "s": "second", "sec": "second", "secs": "second",
    "y": "year", "yr": "year", "yrs": "year", "mo": "month", "mos": "month",
}  # fmt: skip
"""Common practice; “m” is left out, which is minutes to some and months to others."""
_PART = re.compile(r"([0-9][0-9.,\s]*)\s*([^\W\d_]+)\.?\s*(?:,|and\b)?\s*")
_LONGEST_YEARS: Final = 9_999
LONGEST_DAYS: Final = timedelta(days=3_652_058)
"""About as many as lie between the first day of the calendar and the last."""
LONGEST_MONTHS: Final = 12 * _LONGEST_YEARS


def step_of(unit: DurationUnit) -> timedelta | Months:
    """One of a unit."""
    if unit in _CALENDAR:
        return Months(_CALENDAR[unit])
    return timedelta(seconds=_EXACT[unit])


def is_calendar(unit: DurationUnit) -> bool:
    """Whether it is counted in months, which no number of days can stand for."""
    return unit in _CALENDAR


def read_length(
    given: object, finest: DurationUnit, decimal_mark: DecimalMark | None
) -> timedelta | Months | Fault:
    """Read a duration as people type it, or by ISO 8601, no finer than a unit."""
    if isinstance(given, timedelta | Months):
        read: timedelta | Months | Fault = given
    else:
        text = str(given).strip()
        exact = read_duration(text.upper())
        read = _in_words(text, finest, decimal_mark) if exact is None else exact
    if isinstance(read, Fault):
        return read
    if read in (Months(0), timedelta(0)):
        return Months(0) if is_calendar(finest) else timedelta(0)
    if isinstance(read, Months) != is_calendar(finest):
        if is_calendar(finest):
            said = tr("{given} has days in it: write years and months.", given=quoted(given))
        else:
            said = tr("{given} has months in it: write days and hours.", given=quoted(given))
        return Fault(said)
    if _is_too_long(read):
        return Fault(tr("{given} is longer than 9,999 years: shorten it.", given=quoted(given)))
    if _rest(read, finest):
        unit = _words(finest, 2)
        return Fault(
            tr("{given} has a part finer than {unit}: round it.", given=quoted(given), unit=unit)
        )
    return read


def _in_words(
    text: str, finest: DurationUnit, decimal_mark: DecimalMark | None
) -> timedelta | Months | Fault:
    sign, rest = _signed(text)
    if rest == tr("no time"):
        return timedelta(0)
    unknown = Fault(
        tr(
            "{text} is no duration: write a number with its unit, such as {example}.",
            text=quoted(text),
            example=tr("2 years 6 months") if is_calendar(finest) else tr("2 days 4 hours"),
        )
    )
    seconds, months, at, seen = Fraction(0), Fraction(0), 0, set[str]()
    while at < len(rest):
        found = _PART.match(rest, at)
        unit = _units().get(found.group(2).casefold()) if found else None
        if found is None or unit is None or unit in seen:
            return unknown
        number = read_number(found.group(1).strip(), None, None, decimal_mark)
        if isinstance(number, Fault):
            return number
        seen.add(unit)
        at = found.end()
        if unit in _CALENDAR:
            months += Fraction(number) * _CALENDAR[unit]
        else:
            seconds += Fraction(number) * _EXACT[unit]
    if not seen:
        return unknown
    if seen & _CALENDAR.keys() and seen - _CALENDAR.keys():
        return Fault(
            tr(
                "{text} has months and days in it, of which neither is a part of the other: write "
                "one of the two.",
                text=quoted(text),
            )
        )
    if seen & _CALENDAR.keys():
        if months.denominator != 1:
            return Fault(tr("{text} is no whole number of months: round it.", text=quoted(text)))
        return Months(sign * int(months))
    micro = seconds * 1_000_000
    if micro.denominator != 1:
        return Fault(tr("{text} is no whole number of microseconds.", text=quoted(text)))
    try:
        return sign * timedelta(microseconds=int(micro))
    except OverflowError:
        return Fault(tr("{given} is longer than 9,999 years: shorten it.", given=quoted(text)))


def _signed(text: str) -> tuple[int, str]:
    for minus in ("-", "−", tr("minus {length}", length="").strip()):
        if minus and text.startswith(minus):
            return -1, text.removeprefix(minus).strip()
    return 1, text


def _units() -> dict[str, str]:
    """Unit by what it is called, short or as durations are shown."""
    return _units_said(tuple((unit, _words(unit, count)) for unit in _UNITS for count in (1, 2)))


@lru_cache(maxsize=4)
def _units_said(said: tuple[tuple[str, str], ...]) -> dict[str, str]:
    return _SHORT | {words.casefold(): unit for unit, words in said}


_UNITS: Final = (*_CALENDAR, *_EXACT)


def _words(unit: str, count: int) -> str:
    """The word of a unit beside a number, as durations are shown."""
    match unit:
        case "year":
            shown = tr_count("{count} year", "{count} years", count)
        case "month":
            shown = tr_count("{count} month", "{count} months", count)
        case "week":
            shown = tr_count("{count} week", "{count} weeks", count)
        case "day":
            shown = tr_count("{count} day", "{count} days", count)
        case "hour":
            shown = tr_count("{count} hour", "{count} hours", count)
        case "minute":
            shown = tr_count("{count} minute", "{count} minutes", count)
        case _:
            shown = tr_count("{count} second", "{count} seconds", count)
    return shown.replace(str(count), "").strip()


def _is_too_long(read: timedelta | Months) -> bool:
    if isinstance(read, Months):
        return abs(read.count) > LONGEST_MONTHS
    return abs(read) > LONGEST_DAYS


def _rest(read: timedelta | Months, finest: DurationUnit) -> bool:
    """Whether something is left over when it is counted in a unit."""
    step = step_of(finest)
    if isinstance(read, Months):
        assert isinstance(step, Months)
        return read.count % step.count != 0
    assert isinstance(step, timedelta)
    return finest != "second" and bool(read % step)
