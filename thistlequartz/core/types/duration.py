"""A duration: an exact one in days and parts of days, or one in years and months, as in FEEL."""

import re
from abc import abstractmethod
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any, ClassVar

from thistlequartz.core.translation import tr
from thistlequartz.core.values.durations import (
    LONGEST_DAYS,
    LONGEST_MONTHS,
    DurationUnit,
    read_length,
    step_of,
)
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle, show_length
from thistlequartz.core.values.temporal import Months, read_duration, write_duration
from thistlequartz.core.values.value import Reading, Stored, Value

from .base import (
    NOT_CANONICAL,
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
from .domain import MICROSECOND, Domain, GridPoint, SolverRange, in_sight, place_of
from .number import NumberType

_ISO = re.compile(r"-?P[0-9YMDTHS.]+", re.ASCII)


@dataclass(frozen=True, slots=True)
class DurationType(FieldType):
    """What both kinds share; `finest` is the unit that has no parts in the field."""

    finest: DurationUnit

    name: ClassVar[FieldTypeName]
    read_by: ClassVar[tuple[ReadingMark, ...]] = ("decimal_mark",)
    compared_as: ClassVar[ComparedAs] = "numbers"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "order", "between", "lists")
    part: ClassVar[OfferedPart | None] = None
    is_ordered: ClassVar[bool] = True
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """Numbers with their units, or ISO 8601."""
        return read_length(given, self.finest, settings.decimal_mark)

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """The shortest spelling of ISO 8601."""

        def quick(given: object) -> object:
            if type(given) is not str or not _ISO.fullmatch(given):
                return NOT_CANONICAL
            found = read_duration(given)
            if found is None or write_duration(found) != given:
                return NOT_CANONICAL
            read = read_length(found, self.finest, None)
            return read if self.holds(read) else NOT_CANONICAL

        return quick

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """None that is worth a test."""
        return None

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """Each unit in words."""
        return show_length

    def domain(self, today: date) -> Domain | None:
        """Every duration of the finest unit, from none at all."""
        step = place_of(step_of(self.finest))
        assert step is not None
        return Domain("durations", step, self._at, in_sight(step), False)

    def usual_entry(self, today: date) -> str | None:
        """One of its unit."""
        return write_duration(step_of(self.finest))

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def entries(self) -> Sequence[Stored]:
        """Any number of them."""
        return []

    def bounds_hint(self) -> str | None:
        """A duration."""
        return tr("a duration {bounds}")

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """A duration of its kind that is no finer."""
        if not self.holds(value):
            return None
        read = read_length(value, self.finest, None)
        return read if isinstance(read, timedelta | Months) else None

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The duration."""
        return None

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
        """As spreadsheets hold it: they may know it as a duration."""
        return cell if isinstance(cell, timedelta) else spelt(cell)

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """As it is stored."""
        return stored

    def _finest_step(self) -> int:
        """Of the numbers in the solver; a second may have parts."""
        step = place_of(step_of(self.finest))
        assert step is not None
        return 1 if self.finest == "second" else int(step)

    @abstractmethod
    def _at(self, place: GridPoint) -> Any:
        """The duration at a place of the domain."""


@dataclass(frozen=True, slots=True)
class DaysType(DurationType):
    """An exact duration: days, hours, minutes, seconds."""

    finest: DurationUnit = "second"

    name: ClassVar[FieldTypeName] = "duration"
    called: ClassVar[str] = tr("a duration in days")
    kind: ClassVar[EvaluatedAs] = "days"

    def holds(self, value: object) -> bool:
        """Exact ones."""
        return isinstance(value, timedelta)

    def solver_range(self) -> SolverRange | None:
        """Microseconds."""
        longest = LONGEST_DAYS // MICROSECOND
        return SolverRange(-longest, longest, step=self._finest_step())

    def unrounded(self) -> FieldType:
        """Any exact one."""
        return DaysType()

    def properties(self) -> Mapping[str, FieldType]:
        """Its parts."""
        return {one: NumberType() for one in ("days", "hours", "minutes", "seconds")}

    def _at(self, place: GridPoint) -> Any:
        return int(place) * MICROSECOND


@dataclass(frozen=True, slots=True)
class MonthsType(DurationType):
    """A duration in years and months."""

    finest: DurationUnit = "month"

    name: ClassVar[FieldTypeName] = "duration"
    called: ClassVar[str] = tr("a duration in months")
    kind: ClassVar[EvaluatedAs] = "months"

    def holds(self, value: object) -> bool:
        """Those in months."""
        return isinstance(value, Months)

    def solver_range(self) -> SolverRange | None:
        """Months."""
        return SolverRange(-LONGEST_MONTHS, LONGEST_MONTHS, step=self._finest_step())

    def unrounded(self) -> FieldType:
        """Any one in months."""
        return MonthsType()

    def properties(self) -> Mapping[str, FieldType]:
        """Its parts."""
        return {one: NumberType() for one in ("years", "months")}

    def _at(self, place: GridPoint) -> Any:
        return Months(int(place))
