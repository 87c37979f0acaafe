"""From a tree to Python source: a condition that holds where the node is true, or is false.

Source is written for what can be compared without looking at types again: fields, literals and
`today` of one kind. Anything else is asked of the interpreter, so both always agree.
"""

from collections.abc import Callable, Iterable, Mapping
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any, Literal

from thistlequartz.core.engines.environment import Evaluator
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.expression import Vocabulary, tree
from thistlequartz.core.formats import NAMED_FORMATS, compile_pattern
from thistlequartz.core.values import (
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    ReferenceType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
    folded,
)

Kind = Literal["text", "number", "count", "date", "time", "date_time", "yes_no", "list"]
MAX_SOURCE_DEPTH = 20
"""Levels of parts beyond which a condition is interpreted: Python bounds its parentheses."""
_ORDERED: frozenset[Kind] = frozenset({"text", "number", "count", "date", "time", "date_time"})
_OPPOSITE = {"<": ">=", "<=": ">", ">": "<=", ">=": "<"}
_KINDS: dict[type[ValueType], Kind] = {
    TextType: "text",
    ChoiceType: "text",
    ReferenceType: "text",
    NumberType: "number",
    DateType: "date",
    TimeType: "time",
    DateTimeType: "date_time",
    YesNoType: "yes_no",
    ChoicesType: "list",
}


class _NoSource(Exception):
    """This node is better interpreted."""


class Source:
    """Writes conditions, and keeps the constants and functions that they name.

    A field stands as a local name, an environment as `env`; `filled` are the fields known not to
    be blank where the condition is asked.
    """

    def __init__(self, vocabulary: Vocabulary, today: date, closable: frozenset[str]) -> None:
        self.names: dict[str, Any] = {}
        self.used: set[str] = set()
        """The fields that were named since this was last emptied."""
        self.asks_environment = False
        self._vocabulary = vocabulary
        self.today = today
        self._closable = closable
        self._constants: dict[tuple[type, Any], str] = {}
        self._evaluators: dict[int, str] = {}
        self._places = {key: f"f{place}" for place, key in enumerate(vocabulary)}

    def field(self, key: str) -> str:
        """The local name of a field."""
        self.used.add(key)
        return self._places[key]

    def loads(self, keys: Iterable[str]) -> list[str]:
        """The statements that give fields their local names, in the order of the form."""
        named = sorted((int(self._places[key][1:]), key) for key in keys)
        return [f"{self._places[key]} = env[{self.constant(key)}]" for _, key in named]

    def bound(self, value: Any) -> str:
        """A global name for `value`."""
        name = f"k{len(self.names)}"
        self.names[name] = value
        return name

    def is_true(self, node: tree.Node, filled: frozenset[str] = frozenset()) -> str:
        """A Python condition that holds exactly where `node` is true."""
        return self._asked(node, filled, wanted=True)

    def is_false(self, node: tree.Node, filled: frozenset[str] = frozenset()) -> str:
        """A Python condition that holds exactly where `node` is false."""
        return self._asked(node, filled, wanted=False)

    def called(self, evaluator: Evaluator) -> str:
        """A call of `evaluator`."""
        name = self._evaluators.get(id(evaluator))
        if name is None:
            name = self._evaluators[id(evaluator)] = self.bound(evaluator)
        self.asks_environment = True
        return f"{name}(env)"

    def _asked(self, node: tree.Node, filled: frozenset[str], *, wanted: bool) -> str:
        if tree.depth(node) > MAX_SOURCE_DEPTH:
            return f"{self.called(interpret(node))} is {wanted}"
        return _Writer(self, filled).write(node, wanted)

    def constant(self, value: Any) -> str:
        """A name for a constant; equal ones of one type share it."""
        key = (type(value), value)
        if key not in self._constants:
            self._constants[key] = self.bound(value)
        return self._constants[key]

    def kind_of(self, key: str) -> Kind:
        """What the values of a field are to Python."""
        return _KINDS[type(self._vocabulary[key].type)]

    def may_close(self, keys: tuple[str, ...]) -> bool:
        """Whether one of the fields may be out of play."""
        return not self._closable.isdisjoint(keys)


class _Operand:
    """One side of a comparison: its source, its kind, and whether it may be blank."""

    def __init__(self, source: str, kind: Kind, blank: bool) -> None:
        self.source, self.kind, self.blank = source, kind, blank


class _Writer:
    def __init__(self, source: Source, filled: frozenset[str]) -> None:
        self.source = source
        self.filled = filled
        self._ways: Mapping[type[tree.Node], Callable[[Any, bool], str]] = {
            tree.And: self._and,
            tree.Or: self._or,
            tree.Comparison: self._comparison,
            tree.Membership: self._membership,
            tree.Fits: self._fits,
            tree.FitsPattern: self._fits_pattern,
            tree.Filled: self._filled,
            tree.AllAmong: self._all_among,
            tree.Goes: self._goes,
        }

    def write(self, node: tree.Node, wanted: bool) -> str:
        """The condition, in parentheses where it has parts."""
        match node:
            case tree.Named(_, condition):
                return self.write(condition, wanted)
            case tree.Not(operand):
                return self.write(operand, not wanted)
            case tree.Truth(value):
                return str(value is wanted)
            case tree.Field(key) if self.source.kind_of(key) == "yes_no":
                return f"{self.source.field(key)} is {wanted}"
        way = self._ways.get(type(node))
        if way is not None:
            try:
                return way(node, wanted)
            except _NoSource:
                pass
        return f"{self.source.called(interpret(node))} is {wanted}"

    def _and(self, node: tree.And, wanted: bool) -> str:
        joined = " and " if wanted else " or "
        return f"({joined.join(self.write(part, wanted) for part in node.parts)})"

    def _or(self, node: tree.Or, wanted: bool) -> str:
        joined = " or " if wanted else " and "
        return f"({joined.join(self.write(part, wanted) for part in node.parts)})"

    def _operand(self, node: tree.Node) -> _Operand:
        match node:
            case tree.Field(key):
                place, blank = self.source.field(key), key not in self.filled
                return _Operand(place, self.source.kind_of(key), blank)
            case tree.Call("string length", (tree.Field(key),)) if key in self.filled:
                return _Operand(f"len({self.source.field(key)})", "count", blank=False)
            case tree.Call("count", (tree.Field(key),)) if key in self.filled:
                return _Operand(f"len({self.source.field(key)})", "count", blank=False)
        kind, value = self._constant(node)
        return _Operand(self.source.constant(value), kind, blank=False)

    def _constant(self, node: tree.Node) -> tuple[Kind, Any]:
        """A literal, or what depends on the day alone."""
        if tree.fields_read(node) or not all(_is_fixed(part) for part in tree.walk(node)):
            raise _NoSource
        value = interpret(node)({"today": self.source.today})
        match value:
            case bool():
                return "yes_no", value
            case Decimal():
                return "number", value
            case str():
                return "text", value
            case time() if value.tzinfo is None:
                return "time", value
            case datetime() if value.tzinfo is not None:
                return "date_time", value
            case date() if not isinstance(value, datetime):
                return "date", value
            case _:
                raise _NoSource

    def _comparison(self, node: tree.Comparison, wanted: bool) -> str:
        if node.operator in ("=", "!="):
            return self._equality(node, wanted is (node.operator == "="))
        left, right = self._operand(node.left), self._operand(node.right)
        if not _comparable(left, right) or left.kind not in _ORDERED:
            raise _NoSource
        sign = node.operator if wanted else _OPPOSITE[node.operator]
        return _unblank((left, right), f"{left.source} {sign} {right.source}")

    def _equality(self, node: tree.Comparison, same: bool) -> str:
        for tested, other in ((node.left, node.right), (node.right, node.left)):
            if isinstance(other, tree.Null):
                if not isinstance(tested, tree.Field):
                    raise _NoSource
                return f"{self.source.field(tested.key)} is {'' if same else 'not '}None"
        left, right = self._operand(node.left), self._operand(node.right)
        if not _comparable(left, right):
            raise _NoSource
        return f"{left.source} {'==' if same else '!='} {right.source}"

    def _membership(self, node: tree.Membership, wanted: bool) -> str:
        value = self._operand(node.value)
        if value.kind == "list":
            raise _NoSource
        singles: list[Any] = []
        parts: list[str] = []
        for test in node.tests:
            match test:
                case tree.Interval():
                    parts.append(self._within(value, test, wanted))
                case tree.UnaryTest():
                    raise _NoSource
                case _:
                    kind, single = self._constant(test)
                    if kind != value.kind:
                        raise _NoSource
                    singles.append(single)
        if singles:
            parts.append(self._among(value, singles, node.ignore_case, wanted))
        joined = " or " if wanted else " and "
        return f"({joined.join(parts)})"

    def _among(self, value: _Operand, singles: list[Any], ignore_case: bool, wanted: bool) -> str:
        inside = "in" if wanted else "not in"
        if not ignore_case:
            known: Any = frozenset(singles) if value.kind == "text" else tuple(singles)
            return f"{value.source} {inside} {self.source.bound(known)}"
        if value.kind != "text":
            raise _NoSource
        known = self.source.bound(frozenset(map(folded, singles)))
        asked = f"{self.source.constant(folded)}({value.source}) {inside} {known}"
        if not value.blank:
            return asked
        test = "is not None and" if wanted else "is None or"
        return f"({value.source} {test} {asked})"

    def _within(self, value: _Operand, node: tree.Interval, wanted: bool) -> str:
        low, high = self._operand(node.low), self._operand(node.high)
        if value.kind not in _ORDERED or not _comparable(value, low) or low.blank or high.blank:
            raise _NoSource
        if not _comparable(value, high):
            raise _NoSource
        above = "<=" if node.low_included else "<"
        below = "<=" if node.high_included else "<"
        inside = f"{low.source} {above} {value.source} {below} {high.source}"
        return _unblank((value,), inside if wanted else f"not ({inside})")

    def _fits(self, node: tree.Fits, wanted: bool) -> str:
        value = self._text(node.value)
        why_not = self.source.constant(NAMED_FORMATS[node.format].why_not)
        country = self.source.constant(node.country)
        test = "is None" if wanted else "is not None"
        return _unblank((value,), f"{why_not}({value.source}, {country}) {test}")

    def _fits_pattern(self, node: tree.FitsPattern, wanted: bool) -> str:
        value = self._text(node.value)
        matches = self.source.bound(compile_pattern(node.pattern).fullmatch)
        test = "is not None" if wanted else "is None"
        return _unblank((value,), f"{matches}({value.source}) {test}")

    def _text(self, node: tree.Node) -> _Operand:
        value = self._operand(node)
        if value.kind != "text":
            raise _NoSource
        return value

    def _filled(self, node: tree.Filled, wanted: bool) -> str:
        if self.source.may_close(node.keys):
            raise _NoSource
        places = [self.source.field(key) for key in node.keys]
        filled = [f"({place} is not None)" for place in places]
        if node.quantity == "at_least_one":
            return f"({' or '.join(filled)})" if wanted else f"not ({' or '.join(filled)})"
        count = " + ".join(filled)
        if node.quantity == "exactly_one":
            return f"({count}) {'==' if wanted else '!='} 1"
        return f"({count}) {'' if wanted else 'not '}in (0, {len(places)})"

    def _all_among(self, node: tree.AllAmong, wanted: bool) -> str:
        value = self._operand(node.value)
        known = frozenset(self._constant(test)[1] for test in node.tests)
        if value.kind != "list":
            raise _NoSource
        within = f"{self.source.bound(known)}.issuperset({value.source})"
        return _unblank((value,), within if wanted else f"not {within}")

    def _goes(self, node: tree.Goes, wanted: bool) -> str:
        value, governor = self._operand(node.value), self._operand(node.governor)
        if value.kind == "list" or governor.kind == "list":
            raise _NoSource
        rows: dict[Any, frozenset[Any]] = {}
        for row in node.rows:
            known = frozenset(self._constant(test)[1] for test in row.tests)
            rows.setdefault(self._constant(row.governing)[1], known)
        # A governing answer without a row leaves nothing to judge.
        known_rows, answer = self.source.bound(rows), governor.source
        inside = f"{value.source} {'in' if wanted else 'not in'} {known_rows}[{answer}]"
        return _unblank((value,), f"{answer} in {known_rows} and {inside}")


def _is_fixed(node: tree.Node) -> bool:
    """Whether it reads nothing of the record, of other records or of the instant."""
    return not isinstance(
        node,
        tree.Now
        | tree.Circumstance
        | tree.Stored
        | tree.OtherField
        | tree.Referred
        | tree.NoOther
        | tree.Variable,
    ) and not (isinstance(node, tree.Call) and node.function in ("now", "today"))


def _comparable(left: _Operand, right: _Operand) -> bool:
    kinds = {left.kind, right.kind}
    return len(kinds) == 1 or kinds == {"number", "count"}


def _unblank(operands: tuple[_Operand, ...], asked: str) -> str:
    """`asked`, where none of the operands is blank."""
    tests = [f"{one.source} is not None" for one in operands if one.blank]
    return f"({' and '.join([*tests, asked])})" if tests else f"({asked})"
