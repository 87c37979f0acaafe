"""An instant."""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from fractions import Fraction
from typing import Any, ClassVar, Final

from thistlequartz.core.translation import tr
from thistlequartz.core.values.calendar import read_instant
from thistlequartz.core.values.instants import in_zone
from thistlequartz.core.values.reading_settings import PLAIN, ReadingSettings
from thistlequartz.core.values.showing import WritingStyle, show_instant
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
from .date import DateType
from .domain import (
    MICROSECONDS_A_DAY,
    MICROSECONDS_A_SECOND,
    NOON,
    Domain,
    SolverRange,
    instant_at,
    place_of,
)
from .reading import read_computed
from .spellings import CLOCK, DAY, from_iso, matching
from .time import TimeType

_EPOCH: Final = date(1970, 1, 1).toordinal()
_FIRST_MOMENT: Final = (1 - _EPOCH) * MICROSECONDS_A_DAY
_LAST_MOMENT: Final = (date.max.toordinal() - _EPOCH + 1) * MICROSECONDS_A_DAY - 1
_INSTANT = re.compile(
    r"(?!0001|9999)[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}Z", re.ASCII
)


@dataclass(frozen=True, slots=True)
class DateTimeType(FieldType):
    """An instant, kept in UTC, typed and shown in the IANA zone `zone`."""

    zone: str = "UTC"

    name: ClassVar[FieldTypeName] = "date_time"
    called: ClassVar[str] = tr("a date and time")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ("date_order",)
    kind: ClassVar[EvaluatedAs] = "date_time"
    compared_as: ClassVar[ComparedAs] = "dates"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "order", "between", "lists")
    part: ClassVar[OfferedPart | None] = "day"
    is_ordered: ClassVar[bool] = True
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """A day with a time, in the zone unless an offset is given."""
        return read_instant(given, self.zone, settings.date_order)

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """ISO 8601 in UTC."""
        return _quick

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """ISO 8601 in UTC, on days that every month has."""
        return matching(re.compile(rf"{DAY}T{CLOCK}:[0-5][0-9]Z"), datetime.fromisoformat)

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """In the zone, with the month as a word."""
        return lambda value: show_instant(value, self.zone, style)

    def domain(self, today: date) -> Domain | None:
        """Every second, and today first."""
        day, second, here = (
            Fraction(MICROSECONDS_A_DAY),
            Fraction(MICROSECONDS_A_SECOND),
            place_of(today),
        )
        assert here is not None
        # A day at each end is left out: it may not exist in the zone of the form.
        last = (date.max.toordinal() - 2) * day
        return Domain(
            "instants", second, instant_at, lambda place: day, False, here, day, last, self.zone
        )

    def usual_entry(self, today: date) -> str | None:
        """Today at noon."""
        return f"{today.isoformat()} {NOON}"

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def bounds_hint(self) -> str | None:
        """A date."""
        return tr("a date {bounds}")

    def holds(self, value: object) -> bool:
        """Instants."""
        return isinstance(value, datetime)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """An instant as it is stored."""
        return read_computed(value, self, PLAIN) if isinstance(value, datetime) else None

    def entries(self) -> Sequence[Stored]:
        """Any number of them."""
        return []

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The instant in its zone."""
        return lambda value: in_zone(value, self.zone)

    def solver_range(self) -> SolverRange | None:
        """Microseconds since 1970."""
        return SolverRange(_FIRST_MOMENT, _LAST_MOMENT)

    def properties(self) -> Mapping[str, FieldType]:
        """Those of days and of times."""
        return {**DateType().properties(), **TimeType().properties()}

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
        """An instant as spreadsheets hold it."""
        if isinstance(cell, datetime):
            return cell.isoformat(timespec="seconds")
        return spelt(cell)

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """As it is stored."""
        return stored


def _quick(given: object) -> object:
    return from_iso(given, _INSTANT, datetime.fromisoformat)
