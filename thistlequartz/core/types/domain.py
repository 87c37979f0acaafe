"""Ordered domains: the values a field can take, as exact places on a line.

Numbers stand at themselves, everything temporal at microseconds (dates at their midnight),
durations in months at their months, lengths at their count. A domain is a grid: a field of two
digits after the point has a value every 0.01.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from fractions import Fraction
from math import ceil, floor
from typing import Any, Literal, NamedTuple

from thistlequartz.core.values.temporal import Months

GridPoint = Fraction
Marked = Literal["numbers", "lengths", "days", "clock", "instants", "durations"]
MICROSECONDS_A_DAY = 86_400_000_000
MICROSECONDS_A_SECOND = 1_000_000
NOON = "12:00"
_STEPS_IN_SIGHT = 100
_FIRST = datetime(1, 1, 1, tzinfo=UTC)
MICROSECOND = timedelta(microseconds=1)


def place_of(value: Any) -> GridPoint | None:
    """Where a value stands; None for what has no order here."""
    match value:
        case bool():
            return None
        case Decimal():
            return Fraction(value) if value.is_finite() else None
        case int():
            return Fraction(value)
        case timedelta():
            return Fraction(value // MICROSECOND)
        case Months():
            return Fraction(value.count)
        case datetime():
            aware = value if value.tzinfo else value.replace(tzinfo=UTC)
            return Fraction((aware - _FIRST) // MICROSECOND)
        case date():
            return Fraction((value.toordinal() - 1) * MICROSECONDS_A_DAY)
        case time():
            clock = timedelta(
                hours=value.hour,
                minutes=value.minute,
                seconds=value.second,
                microseconds=value.microsecond,
            )
            return Fraction(clock // MICROSECOND)
        case _:
            return None


class SolverRange(NamedTuple):
    """Between which whole numbers those lie that stand for values, both ends among them.

    A value of the solver is such a number divided by 10 ** `digits`.
    """

    first: int
    last: int
    digits: int = 0
    step: int = 0
    """The distance of the numbers; 0: that is 1, and what formulas compute lies in the range."""


@dataclass(frozen=True, slots=True)
class Domain:
    """The grid of a field's values; `first` and `last` are None where it has no end."""

    marked: Marked
    """As what its places are marked on a scale."""
    step: GridPoint
    value: Callable[[GridPoint], Any] = field(compare=False)
    """The value at a place on the grid, as a reader of entries takes it."""
    reach: Callable[[GridPoint], GridPoint] = field(compare=False)
    """How far beyond the outermost place people would look."""
    counted: bool
    """Whether people tell its values one by one: whole numbers, days, characters."""
    home: GridPoint = Fraction(0)
    """Where people would look first: nought, or today."""
    first: GridPoint | None = None
    last: GridPoint | None = None
    zone: str = "UTC"
    """In which instants are marked."""

    def on_grid(self, place: GridPoint) -> bool:
        """Whether a value stands there."""
        return (
            place % self.step == 0
            and (self.first is None or place >= self.first)
            and (self.last is None or place <= self.last)
        )

    def at_least(self, place: GridPoint) -> GridPoint:
        """The first place on the grid that is not below."""
        return ceil(place / self.step) * self.step

    def at_most(self, place: GridPoint) -> GridPoint:
        """The last place on the grid that is not above."""
        return floor(place / self.step) * self.step

    def between(self, low: GridPoint | None, high: GridPoint | None) -> GridPoint | None:
        """A place on the grid strictly between two places; None where there is none.

        Beyond the outermost places it stays in sight of them.
        """
        if low is None and high is None:
            wanted = self.home
        elif high is None:
            assert low is not None
            wanted = self.at_most(low + self.reach(low))
        elif low is None:
            wanted = self.at_least(high - self.reach(high))
        else:
            wanted = self.at_most((low + high) / 2)
        if self.last is not None:
            wanted = min(wanted, self.last)
        if self.first is not None:
            wanted = max(wanted, self.first)
        for found in (wanted, wanted + self.step, wanted - self.step):
            inside = (low is None or found > low) and (high is None or found < high)
            if inside and self.on_grid(found):
                return found
        return None


def in_sight(step: GridPoint) -> Callable[[GridPoint], GridPoint]:
    """As far as a place is from nought, and a hundred steps at least."""
    return lambda place: max(abs(place), _STEPS_IN_SIGHT * step)


def instant_at(place: GridPoint) -> datetime:
    """The instant that stands at a place."""
    return _FIRST + int(place) * MICROSECOND
