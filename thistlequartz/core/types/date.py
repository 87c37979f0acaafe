"""A day of the Gregorian calendar."""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from fractions import Fraction
from typing import Any, ClassVar

from thistlequartz.core.translation import tr
from thistlequartz.core.values.calendar import read_date
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle, show_day
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
from .domain import MICROSECONDS_A_DAY, Domain, GridPoint, SolverRange, place_of
from .number import NumberType
from .spellings import DAY, from_iso, matching

_DAYS_A_YEAR = 365
_DAY = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}", re.ASCII)


@dataclass(frozen=True, slots=True)
class DateType(FieldType):
    """A day of the Gregorian calendar, years 1 to 9999."""

    name: ClassVar[FieldTypeName] = "date"
    called: ClassVar[str] = tr("a date")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ("date_order",)
    kind: ClassVar[EvaluatedAs] = "date"
    compared_as: ClassVar[ComparedAs] = "dates"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "order", "between", "lists")
    part: ClassVar[OfferedPart | None] = "day"
    is_ordered: ClassVar[bool] = True
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """A written month, or figures in the order of the field."""
        return read_date(given, settings.date_order)

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """ISO 8601."""
        return _quick

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """ISO 8601, on days that every month has."""
        return matching(re.compile(DAY, re.ASCII), date.fromisoformat)

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """With the month as a word."""
        return lambda value: show_day(value, style)

    def domain(self, today: date) -> Domain | None:
        """Every day, and today first."""
        day, here = Fraction(MICROSECONDS_A_DAY), place_of(today)
        assert here is not None
        last = (date.max.toordinal() - 1) * day

        def value(place: GridPoint) -> date:
            return date.fromordinal(int(place // MICROSECONDS_A_DAY) + 1)

        return Domain(
            "days", day, value, lambda place: _DAYS_A_YEAR * day, True, here, Fraction(0), last
        )

    def usual_entry(self, today: date) -> str | None:
        """Today."""
        return today.isoformat()

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def bounds_hint(self) -> str | None:
        """A date."""
        return tr("a date {bounds}")

    def holds(self, value: object) -> bool:
        """Days; an instant is none."""
        return isinstance(value, date) and not isinstance(value, datetime)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """A day; of an instant its day."""
        if isinstance(value, datetime):
            return value.date()
        return value if isinstance(value, date) else None

    def entries(self) -> Sequence[Stored]:
        """Any number of them."""
        return []

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The day."""
        return None

    def solver_range(self) -> SolverRange | None:
        """The ordinals of days."""
        return SolverRange(1, date.max.toordinal())

    def properties(self) -> Mapping[str, FieldType]:
        """Its parts."""
        return {one: NumberType() for one in ("year", "month", "day", "weekday")}

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
        """A day."""
        return date.fromisoformat(stored) if isinstance(stored, str) else stored


def _quick(given: object) -> object:
    if type(given) is date:
        return given
    return from_iso(given, _DAY, date.fromisoformat)
