"""From a tree to a Python function of a record's values, in three-valued logic.

Source: DMN 1.4 clause 10.3 (FEEL) and the SQL:2016 truth tables for `and`, `or`, `not`.
"""

import unicodedata
from collections.abc import Callable, Mapping
from decimal import ROUND_HALF_EVEN, Context, Decimal
from typing import Any, Final

from thistlequartz.core.expression import tree

UNREADABLE: Final = object()
"""Stands for a value that could not be read; whatever compares it is null."""
TODAY: Final = "today"
"""The key under which an environment keeps the day of the evaluation."""

Environment = Mapping[str, Any]
Evaluator = Callable[[Environment], Any]

ARITHMETIC: Final = Context(prec=34, rounding=ROUND_HALF_EVEN, traps=[])
"""IEEE 754 decimal128, as DMN 1.4 clause 10.3.2.3.1 asks; nothing traps."""


def interpret(node: tree.Node) -> Evaluator:
    """The function that gives the value of `node` for an environment. It never raises."""
    match node:
        case tree.Null():
            return lambda _: None
        case tree.Number(value) | tree.Text(value) | tree.Date(value) | tree.Truth(value):
            return lambda _: value
        case tree.Field(key):
            return lambda environment: environment.get(key)
        case tree.Today():
            return lambda environment: environment[TODAY]
        case tree.Negate(operand):
            return _arithmetic(ARITHMETIC.subtract, lambda _: Decimal(0), interpret(operand))
        case tree.Arithmetic(sign, left, right):
            return _arithmetic(_OPERATIONS[sign], interpret(left), interpret(right))
        case tree.Comparison(sign, left, right):
            return _comparison(sign, interpret(left), interpret(right))
        case tree.Membership(value, tests, ignore_case):
            return _membership(interpret(value), tests, ignore_case)
        case tree.And(parts):
            return _conjunction([interpret(part) for part in parts])
        case tree.Or(parts):
            return _disjunction([interpret(part) for part in parts])
        case tree.Not(operand):
            return _negation(interpret(operand))
        case _:
            raise NotImplementedError(f"{type(node).__name__} cannot be evaluated on its own")


_OPERATIONS: dict[str, Callable[[Decimal, Decimal], Decimal]] = {
    "+": ARITHMETIC.add,
    "-": ARITHMETIC.subtract,
    "*": ARITHMETIC.multiply,
    "/": ARITHMETIC.divide,
}


def _arithmetic(
    operation: Callable[[Decimal, Decimal], Decimal], left: Evaluator, right: Evaluator
) -> Evaluator:
    def calculated(environment: Environment) -> Any:
        a, b = left(environment), right(environment)
        if a is UNREADABLE or b is UNREADABLE:
            return UNREADABLE
        if not isinstance(a, Decimal) or not isinstance(b, Decimal):
            return None
        result = operation(a, b)
        return result if result.is_finite() else None

    return calculated


def _comparison(sign: tree.ComparisonOperator, left: Evaluator, right: Evaluator) -> Evaluator:
    compare = _COMPARISONS[sign]
    return lambda environment: compare(left(environment), right(environment))


def _equal(a: Any, b: Any) -> bool | None:
    """Equality is never null for readable values; blank equals only blank."""
    if a is UNREADABLE or b is UNREADABLE:
        return None
    return type(a) is type(b) and bool(a == b)


def _unequal(a: Any, b: Any) -> bool | None:
    equal = _equal(a, b)
    return None if equal is None else not equal


def _ordered(compare: Callable[[Any, Any], bool]) -> Callable[[Any, Any], bool | None]:
    def ordered(a: Any, b: Any) -> bool | None:
        if a is None or b is None or type(a) is not type(b) or a is UNREADABLE:
            return None
        return compare(a, b)

    return ordered


_COMPARISONS: dict[tree.ComparisonOperator, Callable[[Any, Any], bool | None]] = {
    "=": _equal,
    "!=": _unequal,
    "<": _ordered(lambda a, b: a < b),
    "<=": _ordered(lambda a, b: a <= b),
    ">": _ordered(lambda a, b: a > b),
    ">=": _ordered(lambda a, b: a >= b),
}


def _membership(value: Evaluator, tests: tuple[tree.Node, ...], ignore_case: bool) -> Evaluator:
    inside = [_test(test, ignore_case) for test in tests]

    def member(environment: Environment) -> bool | None:
        given = value(environment)
        return any_true(test(given, environment) for test in inside)

    return member


def _test(node: tree.Node, ignore_case: bool) -> Callable[[Any, Environment], bool | None]:
    if not isinstance(node, tree.Interval):
        expected = interpret(node)
        if ignore_case:
            return lambda given, environment: _equal(folded(given), folded(expected(environment)))
        return lambda given, environment: _equal(given, expected(environment))
    low, high = interpret(node.low), interpret(node.high)
    above = _COMPARISONS[">=" if node.low_included else ">"]
    below = _COMPARISONS["<=" if node.high_included else "<"]

    def between(given: Any, environment: Environment) -> bool | None:
        return all_true((above(given, low(environment)), below(given, high(environment))))

    return between


def folded(value: Any) -> Any:
    """Text without regard to case: NFC of its case folding. Other values as they are."""
    return unicodedata.normalize("NFC", value.casefold()) if isinstance(value, str) else value


def all_true(parts: Any) -> bool | None:
    """Kleene's `and` over many parts; what is not a truth value counts as null."""
    result: bool | None = True
    for part in parts:
        if part is False:
            return False
        if part is not True:
            result = None
    return result


def any_true(parts: Any) -> bool | None:
    """Kleene's `or` over many parts; what is not a truth value counts as null."""
    result: bool | None = False
    for part in parts:
        if part is True:
            return True
        if part is not False:
            result = None
    return result


def _conjunction(parts: list[Evaluator]) -> Evaluator:
    return lambda environment: all_true(part(environment) for part in parts)


def _disjunction(parts: list[Evaluator]) -> Evaluator:
    return lambda environment: any_true(part(environment) for part in parts)


def _negation(operand: Evaluator) -> Evaluator:
    def turned(environment: Environment) -> bool | None:
        value = operand(environment)
        return not value if isinstance(value, bool) else None

    return turned
