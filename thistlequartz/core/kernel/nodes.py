"""The small language that engines understand: what conditions and formulas lower to.

Each node is a small frozen value. It carries the kind of value it gives, whether that can be blank
where everything it reads can be read, and the part of the written rule that it came from. Boolean
nodes are three-valued: true, false or null, by Kleene's tables.
"""

from dataclasses import dataclass, field
from typing import Any, Literal

from thistlequartz.core.language import tree
from thistlequartz.core.language.walking import TreeWalker

Kind = Literal[
    "text",
    "number",
    "boolean",
    "date",
    "time",
    "date_time",
    "days",
    "months",
    "list",
    "range",
    "context",
    "unknown",
]
"""What a value is to an engine; `unknown` shows only when it is evaluated."""
Source = Literal["field", "second", "stored", "other", "circumstance", "variable"]
"""Where a value is read: a field, its second entry, what it held before, the other record that is
looked at, a circumstance, or a name that the expression itself gives."""


@dataclass(frozen=True, slots=True)
class Node:
    """Any part of the kernel."""

    kind: Kind = field(default="unknown", kw_only=True)
    blankable: bool = field(default=True, kw_only=True)
    """Whether it can be blank, or null, though everything it reads can be read."""
    part: tree.Node | None = field(default=None, compare=False, repr=False, kw_only=True)
    """What it came from, so that traces and messages speak in the words of who wrote the rule."""


@dataclass(frozen=True, slots=True)
class Constant(Node):
    """A value that is known beforehand; None is blank."""

    value: Any


@dataclass(frozen=True, slots=True)
class Read(Node):
    """A value that is given."""

    source: Source
    key: str


@dataclass(frozen=True, slots=True)
class Refer(Node):
    """The field `name` of the record of `form` whose number `reference` gives; null for none."""

    reference: Node
    key: str
    """The field that holds the reference."""
    form: str
    name: str


@dataclass(frozen=True, slots=True)
class IsBlank(Node):
    """Whether a value is blank; null only where it cannot be read."""

    operand: Node


@dataclass(frozen=True, slots=True)
class IsTrue(Node):
    """Whether a condition is true; never null."""

    operand: Node


@dataclass(frozen=True, slots=True)
class Equal(Node):
    """Whether two values are equal, a blank only to a blank; null only where one is unreadable."""

    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Order(Node):
    """Whether one value is less than another, or no more; null where they have no common order."""

    sign: Literal["<", "<="]
    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Among(Node):
    """Whether a value is one of the constants, all of one kind; blank is none of them."""

    value: Node
    constants: tuple[Any, ...]


@dataclass(frozen=True, slots=True)
class EachAmong(Node):
    """Whether every item of a list, or a single value, is one of the constants; null if blank."""

    value: Node
    constants: tuple[Any, ...]


@dataclass(frozen=True, slots=True)
class And(Node):
    """Kleene's and."""

    parts: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class Or(Node):
    """Kleene's or."""

    parts: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class Not(Node):
    """Kleene's not."""

    operand: Node


@dataclass(frozen=True, slots=True)
class If(Node):
    """One of two values: the first where the condition is true, else the second."""

    condition: Node
    then: Node
    otherwise: Node


@dataclass(frozen=True, slots=True)
class CaseBranch(Node):
    """One way of a choice, by a constant."""

    constant: Any
    then: Node


@dataclass(frozen=True, slots=True)
class Switch(Node):
    """The value of the first case whose constant the subject equals; null where it equals none."""

    subject: Node
    cases: tuple[CaseBranch, ...]


@dataclass(frozen=True, slots=True)
class Arithmetic(Node):
    """Two values joined by an operator; null where they cannot be."""

    operator: tree.ArithmeticOperator
    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Call(Node):
    """A built-in function with its arguments by place, null for those left out."""

    function: str
    arguments: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class CountFilled(Node):
    """How many of the relevant fields are filled; unreadable where one of them is."""

    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class CountRelevant(Node):
    """How many of the fields are relevant."""

    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Relevant(Node):
    """Whether any of the fields is relevant; never null."""

    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Taken(Node):
    """Whether another record of the form holds the same values in these fields.

    Null where one of them is blank or unreadable, or where other records cannot be looked at.
    """

    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Exists(Node):
    """Whether the condition is true of another record of the form; null where none can be seen."""

    condition: Node


@dataclass(frozen=True, slots=True)
class Some(Node):
    """Kleene's or over every combination of the iterations."""

    iterations: tuple["Iteration", ...]
    condition: Node


@dataclass(frozen=True, slots=True)
class Collect(Node):
    """The value of the body for every combination of the iterations, as a list."""

    iterations: tuple["Iteration", ...]
    body: Node
    looks_back: bool
    """Whether the body reads what was given so far, as `partial`."""


@dataclass(frozen=True, slots=True)
class Iteration(Node):
    """A name for each item of a list in turn."""

    name: str
    items: Node


@dataclass(frozen=True, slots=True)
class Numbers(Node):
    """The whole numbers from one to another, up or down."""

    first: Node
    last: Node


@dataclass(frozen=True, slots=True)
class Filter(Node):
    """The items of a list for which the condition is true, or the item at a position."""

    subject: Node
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
class ContextOf(Node):
    """Named values; later ones may read earlier ones."""

    entries: tuple[Entry, ...]


@dataclass(frozen=True, slots=True)
class RangeOf(Node):
    """A range as a value of its own; null where its ends have no common order."""

    low: Node
    high: Node
    low_included: bool
    high_included: bool


_WALKING = TreeWalker(Node, "kind", "blankable", "part")
children, walk, depth = _WALKING.children, _WALKING.walk, _WALKING.depth
