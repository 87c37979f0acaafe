"""Lists: clause 10.3.4.4. Sums, means, counts and extremes leave blanks out; that is ours."""

from collections import Counter
from collections.abc import Callable
from decimal import Decimal
from functools import reduce
from typing import Any

from thistlequartz.core.evaluation.operations import (
    ARITHMETIC,
    UNREADABLE,
    add,
    all_true,
    any_true,
    compare,
    divide,
    equal,
    multiply,
)

from .text import position, slice_of


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
        best = values[0] if values else None
        for value in values[1:]:
            better = compare(sign, value, best)
            if better is None:
                return None
            best = value if better else best
        return best

    return extreme


def _sum(*arguments: Any) -> Any:
    values = _filled(arguments)
    return reduce(add, values) if values else None


def _mean(*arguments: Any) -> Any:
    values = _filled(arguments)
    return divide(reduce(add, values), Decimal(len(values))) if values else None


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


def _mode(*arguments: Any) -> list[Decimal]:
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


def _index_of(values: Any, match: Any) -> list[Decimal]:
    items = as_list(values)
    return [Decimal(n) for n, item in enumerate(items, 1) if equal(item, match)]


def _distinct(values: Any) -> list[Any]:
    result: list[Any] = []
    for item in as_list(values):
        if not any(equal(item, seen) for seen in result):
            result.append(item)
    return result


def _concatenate(*lists: Any) -> list[Any]:
    return [item for one in lists for item in as_list(one)]


def _flatten(values: Any) -> list[Any]:
    result: list[Any] = []
    for item in as_list(values):
        result.extend(_flatten(item) if isinstance(item, list) else [item])
    return result


FUNCTIONS: dict[str, Callable[..., Any]] = {
    "list contains": lambda values, element: any_true(equal(v, element) for v in as_list(values)),
    "count": lambda values: Decimal(len(_filled((as_list(values),)))),
    "min": _extreme("<"),
    "max": _extreme(">"),
    "sum": _sum,
    "mean": _mean,
    "median": _median,
    "product": lambda *values: reduce(multiply, _numbers(values)) if _numbers(values) else None,
    "stddev": _deviation,
    "mode": _mode,
    "all": lambda *values: all_true(_gathered(values)),
    "any": lambda *values: any_true(_gathered(values)),
    "sublist": _sublist,
    "append": lambda values, *items: [*as_list(values), *items],
    "concatenate": _concatenate,
    "insert before": _insert,
    "remove": _remove,
    "reverse": lambda values: as_list(values)[::-1],
    "index of": _index_of,
    "union": lambda *lists: _distinct(_concatenate(*lists)),
    "distinct values": _distinct,
    "flatten": _flatten,
}
