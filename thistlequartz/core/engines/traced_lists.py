"""The list forms of the traced engine: loops, filters, lists, contexts and ranges."""

from collections.abc import Callable, Iterator
from decimal import Decimal
from functools import partial
from typing import Any, Final

from thistlequartz.core.functions.operations import UNREADABLE, RangeValue, any_true
from thistlequartz.core.functions.work import STEP, spend
from thistlequartz.core.kernel import nodes

from .environment import Environment, Evaluator, variable

Trace = Callable[[nodes.Node], Evaluator]
NO_ANSWER: Final = (TypeError, ValueError, ArithmeticError, OverflowError, AttributeError)
"""What a function may raise where it cannot answer."""
Steps = Callable[[Environment], Iterator[dict[str, Any]]]


def _steps(trace: Trace, node: nodes.Collect | nodes.Some, body: nodes.Node) -> Steps:
    """The environments of every combination, in order; a TypeError where one is over no list."""
    compiled = [(variable(one.name), _items(trace, one.items)) for one in node.iterations]
    cost = _cost(body)

    def over(environment: Environment, rest: list[Any]) -> Iterator[dict[str, Any]]:
        if not rest:
            yield dict(environment)
            return
        name, items = rest[0]
        for item in items(environment):
            spend(cost)
            yield from over({**environment, name: item}, rest[1:])

    return lambda environment: over(environment, compiled)


def _cost(body: nodes.Node) -> int:
    return STEP + sum(1 for _ in nodes.walk(body))


def _items(trace: Trace, node: nodes.Node) -> Callable[[Environment], Iterator[Any]]:
    listed = trace(node)

    def items(environment: Environment) -> Iterator[Any]:
        value = listed(environment)
        if value is None or value is UNREADABLE:
            raise TypeError
        if isinstance(value, RangeValue):
            return _counted(value.low, value.high)
        return iter(value if isinstance(value, list | map) else [value])

    return items


def _numbers(trace: Trace, node: nodes.Numbers) -> Evaluator:
    first, last = trace(node.first), trace(node.last)
    return lambda environment: _counted(first(environment), last(environment))


def _counted(first: Any, last: Any) -> Iterator[Decimal]:
    if not isinstance(first, Decimal) or not isinstance(last, Decimal):
        raise TypeError
    begin, end = int(first), int(last)
    step = 1 if end >= begin else -1
    return map(Decimal, range(begin, end + step, step))


def _collect(trace: Trace, node: nodes.Collect) -> Evaluator:
    steps, give = _steps(trace, node, node.body), trace(node.body)
    partial = variable("partial")

    def collected(environment: Environment) -> list[Any] | None:
        results: list[Any] = []
        try:
            for inner in steps(environment):
                if node.looks_back:
                    spend(len(results))
                    inner[partial] = list(results)
                results.append(give(inner))
        except NO_ANSWER:
            return None
        return results

    return collected


def _some(trace: Trace, node: nodes.Some) -> Evaluator:
    steps, condition = _steps(trace, node, node.condition), trace(node.condition)

    def judged(environment: Environment) -> bool | None:
        try:
            return any_true(condition(inner) for inner in steps(environment))
        except NO_ANSWER:
            return None

    return judged


def _filter(trace: Trace, node: nodes.Filter) -> Evaluator:
    subject, condition, item = trace(node.subject), trace(node.condition), variable("item")
    cost = _cost(node.condition)

    def filtered(environment: Environment) -> Any:
        value = subject(environment)
        if value is None or value is UNREADABLE:
            return value
        items = value if isinstance(value, list) else [value]
        wanted = condition({**environment, item: None})
        if isinstance(wanted, Decimal):
            number = int(wanted)
            if number != wanted or number == 0 or abs(number) > len(items):
                return None
            return items[number - 1 if number > 0 else number]
        spend(cost * len(items))
        return [one for one in items if condition({**environment, item: one}) is True]

    return filtered


def _list(trace: Trace, node: nodes.ListOf) -> Evaluator:
    items = [trace(item) for item in node.items]
    return lambda environment: [item(environment) for item in items]


def _context(trace: Trace, node: nodes.ContextOf) -> Evaluator:
    entries = [(entry.key, trace(entry.value)) for entry in node.entries]

    def built(environment: Environment) -> dict[str, Any]:
        inner, result = dict(environment), {}
        for key, value in entries:
            result[key] = inner[variable(key)] = value(inner)
        return result

    return built


def _range(trace: Trace, node: nodes.RangeOf) -> Evaluator:
    low, high = trace(node.low), trace(node.high)

    def built(environment: Environment) -> RangeValue | None:
        a, b = low(environment), high(environment)
        if type(a) is not type(b) or a is None or a is UNREADABLE:
            return None
        return RangeValue(a, b, node.low_included, node.high_included)

    return built


def list_ways(trace: Trace) -> dict[type[nodes.Node], Callable[[Any], Evaluator]]:
    """How each of these nodes is asked, its parts by `trace`."""
    return {
        nodes.Numbers: partial(_numbers, trace),
        nodes.Collect: partial(_collect, trace),
        nodes.Some: partial(_some, trace),
        nodes.Filter: partial(_filter, trace),
        nodes.ListOf: partial(_list, trace),
        nodes.ContextOf: partial(_context, trace),
        nodes.RangeOf: partial(_range, trace),
    }
