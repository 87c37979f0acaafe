"""The nodes of an expression: small frozen values; every reader of them stands beside."""

from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Literal

from thistlequartz.core.values import Months

from .problems import Position
from .walking import TreeWalker

EqualityOperator = Literal["=", "!="]
OrderOperator = Literal["<", "<=", ">", ">="]
Quantity = Literal["at_least_one", "exactly_one", "all_or_none"]
ComparisonOperator = EqualityOperator | OrderOperator
ArithmeticOperator = Literal["+", "-", "*", "/", "**"]
TypeName = Literal[
    "number",
    "string",
    "boolean",
    "date",
    "time",
    "date and time",
    "days and time duration",
    "years and months duration",
    "list",
    "context",
    "Any",
]


@dataclass(frozen=True, slots=True)
class Node:
    """Any part of an expression; `at` is where it was read, and does not count in equality."""

    at: Position | None = field(default=None, compare=False, repr=False, kw_only=True)


@dataclass(frozen=True, slots=True)
class Null(Node):
    """The blank value."""


@dataclass(frozen=True, slots=True)
class Boolean(Node):
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
class Time(Node):
    """A literal time of day, with an offset where it was given one."""

    value: time


@dataclass(frozen=True, slots=True)
class DateTime(Node):
    """A literal day and time, with an offset where it was given one."""

    value: datetime


@dataclass(frozen=True, slots=True)
class Duration(Node):
    """A literal length of time: exact (days to seconds), or in years and months."""

    value: timedelta | Months


@dataclass(frozen=True, slots=True)
class Field(Node):
    """The value of a field of the form."""

    key: str


@dataclass(frozen=True, slots=True)
class Variable(Node):
    """A name that the expression itself gives: in `for`, `some`, `every`, a filter or a context."""

    name: str


@dataclass(frozen=True, slots=True)
class Today(Node):
    """The day of the evaluation."""


@dataclass(frozen=True, slots=True)
class Now(Node):
    """The instant of the evaluation."""


@dataclass(frozen=True, slots=True)
class Circumstance(Node):
    """How the record comes: `event`, `entry_point` or `role`, as text."""

    name: Literal["event", "entry_point", "role"]


@dataclass(frozen=True, slots=True)
class StoredValue(Node):
    """What a field held before an update; blank on creation."""

    key: str


@dataclass(frozen=True, slots=True)
class ChangedField(Node):
    """Whether a field differs from what it held before; on creation, whether it is filled."""

    key: str


@dataclass(frozen=True, slots=True)
class OtherField(Node):
    """The value of a field in another record of the form."""

    key: str


@dataclass(frozen=True, slots=True)
class Referred(Node):
    """A field of the record that a reference points to; `form` is that record's form."""

    subject: Node
    form: str
    name: str


@dataclass(frozen=True, slots=True)
class NamedConditionUse(Node):
    """A condition that is written once and called by its key."""

    key: str
    condition: Node


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
class MatchesFormat(Node):
    """A text that is written in a named format, by the rules of a country where it needs one."""

    value: Node
    format: str
    country: str | None = None


@dataclass(frozen=True, slots=True)
class MatchesPattern(Node):
    """A text that a pattern matches from its first character to its last."""

    value: Node
    pattern: str
    described: str = ""


@dataclass(frozen=True, slots=True)
class Filled(Node):
    """How many of the fields are filled, among the relevant ones."""

    quantity: Quantity
    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class EnteredTwice(Node):
    """A field's second entry agrees with the first, wherever the first is filled and changed."""

    key: str


@dataclass(frozen=True, slots=True)
class Unique(Node):
    """No other record of the form holds the same values in these fields."""

    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NoOther(Node):
    """There is no other record of the form for which the condition is true."""

    condition: Node


@dataclass(frozen=True, slots=True)
class AllAmong(Node):
    """Every ticked choice of a field is one of the values."""

    value: Node
    tests: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class AllowedValuesRow(Node):
    """The values that go with one governing answer."""

    governing: Node
    tests: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class ValueByAnswer(Node):
    """A value that goes with a governing answer; null where the answer has no row.

    Texts may be compared without regard to case: the value and the answer.
    """

    value: Node
    governor: Node
    rows: tuple[AllowedValuesRow, ...]
    ignore_case: bool = False


@dataclass(frozen=True, slots=True)
class UnaryTest(Node):
    """A comparison whose left side is the value being tested: `> 5`."""

    operator: ComparisonOperator
    operand: Node


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


@dataclass(frozen=True, slots=True)
class If(Node):
    """One of two values, by a condition."""

    condition: Node
    then: Node
    otherwise: Node


@dataclass(frozen=True, slots=True)
class Iteration(Node):
    """A name for each item of a list in turn."""

    name: str
    items: Node


@dataclass(frozen=True, slots=True)
class Counting(Node):
    """The whole numbers from one to another, up or down."""

    first: Node
    last: Node


@dataclass(frozen=True, slots=True)
class For(Node):
    """The value of the body for every combination of the iterations, as a list."""

    iterations: tuple[Iteration, ...]
    body: Node


@dataclass(frozen=True, slots=True)
class Quantified(Node):
    """Whether some, or every, combination of the iterations satisfies the condition."""

    quantifier: Literal["some", "every"]
    iterations: tuple[Iteration, ...]
    condition: Node


@dataclass(frozen=True, slots=True)
class ListOf(Node):
    """A list."""

    items: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class Entry(Node):
    """A named value in a context."""

    key: str
    value: Node


@dataclass(frozen=True, slots=True)
class Context(Node):
    """Named values; later ones may use earlier ones."""

    entries: tuple[Entry, ...]


@dataclass(frozen=True, slots=True)
class Filter(Node):
    """The items of a list that satisfy a condition on `item`, or the item at a position."""

    subject: Node
    condition: Node


@dataclass(frozen=True, slots=True)
class Path(Node):
    """A property of a date, time or duration, or an entry of a context."""

    subject: Node
    name: str


@dataclass(frozen=True, slots=True)
class InstanceOf(Node):
    """Whether a value has a type."""

    subject: Node
    type: TypeName


@dataclass(frozen=True, slots=True)
class Call(Node):
    """A built-in function with its arguments, by place or by name (then `names` has them)."""

    function: str
    arguments: tuple[Node, ...]
    names: tuple[str, ...] = ()


_WALKING = TreeWalker(Node, "at")
children, walk, depth = _WALKING.children, _WALKING.walk, _WALKING.depth


def fields_read(node: Node) -> frozenset[str]:
    """The keys of the fields that `node` reads."""
    read: set[str] = set()
    for part in walk(node):
        match part:
            case Field(key) | ChangedField(key) | EnteredTwice(key):
                read.add(key)
            case Filled(_, keys) | Unique(keys):
                read.update(keys)
    return frozenset(read)


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
    """The keys of the fields that `node` tests for blank, alone or among other values."""
    tested = (blank_tested(part) or _blank_among(part) for part in walk(node))
    return frozenset(field.key for field in tested if field is not None)


def _blank_among(node: Node) -> Field | None:
    """The field of which null is one of the values that it may have."""
    match node:
        case Membership(Field() as tested, tests):
            listed = (one.items if isinstance(one, ListOf) else (one,) for one in tests)
            return tested if any(isinstance(v, Null) for some in listed for v in some) else None
        case _:
            return None
