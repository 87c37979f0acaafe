"""Numbers: clause 10.3.4.5."""

import decimal
from collections.abc import Callable
from datetime import timedelta
from decimal import Decimal
from typing import Any

from thistlequartz.core.evaluation.operations import ARITHMETIC, finite, negate
from thistlequartz.core.values import Months

from .text import position

_SCALES = range(-6111, 6177)
_WIDE = decimal.Context(prec=7000, traps=[])


def _plain(value: Any) -> Decimal:
    if not isinstance(value, Decimal):
        raise TypeError
    return value


def _rounding(mode: str) -> Callable[..., Decimal | None]:
    def rounded(number: Any, scale: Any = None) -> Decimal | None:
        value, digits = _plain(number), 0 if scale is None else position(scale)
        if digits not in _SCALES:
            return None
        unit = Decimal(1).scaleb(-digits)
        exact = value.quantize(unit, rounding=mode, context=_WIDE)
        return finite(ARITHMETIC.plus(exact))

    return rounded


def _modulo(dividend: Any, divisor: Any) -> Decimal | None:
    """dividend - divisor * floor(dividend / divisor)."""
    a, b = _plain(dividend), _plain(divisor)
    if b == 0:
        return None
    remainder = _WIDE.remainder(a, b)
    if remainder != 0 and (remainder < 0) != (b < 0):
        remainder = _WIDE.add(remainder, b)
    return finite(ARITHMETIC.plus(remainder))


def _abs(value: Any) -> Any:
    match value:
        case Decimal():
            return abs(value)
        case timedelta():
            return abs(value)
        case Months():
            return value if value.count >= 0 else negate(value)
        case _:
            return None


def _root(number: Any) -> Decimal | None:
    value = _plain(number)
    return finite(ARITHMETIC.sqrt(value)) if value >= 0 else None


def _logarithm(number: Any) -> Decimal | None:
    value = _plain(number)
    return finite(ARITHMETIC.ln(value)) if value > 0 else None


FUNCTIONS: dict[str, Callable[..., Any]] = {
    "decimal": _rounding(decimal.ROUND_HALF_EVEN),
    "floor": _rounding(decimal.ROUND_FLOOR),
    "ceiling": _rounding(decimal.ROUND_CEILING),
    "round up": _rounding(decimal.ROUND_UP),
    "round down": _rounding(decimal.ROUND_DOWN),
    "round half up": _rounding(decimal.ROUND_HALF_UP),
    "round half down": _rounding(decimal.ROUND_HALF_DOWN),
    "abs": _abs,
    "modulo": _modulo,
    "sqrt": _root,
    "log": _logarithm,
    "exp": lambda number: finite(ARITHMETIC.exp(_plain(number))),
    "odd": lambda number: position(number) % 2 == 1,
    "even": lambda number: position(number) % 2 == 0,
}
