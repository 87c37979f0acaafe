"""Translation of the kernel to Python functions that give the value of every part.

Source: DMN 1.4 clause 10.3 (FEEL) and the SQL:2016 truth tables for `and`, `or`, `not`.
"""

from collections.abc import Callable, Container, Sequence
from decimal import Decimal
from typing import Any

from thistlequartz.core.functions import FUNCTIONS, INTERNAL, operations
from thistlequartz.core.functions.operations import (
    COMPARISONS,
    UNREADABLE,
    all_true,
    any_true,
    equal,
)
from thistlequartz.core.functions.work import budgeted, spend_on, spend_on_built
from thistlequartz.core.kernel import NotTranslated, lower, nodes
from thistlequartz.core.language import Vocabulary, tree

from .answers import NOTHING_TO_JUDGE, SATISFIED, VIOLATED, Answer, Answers, CheckQuery
from .environment import (
    CLOSED,
    NOTHING_CLOSED,
    RECORDS,
    Environment,
    Evaluator,
    again,
    other,
    stored,
    variable,
)
from .rows import narrowing
from .traced_lists import NO_ANSWER, list_ways

_OPERATIONS: dict[str, Callable[[Any, Any], Any]] = {
    "+": operations.add,
    "-": operations.subtract,
    "*": operations.multiply,
    "/": operations.divide,
    "**": operations.power,
}
_NAMES: dict[nodes.Source, Callable[[str], str]] = {
    "field": str,
    "circumstance": str,
    "second": again,
    "stored": stored,
    "other": other,
    "variable": variable,
}


def interpret(node: tree.Node, vocabulary: Vocabulary | None = None) -> Evaluator:
    """The function that gives the value of a written part for an environment. It never raises."""
    return traced(lower(node, vocabulary))


def traced(node: nodes.Node) -> Evaluator:
    """Return the function that evaluates `node` in an environment within a budget of work.

    It never raises.

    Raises NotTranslated for a node that is not known here.
    """
    evaluate = _traced(node)
    return budgeted(evaluate) if is_costly(node) else evaluate


def is_costly(node: nodes.Node) -> bool:
    """Whether what `node` takes depends on more than its own length."""
    return any(isinstance(one, _COSTLY) for one in nodes.walk(node))


def _traced(node: nodes.Node) -> Evaluator:
    way = WAYS.get(type(node))
    if way is None:
        raise NotTranslated("The traced engine", type(node).__name__)
    return way(node)


def answering(questions: Sequence[CheckQuery]) -> Answers:
    """What answers the checks of rules, for any record."""
    asked = [
        (traced(one.applies) if one.applies is not None else None, [traced(h) for h in one.checks])
        for one in questions
    ]

    def answers(environment: Environment, closed: Container[str]) -> list[tuple[Answer, ...]]:
        return [
            tuple([answer_of(one(environment)) for one in checks])
            if applies is None or applies(environment) is True
            else ()
            for applies, checks in asked
        ]

    return answers


def answer_of(value: Any) -> Answer:
    """The answer to a check that comes to this value."""
    return SATISFIED if value is True else VIOLATED if value is False else NOTHING_TO_JUDGE


def name_of(node: nodes.Read) -> str:
    """Under which name an environment keeps what is read."""
    return _NAMES[node.source](node.key)


def _constant(node: nodes.Constant) -> Evaluator:
    value = node.value
    return lambda _: value


def _read(node: nodes.Read) -> Evaluator:
    name = name_of(node)
    return lambda environment: environment.get(name)


def _refer(node: nodes.Refer) -> Evaluator:
    reference, key, form, name = _traced(node.reference), node.key, node.form, node.name

    def referred(environment: Environment) -> Any:
        number, records = reference(environment), environment.get(RECORDS)
        if number is UNREADABLE or records is None:
            return number if number is UNREADABLE else None
        return records.field_of(key, form, number, name)

    return referred


def _is_blank(node: nodes.IsBlank) -> Evaluator:
    operand = _traced(node.operand)

    def is_blank(environment: Environment) -> bool | None:
        value = operand(environment)
        return None if value is UNREADABLE else value is None

    return is_blank


def _is_true(node: nodes.IsTrue) -> Evaluator:
    operand = _traced(node.operand)
    return lambda environment: operand(environment) is True


def _equal(node: nodes.Equal) -> Evaluator:
    left, right = _traced(node.left), _traced(node.right)
    return lambda environment: equal(left(environment), right(environment))


def _order(node: nodes.Order) -> Evaluator:
    compare, left, right = COMPARISONS[node.sign], _traced(node.left), _traced(node.right)
    return lambda environment: compare(left(environment), right(environment))


def _among(node: nodes.Among) -> Evaluator:
    value, known = _traced(node.value), frozenset(node.constants)
    (type_,) = {type(one) for one in node.constants}

    def among(environment: Environment) -> bool | None:
        given = value(environment)
        if given is UNREADABLE:
            return None
        return type(given) is type_ and given in known

    return among


def _each_among(node: nodes.EachAmong) -> Evaluator:
    value, known = _traced(node.value), frozenset(node.constants)
    types = {type(one) for one in node.constants}

    def each_among(environment: Environment) -> bool | None:
        given = value(environment)
        if given is None or given is UNREADABLE:
            return None
        items = given if isinstance(given, list) else [given]
        return all(type(one) in types and one in known for one in items)

    return each_among


def _and(node: nodes.And) -> Evaluator:
    parts = [_traced(part) for part in node.parts]
    return lambda environment: all_true(part(environment) for part in parts)


def _or(node: nodes.Or) -> Evaluator:
    parts = [_traced(part) for part in node.parts]
    return lambda environment: any_true(part(environment) for part in parts)


def _not(node: nodes.Not) -> Evaluator:
    operand = _traced(node.operand)

    def turned(environment: Environment) -> bool | None:
        value = operand(environment)
        return not value if isinstance(value, bool) else None

    return turned


def _if(node: nodes.If) -> Evaluator:
    """A condition that is not true takes the other way (clause 10.3.2.11)."""
    condition, then, otherwise = map(_traced, (node.condition, node.then, node.otherwise))
    blanks = _blanks_asked(node.condition)
    if blanks and isinstance(node.then, nodes.Constant):
        return _unless_blank(blanks, node.then.value, otherwise)
    return lambda env: then(env) if condition(env) is True else otherwise(env)


def _blanks_asked(condition: nodes.Node) -> tuple[str, ...]:
    """What a condition asks whether one of it is blank, if that is all it asks."""
    match condition:
        case nodes.IsBlank(nodes.Read() as read):
            return (name_of(read),)
        case nodes.Or(parts) if all(asked := [_blanks_asked(part) for part in parts]):
            return tuple(name for one in asked for name in one)
        case _:
            return ()


def _unless_blank(names: tuple[str, ...], value: Any, otherwise: Evaluator) -> Evaluator:
    """What nearly every rule begins with, without a call for each part."""

    def asked(environment: Environment) -> Any:
        for name in names:
            if environment.get(name) is None:
                return value
        return otherwise(environment)

    return asked


def _switch(node: nodes.Switch) -> Evaluator:
    subject = _traced(node.subject)
    cases = {(type(one.constant), one.constant): _traced(one.then) for one in node.cases}

    def chosen(environment: Environment) -> Any:
        given = subject(environment)
        if isinstance(given, list | dict):
            return None
        case = cases.get((type(given), given))
        return None if case is None else case(environment)

    return chosen


def _arithmetic(node: nodes.Arithmetic) -> Evaluator:
    return _applied(_OPERATIONS[node.operator], (node.left, node.right))


def _call(node: nodes.Call) -> Evaluator:
    function = FUNCTIONS.get(node.function) or INTERNAL.get(node.function)
    if function is None:
        raise NotTranslated("The traced engine", node.function)
    return _applied(function.body, node.arguments)


def _applied(function: Callable[..., Any], given: tuple[nodes.Node, ...]) -> Evaluator:
    """`function` of the arguments: what cannot be read stays so, other failures are null."""
    arguments, costly = [_traced(one) for one in given], _takes_long(given)

    def applied(environment: Environment) -> Any:
        values = [argument(environment) for argument in arguments]
        for value in values:
            if value is UNREADABLE:
                return UNREADABLE
        try:
            if costly:
                spend_on(tuple(values))
            made = function(*values)
            if costly:
                spend_on_built(made)
        except NO_ANSWER:
            return None
        # A text beyond what a field can hold is nothing that a rule could mean.
        return None if isinstance(made, str) and len(made) > operations.MAX_TEXT else made

    return applied


def _count_filled(node: nodes.CountFilled) -> Evaluator:
    keys = node.keys

    def counted(environment: Environment) -> Any:
        closed = environment.get(CLOSED, NOTHING_CLOSED)
        values = [environment.get(key) for key in keys if key not in closed]
        if any(value is UNREADABLE for value in values):
            return UNREADABLE
        return Decimal(sum(value is not None for value in values))

    return counted


def _count_relevant(node: nodes.CountRelevant) -> Evaluator:
    keys = frozenset(node.keys)
    return lambda env: Decimal(len(keys - env.get(CLOSED, NOTHING_CLOSED)))


def _relevant(node: nodes.Relevant) -> Evaluator:
    keys = frozenset(node.keys)
    return lambda environment: not keys <= environment.get(CLOSED, NOTHING_CLOSED)


def _taken(node: nodes.Taken) -> Evaluator:
    keys = node.keys

    def taken(environment: Environment) -> bool | None:
        records = environment.get(RECORDS)
        values = unique_values(environment, keys)
        if records is None or any(value is None or value is UNREADABLE for value in values):
            return None
        answer: bool = records.taken(keys, values)
        return answer

    return taken


def unique_values(environment: Environment, keys: tuple[str, ...]) -> tuple[Any, ...]:
    """What a record holds in some fields, as it is held against other records."""
    held = (environment.get(key) for key in keys)
    return tuple(tuple(one) if isinstance(one, list) else one for one in held)


def _exists(node: nodes.Exists) -> Evaluator:
    first = first_other(node)

    def exists(environment: Environment) -> bool | None:
        return None if environment.get(RECORDS) is None else first(environment) is not None

    return exists


def first_other(node: nodes.Exists) -> Callable[[Environment], Environment | None]:
    """What is read of the first of the other records of which the condition is true."""
    # Each of the other records is asked within a budget of its own.
    condition, where = traced(node.condition), narrowing(node.condition, traced)
    reads = (one for one in nodes.walk(node.condition) if isinstance(one, nodes.Read))
    keys = frozenset(one.key for one in reads if one.source == "other")

    def first(environment: Environment) -> Environment | None:
        others = environment[RECORDS].others(keys, where(environment))
        return next((one for one in others if condition({**environment, **one}) is True), None)

    return first


def _takes_long(given: tuple[nodes.Node, ...]) -> bool:
    """Whether an argument may be a list, or a text that was built."""
    return any(one.kind in _SIZED and not isinstance(one, _SHORT) for one in given)


_SIZED = {"list", "text", "context", "unknown"}
_SHORT = nodes.Constant
_COSTLY = nodes.Some | nodes.Collect | nodes.Filter | nodes.Call | nodes.ContextOf
WAYS: dict[type[nodes.Node], Callable[[Any], Evaluator]] = {
    nodes.Constant: _constant,
    nodes.Read: _read,
    nodes.Refer: _refer,
    nodes.IsBlank: _is_blank,
    nodes.IsTrue: _is_true,
    nodes.Equal: _equal,
    nodes.Order: _order,
    nodes.Among: _among,
    nodes.EachAmong: _each_among,
    nodes.And: _and,
    nodes.Or: _or,
    nodes.Not: _not,
    nodes.If: _if,
    nodes.Switch: _switch,
    nodes.Arithmetic: _arithmetic,
    nodes.Call: _call,
    nodes.CountFilled: _count_filled,
    nodes.CountRelevant: _count_relevant,
    nodes.Relevant: _relevant,
    nodes.Taken: _taken,
    nodes.Exists: _exists,
    **list_ways(_traced),
}
"""How each node is asked. Cases, iterations and entries go with what holds them."""
