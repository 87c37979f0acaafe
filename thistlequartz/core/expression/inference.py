"""Type inference: what an expression gives, and what in it cannot work."""

from thistlequartz.core.values import (
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
)

from . import tree
from .arithmetic_types import guess, result_type
from .declared import Vocabulary
from .feel.functions import FUNCTIONS, Parameter, Shape
from .problems import Problem, nearest
from .shapes import (
    ORDERED,
    TYPE_WORDS,
    ContextType,
    DaysType,
    ExpressionType,
    KnownType,
    ListType,
    MonthsType,
    RangeType,
    in_words,
)

Given = dict[str, ExpressionType]
"""The types of the names that the expression gives itself."""

_SHAPES: dict[Shape, KnownType] = {
    "boolean": YesNoType(),
    "text": TextType(),
    "number": NumberType(),
    "date": DateType(),
    "time": TimeType(),
    "date and time": DateTimeType(),
    "days duration": DaysType(),
    "months duration": MonthsType(),
    "list": ListType(),
    "context": ContextType(),
}
_TEMPORAL = (DateType, TimeType, DateTimeType)
_PROPERTIES: dict[type[KnownType], dict[str, ExpressionType]] = {
    DateType: dict.fromkeys(("year", "month", "day", "weekday"), NumberType()),
    TimeType: dict.fromkeys(("hour", "minute", "second"), NumberType()),
    DaysType: dict.fromkeys(("days", "hours", "minutes", "seconds"), NumberType()),
    MonthsType: dict.fromkeys(("years", "months"), NumberType()),
}
_PROPERTIES[TimeType]["time offset"] = DaysType()
_PROPERTIES[DateTimeType] = _PROPERTIES[DateType] | _PROPERTIES[TimeType]


def check_types(
    node: tree.Node, vocabulary: Vocabulary, *, wanted: type[ValueType] | None = YesNoType
) -> tuple[Problem, ...]:
    """Everything in `node` that cannot work, in reading order; it must give the type `wanted`."""
    checker = _Checker(vocabulary)
    given = checker.type_of(node, {})
    if wanted and given and not isinstance(given, wanted) and not checker.problems:
        checker.report(
            node,
            f"This gives {in_words(given)} where {_wanted_words(wanted)} is expected.",
            _remedy_for(wanted),
        )
    return tuple(checker.problems)


def _wanted_words(type_: type[KnownType]) -> str:
    return "a condition" if type_ is YesNoType else TYPE_WORDS[type_]


def _remedy_for(type_: type[KnownType]) -> str:
    if type_ is YesNoType:
        return "Compare it with something, such as: … = 1"
    return f"Use {TYPE_WORDS[type_]} here."


class _Checker:
    """Walks a tree once, giving types and collecting problems."""

    def __init__(self, vocabulary: Vocabulary) -> None:
        self.vocabulary = vocabulary
        self.problems: list[Problem] = []

    def report(self, node: tree.Node, message: str, remedy: str) -> None:
        self.problems.append(Problem(message, remedy, position=node.at))

    def type_of(self, node: tree.Node, given: Given) -> ExpressionType:
        match node:
            case tree.Truth():
                return YesNoType()
            case tree.Number():
                return NumberType()
            case tree.Text():
                return TextType()
            case tree.Date() | tree.Today():
                return DateType()
            case tree.Time():
                return TimeType()
            case tree.DateTime():
                return DateTimeType()
            case tree.Duration(value):
                return DaysType() if hasattr(value, "days") else MonthsType()
            case tree.Field():
                return self._type_of_field(node)
            case tree.Variable(name):
                return given.get(name)
            case tree.Negate(operand):
                return self._negated(operand, given)
            case tree.Arithmetic():
                return self._arithmetic(node, given)
            case tree.Comparison() | tree.Membership() | tree.InstanceOf():
                self._check_comparing(node, given)
                return YesNoType()
            case tree.Fits(value) | tree.FitsPattern(value):
                self._need(value, TextType, given)
                return YesNoType()
            case tree.And() | tree.Or() | tree.Not():
                for part in tree.children(node):
                    self._need(part, YesNoType, given)
                return YesNoType()
            case _:
                return self._structure(node, given)

    def _structure(self, node: tree.Node, given: Given) -> ExpressionType:
        match node:
            case tree.If(condition, then, otherwise):
                self._need(condition, YesNoType, given)
                types = (self.type_of(then, given), self.type_of(otherwise, given))
                return _common(types)
            case tree.For(iterations, body):
                inside = self._iterations(iterations, given)
                return ListType(self.type_of(body, inside | {"partial": ListType()}))
            case tree.Quantified(_, iterations, condition):
                self._need(condition, YesNoType, self._iterations(iterations, given))
                return YesNoType()
            case tree.ListOf(items):
                return ListType(_common(tuple(self.type_of(item, given) for item in items)))
            case tree.Context(entries):
                known: Given = {}
                for entry in entries:
                    known[entry.key] = self.type_of(entry.value, given | known)
                return ContextType(known)
            case tree.Interval(low, high):
                types = (self.type_of(low, given), self.type_of(high, given))
                return RangeType(_common(types))
            case tree.Filter():
                return self._filter(node, given)
            case tree.Path():
                return self._path(node, given)
            case tree.Call():
                return self._call(node, given)
            case _:
                return None

    def _type_of_field(self, node: tree.Field) -> ExpressionType:
        declared = self.vocabulary.get(node.key)
        if declared:
            return declared.type
        near = nearest(node.key, self.vocabulary)
        remedy = f"Did you mean “{near}”?" if near else "Use the key of a field of this form."
        self.report(node, f"There is no field “{node.key}” in this form.", remedy)
        return None

    def _need(self, node: tree.Node, wanted: type[KnownType], given: Given) -> None:
        found = self.type_of(node, given)
        if found and not isinstance(found, wanted):
            self.report(
                node,
                f"This is {in_words(found)} where {_wanted_words(wanted)} is expected.",
                _remedy_for(wanted),
            )

    def _negated(self, operand: tree.Node, given: Given) -> ExpressionType:
        found = self.type_of(operand, given)
        if found and not isinstance(found, NumberType | DaysType | MonthsType):
            self.report(operand, f"{_capital(found)} has no sign to turn.", "Use a number here.")
            return None
        return found

    def _arithmetic(self, node: tree.Arithmetic, given: Given) -> ExpressionType:
        left, right = self.type_of(node.left, given), self.type_of(node.right, given)
        if left is None or right is None:
            return guess(node.operator, left or right)
        result = result_type(node.operator, left, right)
        if result is None:
            wrong = node.right if isinstance(left, NumberType) else node.left
            found = right if isinstance(left, NumberType) else left
            self.report(
                wrong,
                f"“{node.operator}” does not work between {in_words(left)} and {in_words(right)}.",
                "Use a number here." if not isinstance(found, NumberType) else "Use numbers.",
            )
        return result

    def _iterations(self, iterations: tuple[tree.Iteration, ...], given: Given) -> Given:
        inside = dict(given)
        for one in iterations:
            if isinstance(one.items, tree.Counting):
                self._need(one.items.first, NumberType, inside)
                self._need(one.items.last, NumberType, inside)
                inside[one.name] = NumberType()
            else:
                found = self.type_of(one.items, inside)
                inside[one.name] = found.item if isinstance(found, ListType | RangeType) else found
        return inside

    def _filter(self, node: tree.Filter, given: Given) -> ExpressionType:
        found = self.type_of(node.subject, given)
        item = found.item if isinstance(found, ListType) else found
        by = self.type_of(node.condition, given | {"item": item})
        if by and not isinstance(by, YesNoType | NumberType):
            self.report(
                node.condition,
                f"A list is filtered by a condition or a position, not by {in_words(by)}.",
                "Write a condition on item, such as: item > 1",
            )
        return item if isinstance(by, NumberType) else ListType(item)

    def _path(self, node: tree.Path, given: Given) -> ExpressionType:
        found = self.type_of(node.subject, given)
        if found is None or isinstance(found, ListType | RangeType):
            return None
        known = (
            found.entries if isinstance(found, ContextType) else _PROPERTIES.get(type(found), {})
        )
        if node.name in known:
            return known[node.name]
        near = nearest(node.name, known)
        remedy = f"Did you mean “{near}”?" if near else f"Known here: {', '.join(known) or 'none'}."
        self.report(node, f"{_capital(found)} has no property “{node.name}”.", remedy)
        return None

    def _call(self, node: tree.Call, given: Given) -> ExpressionType:
        function = FUNCTIONS[node.function]
        types = [self.type_of(argument, given) for argument in node.arguments]
        ways = [matched for way in function.ways if (matched := _matched(way, node)) is not None]
        best = min((self._misfits(way, types) for way in ways), key=len, default=[])
        for position, parameter in best[:1]:
            found = types[position]
            assert found is not None
            self.report(
                node.arguments[position],
                f"“{node.function}” takes {_shape_words(parameter.shape)} as {parameter.name},"
                f" not {in_words(found)}.",
                f"Use {_shape_words(parameter.shape)} here.",
            )
        if function.result == "same":
            first = types[0] if types else None
            return first.item if isinstance(first, ListType) else first
        if function.result == "list":
            return types[0] if types and isinstance(types[0], ListType) else ListType()
        return _SHAPES.get(function.result)

    def _misfits(
        self, parameters: list[Parameter], types: list[ExpressionType]
    ) -> list[tuple[int, Parameter]]:
        return [
            (position, parameter)
            for position, (parameter, found) in enumerate(zip(parameters, types, strict=True))
            if found is not None and not _fits(parameter.shape, found)
        ]

    def _check_comparing(self, node: tree.Node, given: Given) -> None:
        match node:
            case tree.Comparison(sign, left, right):
                self._compare(node, sign, (left, right), given)
            case tree.Membership(value, tests):
                for test in tests:
                    self._check_test(value, test, given)
            case tree.InstanceOf(subject):
                self.type_of(subject, given)

    def _compare(
        self,
        node: tree.Node,
        sign: tree.ComparisonOperator,
        sides: tuple[tree.Node, tree.Node],
        given: Given,
    ) -> None:
        left, right = (self.type_of(side, given) for side in sides)
        if sign not in ("=", "!="):
            blank = any(isinstance(side, tree.Null) for side in sides)
            for found in (left, right):
                if blank or (found and not isinstance(found, ORDERED)):
                    what = "Blank" if blank or found is None else _capital(found)
                    self.report(
                        node,
                        f"{what} has no order.",
                        "Compare it with = or != instead of an order.",
                    )
                    return
        self._check_same(sides[0], left, sides[1], right)

    def _check_test(self, value: tree.Node, test: tree.Node, given: Given) -> None:
        match test:
            case tree.Interval(low, high):
                self._compare(low, ">=", (value, low), given)
                self._compare(high, "<=", (value, high), given)
            case tree.UnaryTest(sign, operand):
                self._compare(test, sign, (value, operand), given)
            case tree.ListOf(items):
                for item in items:
                    self._check_test(value, item, given)
            case _:
                found = self.type_of(test, given)
                if not isinstance(found, ListType | RangeType):
                    self._check_same(value, self.type_of(value, given), test, found)

    def _check_same(
        self,
        left: tree.Node,
        left_type: ExpressionType,
        right: tree.Node,
        right_type: ExpressionType,
    ) -> None:
        for type_, other in ((left_type, right), (right_type, left)):
            if isinstance(type_, ChoiceType) and isinstance(other, tree.Text):
                self._check_choice(type_, other)
                return
        if left_type is None or right_type is None or type(left_type) is type(right_type):
            return
        if {type(left_type), type(right_type)} == {ChoiceType, TextType}:
            return
        remedy = "Compare values of the same type."
        if isinstance(left_type, DateType) and isinstance(right, tree.Text):
            remedy = 'Write the date as date("2026-06-11").'
        if isinstance(left_type, ListType):
            remedy = "To ask whether a list holds a value, use: list contains(…, …)"
        said = f"{_capital(left_type)} is compared with {in_words(right_type)}."
        self.report(right, said, remedy)

    def _check_choice(self, type_: ChoiceType, text: tree.Text) -> None:
        codes = [choice.code for choice in type_.choices]
        if text.value in codes:
            return
        near = nearest(text.value, codes)
        remedy = f"Did you mean “{near}”?" if near else f"Use one of: {', '.join(codes[:8])}."
        self.report(text, f"There is no choice “{text.value}”.", remedy)


def _capital(type_: KnownType) -> str:
    return in_words(type_).capitalize()


def _shape_words(shape: Shape) -> str:
    kind = _SHAPES.get(shape)
    return in_words(kind) if kind else "a date or time"


def _common(types: tuple[ExpressionType, ...]) -> ExpressionType:
    """The type that all share, where they share one; blanks do not count."""
    known = [type_ for type_ in types if type_ is not None]
    same = known and all(type(type_) is type(known[0]) for type_ in known)
    return known[0] if same else None


def _fits(shape: Shape, found: KnownType) -> bool:
    """Whether an argument can be given; a single value stands for a list of one."""
    if shape in ("any", "list", "same", "range"):
        return True
    if shape == "temporal":
        return isinstance(found, _TEMPORAL)
    if shape == "text":
        return isinstance(found, TextType | ChoiceType)
    return isinstance(found, type(_SHAPES[shape]))


def _matched(way: tuple[Parameter, ...], node: tree.Call) -> list[Parameter] | None:
    """The parameter of each argument in this way of calling; None where they do not fit it."""
    if node.names:
        by_name = {parameter.name: parameter for parameter in way}
        if not set(node.names) <= set(by_name):
            return None
        return [by_name[name] for name in node.names]
    count = len(node.arguments)
    if count > len(way) and not (way and way[-1].repeated):
        return None
    return [way[min(position, len(way) - 1)] for position in range(count)]
