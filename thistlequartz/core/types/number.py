"""An exact decimal, whole or with digits after the point, and its unit."""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import ROUND_HALF_EVEN, Decimal
from fractions import Fraction
from functools import cache
from typing import Any, ClassVar, Final

from thistlequartz.core.translation import tr
from thistlequartz.core.values.numbers import ARITHMETIC, MAX_DIGITS, read_number
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle, show_number
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
    never,
)
from .cells import spelt
from .domain import Domain, GridPoint, SolverRange, in_sight
from .reading import read_value
from .spellings import matching

_FINEST_SCALE = 6
"""Digits after the point that are looked at where a field has no limit of its own."""
LARGEST: Final = 10**20
"""Numbers beyond it are left out of what is proved."""
_DIGITS = 17
"""The most on either side of the point that are read the quick way."""
_LARGE = 10**_DIGITS
_OF_NUMBERS = frozenset("0123456789.-")


@dataclass(frozen=True, slots=True)
class NumberType(FieldType):
    """An exact decimal with at most `scale` digits after the point (None: no limit; 0: whole).

    `unit`, `unit_first` and `grouped` (thousands marks) say how it is shown, never what it is.
    """

    scale: int | None = None
    unit: str | None = None
    unit_first: bool = False
    grouped: bool = True

    name: ClassVar[FieldTypeName] = "number"
    called: ClassVar[str] = tr("a number")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ("decimal_mark",)
    kind: ClassVar[EvaluatedAs] = "number"
    compared_as: ClassVar[ComparedAs] = "numbers"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "order", "between", "lists")
    part: ClassVar[OfferedPart | None] = None
    is_ordered: ClassVar[bool] = True
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """Digits with spaces, thousands marks, the unit or the sign of a currency."""
        return read_number(given, self.scale, self.unit, settings.decimal_mark)

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """Plain digits, and decimals that fit the scale."""
        if self._unit_looks_like_a_number():
            return never
        return _quick(self.scale, self._written(settings))

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """Plain digits."""
        if self._unit_looks_like_a_number():
            return None
        return matching(self._written(settings), Decimal)

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """With thousands marks and the unit."""
        return lambda value: show_number(value, self.unit, self.unit_first, self.grouped, style)

    def domain(self, today: date) -> Domain | None:
        """Every number that fits the scale."""
        digits = _FINEST_SCALE if self.scale is None else self.scale
        step = Fraction(1, 10**digits)

        def value(place: GridPoint) -> Decimal:
            if place.denominator == 1:
                return Decimal(place.numerator)
            return Decimal(f"{int(place * 10**digits)}E-{digits}")

        return Domain("numbers", step, value, in_sight(step), step >= 1)

    def usual_entry(self, today: date) -> str | None:
        """One: nought would hide what a formula does with it."""
        return "1"

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def bounds_hint(self) -> str | None:
        """A number, whole where the scale asks for it."""
        return tr("a whole number {bounds}") if self.scale == 0 else tr("a number {bounds}")

    def holds(self, value: object) -> bool:
        """Decimals."""
        return isinstance(value, Decimal)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """Rounded half to even at the scale."""
        if not isinstance(value, Decimal) or not value.is_finite():
            return None
        if self.scale is not None:
            value = value.quantize(Decimal(1).scaleb(-self.scale), ROUND_HALF_EVEN, ARITHMETIC)
        read = read_value(value, NumberType(self.scale))
        return read if isinstance(read, Decimal) else None

    def entries(self) -> Sequence[Stored]:
        """Any number of them."""
        return []

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The number."""
        return None

    def solver_range(self) -> SolverRange | None:
        """The numbers of its scale; whole ones where it has none."""
        digits = self.scale or 0
        largest = LARGEST * 10**digits
        return SolverRange(-largest, largest, digits)

    def properties(self) -> Mapping[str, FieldType]:
        """None."""
        return {}

    def unrounded(self) -> FieldType:
        """Any number, in its unit."""
        return NumberType(unit=self.unit)

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
        """A number."""
        return Decimal(stored) if isinstance(stored, str) else stored

    def _unit_looks_like_a_number(self) -> bool:
        """Whether taking the unit off may take a part of the number."""
        return self.unit is not None and not _OF_NUMBERS.isdisjoint(self.unit)

    def _written(self, settings: ReadingSettings) -> re.Pattern[str]:
        # Where a comma is the decimal mark, a point groups thousands.
        return _written_to(0 if settings.decimal_mark == "comma" else self.scale)


def _quick(scale: int | None, written: re.Pattern[str]) -> Quick:
    exact, typed = _written_to(scale).fullmatch, written.fullmatch

    def from_decimal(given: Decimal) -> object:
        sign, digits, exponent = given.as_tuple()
        if type(exponent) is not int or exponent > 0 or len(digits) > MAX_DIGITS:
            return NOT_CANONICAL
        if exponent and (digits[-1] == 0 or -exponent > MAX_DIGITS):
            return NOT_CANONICAL
        if (scale is not None and -exponent > scale) or (sign and not given):
            return NOT_CANONICAL
        return given

    def number(given: object) -> object:
        if type(given) is str:
            if typed(given):
                return Decimal(given)
            # Spaces group thousands.
            compact = "".join(given.split()) if given.isascii() else ""
            return Decimal(compact) if typed(compact) else NOT_CANONICAL
        if type(given) is Decimal:
            return from_decimal(given)
        if type(given) is float or (type(given) is int and -_LARGE < given < _LARGE):
            text = str(given)
            return Decimal(text) if exact(text) else NOT_CANONICAL
        return NOT_CANONICAL

    return number


@cache
def _written_to(scale: int | None) -> re.Pattern[str]:
    """Plain digits, to so many after the point, the last of them no nought."""
    most = _DIGITS if scale is None else min(scale, _DIGITS)
    after = "" if most == 0 else rf"\.[0-9]{{0,{most - 1}}}[1-9]"
    whole = rf"-?[1-9][0-9]{{0,{_DIGITS - 1}}}"
    forms = [rf"{whole}(?:{after})?", f"-?0{after}", "0"] if after else [whole, "0"]
    return re.compile("|".join(forms), re.ASCII)
