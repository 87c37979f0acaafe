"""A number with a unit that whoever enters it may choose; formulas see it in the field's unit."""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any, ClassVar

from thistlequartz.core.translation import listed, tr
from thistlequartz.core.values.fault import Fault, quoted
from thistlequartz.core.values.numbers import read_number
from thistlequartz.core.values.quantity import Quantity
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle, show_number
from thistlequartz.core.values.units import conversion
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
from .domain import Domain, SolverRange
from .number import NumberType

_AMOUNT = re.compile(r"([-+−]?[\d.,'’\s]*\d)\s*(.*)", re.DOTALL)


@dataclass(frozen=True, slots=True)
class QuantityType(FieldType):
    """An exact number in `unit`, rounded to `scale`, which may be given in one of `units`."""

    unit: str
    units: tuple[str, ...] = ()
    scale: int = 6

    name: ClassVar[FieldTypeName] = "quantity"
    called: ClassVar[str] = tr("a quantity")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ("decimal_mark",)
    kind: ClassVar[EvaluatedAs] = "number"
    compared_as: ClassVar[ComparedAs] = "numbers"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "order", "between", "lists")
    part: ClassVar[OfferedPart | None] = None
    is_ordered: ClassVar[bool] = True
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """A number in the field's unit, or with one of the others behind it."""
        if isinstance(given, Quantity):
            return self._converted(given.amount, given.unit)
        found = _AMOUNT.fullmatch(given.strip()) if isinstance(given, str) else None
        if found is None or not found[2]:
            return read_number(given, self.scale, None, settings.decimal_mark)
        amount = read_number(found[1], None, None, settings.decimal_mark)
        return amount if isinstance(amount, Fault) else self._converted(amount, found[2])

    def _converted(self, amount: Decimal, unit: str) -> Reading:
        if unit == self.unit:
            return read_number(amount, self.scale, None, None)
        to = conversion(unit, self.unit) if unit in self.units else None
        if to is None:
            return Fault(
                tr(
                    "{unit} is no unit of this field: write {units}.",
                    unit=quoted(unit),
                    units=listed((self.unit, *self.units), "or"),
                )
            )
        value = read_number(to.applied(amount, self.scale), self.scale, None, None)
        if isinstance(value, Fault):
            return value
        if amount and not value and not to.offset:
            given = f"{amount:f}"
            return Fault(
                tr(
                    "{amount} {unit} is less than this field can tell, which has {scale} digits "
                    "after the point of {own}.",
                    amount=given,
                    unit=unit,
                    scale=self.scale,
                    own=self.unit,
                )
            )
        return Quantity(value, amount, unit)

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """Numbers in the field's own unit."""
        return NumberType(self.scale).quick_reader(settings)

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """Plain digits."""
        return NumberType(self.scale).usual_spelling(settings)

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """As it was given; where that is another unit, with what it is in the field's."""

        def show(value: Decimal) -> str:
            own = show_number(value, self.unit, False, True, style)
            if not isinstance(value, Quantity):
                return own
            given = show_number(value.amount, value.unit, False, True, style)
            return tr("{given} ({own})", given=given, own=own)

        return show

    def domain(self, today: date) -> Domain | None:
        """Every number that fits the scale."""
        return NumberType(self.scale).domain(today)

    def usual_entry(self, today: date) -> str | None:
        """One of its own unit."""
        return "1"

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def entries(self) -> Sequence[Stored]:
        """Any number of them."""
        return []

    def bounds_hint(self) -> str | None:
        """A number."""
        return tr("a number {bounds}")

    def holds(self, value: object) -> bool:
        """Decimals."""
        return isinstance(value, Decimal)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """A number of the field's unit, rounded half to even at the scale."""
        return NumberType(self.scale).coerced(value, settings)

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The number in the field's unit."""
        return Decimal

    def solver_range(self) -> SolverRange | None:
        """The numbers of its scale."""
        return NumberType(self.scale).solver_range()

    def properties(self) -> Mapping[str, FieldType]:
        """None."""
        return {}

    def unrounded(self) -> FieldType:
        """Finer ones, in the same units."""
        return QuantityType(self.unit, self.units, _FINER)

    def formula_type(self) -> FieldType:
        """A number of its unit."""
        return NumberType(self.scale, self.unit)

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
        """A number where it stands in the field's unit, else what was given."""
        if isinstance(stored, str) and _AMOUNT.sub(r"\2", stored) == "":
            return Decimal(stored)
        return stored


_FINER = 20
"""Digits after the point of a bound."""
