"""Lists: clause 10.3.4.4. Sums, means, counts and extremes leave blanks out; that is ours."""

from collections import Counter
from collections.abc import Callable
from datetime import timedelta
from decimal import Decimal
from functools import reduce
from typing import Any

from thistlequartz.core.values import ARITHMETIC, Months

from .operations import (
    UNREADABLE,
    add,
    all_true,
    any_true,
    compare,
    divide,
    equal,
    multiply,
)
from .record import function
from .text import position, slice_of
from .work import spend


def _gathered(arguments: tuple[Any, ...]) -> list[Any]:
    """The values of one list, or the arguments themselves."""
    if len(arguments) == 1 and isinstance(arguments[0], list):
        return arguments[0]
    return list(arguments)


def _filled(arguments: tuple[Any, ...]) -> list[Any]:
    values = _gathered(arguments)
    if any(value is UNREADABLE for value in values):
        raise TypeError
    return [value for value in values if value is not None]


def _numbers(arguments: tuple[Any, ...]) -> list[Decimal]:
    values = _filled(arguments)
    if not all(isinstance(value, Decimal) for value in values):
        raise TypeError
    return values


def as_list(value: Any) -> list[Any]:
    """A list as it is; any other value as a list of one (clause 10.3.2.5). Null is no list."""
    if value is None or value is UNREADABLE:
        raise TypeError
    return value if isinstance(value, list) else [value]


def _extreme(sign: str) -> Callable[..., Any]:
    def extreme(*arguments: Any) -> Any:
        values = _filled(arguments)
        if not values or compare(sign, values[0], values[0]) is None:
            return None
        best = values[0]
        for value in values[1:]:
            better = compare(sign, value, best)
            if better is None:
                return None
            best = value if better else best
        return best

    return extreme


def _summed(arguments: tuple[Any, ...]) -> tuple[Any, int]:
    """The sum of numbers, or of lengths of time of one kind, and how many there are."""
    values = _filled(arguments)
    kinds = {type(value) for value in values}
    if len(kinds) > 1 or not kinds <= {Decimal, timedelta, Months}:
        raise TypeError
    return (reduce(add, values) if values else None), len(values)


def _sum(*arguments: Any) -> Any:
    return _summed(arguments)[0]


def _mean(*arguments: Any) -> Any:
    total, count = _summed(arguments)
    return divide(total, Decimal(count)) if count else None


def _median(*arguments: Any) -> Decimal | None:
    values = sorted(_numbers(arguments))
    if not values:
        return None
    half, odd = divmod(len(values), 2)
    if odd:
        return values[half]
    return ARITHMETIC.divide(ARITHMETIC.add(values[half - 1], values[half]), Decimal(2))


def _deviation(*arguments: Any) -> Decimal | None:
    """The sample standard deviation: divided by one less than the count."""
    values = _numbers(arguments)
    if len(values) < 2:
        return None
    mean = divide(reduce(ARITHMETIC.add, values), Decimal(len(values)))
    squares = [ARITHMETIC.power(ARITHMETIC.subtract(v, mean), Decimal(2)) for v in values]
    return ARITHMETIC.sqrt(
        ARITHMETIC.divide(reduce(ARITHMETIC.add, squares), Decimal(len(values) - 1))
    )


def _mode(*arguments: Any) -> list[Decimal] | None:
    if arguments == (None,):
        return None
    counts = Counter(_numbers(arguments))
    most = max(counts.values(), default=0)
    return sorted(value for value, count in counts.items() if count == most)


def _sublist(values: Any, start: Any, length: Any = None) -> Any:
    items = as_list(values)
    part = slice_of(len(items), start, length)
    return None if part is None else items[part]


def _spot(items: list[Any], at: Any) -> int:
    """A position, counted from 1 or back from the end, as an index. Raises ValueError."""
    number = position(at)
    if number == 0 or abs(number) > len(items):
        raise ValueError
    return number - 1 if number > 0 else len(items) + number


def _insert(values: Any, at: Any, item: Any) -> list[Any]:
    items = as_list(values)
    spot = _spot(items, at)
    return [*items[:spot], item, *items[spot:]]


def _remove(values: Any, at: Any) -> list[Any]:
    items = as_list(values)
    spot = _spot(items, at)
    return [*items[:spot], *items[spot + 1 :]]


def _replaced(values: Any, at: Any, item: Any) -> list[Any]:
    items = as_list(values)
    spot = _spot(items, at)
    return [*items[:spot], item, *items[spot + 1 :]]


def _index_of(values: Any, match: Any) -> list[Decimal]:
    items = as_list(values)
    return [Decimal(n) for n, item in enumerate(items, 1) if equal(item, match)]


_HASHED = str | bool | Decimal | timedelta | Months
"""Values of these types are equal exactly where they are of one type and Python finds them so."""


def _distinct(values: Any) -> list[Any]:
    result: list[Any] = []
    seen: set[tuple[type, Any]] = set()
    compared: list[Any] = []
    for item in as_list(values):
        if isinstance(item, _HASHED):
            key = (type(item), item)
            new = key not in seen
            seen.add(key)
        else:
            spend(len(compared))
            new = not any(equal(item, one) for one in compared)
            if new:
                compared.append(item)
        if new:
            result.append(item)
    return result


def _concatenate(*lists: Any) -> list[Any]:
    return [item for one in lists for item in as_list(one)]


def _flatten(values: Any) -> list[Any]:
    result: list[Any] = []
    items = as_list(values)
    spend(len(items))
    for item in items:
        result.extend(_flatten(item) if isinstance(item, list) else [item])
    return result


_MANY = "list: list | value: any, more*: any"
FUNCTIONS = (
    function("list contains", "list: list, element: any", "boolean",
             "whether a list contains a value", "list contains([1, 2, 3], 2)",
             lambda values, element: any_true(equal(v, element) for v in as_list(values)),
             strict=False),
    function("count", "list: list", "number", "how many values that are not blank",
             "count([1, null, 3]) = 2", lambda values: Decimal(len(_filled((as_list(values),))))),
    function("min", _MANY, "same", "the smallest value", "min([3, null, 1]) = 1", _extreme("<"),
             strict=False, monotone="rising"),
    function("max", _MANY, "same", "the largest value", "max(1, 3, 2) = 3", _extreme(">"),
             strict=False, monotone="rising"),
    function("sum", _MANY, "number", "the sum of the values", "sum([1, null, 2]) = 3", _sum,
             strict=False, monotone="rising"),
    function("mean", _MANY, "number", "the mean of the values", "mean([1, null, 3]) = 2", _mean,
             strict=False, monotone="rising"),
    function("median", _MANY, "number", "the middle value", "median(8, 2, 5, 3, 4) = 4", _median,
             strict=False, monotone="rising"),
    function("product", _MANY, "number", "the product of the values", "product([2, 3, 4]) = 24",
             lambda *values: reduce(multiply, _numbers(values)) if _numbers(values) else None,
             strict=False),
    function("stddev", _MANY, "number", "the sample standard deviation",
             "stddev([1, 2, 3]) = 1", _deviation, strict=False),
    function("mode", _MANY, "list", "the commonest values, smallest first",
             "mode([6, 1, 9, 6, 1]) = [1, 6]", _mode, strict=False),
    function("all", _MANY, "boolean", "whether all are true", "all([true, 2 > 1])",
             lambda *values: all_true(_gathered(values)), strict=False),
    function("any", _MANY, "boolean", "whether any is true", "any([false, 2 > 1])",
             lambda *values: any_true(_gathered(values)), strict=False),
    function("sublist", "list: list, start position: number, length?: number", "list",
             "a part of a list", "sublist([4, 5, 6], 1, 2) = [4, 5]", _sublist),
    function("append", "list: list, item*: any", "list", "a list with values added",
             "append([1], 2, 3) = [1, 2, 3]", lambda values, *items: [*as_list(values), *items],
             strict=False),
    function("concatenate", "list: list, more*: list", "list", "lists one after another",
             "concatenate([1, 2], [3]) = [1, 2, 3]", _concatenate),
    function("insert before", "list: list, position: number, newItem: any", "list",
             "a list with a value put in before a position",
             "insert before([1, 3], 1, 2) = [2, 1, 3]", _insert, strict=False),
    function("remove", "list: list, position: number", "list", "a list without one position",
             "remove([1, 2, 3], 2) = [1, 3]", _remove),
    function("list replace", "list: list, position: number, newItem: any", "list",
             "a list with the value at a position replaced",
             "list replace([1, 2, 3], 2, 5) = [1, 5, 3]", _replaced, strict=False),
    function("reverse", "list: list", "list", "a list backwards", "reverse([1, 2]) = [2, 1]",
             lambda values: as_list(values)[::-1]),
    function("index of", "list: list, match: any", "list", "the positions of a value",
             "index of([1, 2, 3, 2], 2) = [2, 4]", _index_of, strict=False),
    function("union", "list: list, more*: list", "list", "the different values of several lists",
             "union([1, 2], [2, 3]) = [1, 2, 3]",
             lambda *lists: _distinct(_concatenate(*lists))),
    function("distinct values", "list: list", "list", "each different value once",
             "distinct values([1, 2, 1]) = [1, 2]", _distinct),
    function("flatten", "list: list", "list", "lists in lists laid out in one",
             "flatten([[1, 2], [[3]]]) = [1, 2, 3]", _flatten),
)  # fmt: skip
