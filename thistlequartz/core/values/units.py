"""Units of measure and what one is in another, exactly, by pint."""

import re
from decimal import ROUND_HALF_EVEN, Context, Decimal
from fractions import Fraction
from functools import cache
from typing import TYPE_CHECKING, Any, Final, NamedTuple

from thistlequartz.core.translation import tr

from .numbers import MAX_DIGITS

if TYPE_CHECKING:
    from pint import UnitRegistry

_LONGEST: Final = 30
_TERM: Final = r"(?:[^\W\d_]|[°%µμΩ])[^\W\d]*(?:\^?-?[1-9]|[²³])?"
_WRITTEN: Final = re.compile(rf"{_TERM}(?:[/*·]{_TERM}){{0,4}}")
"""Names with small powers, multiplied and divided: m/s², mg/l, kWh."""
_ENOUGH: Final = Context(prec=3 * MAX_DIGITS, rounding=ROUND_HALF_EVEN)


class Conversion(NamedTuple):
    """A unit in another one: `amount * factor + offset`, which is exact."""

    factor: Fraction
    offset: Fraction

    def applied(self, amount: Decimal, scale: int) -> Decimal:
        """An amount in the other unit, rounded half to even at the scale."""
        exact = Fraction(amount) * self.factor + self.offset
        rounded = round(exact * 10**scale)  # half to even, as Python says of fractions
        return Decimal(rounded).scaleb(-scale, _ENOUGH)


@cache
def _units() -> "UnitRegistry[Any]":
    """Made at its first use: it takes a second, which few processes need to spend."""
    from pint import UnitRegistry  # noqa: PLC0415

    return UnitRegistry(non_int_type=Fraction, on_redefinition="ignore")


def unit_problem(unit: str) -> str | None:
    """What is wrong with a unit that a steward wrote; None where it is known."""
    if len(unit) > _LONGEST or not _WRITTEN.fullmatch(unit) or _unit(unit) is None:
        return tr("“{unit}” is no unit of measure: write one such as kg, m or °C.", unit=unit)
    return None


@cache
def conversion(unit: str, other: str) -> Conversion | None:
    """How a unit is converted to another one; None where both do not measure the same."""
    one, to = _unit(unit), _unit(other)
    if one is None or to is None or not one.is_compatible_with(to):
        return None
    quantity = _units().Quantity
    offset = Fraction(quantity(Fraction(0), one).to(to).magnitude)
    return Conversion(Fraction(quantity(Fraction(1), one).to(to).magnitude) - offset, offset)


@cache
def _unit(unit: str) -> Any:
    """None where it is not known. Whatever pint makes of a text is an answer, or is none."""
    try:
        return _units().parse_units(unit.replace("·", "*"))
    except Exception:
        return None
