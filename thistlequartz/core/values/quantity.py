"""A number given in another unit than that of its field: what it is there, and what was given."""

from decimal import Decimal
from typing import Any, Self


class Quantity(Decimal):
    """A number in the unit of its field, as formulas see it, with the amount and unit given.

    Equal to any decimal of its value: an amount in another unit is no other quantity.
    """

    __slots__ = ("amount", "unit")

    amount: Decimal
    unit: str

    def __new__(cls, value: Decimal, amount: Decimal, unit: str) -> Self:
        """`value` is in the unit of the field, `amount` in the one that is given."""
        made = super().__new__(cls, value)
        made.amount, made.unit = amount, unit
        return made

    def __reduce__(self) -> tuple[Any, ...]:
        """Copied and sent to another process with its unit."""
        return Quantity, (Decimal(self), self.amount, self.unit)

    def __copy__(self) -> "Quantity":
        """Itself: it never changes."""
        return self

    def __deepcopy__(self, memo: object) -> "Quantity":
        """Itself: it never changes."""
        return self
