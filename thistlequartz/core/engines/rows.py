"""An engine that narrows: which of the stored records a condition on them can be true of.

It translates the condition of a rule about other records, with the values of the record at hand put
in, into a small description of a query, which the caller turns into its own (the service into one
on indexed rows). What it cannot say it leaves out, so that too many records are found and never too
few; the condition is then asked of those with `traced`.
"""

from collections.abc import Callable, Container, Iterable
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any, Final, Literal

from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.kernel import nodes
from thistlequartz.core.values import Months

from .environment import Environment, Evaluator

Relation = Literal["=", "<", "<=", ">", ">="]
Held = str | Decimal | bool | date | time | datetime | timedelta | Months


@dataclass(frozen=True, slots=True)
class RowComparison:
    """A field of the other record holds a value that stands in this relation to `value`."""

    key: str
    relation: Relation
    value: Held


@dataclass(frozen=True, slots=True)
class RowMembership:
    """A field of the other record holds one of the values."""

    key: str
    values: frozenset[Held]


@dataclass(frozen=True, slots=True)
class RowFilled:
    """A field of the other record is filled, or blank."""

    key: str
    filled: bool


@dataclass(frozen=True, slots=True)
class AllOf:
    """All of these are so; of none at all: every record."""

    parts: "frozenset[Where]"


@dataclass(frozen=True, slots=True)
class AnyOf:
    """At least one of these is so; of none at all: no record."""

    parts: "frozenset[Where]"


Where = RowComparison | RowMembership | RowFilled | AllOf | AnyOf
EVERY: Final = AllOf(frozenset())
NONE: Final = AnyOf(frozenset())
Narrowing = Callable[[Environment], Where]

_MIRRORED: dict[Relation, Relation] = {"<": ">", "<=": ">=", ">": "<", ">=": "<=", "=": "="}
_OPPOSITE: dict[Relation, Relation] = {"<": ">=", "<=": ">", ">": "<=", ">=": "<"}


def all_of(parts: Iterable[Where]) -> Where:
    """All of the parts are so."""
    found: set[Where] = set()
    for part in parts:
        if part == NONE:
            return NONE
        found |= part.parts if isinstance(part, AllOf) else {part}
    return found.pop() if len(found) == 1 else AllOf(frozenset(found))


def any_of(parts: Iterable[Where]) -> Where:
    """At least one of the parts is so."""
    found: set[Where] = set()
    for part in parts:
        if part == EVERY:
            return EVERY
        found |= part.parts if isinstance(part, AnyOf) else {part}
    return found.pop() if len(found) == 1 else AnyOf(frozenset(found))


def parts_of(where: Where) -> frozenset[Where]:
    """What must all be so."""
    return where.parts if isinstance(where, AllOf) else frozenset([where])


def tests_in(where: Where) -> int:
    """How many tests of fields it is made of."""
    if isinstance(where, AllOf | AnyOf):
        return sum(map(tests_in, where.parts))
    return 1


def at_most(where: Where, tests: int) -> Where:
    """What it says in so many tests, those first that tell the most; the rest is left out."""
    chosen: list[Where] = []
    for part in sorted(parts_of(where), key=_breadth):
        if tests_in(part) <= tests:
            chosen.append(part)
            tests -= tests_in(part)
    return all_of(chosen)


def _breadth(part: Where) -> tuple[bool, int, str]:
    alike = isinstance(part, RowMembership) or (
        isinstance(part, RowComparison) and part.relation == "="
    )
    return not alike, tests_in(part), repr(part)


def fields_of(where: Where) -> frozenset[str]:
    """The fields of the other record that it looks at."""
    if isinstance(where, AllOf | AnyOf):
        return frozenset().union(*map(fields_of, where.parts))
    return frozenset([where.key])


def about(where: Where, keys: Container[str]) -> Where:
    """What it says of these fields: what it says of others is left out."""
    match where:
        case AllOf(parts):
            return all_of([about(part, keys) for part in parts])
        case AnyOf(parts):
            return any_of([about(part, keys) for part in parts])
        case _:
            return where if where.key in keys else EVERY


def narrowing(condition: nodes.Node, engine: Callable[[nodes.Node], Evaluator]) -> Narrowing:
    """What must be so of another record for `condition` to be true of it, for given values.

    `engine` evaluates what stands in it of the record at hand.
    """
    return _Narrower(engine).true(condition)


class _Narrower:
    def __init__(self, engine: Callable[[nodes.Node], Evaluator]) -> None:
        self.engine = engine

    def true(self, node: nodes.Node) -> Narrowing:
        """What must be so for a condition to be true."""
        if not _looks_elsewhere(node):
            return self.here(node, wanted=True)
        match node:
            case nodes.And(parts):
                return _joined(all_of, [self.true(one) for one in parts])
            case nodes.Or(parts):
                return _joined(any_of, [self.true(one) for one in parts])
            case nodes.Not(operand):
                return self.false(operand)
            case nodes.IsTrue(operand):
                return self.true(operand)
            case nodes.If(_, then, otherwise):
                return _joined(any_of, [self.true(then), self.true(otherwise)])
            case nodes.IsBlank(nodes.Read("other", key)):
                return _always(RowFilled(key, filled=False))
            case nodes.Read("other", key) if node.kind == "boolean":
                return _always(RowComparison(key, "=", True))
            case nodes.Among(nodes.Read("other", key) as read, constants):
                fit = all(_fits(read, one) for one in constants)
                return _always(RowMembership(key, frozenset(constants)) if fit else EVERY)
            case nodes.Equal(left, right):
                return self.compared("=", left, right)
            case nodes.Order(sign, left, right):
                return self.compared(sign, left, right)
            case _:
                return _always(EVERY)

    def false(self, node: nodes.Node) -> Narrowing:
        """What must be so for a condition to be false: null is not."""
        if not _looks_elsewhere(node):
            return self.here(node, wanted=False)
        match node:
            case nodes.And(parts):
                return _joined(any_of, [self.false(one) for one in parts])
            case nodes.Or(parts):
                return _joined(all_of, [self.false(one) for one in parts])
            case nodes.Not(operand):
                return self.true(operand)
            case nodes.IsBlank(nodes.Read("other", key)):
                return _always(RowFilled(key, filled=True))
            case nodes.Read("other", key) if node.kind == "boolean":
                return _always(RowComparison(key, "=", False))
            case nodes.Order(sign, left, right):
                return self.compared(_OPPOSITE[sign], left, right)
            case _:
                return _always(EVERY)

    def here(self, node: nodes.Node, *, wanted: bool) -> Narrowing:
        """A condition on the record at hand alone: it is asked there."""
        asked = self.engine(node)
        return lambda environment: EVERY if asked(environment) is wanted else NONE

    def compared(self, relation: Relation, left: nodes.Node, right: nodes.Node) -> Narrowing:
        """A field of the other record held against a value of the record at hand."""
        if isinstance(right, nodes.Read) and right.source == "other":
            left, right, relation = right, left, _MIRRORED[relation]
        if not isinstance(left, nodes.Read) or left.source != "other" or _looks_elsewhere(right):
            return _always(EVERY)
        read, value = left, self.engine(right)

        def compared(environment: Environment) -> Where:
            here = value(environment)
            if here is UNREADABLE:
                return NONE
            if here is None:
                return RowFilled(read.key, filled=False) if relation == "=" else NONE
            return RowComparison(read.key, relation, here) if _fits(read, here) else EVERY

        return compared


def _always(where: Where) -> Narrowing:
    return lambda environment: where


def _joined(join: Callable[[Iterable[Where]], Where], parts: list[Narrowing]) -> Narrowing:
    return lambda environment: join([part(environment) for part in parts])


_TYPES: dict[nodes.Kind, type[Any]] = {
    "text": str,
    "number": Decimal,
    "boolean": bool,
    "date": date,
    "time": time,
    "date_time": datetime,
    "days": timedelta,
    "months": Months,
}


def _fits(read: nodes.Read, value: object) -> bool:
    """Whether the field can hold such a value, so that the two have one order."""
    return type(value) is _TYPES.get(read.kind)


def _looks_elsewhere(node: nodes.Node) -> bool:
    return any(isinstance(one, nodes.Read) and one.source == "other" for one in nodes.walk(node))
