"""From the tree that people write to the kernel: sugar goes, kinds of values come.

`between`, `in`, unary tests, `>`, `every`, named conditions, groups, second entries, allowed values
by answer and named arguments have no node of their own there.
"""

from collections.abc import Callable, Mapping
from datetime import date, datetime
from decimal import Decimal
from typing import Any

from thistlequartz.core.functions import FUNCTIONS
from thistlequartz.core.language import Vocabulary, tree
from thistlequartz.core.language.refusal import NotTranslated
from thistlequartz.core.values import folded

from . import nodes
from .nodes import Kind, Node
from .value_kinds import kind_of_arithmetic, kind_of_result, kind_of_type, kind_of_value

NULL = nodes.Constant(None)
_ALWAYS_THERE = {"today", "event", "entry_point"}
"""Circumstances that are never blank."""
_CIRCUMSTANCE_KINDS: dict[str, Kind] = {"today": "date", "now": "date_time"}
_NEGATED = {"!=": "=", ">": "<", ">=": "<="}


def lower(node: tree.Node, vocabulary: Vocabulary | None = None) -> Node:
    """`node` in the kernel; the fields of `vocabulary` give it the kinds of what it reads.

    Raises NotTranslated for a node that is not known here.
    """
    return _Lowering(vocabulary or {}).lower(node)


class _Lowering:
    def __init__(self, vocabulary: Vocabulary) -> None:
        self.vocabulary = vocabulary

    def lower(self, node: tree.Node) -> Node:
        way = WAYS.get(type(node))
        if way is None:
            raise NotTranslated("The kernel", type(node).__name__)
        return way(self, node)

    def field(self, key: str, source: nodes.Source, part: tree.Node | None) -> Node:
        declared = self.vocabulary.get(key)
        kind = kind_of_type(declared.type) if declared else "unknown"
        return nodes.Read(source, key, kind=kind, part=part)

    def is_set(self, node: tree.Node) -> bool:
        """Whether it is a field of several choices, which are a set."""
        match node:
            case tree.Field(key) | tree.StoredValue(key) | tree.OtherField(key):
                declared = self.vocabulary.get(key)
            case tree.Referred(tree.Field(key), _, name):
                owner = self.vocabulary.get(key)
                declared = (owner.fields or {}).get(name) if owner else None
            case _:
                return False
        return declared is not None and declared.type.holds_several

    def constant(self, node: tree.Node, value: Any) -> Node:
        return nodes.Constant(value, kind=kind_of_value(value), blankable=value is None, part=node)

    def changed(self, key: str, part: tree.Node | None) -> Node:
        """Null while either value cannot be read, as equality is."""
        now, before = self.field(key, "field", part), self.field(key, "stored", part)
        return negated(equality(now, before, part), part)


def condition(type_: type[Node], *given: Any, part: tree.Node | None = None) -> Node:
    """A condition of a type, null where one of its parts can be."""
    parts = [one for one in given if isinstance(one, Node)]
    parts += [inner for one in given if isinstance(one, tuple) for inner in one]
    blankable = any(one.blankable for one in parts if isinstance(one, Node))
    return type_(*given, kind="boolean", blankable=blankable, part=part)


def negated(node: Node, part: tree.Node | None = None) -> Node:
    """Kleene's not of it."""
    return condition(nodes.Not, node, part=part)


def blank(node: Node, part: tree.Node | None = None) -> Node:
    """Whether it is blank."""
    return nodes.IsBlank(node, kind="boolean", blankable=False, part=part)


def true(node: Node, part: tree.Node | None = None) -> Node:
    """Whether it is true, and not null."""
    return nodes.IsTrue(node, kind="boolean", blankable=False, part=part)


def equality(left: Node, right: Node, part: tree.Node | None = None) -> Node:
    """Whether both are equal; with a blank that is a test for being blank."""
    for one, other in ((left, right), (right, left)):
        if isinstance(other, nodes.Constant) and other.value is None:
            return blank(one, part)
    return nodes.Equal(left, right, kind="boolean", blankable=False, part=part)


def all_of(parts: tuple[Node, ...], part: tree.Node | None = None) -> Node:
    """Kleene's and; one part stands for itself."""
    return parts[0] if len(parts) == 1 else condition(nodes.And, parts, part=part)


def any_of(parts: tuple[Node, ...], part: tree.Node | None = None) -> Node:
    """Kleene's or; one part stands for itself."""
    return parts[0] if len(parts) == 1 else condition(nodes.Or, parts, part=part)


def choice(condition_: Node, then: Node, otherwise: Node, part: tree.Node | None = None) -> Node:
    """One of two values."""
    kinds = {one.kind for one in (then, otherwise) if one != NULL}
    kind: Kind = kinds.pop() if len(kinds) == 1 else "unknown"
    either = then.blankable or otherwise.blankable
    return nodes.If(condition_, then, otherwise, kind=kind, blankable=either, part=part)


def wherever(condition_: Node, asked: Node) -> Node:
    """What is asked, where the condition is true, or else null."""
    return choice(negated(condition_), NULL, asked)


def unless_blank(fields: tuple[Node, ...], asked: Node) -> Node:
    """What is asked, or null where one of the fields is blank."""
    return choice(any_of(tuple(blank(one) for one in fields)), NULL, asked) if fields else asked


def compared(sign: str, left: Node, right: Node, part: tree.Node | None = None) -> Node:
    """One of the six comparisons, by equality and two signs of order."""
    match sign:
        case "=":
            return equality(left, right, part)
        case "!=":
            return negated(equality(left, right, part), part)
        case "<" | "<=":
            return condition(nodes.Order, sign, left, right, part=part)
        case _:
            return condition(nodes.Order, _NEGATED[sign], right, left, part=part)


def call(function: str, *arguments: Node, kind: Kind, part: tree.Node | None = None) -> Node:
    """A call that may give null."""
    return nodes.Call(function, arguments, kind=kind, part=part)


def _read_of(source: nodes.Source) -> Callable[["_Lowering", Any], Node]:
    return lambda lowering, node: lowering.field(node.key, source, node)


def _circumstance(name: str, node: tree.Node) -> Node:
    kind = _CIRCUMSTANCE_KINDS.get(name, "text")
    there = name in _ALWAYS_THERE
    return nodes.Read("circumstance", name, kind=kind, blankable=not there, part=node)


def _refer(lowering: _Lowering, node: tree.Referred) -> Node:
    subject = node.subject
    if not isinstance(subject, tree.Field | tree.StoredValue | tree.OtherField):
        raise NotTranslated("The kernel", f"Referred of {type(subject).__name__}")
    declared = lowering.vocabulary.get(subject.key)
    known = (declared.fields or {}).get(node.name) if declared else None
    kind: Kind = kind_of_type(known.type) if known else "unknown"
    reference = lowering.lower(subject)
    return nodes.Refer(reference, subject.key, node.form, node.name, kind=kind, part=node)


def _arithmetic(lowering: _Lowering, node: tree.Arithmetic) -> Node:
    left, right = lowering.lower(node.left), lowering.lower(node.right)
    kind = kind_of_arithmetic(node.operator, left.kind, right.kind)
    return nodes.Arithmetic(node.operator, left, right, kind=kind, part=node)


def _negate(lowering: _Lowering, node: tree.Negate) -> Node:
    operand = lowering.lower(node.operand)
    return call("negate", operand, kind=operand.kind, part=node)


def _comparison(lowering: _Lowering, node: tree.Comparison) -> Node:
    left, right = lowering.lower(node.left), lowering.lower(node.right)
    sides = ((node.left, left), (node.right, right))
    sets = any(lowering.is_set(written) for written, _ in sides)
    if node.operator in ("=", "!=") and sets and NULL not in (left, right):
        left, right = (
            side
            if isinstance(side, nodes.Constant)
            else call("as set", side, kind="list", part=part)
            for part, side in sides
        )
    return compared(node.operator, left, right, node)


def is_plain(value: Any) -> bool:
    """Whether equality of such constants is that of Python, apart from their type."""
    return isinstance(value, str | Decimal | bool) or (
        isinstance(value, date) and not isinstance(value, datetime)
    )


def _membership(lowering: _Lowering, node: tree.Membership) -> Node:
    value = lowering.lower(node.value)
    if node.ignore_case:
        value = call("fold case", value, kind=value.kind, part=node)
    singles: dict[type, list[Any]] = {}
    parts: list[Node] = []
    for test in node.tests:
        if isinstance(test, tree.Interval | tree.UnaryTest):
            parts.append(_tested(lowering, value, test))
            continue
        expected = lowering.lower(test)
        if isinstance(expected, nodes.Constant) and is_plain(expected.value):
            single = expected.value
            if node.ignore_case and isinstance(single, str):
                single = folded(single)
            singles.setdefault(type(single), []).append(single)
        elif isinstance(expected, nodes.Constant):
            parts.append(equality(value, expected, test))
        elif node.ignore_case:
            other = call("fold case", expected, kind=expected.kind, part=test)
            parts.append(equality(value, other, test))
        else:
            parts.append(call("is in", value, expected, kind="boolean", part=test))
    parts += [_among(value, tuple(constants), node) for constants in singles.values()]
    return any_of(tuple(parts), node)


def _among(value: Node, constants: tuple[Any, ...], part: tree.Node) -> Node:
    once = tuple(dict.fromkeys(constants))
    return nodes.Among(value, once, kind="boolean", blankable=False, part=part)


def _tested(lowering: _Lowering, value: Node, test: tree.Node) -> Node:
    match test:
        case tree.Interval(low, high, low_included, high_included):
            above = compared(">=" if low_included else ">", value, lowering.lower(low), test)
            below = compared("<=" if high_included else "<", value, lowering.lower(high), test)
            return all_of((above, below), test)
        case tree.UnaryTest(sign, operand):
            return compared(sign, value, lowering.lower(operand), test)
        case _:
            raise NotTranslated("The kernel", type(test).__name__)


def _in_format(lowering: _Lowering, node: tree.MatchesFormat) -> Node:
    named = (lowering.constant(node, one) for one in (node.format, node.country))
    return call("in format", lowering.lower(node.value), *named, kind="boolean", part=node)


def _fits_pattern(lowering: _Lowering, node: tree.MatchesPattern) -> Node:
    pattern = lowering.constant(node, node.pattern)
    return call("fits pattern", lowering.lower(node.value), pattern, kind="boolean", part=node)


def _group(_: _Lowering, node: tree.Filled) -> Node:
    filled = nodes.CountFilled(node.keys, kind="number", blankable=False, part=node)
    match node.quantity:
        case "at_least_one":
            return compared("<=", _whole(1), filled, node)
        case "exactly_one":
            return equality(filled, _whole(1), node)
        case "all_or_none":
            there = nodes.CountRelevant(node.keys, kind="number", blankable=False, part=node)
            none, every = equality(filled, _whole(0), node), equality(filled, there, node)
            return any_of((none, every), node)


def _whole(number: int) -> Node:
    return nodes.Constant(Decimal(number), kind="number", blankable=False)


def _entered_twice(lowering: _Lowering, node: tree.EnteredTwice) -> Node:
    first = lowering.field(node.key, "field", node)
    second = lowering.field(node.key, "second", node)
    counts = all_of((negated(blank(first)), lowering.changed(node.key, node)))
    return choice(counts, true(equality(first, second), node), NULL, node)


def _unique(_: _Lowering, node: tree.Unique) -> Node:
    return negated(nodes.Taken(node.keys, kind="boolean", part=node), node)


def _no_other(lowering: _Lowering, node: tree.NoOther) -> Node:
    return negated(nodes.Exists(lowering.lower(node.condition), kind="boolean", part=node), node)


def _constants(lowering: _Lowering, tests: tuple[tree.Node, ...]) -> tuple[Any, ...]:
    lowered = [lowering.lower(test) for test in tests]
    if not all(isinstance(one, nodes.Constant) for one in lowered):
        raise NotTranslated("The kernel", "a value that is no constant in a list of values")
    return tuple(one.value for one in lowered if isinstance(one, nodes.Constant))


def _each_among(lowering: _Lowering, node: tree.AllAmong) -> Node:
    known = _constants(lowering, node.tests)
    return nodes.EachAmong(lowering.lower(node.value), known, kind="boolean", part=node)


def _by_answer(lowering: _Lowering, node: tree.ValueByAnswer) -> Node:
    value, governor = lowering.lower(node.value), lowering.lower(node.governor)
    if node.ignore_case:
        value, governor = (
            call("fold case", one, kind=one.kind, part=node) if one.kind == "text" else one
            for one in (value, governor)
        )
    type_ = nodes.EachAmong if value.kind in ("list", "unknown") else nodes.Among
    cases: dict[Any, nodes.CaseBranch] = {}
    for row in node.rows:
        answer, *going = (
            folded(one) if node.ignore_case and isinstance(one, str) else one
            for one in _constants(lowering, (row.governing, *row.tests))
        )
        among = type_(value, tuple(dict.fromkeys(going)), kind="boolean", part=row)
        cases.setdefault(answer, nodes.CaseBranch(answer, among, kind="boolean"))
    by_answer = nodes.Switch(governor, tuple(cases.values()), kind="boolean", part=node)
    return choice(blank(value), NULL, by_answer, node)


def _if(lowering: _Lowering, node: tree.If) -> Node:
    asked, then, otherwise = map(lowering.lower, (node.condition, node.then, node.otherwise))
    return choice(asked, then, otherwise, node)


def _iterations(
    lowering: _Lowering, iterations: tuple[tree.Iteration, ...]
) -> tuple[nodes.Iteration, ...]:
    return tuple(nodes.Iteration(one.name, lowering.lower(one.items)) for one in iterations)


def _numbers(lowering: _Lowering, node: tree.Counting) -> Node:
    return nodes.Numbers(
        lowering.lower(node.first), lowering.lower(node.last), kind="list", part=node
    )


def _for(lowering: _Lowering, node: tree.For) -> Node:
    looks_back = tree.Variable("partial") in tree.walk(node.body)
    steps, body = _iterations(lowering, node.iterations), lowering.lower(node.body)
    return nodes.Collect(steps, body, looks_back, kind="list", part=node)


def _quantified(lowering: _Lowering, node: tree.Quantified) -> Node:
    steps, asked = _iterations(lowering, node.iterations), lowering.lower(node.condition)
    if node.quantifier == "some":
        return nodes.Some(steps, asked, kind="boolean", part=node)
    return negated(nodes.Some(steps, negated(asked), kind="boolean", part=node), node)


def _context(lowering: _Lowering, node: tree.Context) -> Node:
    entries = tuple(nodes.Entry(one.key, lowering.lower(one.value)) for one in node.entries)
    return nodes.ContextOf(entries, kind="context", part=node)


def _filter(lowering: _Lowering, node: tree.Filter) -> Node:
    return nodes.Filter(lowering.lower(node.subject), lowering.lower(node.condition), part=node)


def _range(lowering: _Lowering, node: tree.Interval) -> Node:
    low, high = lowering.lower(node.low), lowering.lower(node.high)
    included = (node.low_included, node.high_included)
    return nodes.RangeOf(low, high, *included, kind="range", part=node)


def _call(lowering: _Lowering, node: tree.Call) -> Node:
    function = FUNCTIONS.get(node.function)
    if function is None:
        raise NotTranslated("The kernel", node.function)
    arguments = tuple(lowering.lower(one) for one in node.arguments)
    if node.names:
        arguments = _by_place(node, dict(zip(node.names, arguments, strict=True)))
    return call(node.function, *arguments, kind=kind_of_result(function.result), part=node)


def _by_place(node: tree.Call, given: Mapping[str, Node]) -> tuple[Node, ...]:
    """Named arguments in the order of the function's parameters; null for those left out."""
    for way in FUNCTIONS[node.function].ways:
        names = [parameter.name for parameter in way]
        if set(given) <= set(names):
            placed = [given.get(name, NULL) for name in names]
            while placed and names[len(placed) - 1] not in given:
                placed.pop()
            return tuple(placed)
    raise NotTranslated("The kernel", f"{node.function} with these parameters")


def _named(function: str, name: str) -> Callable[[_Lowering, Any], Node]:
    def lowered(lowering: _Lowering, node: Any) -> Node:
        asked = lowering.constant(node, getattr(node, name))
        kind: Kind = "boolean" if function == "is of type" else "unknown"
        return call(function, lowering.lower(node.subject), asked, kind=kind, part=node)

    return lowered


WAYS: dict[type[tree.Node], Callable[[_Lowering, Any], Node]] = {
    tree.Null: lambda lowering, node: lowering.constant(node, None),
    **dict.fromkeys(
        (tree.Boolean, tree.Number, tree.Text, tree.Date, tree.Time, tree.DateTime, tree.Duration),
        lambda lowering, node: lowering.constant(node, node.value),
    ),
    tree.Field: _read_of("field"),
    tree.StoredValue: _read_of("stored"),
    tree.OtherField: _read_of("other"),
    tree.Variable: lambda _, node: nodes.Read("variable", node.name, part=node),
    tree.Today: lambda _, node: _circumstance("today", node),
    tree.Now: lambda _, node: _circumstance("now", node),
    tree.Circumstance: lambda _, node: _circumstance(node.name, node),
    tree.ChangedField: lambda lowering, node: lowering.changed(node.key, node),
    tree.Referred: _refer,
    tree.NamedConditionUse: lambda lowering, node: lowering.lower(node.condition),
    tree.Negate: _negate,
    tree.Arithmetic: _arithmetic,
    tree.Comparison: _comparison,
    tree.Membership: _membership,
    tree.MatchesFormat: _in_format,
    tree.MatchesPattern: _fits_pattern,
    tree.Filled: _group,
    tree.EnteredTwice: _entered_twice,
    tree.Unique: _unique,
    tree.NoOther: _no_other,
    tree.AllAmong: _each_among,
    tree.ValueByAnswer: _by_answer,
    tree.And: lambda low, node: condition(nodes.And, tuple(map(low.lower, node.parts)), part=node),
    tree.Or: lambda low, node: condition(nodes.Or, tuple(map(low.lower, node.parts)), part=node),
    tree.Not: lambda lowering, node: negated(lowering.lower(node.operand), node),
    tree.If: _if,
    tree.For: _for,
    tree.Counting: _numbers,
    tree.Quantified: _quantified,
    tree.ListOf: lambda low, node: nodes.ListOf(
        tuple(map(low.lower, node.items)), kind="list", blankable=False, part=node
    ),
    tree.Context: _context,
    tree.Filter: _filter,
    tree.Path: _named("property", "name"),
    tree.InstanceOf: _named("is of type", "type"),
    tree.Interval: _range,
    tree.Call: _call,
}
"""How each node of the tree lowers. Tests, rows, iterations and entries go with what holds them."""
