"""Years, months and days for the solver: the proleptic Gregorian calendar, exactly."""

import calendar
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

import z3

from .surroundings import Translating, TranslationContext
from .terms import Term, ValueTerm, all_of, any_of, none_of

LAST_YEAR: Final = date.max.year
LAST_DAY: Final = date.max.toordinal()
_MONTHS: Final = 12
_COMMON: Final = 2025
"""A year without a leap day."""
_LENGTHS: Final = tuple(calendar.monthrange(_COMMON, month)[1] for month in range(1, 13))
_BEFORE: Final = tuple(sum(_LENGTHS[:month]) for month in range(_MONTHS))
_FEBRUARY: Final = 2
_MONDAY_TO_SUNDAY: Final = 7


@dataclass(frozen=True, slots=True)
class Parts:
    """The year, month and day of a date, as whole numbers."""

    year: Any
    month: Any
    day: Any

    @property
    def months(self) -> Any:
        """Months since the beginning of the year 0."""
        return self.year * _MONTHS + self.month - 1

    @property
    def ordinal(self) -> Any:
        """Its day, counted from 1 January of the year 1."""
        return _before_year(self.year) + _before_month(self.year, self.month) + self.day

    @property
    def exists(self) -> Any:
        """That there is such a day within the years from 1 to 9999."""
        year, month, day = self.year, self.month, self.day
        return all_of(
            (
                year >= 1, year <= LAST_YEAR, month >= 1, month <= _MONTHS,
                day >= 1, day <= _length_of(year, month),
            )
        )  # fmt: skip


def parts_of(surroundings: TranslationContext, date_: ValueTerm) -> Parts:
    """The parts of a date: the only ones that make up its day."""
    parts = Parts(*(surroundings.fresh(z3.IntSort()) for _ in range(3)))
    low, high = _near(parts.year)
    surroundings.assume(
        z3.Implies(
            none_of(date_.blank),
            # The bounds of the year follow from the rest; said outright they are found soon.
            all_of((parts.exists, date_.at == parts.ordinal, low <= date_.at, date_.at <= high)),
        )
    )
    return parts


def moved_by_months(surroundings: TranslationContext, date_: ValueTerm, by: ValueTerm) -> Term:
    """So many months on; the day is that of before, or the last of a shorter month."""
    parts = parts_of(surroundings, date_)
    months = parts.months + by.at
    year, month = months / _MONTHS, months % _MONTHS + 1
    last = _length_of(year, month)
    moved = Parts(year, month, z3.If(parts.day <= last, parts.day, last))
    beyond = any_of((year < 1, year > LAST_YEAR))
    return ValueTerm("date", any_of((date_.blank, by.blank, beyond)), moved.ordinal)


def months_between(surroundings: TranslationContext, begin: ValueTerm, end: ValueTerm) -> ValueTerm:
    """Whole months from one day to the other, towards zero."""
    first, last = parts_of(surroundings, begin), parts_of(surroundings, end)

    def whole(one: Parts, other: Parts) -> Any:
        return other.months - one.months - z3.If(other.day < one.day, z3.IntVal(1), z3.IntVal(0))

    count = z3.If(begin.at <= end.at, whole(first, last), -whole(last, first))
    return ValueTerm("months", any_of((begin.blank, end.blank)), count)


def day_of_year(surroundings: TranslationContext, date_: ValueTerm) -> ValueTerm:
    """Which day of the year, from 1."""
    year = parts_of(surroundings, date_).year
    return ValueTerm("number", date_.blank, date_.at - _before_year(year), 0)


def week_of_year(surroundings: TranslationContext, date_: ValueTerm) -> ValueTerm:
    """Which week of the year by ISO 8601: that of its Thursday."""
    thursday = date_.at - (date_.at - 1) % _MONDAY_TO_SUNDAY + 3
    # At the two ends of the calendar it lies beyond; then nothing is known of the week.
    beyond = any_of((date_.blank, thursday < 1, thursday > LAST_DAY))
    year = parts_of(surroundings, ValueTerm("date", beyond, thursday)).year
    return ValueTerm(
        "number", date_.blank, (thursday - _before_year(year) - 1) / _MONDAY_TO_SUNDAY + 1, 0
    )


def named(translator: Translating, place: Any, names: tuple[str, ...], blank: Any) -> ValueTerm:
    """The name at a place, from 0."""
    numbers = [z3.IntVal(translator.texts.number(one)) for one in names]
    at = numbers[-1]
    for number, one in reversed(list(enumerate(numbers[:-1]))):
        at = z3.If(place == number, one, at)
    return ValueTerm("text", blank, at)


def _is_leap(year: Any) -> Any:
    return z3.Or(z3.And(year % 4 == 0, year % 100 != 0), year % 400 == 0)


def _before_year(year: Any) -> Any:
    past = year - 1
    return 365 * past + past / 4 - past / 100 + past / 400


def _before_month(year: Any, month: Any) -> Any:
    days = z3.IntVal(_BEFORE[-1])
    for place in range(_MONTHS - 2, -1, -1):
        days = z3.If(month == place + 1, z3.IntVal(_BEFORE[place]), days)
    leap = z3.And(month > _FEBRUARY, _is_leap(year))
    return days + z3.If(leap, z3.IntVal(1), z3.IntVal(0))


def _length_of(year: Any, month: Any) -> Any:
    short = z3.Or(*(month == place + 1 for place, days in enumerate(_LENGTHS) if days == 30))
    february = z3.If(_is_leap(year), z3.IntVal(29), z3.IntVal(28))
    return z3.If(month == _FEBRUARY, february, z3.If(short, z3.IntVal(30), z3.IntVal(31)))


def _near(year: Any) -> tuple[Any, Any]:
    """Between which days a year lies, with 365.2425 days on average, two of them to spare."""
    return (3_652_425 * (year - 1) - 10_000) / 10_000, (3_652_425 * year + 30_000) / 10_000
