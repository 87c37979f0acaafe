"""From a tree to a Python function of a record's values, in three-valued logic.

Source: DMN 1.4 clause 10.3 (FEEL) and the SQL:2016 truth tables for `and`, `or`, `not`.
"""

from collections.abc import Callable, Iterator
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any, Final

from thistlequartz.core.expression import tree
from thistlequartz.core.formats import NAMED_FORMATS, compile_pattern
from thistlequartz.core.functions import FUNCTIONS, operations
from thistlequartz.core.functions.operations import (
    COMPARISONS,
    UNREADABLE,
    RangeValue,
    all_true,
    any_true,
    equal,
)
from thistlequartz.core.values import Months

from .environment import NOW, TODAY, Environment, Evaluator, other, stored, variable
from .lookup import folded
from .record_tests import record_test

MAX_STEPS: Final = 10_000
"""Steps that one `for`, `some` or `every` may take; beyond that it is null."""
MAX_STEPS_WITH_PARTIAL: Final = 1_000
"""The same for a `for` whose body looks at what it has given so far."""

_NO_ANSWER = (TypeError, ValueError, ArithmeticError, OverflowError, AttributeError)
"""What a function may raise where it cannot answer."""
_OPERATIONS: dict[str, Callable[[Any, Any], Any]] = {
    "+": operations.add,
    "-": operations.subtract,
    "*": operations.multiply,
    "/": operations.divide,
    "**": operations.power,
}


def interpret(node: tree.Node) -> Evaluator:
    """The function that gives the value of `node` for an environment. It never raises."""
    match node:
        case tree.Null():
            return lambda _: None
        case tree.Number(value) | tree.Text(value) | tree.Date(value) | tree.Truth(value):
            return lambda _: value
        case tree.Time(value) | tree.DateTime(value) | tree.Duration(value):
            return lambda _: value
        case tree.Field(key):
            return _read(key)
        case tree.Variable(name):
            return _read(variable(name))
        case tree.Today():
            return _read(TODAY)
        case tree.Now():
            return _read(NOW)
        case tree.Circumstance(name):
            return _read(name)
        case tree.Stored(key):
            return _read(stored(key))
        case tree.OtherField(key):
            return _read(other(key))
        case tree.Named(_, condition):
            return interpret(condition)
        case tree.Negate(operand):
            return _applied(operations.negate, (interpret(operand),))
        case tree.Arithmetic(sign, left, right):
            return _applied(_OPERATIONS[sign], (interpret(left), interpret(right)))
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
            return _structure(node)


def _structure(node: tree.Node) -> Evaluator:
    match node:
        case tree.Fits(value, format_key, country):
            why_not = NAMED_FORMATS[format_key].why_not
            return _text_test(interpret(value), lambda text: why_not(text, country) is None)
        case tree.FitsPattern(value, pattern):
            compiled = compile_pattern(pattern)
            return _text_test(interpret(value), lambda text: compiled.fullmatch(text) is not None)
        case tree.If(condition, then, otherwise):
            return _choice(interpret(condition), interpret(then), interpret(otherwise))
        case tree.For(iterations, body):
            return _for(iterations, body)
        case tree.Quantified(quantifier, iterations, condition):
            return _quantified(quantifier, iterations, interpret(condition))
        case tree.ListOf(items):
            inside = [interpret(item) for item in items]
            return lambda environment: [item(environment) for item in inside]
        case tree.Context(entries):
            return _context(entries)
        case tree.Interval():
            return _interval(node)
        case tree.Filter(subject, condition):
            return _filter(interpret(subject), interpret(condition))
        case tree.Path(subject, name):
            return _path(interpret(subject), name)
        case tree.InstanceOf(subject, type_name):
            return _instance(interpret(subject), type_name)
        case tree.Call():
            return _call(node)
        case _:
            return record_test(node, interpret)


def _read(name: str) -> Evaluator:
    return lambda environment: environment.get(name)


def _text_test(value: Evaluator, fits: Callable[[str], bool]) -> Evaluator:
    def tested(environment: Environment) -> bool | None:
        text = value(environment)
        return fits(text) if isinstance(text, str) else None

    return tested


def _applied(function: Callable[..., Any], arguments: tuple[Evaluator, ...]) -> Evaluator:
    """`function` of the arguments: what cannot be read stays so, other failures are null."""

    def applied(environment: Environment) -> Any:
        values = [argument(environment) for argument in arguments]
        if any(value is UNREADABLE for value in values):
            return UNREADABLE
        try:
            return function(*values)
        except _NO_ANSWER:
            return None

    return applied


def _call(node: tree.Call) -> Evaluator:
    arguments = tuple(interpret(argument) for argument in node.arguments)
    if node.names:
        arguments = _by_place(node, arguments)
    return _applied(FUNCTIONS[node.function].body, arguments)


def _by_place(node: tree.Call, arguments: tuple[Evaluator, ...]) -> tuple[Evaluator, ...]:
    """Named arguments in the order of the function's parameters; null for those left out."""
    given = dict(zip(node.names, arguments, strict=True))
    for way in FUNCTIONS[node.function].ways:
        names = [parameter.name for parameter in way]
        if set(given) <= set(names):
            placed = [given.get(name, lambda _: None) for name in names]
            while placed and names[len(placed) - 1] not in given:
                placed.pop()
            return tuple(placed)
    raise NotImplementedError(f"{node.function} has no such parameters")


def _comparison(sign: str, left: Evaluator, right: Evaluator) -> Evaluator:
    compare = COMPARISONS[sign]
    return lambda environment: compare(left(environment), right(environment))


def _membership(value: Evaluator, tests: tuple[tree.Node, ...], ignore_case: bool) -> Evaluator:
    inside = [_test(test, ignore_case) for test in tests]

    def member(environment: Environment) -> bool | None:
        given = value(environment)
        return any_true(test(given, environment) for test in inside)

    return member


def _test(node: tree.Node, ignore_case: bool) -> Callable[[Any, Environment], bool | None]:
    match node:
        case tree.Interval(low, high, low_included, high_included):
            above = _comparison_of(">=" if low_included else ">", low)
            below = _comparison_of("<=" if high_included else "<", high)
            return lambda given, env: all_true((above(given, env), below(given, env)))
        case tree.UnaryTest(sign, operand):
            return _comparison_of(sign, operand)
    expected = interpret(node)
    if ignore_case:
        return lambda given, env: equal(_folded(given), _folded(expected(env)))
    return lambda given, env: _fits(given, expected(env))


def _comparison_of(sign: str, node: tree.Node) -> Callable[[Any, Environment], bool | None]:
    compare, other = COMPARISONS[sign], interpret(node)
    return lambda given, environment: compare(given, other(environment))


def _fits(given: Any, expected: Any) -> bool | None:
    """Whether a value is in a list or range, or equal to a single value."""
    if isinstance(expected, RangeValue):
        return expected.contains(given)
    if isinstance(expected, list) and not isinstance(given, list):
        return any_true(_fits(given, one) for one in expected)
    return equal(given, expected)


def _folded(value: Any) -> Any:
    return folded(value) if isinstance(value, str) else value


def _conjunction(parts: list[Evaluator]) -> Evaluator:
    return lambda environment: all_true(part(environment) for part in parts)


def _disjunction(parts: list[Evaluator]) -> Evaluator:
    return lambda environment: any_true(part(environment) for part in parts)


def _negation(operand: Evaluator) -> Evaluator:
    def turned(environment: Environment) -> bool | None:
        value = operand(environment)
        return not value if isinstance(value, bool) else None

    return turned


def _choice(condition: Evaluator, then: Evaluator, otherwise: Evaluator) -> Evaluator:
    """A condition that is not true takes the other way (clause 10.3.2.11)."""
    return lambda env: then(env) if condition(env) is True else otherwise(env)


def _steps(
    iterations: tuple[tree.Iteration, ...],
) -> Callable[[Environment], Iterator[dict[str, Any]] | None]:
    """The environments of every combination, in order; null where one iterates over no list."""
    compiled = [(variable(one.name), _items(one.items)) for one in iterations]

    def over(environment: Environment, rest: list[Any]) -> Iterator[dict[str, Any]]:
        if not rest:
            yield dict(environment)
            return
        name, items = rest[0]
        for item in items(environment):
            yield from over({**environment, name: item}, rest[1:])

    return lambda environment: over(environment, compiled)


def _items(node: tree.Node) -> Callable[[Environment], Iterator[Any]]:
    if isinstance(node, tree.Counting):
        first, last = interpret(node.first), interpret(node.last)
        return lambda environment: _counted(first(environment), last(environment))
    listed = interpret(node)

    def items(environment: Environment) -> Iterator[Any]:
        value = listed(environment)
        if value is None or value is UNREADABLE:
            raise TypeError
        if isinstance(value, RangeValue):
            return _counted(value.low, value.high)
        return iter(value if isinstance(value, list) else [value])

    return items


def _counted(first: Any, last: Any) -> Iterator[Decimal]:
    if not isinstance(first, Decimal) or not isinstance(last, Decimal):
        raise TypeError
    begin, end = int(first), int(last)
    step = 1 if end >= begin else -1
    return map(Decimal, range(begin, end + step, step))


def _for(iterations: tuple[tree.Iteration, ...], body: tree.Node) -> Evaluator:
    steps, partial = _steps(iterations), variable("partial")
    most = MAX_STEPS_WITH_PARTIAL if tree.Variable("partial") in tree.walk(body) else MAX_STEPS
    give = interpret(body)

    def collected(environment: Environment) -> list[Any] | None:
        results: list[Any] = []
        try:
            for inner in steps(environment) or ():
                if len(results) >= most:
                    return None
                if most == MAX_STEPS_WITH_PARTIAL:
                    inner[partial] = list(results)
                results.append(give(inner))
        except _NO_ANSWER:
            return None
        return results

    return collected


def _quantified(
    quantifier: str, iterations: tuple[tree.Iteration, ...], condition: Evaluator
) -> Evaluator:
    steps, decide = _steps(iterations), any_true if quantifier == "some" else all_true

    def judged(environment: Environment) -> bool | None:
        try:
            return decide(_bounded(condition(inner) for inner in steps(environment) or ()))
        except _NO_ANSWER:
            return None

    return judged


def _bounded(values: Iterator[Any]) -> Iterator[Any]:
    for count, value in enumerate(values):
        if count >= MAX_STEPS:
            raise ValueError
        yield value


def _context(entries: tuple[tree.Entry, ...]) -> Evaluator:
    inside = [(entry.key, interpret(entry.value)) for entry in entries]

    def built(environment: Environment) -> dict[str, Any]:
        inner, result = dict(environment), {}
        for key, value in inside:
            result[key] = inner[variable(key)] = value(inner)
        return result

    return built


def _interval(node: tree.Interval) -> Evaluator:
    low, high = interpret(node.low), interpret(node.high)

    def built(environment: Environment) -> RangeValue | None:
        a, b = low(environment), high(environment)
        if type(a) is not type(b) or a is None or a is UNREADABLE:
            return None
        return RangeValue(a, b, node.low_included, node.high_included)

    return built


def _filter(subject: Evaluator, condition: Evaluator) -> Evaluator:
    item = variable("item")

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
        return [one for one in items if condition({**environment, item: one}) is True]

    return filtered


def _path(subject: Evaluator, name: str) -> Evaluator:
    def property_of(value: Any) -> Any:
        if isinstance(value, list):
            return [operations.property_of(one, name) for one in value]
        return operations.property_of(value, name)

    return _applied(property_of, (subject,))


_INSTANCES: dict[str, tuple[type, ...]] = {
    "number": (Decimal,),
    "string": (str,),
    "boolean": (bool,),
    "date": (date,),
    "time": (time,),
    "date and time": (datetime,),
    "days and time duration": (timedelta,),
    "years and months duration": (Months,),
    "list": (list,),
    "context": (dict,),
}


def _instance(subject: Evaluator, type_name: str) -> Evaluator:
    """Whether the value is of the type itself; null is of none (clause 10.3.2.13)."""
    if type_name == "Any":
        return _applied(lambda value: value is not None, (subject,))
    wanted = _INSTANCES[type_name]
    return _applied(lambda value: type(value) in wanted, (subject,))
