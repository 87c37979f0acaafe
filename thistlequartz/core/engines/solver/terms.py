"""Values as the solver knows them, and what is asked of two of them."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from typing import Any, Final

import z3

from thistlequartz.core.functions.operations import in_microseconds, since_midnight
from thistlequartz.core.kernel.nodes import Kind
from thistlequartz.core.values import Months

DAY: Final = 86_400_000_000
"""Microseconds."""
_EPOCH: Final = datetime(1970, 1, 1, tzinfo=UTC)
TRUE, FALSE = z3.BoolVal(True), z3.BoolVal(False)


@dataclass(frozen=True, slots=True)
class TruthTerm:
    """A boolean: true, false, or neither, which is null."""

    true: Any
    false: Any

    @property
    def blank(self) -> Any:
        """That it is null."""
        return z3.Not(z3.Or(self.true, self.false))


@dataclass(frozen=True, slots=True)
class ValueTerm:
    """A number, text, date, time, instant or duration. Where it is blank, `at` says nothing."""

    kind: Kind
    blank: Any
    at: Any
    scale: int | None = None
    """Of a number: the digits after its point, where that is known."""


@dataclass(frozen=True, slots=True)
class CodesTerm:
    """A set of codes, each in it or not; blank where none is, unless it was written as a list."""

    members: dict[str, Any]
    written: bool = False

    @property
    def blank(self) -> Any:
        """That none of them is in it."""
        return FALSE if self.written else z3.Not(any_of(self.members.values()))


@dataclass(frozen=True, slots=True)
class ListTerm:
    """A list of known length."""

    items: "tuple[Term, ...]"
    blank: Any = FALSE


@dataclass(frozen=True, slots=True)
class NullTerm:
    """Always null."""

    blank: Any = TRUE


@dataclass(frozen=True, slots=True)
class OpaqueTerm:
    """Something of which nothing is known but whether it is blank."""

    blank: Any


Term = TruthTerm | ValueTerm | CodesTerm | ListTerm | NullTerm | OpaqueTerm
NULL: Final = NullTerm()


def any_of(parts: Any) -> Any:
    """Z3's or; false of nothing."""
    listed = [one for one in parts if not z3.is_false(one)]
    if any(z3.is_true(one) for one in listed):
        return TRUE
    return FALSE if not listed else listed[0] if len(listed) == 1 else z3.Or(*listed)


def all_of(parts: Any) -> Any:
    """Z3's and; true of nothing."""
    listed = [one for one in parts if not z3.is_true(one)]
    if any(z3.is_false(one) for one in listed):
        return FALSE
    return TRUE if not listed else listed[0] if len(listed) == 1 else z3.And(*listed)


def none_of(one: Any) -> Any:
    """Z3's not, without a constant in it."""
    return FALSE if z3.is_true(one) else TRUE if z3.is_false(one) else z3.Not(one)


def known(condition: Any) -> TruthTerm:
    """A condition that is never null."""
    return TruthTerm(condition, none_of(condition))


def unless(blank: Any, condition: Any) -> TruthTerm:
    """A condition that is null where something is blank."""
    there = none_of(blank)
    return TruthTerm(all_of((there, condition)), all_of((there, none_of(condition))))


def number_of(value: Any) -> int | Decimal | None:
    """Return the number that stands for a constant of any kind but text and boolean.

    None where it has none, as a date-time without an offset.
    """
    match value:
        case Decimal():
            return value if value.is_finite() else None
        case datetime():
            return None if value.tzinfo is None else in_microseconds(value - _EPOCH)
        case date():
            return value.toordinal()
        case time():
            return None if value.tzinfo else in_microseconds(since_midnight(value))
        case timedelta():
            return in_microseconds(value)
        case Months():
            return value.count
        case _:
            return None


def value_at(kind: Kind, number: Any) -> Any:
    """The value of a kind that a number stands for; the opposite of `number_of`."""
    match kind:
        case "number":
            return Decimal(number)
        case "date":
            return date.fromordinal(int(number))
        case "time":
            return (_EPOCH + timedelta(microseconds=int(number))).time()
        case "date_time":
            return _EPOCH + timedelta(microseconds=int(number))
        case "days":
            return timedelta(microseconds=int(number))
        case "months":
            return Months(int(number))
        case _:
            raise ValueError(kind)


def literal(number: int | Decimal) -> Any:
    """A number as Z3 holds it."""
    if isinstance(number, int) or number == number.to_integral_value():
        return z3.IntVal(int(number))
    return z3.RealVal(str(number))


def merged(condition: Any, then: Term, otherwise: Term) -> Term | None:
    """One of two values by a condition; None where they have nothing in common."""
    if z3.is_true(condition):
        return then
    if z3.is_false(condition):
        return otherwise
    match then, otherwise:
        case NullTerm(), NullTerm():
            return NULL
        case NullTerm(), _:
            return _blank_where(condition, otherwise)
        case _, NullTerm():
            return _blank_where(none_of(condition), then)
        case TruthTerm(), TruthTerm():
            return TruthTerm(
                z3.If(condition, then.true, otherwise.true),
                z3.If(condition, then.false, otherwise.false),
            )
        case ValueTerm(), ValueTerm() if then.kind == otherwise.kind:
            scales = (then.scale, otherwise.scale)
            return ValueTerm(
                then.kind,
                z3.If(condition, then.blank, otherwise.blank),
                z3.If(condition, then.at, otherwise.at),
                None if None in scales else max(s for s in scales if s is not None),
            )
        case CodesTerm(), CodesTerm() if then.written == otherwise.written:
            codes = dict.fromkeys((*then.members, *otherwise.members))
            return CodesTerm(
                {
                    code: z3.If(
                        condition,
                        then.members.get(code, FALSE),
                        otherwise.members.get(code, FALSE),
                    )
                    for code in codes
                },
                then.written,
            )
        case _:
            return None


def _blank_where(condition: Any, term: Term) -> Term | None:
    there = none_of(condition)
    match term:
        case TruthTerm():
            return TruthTerm(all_of((there, term.true)), all_of((there, term.false)))
        case ValueTerm():
            blank = any_of((condition, term.blank))
            return ValueTerm(term.kind, blank, term.at, term.scale)
        case CodesTerm(members, written) if not written:
            return CodesTerm({code: all_of((there, one)) for code, one in members.items()})
        case OpaqueTerm():
            return OpaqueTerm(any_of((condition, term.blank)))
        case _:
            return None


def equal(left: Term, right: Term) -> Any | None:
    """That two values are equal, which is never null; None where that cannot be said."""
    match left, right:
        case (NullTerm(), _) | (_, NullTerm()):
            return all_of((left.blank, right.blank))
        case TruthTerm(), TruthTerm():
            return all_of((left.true == right.true, left.false == right.false))
        case ValueTerm(), ValueTerm():
            both_blank = all_of((left.blank, right.blank))
            if left.kind != right.kind:
                return both_blank
            both = all_of((none_of(left.blank), none_of(right.blank), left.at == right.at))
            return any_of((both_blank, both))
        case CodesTerm(), CodesTerm():
            codes = dict.fromkeys((*left.members, *right.members))
            same = all_of(
                left.members.get(code, FALSE) == right.members.get(code, FALSE) for code in codes
            )
            if left.written == right.written:
                return same
            return all_of((same, none_of(left.blank), none_of(right.blank)))
        case ((TruthTerm() | ValueTerm()), (TruthTerm() | ValueTerm())):
            return all_of((left.blank, right.blank))
        case _:
            return None
