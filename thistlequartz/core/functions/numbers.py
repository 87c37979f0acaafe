"""Numbers: clause 10.3.4.5."""

import decimal
from collections.abc import Callable
from datetime import timedelta
from decimal import Decimal
from fractions import Fraction
from math import ceil, floor
from typing import Any

from thistlequartz.core.values import ARITHMETIC, Months

from .operations import finite, negate
from .record import Inverse, Places, function
from .text import position

_FINEST_GRID = 20
"""Digits after the point up to which roundings are followed back."""
_SCALES = range(-6111, 6177)
_WHOLE = Decimal(0)
"""The scale of a function that is given none; one that is null gives null."""
_WIDE = decimal.Context(prec=7000, traps=[])


def _plain(value: Any) -> Decimal:
    if not isinstance(value, Decimal):
        raise TypeError
    return value


def _rounding(mode: str) -> Callable[..., Decimal | None]:
    def rounded(number: Any, scale: Any = _WHOLE) -> Decimal | None:
        value, digits = _plain(number), position(scale)
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


def _around_grid(offsets: tuple[Fraction, ...]) -> Inverse:
    def back(targets: Places, digits: Any = _WHOLE) -> Places | None:
        if not isinstance(digits, Decimal | int) or digits != int(digits):
            return None
        if not 0 <= digits <= _FINEST_GRID:
            return None
        step = Fraction(1, 10 ** int(digits))
        near = {
            (whole + more) * step
            for target in targets
            for whole in (floor(target / step), ceil(target / step))
            for more in offsets
        }
        return targets | near

    return back


around_halves = _around_grid((Fraction(-1, 2), Fraction(0), Fraction(1, 2)))
"""Where a value may be rounded to or past places, to the nearest on a grid of a scale."""
_around_wholes = _around_grid((Fraction(-1), Fraction(0), Fraction(1)))


def _both_signs(targets: Places) -> Places:
    return targets | frozenset(-target for target in targets) | {Fraction(0)}


FUNCTIONS = (
    function("decimal", "n: number, scale: number", "number", "rounded half to even at a scale",
             "decimal(2.5, 0) = 2", _rounding(decimal.ROUND_HALF_EVEN),
             monotone="rising", inverse=around_halves),
    function("floor", "n: number, scale?: number", "number", "rounded down", "floor(-1.5) = -2",
             _rounding(decimal.ROUND_FLOOR), monotone="rising", inverse=_around_wholes),
    function("ceiling", "n: number, scale?: number", "number", "rounded up", "ceiling(-1.5) = -1",
             _rounding(decimal.ROUND_CEILING), monotone="rising", inverse=_around_wholes),
    function("round up", "n: number, scale: number", "number", "rounded away from zero",
             "round up(-1.5, 0) = -2", _rounding(decimal.ROUND_UP),
             monotone="rising", inverse=_around_wholes),
    function("round down", "n: number, scale: number", "number", "rounded towards zero",
             "round down(-1.5, 0) = -1", _rounding(decimal.ROUND_DOWN),
             monotone="rising", inverse=_around_wholes),
    function("round half up", "n: number, scale: number", "number",
             "rounded, halves away from zero", "round half up(2.5, 0) = 3",
             _rounding(decimal.ROUND_HALF_UP), monotone="rising", inverse=around_halves),
    function("round half down", "n: number, scale: number", "number",
             "rounded, halves towards zero", "round half down(2.5, 0) = 2",
             _rounding(decimal.ROUND_HALF_DOWN), monotone="rising", inverse=around_halves),
    function("abs", "n: any", "same", "without its sign", "abs(-10) = 10", _abs,
             inverse=_both_signs),
    function("modulo", "dividend: number, divisor: number", "number",
             "the remainder, with the sign of the divisor", "modulo(-12, 5) = 3", _modulo),
    function("sqrt", "number: number", "number", "the square root", "sqrt(16) = 4", _root,
             monotone="rising"),
    function("log", "number: number", "number", "the natural logarithm", "log(1) = 0", _logarithm,
             monotone="rising"),
    function("exp", "number: number", "number", "e to the power of a number", "exp(0) = 1",
             lambda number: finite(ARITHMETIC.exp(_plain(number))), monotone="rising"),
    function("odd", "number: number", "boolean", "whether a number is odd", "odd(5)",
             lambda number: position(number) % 2 == 1),
    function("even", "number: number", "boolean", "whether a number is even", "even(2)",
             lambda number: position(number) % 2 == 0),
)  # fmt: skip
