"""The nodes of an expression. Each is a small frozen value; every reader of them stands beside."""

from collections.abc import Iterator
from dataclasses import dataclass, field, fields
from datetime import date
from decimal import Decimal
from typing import Literal

from .problems import Position

EqualityOperator = Literal["=", "!="]
OrderOperator = Literal["<", "<=", ">", ">="]
ComparisonOperator = EqualityOperator | OrderOperator
ArithmeticOperator = Literal["+", "-", "*", "/"]


@dataclass(frozen=True, slots=True)
class Node:
    """Any part of an expression; `at` is where it was read, and does not count in equality."""

    at: Position | None = field(default=None, compare=False, repr=False, kw_only=True)


@dataclass(frozen=True, slots=True)
class Null(Node):
    """The blank value."""


@dataclass(frozen=True, slots=True)
class Truth(Node):
    """Yes (true) or no (false), as a literal."""

    value: bool


@dataclass(frozen=True, slots=True)
class Number(Node):
    """A literal number."""

    value: Decimal


@dataclass(frozen=True, slots=True)
class Text(Node):
    """A literal text, or the code of a choice."""

    value: str


@dataclass(frozen=True, slots=True)
class Date(Node):
    """A literal date."""

    value: date


@dataclass(frozen=True, slots=True)
class Field(Node):
    """The value of a field of the form."""

    key: str


@dataclass(frozen=True, slots=True)
class Today(Node):
    """The day of the evaluation."""


@dataclass(frozen=True, slots=True)
class Negate(Node):
    """A number with its sign turned."""

    operand: Node


@dataclass(frozen=True, slots=True)
class Arithmetic(Node):
    """Two numbers joined by an operator."""

    operator: ArithmeticOperator
    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Comparison(Node):
    """Two values compared for equality or order."""

    operator: ComparisonOperator
    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Interval(Node):
    """A range of values; each bound may belong to it or not."""

    low: Node
    high: Node
    low_included: bool = True
    high_included: bool = True


@dataclass(frozen=True, slots=True)
class Membership(Node):
    """A value that is in one of the intervals or equal to one of the values listed."""

    value: Node
    tests: tuple[Node, ...]
    ignore_case: bool = False


@dataclass(frozen=True, slots=True)
class And(Node):
    """All parts are true."""

    parts: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class Or(Node):
    """At least one part is true."""

    parts: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class Not(Node):
    """The operand is false."""

    operand: Node


def children(node: Node) -> Iterator[Node]:
    """The nodes directly under `node`, in reading order."""
    for part in fields(node):
        value = getattr(node, part.name)
        if isinstance(value, Node):
            yield value
        elif isinstance(value, tuple):
            yield from value


def walk(node: Node) -> Iterator[Node]:
    """`node` and everything under it, without recursion."""
    waiting = [node]
    while waiting:
        current = waiting.pop()
        yield current
        waiting.extend(children(current))


def depth(node: Node) -> int:
    """How many levels of nodes there are, without recursion."""
    deepest, waiting = 0, [(node, 1)]
    while waiting:
        current, level = waiting.pop()
        deepest = max(deepest, level)
        waiting.extend((child, level + 1) for child in children(current))
    return deepest


def fields_read(node: Node) -> frozenset[str]:
    """The keys of the fields that `node` reads."""
    return frozenset(part.key for part in walk(node) if isinstance(part, Field))


def blank_tested(node: Node) -> Field | None:
    """The field that `node` tests for being blank or filled, if that is what it does."""
    match node:
        case Comparison("=" | "!=", Field() as tested, Null()):
            return tested
        case Comparison("=" | "!=", Null(), Field() as tested):
            return tested
        case _:
            return None


def fields_blank_tested(node: Node) -> frozenset[str]:
    """The keys of the fields that `node` tests for blank."""
    tested = (blank_tested(part) for part in walk(node))
    return frozenset(field.key for field in tested if field is not None)
