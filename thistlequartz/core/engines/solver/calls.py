"""Calls of built-in functions as the solver knows them."""

from calendar import day_name, month_name
from collections.abc import Callable, Sequence
from functools import reduce
from typing import Any, Final

import z3

from thistlequartz.core.functions import FUNCTIONS, INTERNAL
from thistlequartz.core.kernel import nodes

from . import calendar
from .arithmetic import either_blank, negated, whole
from .surroundings import Translating
from .terms import (
    FALSE,
    NULL,
    CodesTerm,
    ListTerm,
    NullTerm,
    OpaqueTerm,
    Term,
    TruthTerm,
    ValueTerm,
    all_of,
    any_of,
    known,
    literal,
    none_of,
    unless,
)

_Arguments = tuple[Term, ...]
_Way = Callable[[Translating, nodes.Call, _Arguments], Term | None]
"""None: it cannot say."""
_SETTLING: Final = ("fold case", "upper case", "lower case", "trim")
"""Functions that give texts and, called again, change nothing more."""
_TOTAL: Final = {
    *_SETTLING, "fits pattern", "in format", "matches", "contains", "starts with", "ends with",
    "string length",
}  # fmt: skip
"""Functions that have an answer for every text, if they have one for any."""
_ONE, _ZERO = z3.IntVal(1), z3.IntVal(0)


def asked_of_text(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    """A function of a text and constants: it is what it is for every known text."""
    if not given or not all(isinstance(one, nodes.Constant) for one in node.arguments[1:]):
        return None
    subject, more = (
        given[0],
        [one.value for one in node.arguments[1:] if isinstance(one, nodes.Constant)],
    )
    function = FUNCTIONS.get(node.function) or INTERNAL.get(node.function)
    if not isinstance(subject, ValueTerm) or subject.kind != "text" or function is None:
        return None
    body, name = function.body, (node.function, *more)

    def answer(text: str) -> Any:
        try:
            return body(text, *more)
        except (TypeError, ValueError, ArithmeticError):
            return None

    nothing = subject.blank
    if node.function not in _TOTAL or answer("a") is None:
        blank = translator.texts.asked((*name, "blank"), z3.BoolSort(), lambda t: answer(t) is None)
        nothing = any_of((nothing, blank(subject.at)))
    if node.kind == "boolean":
        is_so = translator.texts.asked(name, z3.BoolSort(), answer)
        return unless(nothing, is_so(subject.at))
    if node.kind == "number":

        def number(text: str) -> Any:
            told = answer(text)
            return None if told is None else literal(told)

        sort = z3.IntSort() if node.function == "string length" else z3.RealSort()
        found = translator.texts.asked(name, sort, number)(subject.at)
        if node.function == "string length":
            translator.surroundings.assume(z3.Implies(none_of(subject.blank), found >= 1))
        return ValueTerm("number", nothing, found, 0 if sort == z3.IntSort() else None)
    if node.function in _SETTLING:
        turned = translator.texts.asked(
            name, z3.IntSort(), lambda text: translator.texts.number(answer(text))
        )
        return ValueTerm("text", nothing, turned(subject.at))
    return None


def _items(given: _Arguments) -> Sequence[Term] | None:
    """What a function of many values is given: one list, or the values themselves."""
    if len(given) == 1 and isinstance(given[0], ListTerm):
        return given[0].items
    return (
        None if any(isinstance(one, ListTerm | CodesTerm | OpaqueTerm) for one in given) else given
    )


def _filled(given: _Arguments) -> list[ValueTerm] | None:
    """The values among them, blank or not, of one kind; None where that cannot be said."""
    items = _items(given)
    if items is None:
        return None
    values = [one for one in items if isinstance(one, ValueTerm)]
    others = [one for one in items if not isinstance(one, ValueTerm | NullTerm)]
    kinds = {one.kind for one in values}
    return values if values and not others and len(kinds) == 1 and "text" not in kinds else None


def _all_blank(values: Sequence[ValueTerm]) -> Any:
    return all_of(one.blank for one in values)


def _sum(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    values = _filled(given)
    if values is None:
        return None
    parts = [z3.If(one.blank, z3.IntVal(0), one.at) for one in values]
    return ValueTerm(values[0].kind, _all_blank(values), z3.Sum(parts), _scale(values))


def _scale(values: Sequence[ValueTerm]) -> int | None:
    scales = [one.scale for one in values]
    return None if None in scales else max(one or 0 for one in scales)


def _mean(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    values = _filled(given)
    if values is None or len(values) > 1:
        return None
    return values[0]


def _extreme(better: Callable[[Any, Any], Any]) -> _Way:
    def extreme(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
        values = _filled(given)
        if values is None:
            return None

        def best(one: ValueTerm, other: ValueTerm) -> ValueTerm:
            takes = all_of((none_of(other.blank), any_of((one.blank, better(other.at, one.at)))))
            return ValueTerm(
                one.kind,
                all_of((one.blank, other.blank)),
                z3.If(takes, other.at, one.at),
                _scale((one, other)),
            )

        return reduce(best, values)

    return extreme


def _count(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    match given:
        case (CodesTerm(members) as codes,):
            ones = [z3.If(one, _ONE, _ZERO) for one in members.values()]
            return ValueTerm("number", codes.blank, z3.Sum(ones) if ones else _ZERO, 0)
        case (ListTerm(items),):
            ones = [z3.If(one.blank, _ZERO, _ONE) for one in items]
            return ValueTerm("number", FALSE, z3.Sum(ones) if ones else _ZERO, 0)
        case _:
            return None


def _contains(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    if len(given) != 2:
        return None
    list_, element = given
    match list_:
        case CodesTerm(members):
            if not isinstance(element, ValueTerm) or element.kind != "text":
                return None
            there = any_of(
                all_of((one, translator.equality(translator.constant(code), element)))
                for code, one in members.items()
            )
            return unless(list_.blank, there)
        case ListTerm(items):
            return known(any_of(translator.equality(one, element) for one in items))
        case _:
            return None


def _is_in(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    value, among = given
    match among:
        case ListTerm(items) if isinstance(value, ValueTerm | TruthTerm):
            if any(isinstance(one, ListTerm | CodesTerm | OpaqueTerm) for one in items):
                return None
            return known(any_of(translator.equality(value, one) for one in items))
        case CodesTerm(members) if isinstance(value, ValueTerm) and value.kind == "text":
            there = any_of(
                all_of((one, translator.equality(translator.constant(code), value)))
                for code, one in members.items()
            )
            return known(z3.If(among.blank, value.blank, there))
        case ValueTerm() | TruthTerm() if isinstance(value, ValueTerm | TruthTerm):
            return known(translator.equality(value, among))
        case _:
            return None


def _as_set(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    (subject,) = given
    match subject:
        case CodesTerm() | NullTerm():
            return subject
        case ListTerm(items):
            codes = [
                one.value
                for one in (
                    node.arguments[0].items if isinstance(node.arguments[0], nodes.ListOf) else ()
                )
                if isinstance(one, nodes.Constant) and isinstance(one.value, str)
            ]
            if len(codes) != len(items):
                return None
            return CodesTerm({code: z3.BoolVal(True) for code in codes}, written=True)
        case _:
            return None


def _negate(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    (value,) = given
    if isinstance(value, ValueTerm):
        return negated(value) if value.kind in ("number", "days", "months") else NULL
    return None if isinstance(value, OpaqueTerm) else NULL


def _abs(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    (value,) = given
    if not isinstance(value, ValueTerm):
        return None
    return ValueTerm(
        value.kind, value.blank, z3.If(value.at >= 0, value.at, -value.at), value.scale
    )


def _rounded(down: bool) -> _Way:
    def rounded(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
        value = given[0]
        if len(given) > 1 or not isinstance(value, ValueTerm) or value.kind != "number":
            return None
        number = whole(value.at)
        there = z3.ToInt(number) if down else -z3.ToInt(-number)
        return ValueTerm("number", value.blank, there, 0)

    return rounded


def _modulo(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    """By a whole constant above 0; the remainder has the divisor's sign."""
    dividend, divisor = given
    if not isinstance(dividend, ValueTerm) or not isinstance(divisor, ValueTerm):
        return None
    by = z3.simplify(divisor.at)
    if dividend.kind != "number" or not z3.is_int_value(by) or by.as_long() <= 0:
        return None
    blank = either_blank(dividend, divisor)
    if z3.is_int(dividend.at):
        return ValueTerm("number", blank, dividend.at % by, 0)
    rest = dividend.at - by * z3.ToReal(z3.ToInt(dividend.at / z3.ToReal(by)))
    return ValueTerm("number", blank, rest, dividend.scale)


def _parity(rest: int) -> _Way:
    def parity(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
        (number,) = given
        if not isinstance(number, ValueTerm) or not z3.is_int(number.at):
            return None
        return unless(number.blank, number.at % 2 == rest)

    return parity


def _not(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    (operand,) = given
    return TruthTerm(operand.false, operand.true) if isinstance(operand, TruthTerm) else None


def _kleene(all_of_them: bool) -> _Way:
    def kleene(_: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
        items = _items(given)
        if items is None or not all(isinstance(one, TruthTerm) for one in items):
            return None
        parts = [one for one in items if isinstance(one, TruthTerm)]
        every, some = all_of(one.true for one in parts), any_of(one.true for one in parts)
        none, fails = all_of(one.false for one in parts), any_of(one.false for one in parts)
        return TruthTerm(every, fails) if all_of_them else TruthTerm(some, none)

    return kleene


def _property(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    """The weekday of a date."""
    subject, name = given[0], node.arguments[1]
    if not isinstance(subject, ValueTerm) or not isinstance(name, nodes.Constant):
        return None
    if subject.kind == "date" and name.value == "weekday":
        return ValueTerm("number", subject.blank, (subject.at - 1) % 7 + 1, 0)
    if subject.kind == "date" and name.value in ("year", "month", "day"):
        parts = calendar.parts_of(translator.surroundings, subject)
        return ValueTerm("number", subject.blank, getattr(parts, name.value), 0)
    if subject.kind == "months" and name.value in ("years", "months"):
        size = z3.If(subject.at >= 0, subject.at, -subject.at)
        part = size / _MONTHS if name.value == "years" else size % _MONTHS
        return ValueTerm("number", subject.blank, z3.If(subject.at >= 0, part, -part), 0)
    if subject.kind == "days" and name.value == "days":
        size = z3.If(subject.at >= 0, subject.at, -subject.at) / _DAY
        return ValueTerm("number", subject.blank, z3.If(subject.at >= 0, size, -size), 0)
    return None


def _date(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    """A date of three whole numbers; null where there is no such day."""
    if len(given) == 1:
        (same,) = given
        return same if isinstance(same, ValueTerm) and same.kind == "date" else None
    numbers = [one for one in given if isinstance(one, ValueTerm) and z3.is_int(one.at)]
    if len(numbers) != len(given):
        return None
    day = calendar.Parts(*(one.at for one in numbers))
    blank = any_of((*(one.blank for one in numbers), none_of(day.exists)))
    return ValueTerm("date", blank, day.ordinal)


def _of_a_date(way: Callable[[Translating, ValueTerm], Term]) -> _Way:
    """A function of one date."""

    def of_a_date(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
        (day,) = given
        return way(translator, day) if isinstance(day, ValueTerm) and day.kind == "date" else None

    return of_a_date


def _day_name(translator: Translating, day: ValueTerm) -> Term:
    return calendar.named(translator, (day.at - 1) % _WEEK, DAY_NAMES, day.blank)


def _month_name(translator: Translating, day: ValueTerm) -> Term:
    month = calendar.parts_of(translator.surroundings, day).month
    return calendar.named(translator, month - 1, MONTH_NAMES, day.blank)


def _months_between(translator: Translating, node: nodes.Call, given: _Arguments) -> Term | None:
    begin, end = given
    if not isinstance(begin, ValueTerm) or not isinstance(end, ValueTerm):
        return None
    if (begin.kind, end.kind) != ("date", "date"):
        return None
    return calendar.months_between(translator.surroundings, begin, end)


_WEEK: Final = 7
_MONTHS: Final = 12
DAY_NAMES: Final = tuple(day_name)
MONTH_NAMES: Final = tuple(month_name[1:])
_DAY = z3.IntVal(86_400_000_000)
CALLS: dict[str, _Way] = {
    "sum": _sum,
    "mean": _mean,
    "min": _extreme(lambda a, b: a < b),
    "max": _extreme(lambda a, b: a > b),
    "count": _count,
    "list contains": _contains,
    "is in": _is_in,
    "as set": _as_set,
    "negate": _negate,
    "abs": _abs,
    "floor": _rounded(down=True),
    "ceiling": _rounded(down=False),
    "modulo": _modulo,
    "odd": _parity(1),
    "even": _parity(0),
    "not": _not,
    "all": _kleene(all_of_them=True),
    "any": _kleene(all_of_them=False),
    "property": _property,
    "date": _date,
    "years and months duration": _months_between,
    "day of year": _of_a_date(lambda t, day: calendar.day_of_year(t.surroundings, day)),
    "week of year": _of_a_date(lambda t, day: calendar.week_of_year(t.surroundings, day)),
    "day of week": _of_a_date(_day_name),
    "month of year": _of_a_date(_month_name),
}
"""By function; one that is not here, or cannot say, is asked of known texts or left free."""
