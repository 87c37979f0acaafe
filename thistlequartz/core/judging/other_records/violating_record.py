"""Which other record a rule about other records was violated by."""

from collections.abc import Callable
from typing import Any

from thistlequartz.core.engines.environment import RECORDS, Environment
from thistlequartz.core.engines.traced import first_other, unique_values
from thistlequartz.core.kernel import nodes

from .port import NUMBER
from .records import Records

Double = Callable[[Environment], dict[str, Any] | None]
"""What the other record holds, under its number and the names of what was read of it; None where
there is none, or where it has no number and nothing was read."""


def double_in(satisfied: nodes.Node) -> Double | None:
    """What finds the other record by which a check was violated; None where it asks of none."""
    for node in nodes.walk(satisfied):
        if isinstance(node, nodes.Exists):
            return _first(node)
        if isinstance(node, nodes.Taken):
            return _holder(node)
    return None


def _first(node: nodes.Exists) -> Double:
    first = first_other(node)

    def found(environment: Environment) -> dict[str, Any] | None:
        records = environment.get(RECORDS)
        if not isinstance(records, Records) or records.discreet:
            return None
        there = first(environment)
        return None if there is None else dict(there)

    return found


def _holder(node: nodes.Taken) -> Double:
    keys = node.keys

    def found(environment: Environment) -> dict[str, Any] | None:
        records = environment.get(RECORDS)
        if not isinstance(records, Records) or records.discreet:
            return None
        number = records.holder(keys, unique_values(environment, keys))
        return None if number is None else {NUMBER: number}

    return found
