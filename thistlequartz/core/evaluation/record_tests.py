"""What only rules ask: groups, second entries, other records, values that go together."""

from collections.abc import Callable
from typing import Any

from thistlequartz.core.expression import tree
from thistlequartz.core.functions.operations import UNREADABLE, all_true, any_true, equal

from .environment import (
    CLOSED,
    NOTHING_CLOSED,
    RECORDS,
    Environment,
    Evaluator,
    again,
    stored,
)

Interpret = Callable[[tree.Node], Evaluator]


def record_test(node: tree.Node, interpret: Interpret) -> Evaluator:
    """The function that answers one of these nodes for an environment."""
    match node:
        case tree.Changed(key):
            return changed(key)
        case tree.Referred(tree.Field(key) | tree.Stored(key) as subject, form, name):
            return _referred(interpret(subject), key, form, name)
        case tree.Filled(quantity, keys):
            return _filled(quantity, keys)
        case tree.EnteredTwice(key):
            return _entered_twice(key)
        case tree.Unique(keys):
            return _unique(keys)
        case tree.NoOther(condition):
            return _no_other(interpret(condition))
        case tree.AllAmong(value, tests):
            return _all_among(interpret(value), [interpret(test) for test in tests])
        case tree.Goes():
            return _goes(node, interpret)
        case _:
            raise NotImplementedError(f"{type(node).__name__} cannot be evaluated on its own")


def changed(key: str) -> Evaluator:
    """Whether a field differs from what it held before; null while it cannot be read."""
    before = stored(key)

    def has_changed(environment: Environment) -> bool | None:
        same = equal(environment.get(key), environment.get(before))
        return None if same is None else not same

    return has_changed


def _referred(subject: Evaluator, key: str, form: str, name: str) -> Evaluator:
    def referred(environment: Environment) -> Any:
        records = environment.get(RECORDS)
        return None if records is None else records.field_of(key, form, subject(environment), name)

    return referred


def _filled(quantity: tree.Quantity, keys: tuple[str, ...]) -> Evaluator:
    def filled(environment: Environment) -> bool | None:
        closed = environment.get(CLOSED, NOTHING_CLOSED)
        values = [environment.get(key) for key in keys if key not in closed]
        if any(value is UNREADABLE for value in values):
            return None
        count = sum(value is not None for value in values)
        match quantity:
            case "at_least_one":
                return count >= 1
            case "exactly_one":
                return count == 1
            case "all_or_none":
                return count in (0, len(values))

    return filled


def _entered_twice(key: str) -> Evaluator:
    second, has_changed = again(key), changed(key)

    def agrees(environment: Environment) -> bool | None:
        first = environment.get(key)
        if first is None or has_changed(environment) is not True:
            return None
        return environment.get(second) is not UNREADABLE and equal(first, environment.get(second))

    return agrees


def _unique(keys: tuple[str, ...]) -> Evaluator:
    def unlike_others(environment: Environment) -> bool | None:
        records = environment.get(RECORDS)
        values = unique_values(environment, keys)
        if records is None or any(value is None or value is UNREADABLE for value in values):
            return None
        return not records.taken(keys, values)

    return unlike_others


def unique_values(environment: Environment, keys: tuple[str, ...]) -> tuple[Any, ...]:
    """What a record holds in some fields, as it is held against other records."""
    return tuple(_hashable(environment.get(key)) for key in keys)


def _hashable(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def _no_other(condition: Evaluator) -> Evaluator:
    def none_found(environment: Environment) -> bool | None:
        records = environment.get(RECORDS)
        if records is None:
            return None
        return not any(condition({**environment, **one}) is True for one in records.others())

    return none_found


def _all_among(value: Evaluator, allowed: list[Evaluator]) -> Evaluator:
    def among(environment: Environment) -> bool | None:
        ticked = value(environment)
        if ticked is None or ticked is UNREADABLE:
            return None
        known = [one(environment) for one in allowed]
        return all_true(any_true(equal(code, one) for one in known) for code in ticked)

    return among


def _goes(node: tree.Goes, interpret: Interpret) -> Evaluator:
    value, governor = interpret(node.value), interpret(node.governor)
    rows = [
        (interpret(row.governing), [interpret(test) for test in row.tests]) for row in node.rows
    ]

    def goes(environment: Environment) -> bool | None:
        given, governing = value(environment), governor(environment)
        if given is None or given is UNREADABLE:
            return None
        for answer, tests in rows:
            if equal(governing, answer(environment)) is True:
                known = [test(environment) for test in tests]
                parts = given if isinstance(given, list) else [given]
                return all_true(any_true(equal(part, one) for one in known) for part in parts)
        return None

    return goes
