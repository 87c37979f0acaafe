"""A time of day."""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, time
from fractions import Fraction
from typing import Any, ClassVar

from thistlequartz.core.translation import tr
from thistlequartz.core.values.calendar import read_clock
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle, show_clock
from thistlequartz.core.values.value import Reading, Stored, Value

from .base import (
    ComparedAs,
    Comparison,
    EvaluatedAs,
    FieldType,
    FieldTypeName,
    OfferedPart,
    Quick,
    ReadingMark,
    UsualSpelling,
)
from .cells import spelt
from .domain import (
    MICROSECONDS_A_DAY,
    MICROSECONDS_A_SECOND,
    NOON,
    Domain,
    SolverRange,
    instant_at,
)
from .duration import DaysType
from .number import NumberType
from .spellings import CLOCK, from_iso, matching

_CLOCK = re.compile(r"[0-9]{2}:[0-9]{2}(?::[0-9]{2})?", re.ASCII)


@dataclass(frozen=True, slots=True)
class TimeType(FieldType):
    """A time of day."""

    name: ClassVar[FieldTypeName] = "time"
    called: ClassVar[str] = tr("a time")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ()
    kind: ClassVar[EvaluatedAs] = "time"
    compared_as: ClassVar[ComparedAs] = "dates"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "order", "between", "lists")
    part: ClassVar[OfferedPart | None] = None
    is_ordered: ClassVar[bool] = True
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """Hours and minutes, also with am or pm."""
        return read_clock(given)

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """ISO 8601."""
        return _quick

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """ISO 8601, to the minute or the second."""
        return matching(re.compile(rf"{CLOCK}(?::[0-5][0-9])?"), time.fromisoformat)

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """To the minute, where it has no seconds."""
        return show_clock

    def domain(self, today: date) -> Domain | None:
        """Every second, and noon first."""
        day, second = Fraction(MICROSECONDS_A_DAY), Fraction(MICROSECONDS_A_SECOND)
        return Domain(
            "clock",
            second,
            lambda place: instant_at(place).time(),
            lambda place: day,
            False,
            day / 2,
            Fraction(0),
            day - second,
        )

    def usual_entry(self, today: date) -> str | None:
        """Noon."""
        return NOON

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def bounds_hint(self) -> str | None:
        """A time."""
        return tr("a time {bounds}")

    def holds(self, value: object) -> bool:
        """Times of day."""
        return isinstance(value, time)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """Without an offset."""
        return value.replace(tzinfo=None) if isinstance(value, time) else None

    def entries(self) -> Sequence[Stored]:
        """Any number of them."""
        return []

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The time."""
        return None

    def solver_range(self) -> SolverRange | None:
        """Microseconds since midnight."""
        return SolverRange(0, MICROSECONDS_A_DAY - 1)

    def properties(self) -> Mapping[str, FieldType]:
        """Its parts, and its offset."""
        return {one: NumberType() for one in ("hour", "minute", "second")} | {
            "time offset": DaysType()
        }

    def unrounded(self) -> FieldType:
        """Itself."""
        return self

    def formula_type(self) -> FieldType:
        """Itself."""
        return self

    def item_type(self) -> FieldType:
        """Itself."""
        return self

    @property
    def referred_form(self) -> str | None:
        """None."""
        return None

    def from_cell(self, cell: object) -> object:
        """As spreadsheets hold it."""
        return spelt(cell)

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """As it is stored."""
        return stored


def _quick(given: object) -> object:
    return from_iso(given, _CLOCK, time.fromisoformat)
