"""Arithmetic for the solver: exact, but for quotients, which are rounded at 34 digits."""

from collections.abc import Callable
from typing import Any, Final

import z3

from thistlequartz.core.kernel import NotTranslated, nodes

from .calendar import LAST_DAY, moved_by_months
from .surroundings import NAME, TranslationContext
from .terms import (
    DAY,
    NULL,
    OpaqueTerm,
    Term,
    ValueTerm,
    all_of,
    any_of,
    none_of,
)

MOST_POWER: Final = 4
_ROUNDED: Final = z3.RealVal("1e-30")
"""By what share a quotient may be off, at most."""

_Operation = Callable[[TranslationContext, ValueTerm, ValueTerm], Term]


def arithmetic(
    surroundings: TranslationContext, node: nodes.Arithmetic, left: Term, right: Term
) -> Term:
    """Two values joined by an operator; refused by name where that cannot be said."""
    if isinstance(left, OpaqueTerm) or isinstance(right, OpaqueTerm):
        raise NotTranslated(NAME, f"{node.operator} between values whose kinds are not known")
    if not isinstance(left, ValueTerm) or not isinstance(right, ValueTerm):
        return NULL
    if node.operator == "**":
        return _power(left, right)
    operation = _OPERATIONS.get((node.operator, left.kind, right.kind))
    if operation is None:
        raise NotTranslated(NAME, f"{left.kind} {node.operator} {right.kind}")
    return operation(surroundings, left, right)


def either_blank(left: ValueTerm, right: ValueTerm) -> Any:
    """That one of two values is blank."""
    return any_of((left.blank, right.blank))


def whole(number: Any) -> Any:
    """As a real number."""
    return z3.ToReal(number) if z3.is_int(number) else number


def _joined(gives: nodes.Kind, join: Callable[[Any, Any], Any]) -> _Operation:
    def joined(_: TranslationContext, left: ValueTerm, right: ValueTerm) -> Term:
        scales = (left.scale, right.scale)
        scale = None if None in scales else max(one or 0 for one in scales)
        return ValueTerm(gives, either_blank(left, right), join(left.at, right.at), scale)

    return joined


def _product(_: TranslationContext, left: ValueTerm, right: ValueTerm) -> Term:
    scales = (left.scale, right.scale)
    scale = None if None in scales else sum(one or 0 for one in scales)
    return ValueTerm("number", either_blank(left, right), left.at * right.at, scale)


def _quotient(surroundings: TranslationContext, left: ValueTerm, right: ValueTerm) -> Term:
    blank = any_of((left.blank, right.blank, right.at == 0))
    divisor = z3.simplify(right.at)
    quotient = surroundings.fresh(z3.RealSort())
    dividend = whole(left.at)
    if z3.is_int_value(divisor) or z3.is_rational_value(divisor):
        exact = dividend / whole(divisor)
        off = z3.If(exact >= 0, exact, -exact) * _ROUNDED
        surroundings.assume(all_of((quotient >= exact - off, quotient <= exact + off)))
        return ValueTerm("number", blank, quotient)
    product, size = quotient * whole(right.at), z3.If(dividend >= 0, dividend, -dividend)
    near = all_of((product >= dividend - size * _ROUNDED, product <= dividend + size * _ROUNDED))
    surroundings.assume(z3.Implies(none_of(blank), near))
    return ValueTerm("number", blank, quotient)


def _power(left: ValueTerm, right: ValueTerm) -> Term:
    exponent = z3.simplify(right.at)
    if left.kind != "number" or not z3.is_int_value(exponent):
        raise NotTranslated(NAME, "**")
    times = exponent.as_long()
    if not 0 <= times <= MOST_POWER:
        raise NotTranslated(NAME, "**")
    product = z3.IntVal(1)
    for _ in range(times):
        product = product * left.at
    return ValueTerm("number", either_blank(left, right), product)


def _moved_by_days(surroundings: TranslationContext, day: ValueTerm, by: ValueTerm) -> Term:
    """So many whole days on, rounded down (as midnight moved by the duration says its day)."""
    step = z3.simplify(by.at)
    if z3.is_int_value(step):
        there = day.at + z3.IntVal(step.as_long() // DAY)
    else:
        there = surroundings.fresh(z3.IntSort())
        moment = day.at * DAY + by.at
        surroundings.assume(all_of((there * DAY <= moment, moment < (there + 1) * DAY)))
    beyond = any_of((there < 1, there > LAST_DAY))
    return ValueTerm("date", any_of((either_blank(day, by), beyond)), there)


def _clock_moved(_: TranslationContext, clock: ValueTerm, by: ValueTerm) -> Term:
    return ValueTerm("time", either_blank(clock, by), (clock.at + by.at) % DAY)


def _turned(operation: _Operation) -> _Operation:
    """With the operands the other way round."""
    return lambda surroundings, left, right: operation(surroundings, right, left)


def _back(operation: _Operation) -> _Operation:
    """By as much less."""

    def back(surroundings: TranslationContext, left: ValueTerm, right: ValueTerm) -> Term:
        return operation(surroundings, left, negated(right))

    return back


def negated(value: ValueTerm) -> ValueTerm:
    """A number or duration with its sign turned."""
    return ValueTerm(value.kind, value.blank, -value.at, value.scale)


def _days_between(_: TranslationContext, left: ValueTerm, right: ValueTerm) -> Term:
    return ValueTerm("days", either_blank(left, right), (left.at - right.at) * DAY)


_PLUS = {kind: _joined(kind, lambda a, b: a + b) for kind in ("number", "days", "months")}
_MINUS = {kind: _joined(kind, lambda a, b: a - b) for kind in ("number", "days", "months")}
_MOMENT_MOVED = _joined("date_time", lambda a, b: a + b)
_MOVES: dict[tuple[str, str], _Operation] = {
    ("date", "days"): _moved_by_days,
    ("date", "months"): moved_by_months,
    ("date_time", "days"): _MOMENT_MOVED,
    ("time", "days"): _clock_moved,
}
_BETWEEN: dict[str, _Operation] = {
    "date": _days_between,
    "date_time": _joined("days", lambda a, b: a - b),
    "time": _joined("days", lambda a, b: a - b),
}
_OPERATIONS: dict[tuple[str, str, str], _Operation] = {
    **{("+", kind, kind): one for kind, one in _PLUS.items()},
    **{("-", kind, kind): one for kind, one in _MINUS.items()},
    **{("+", *kinds): one for kinds, one in _MOVES.items()},
    **{("+", by, moved): _turned(one) for (moved, by), one in _MOVES.items()},
    **{("-", *kinds): _back(one) for kinds, one in _MOVES.items()},
    **{("-", kind, kind): one for kind, one in _BETWEEN.items()},
    ("*", "number", "number"): _product,
    ("/", "number", "number"): _quotient,
    ("/", "days", "days"): _quotient,
    ("/", "months", "months"): _quotient,
}
"""By operator and kinds; everything else is left free."""
