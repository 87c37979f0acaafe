"""Type inference: what an expression gives, and what in it cannot work."""

from thistlequartz.core.enumerations import ENTRY_POINTS
from thistlequartz.core.formats import PatternError, compile_pattern
from thistlequartz.core.functions import FUNCTIONS, Parameter
from thistlequartz.core.translation import BETWEEN, tr
from thistlequartz.core.types import (
    Choice,
    ChoicesType,
    ChoiceType,
    ChoosingType,
    DateTimeType,
    DateType,
    DaysType,
    FieldType,
    MonthsType,
    NumberType,
    ReferenceType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
)

from . import tree
from .arithmetic_types import guess, result_type
from .call_types import SHAPES, fits, matched, shape_words
from .declared import Vocabulary
from .feel.scoping import HOLDERS
from .mistakes import choice_remedy, name_remedy
from .problems import Problem, nearest
from .refusal import NotTranslated
from .shapes import (
    ContextType,
    ExpressionType,
    KnownType,
    ListType,
    RangeType,
    has_order,
    in_words,
)

Given = dict[str, ExpressionType]
"""The types of the names that the expression gives itself."""

_COMPARABLE: list[set[type[KnownType]]] = [
    {ChoiceType, TextType},
    {ReferenceType, TextType},
    {ChoicesType, ListType},
]
"""Types that may stand on the two sides of an equality though they differ."""
_WITH_PATTERNS = {"matches": 2, "replace": 3, "split": 2}
"""By function: which argument, from 0, has the flags of its pattern, the second argument."""
CIRCUMSTANCES: dict[str, KnownType] = {
    "event": ChoiceType((Choice("create", "new"), Choice("update", "changed"))),
    "entry_point": ChoiceType(tuple(Choice(one, one) for one in ENTRY_POINTS)),
    "role": TextType(),
}


def check_types(
    node: tree.Node, vocabulary: Vocabulary, *, wanted: type[ValueType] | None = YesNoType
) -> tuple[Problem, ...]:
    """Everything in `node` that cannot work, in reading order; it must give the type `wanted`."""
    checker = _Checker(vocabulary)
    given = checker.type_of(node, {})
    if wanted and given and not isinstance(given, wanted) and not checker.problems:
        checker.report(
            node,
            tr(
                "This gives {type} where {wanted} is expected.",
                type=in_words(given),
                wanted=_wanted_words(wanted),
            ),
            _remedy_for(wanted),
        )
    return tuple(checker.problems)


def type_of_formula(node: tree.Node, vocabulary: Vocabulary) -> ExpressionType:
    """The type that `node` gives; None where that shows only when it is evaluated."""
    return _Checker(vocabulary).type_of(node, {})


def _wanted_words(type_: type[KnownType]) -> str:
    return tr("a condition") if type_ is YesNoType else in_words(type_)


def _remedy_for(type_: type[KnownType]) -> str:
    if type_ is YesNoType:
        return tr("Compare it with something, such as: … = 1")
    return tr("Use {type} here.", type=in_words(type_))


class _Checker:
    """Walks a tree once, giving types and collecting problems."""

    def __init__(self, vocabulary: Vocabulary) -> None:
        self.vocabulary = vocabulary
        self.problems: list[Problem] = []
        self._known: dict[tuple[int, int], tuple[tree.Node, Given, ExpressionType]] = {}
        """What was found of a node under the names given there: each is looked at once."""

    def report(self, node: tree.Node, message: str, remedy: str) -> None:
        self.problems.append(Problem(message, remedy, position=node.at))

    def type_of(self, node: tree.Node, given: Given) -> ExpressionType:
        """The type of a node; None where that shows only when it is evaluated."""
        key = (id(node), id(given))
        if key not in self._known:
            self._known[key] = (node, given, self._found_type(node, given))
        return self._known[key][2]

    def _found_type(self, node: tree.Node, given: Given) -> ExpressionType:
        match node:
            case tree.Boolean():
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
            case tree.Field(key) | tree.StoredValue(key) | tree.OtherField(key):
                return self._type_of_field(node, key)
            case tree.ChangedField(key):
                self._type_of_field(node, key)
                return YesNoType()
            case tree.Referred(subject, _, name):
                return self._fields_referred_to(subject).get(name)
            case tree.NamedConditionUse():
                return YesNoType()
            case tree.Now():
                return DateTimeType()
            case tree.Circumstance(name):
                return CIRCUMSTANCES[name]
            case tree.Variable(name):
                return given.get(name)
            case tree.Negate(operand):
                return self._negated(operand, given)
            case tree.Arithmetic():
                return self._arithmetic(node, given)
            case tree.Comparison() | tree.Membership() | tree.InstanceOf():
                self._check_comparing(node, given)
                return YesNoType()
            case tree.Filled() | tree.EnteredTwice() | tree.Unique() | tree.NoOther():
                return YesNoType()
            case tree.AllAmong() | tree.ValueByAnswer():
                return YesNoType()
            case tree.MatchesFormat(value) | tree.MatchesPattern(value):
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
            case tree.Null():
                return None
            case _:
                raise NotTranslated("The type checker", type(node).__name__)

    def _type_of_field(self, node: tree.Node, key: str) -> ExpressionType:
        declared = self.vocabulary.get(key)
        if declared and (isinstance(node, tree.Field) or not declared.condition):
            return declared.type.formula_type()
        if key in HOLDERS:
            said = tr("“{key}” is read with the key of a field.", key=key)
            self.report(node, said, tr("Write it as {key}.key, such as {key}.amount.", key=key))
            return None
        near = nearest(key, self.vocabulary)
        remedy = (
            tr("Did you mean “{near}”?", near=near)
            if near
            else tr("Use the key of a field of this form.")
        )
        remedy = name_remedy(key, self.vocabulary) or remedy
        self.report(node, tr("There is no field “{key}” in this form.", key=key), remedy)
        return None

    def _need(self, node: tree.Node, wanted: type[KnownType], given: Given) -> None:
        found = self.type_of(node, given)
        if found and not isinstance(found, wanted):
            self.report(
                node,
                tr(
                    "This is {type} where {wanted} is expected.",
                    type=in_words(found),
                    wanted=_wanted_words(wanted),
                ),
                _remedy_for(wanted),
            )

    def _negated(self, operand: tree.Node, given: Given) -> ExpressionType:
        found = self.type_of(operand, given)
        if found and not isinstance(found, NumberType | DaysType | MonthsType):
            self.report(
                operand,
                tr("{type} has no sign to turn.", type=_capital(found)),
                tr("Use a number here."),
            )
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
                tr(
                    "“{operator}” does not work between {left} and {right}.",
                    operator=node.operator,
                    left=in_words(left),
                    right=in_words(right),
                ),
                _arithmetic_remedy(left, right, found),
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
                inside[one.name] = _item(self.type_of(one.items, inside))
        return inside

    def _filter(self, node: tree.Filter, given: Given) -> ExpressionType:
        found = self.type_of(node.subject, given)
        item = found if isinstance(found, RangeType) else _item(found)
        by = self.type_of(node.condition, given | {"item": item})
        if by and not isinstance(by, YesNoType | NumberType):
            self.report(
                node.condition,
                tr(
                    "A list is filtered by a condition or a position, not by {type}.",
                    type=in_words(by),
                ),
                tr("Write a condition on item, such as: item > 1"),
            )
        return item if isinstance(by, NumberType) else ListType(item)

    def _path(self, node: tree.Path, given: Given) -> ExpressionType:
        found = self.type_of(node.subject, given)
        if found is None or isinstance(found, ListType | RangeType):
            return None
        if isinstance(found, ContextType):
            known = found.entries
        elif found.referred_form:
            known = self._fields_referred_to(node.subject)
        else:
            known = {**found.properties()}
        if node.name in known:
            return known[node.name]
        near = nearest(node.name, known)
        remedy = (
            tr("Did you mean “{near}”?", near=near)
            if near
            else tr("Known here: {known}.", known=BETWEEN.join(known) or tr("none"))
        )
        self.report(
            node,
            tr("{type} has no property “{name}”.", type=_capital(found), name=node.name),
            remedy,
        )
        return None

    def _fields_referred_to(self, subject: tree.Node) -> Given:
        match subject:
            case tree.Field(key) | tree.StoredValue(key) | tree.OtherField(key):
                fields = self.vocabulary[key].fields or {}
                return {name: one.type.formula_type() for name, one in fields.items()}
            case _:
                return {}

    def _call(self, node: tree.Call, given: Given) -> ExpressionType:
        function = FUNCTIONS[node.function]
        types = [self.type_of(argument, given) for argument in node.arguments]
        if types and isinstance(types[0], ChoicesType):
            for argument in node.arguments[1:]:
                if isinstance(argument, tree.Text):
                    self._check_choice(types[0], argument)
        self._check_pattern(node)
        ways = [way_taken for way in function.ways if (way_taken := matched(way, node)) is not None]
        best = min((self._misfits(way, types) for way in ways), key=len, default=[])
        for position, parameter in best[:1]:
            found = types[position]
            assert found is not None
            self.report(
                node.arguments[position],
                tr(
                    "“{function}” takes {shape} as {name}, not {type}.",
                    function=node.function,
                    shape=shape_words(parameter.shape),
                    name=parameter.name,
                    type=in_words(found),
                ),
                tr("Use {shape} here.", shape=shape_words(parameter.shape)),
            )
        if function.result == "same":
            first = types[0] if types else None
            return first.item if isinstance(first, ListType) else first
        if function.result == "list":
            return types[0] if types and isinstance(types[0], ListType) else ListType()
        return SHAPES.get(function.result)

    def _check_pattern(self, node: tree.Call) -> None:
        """A pattern, or flags, that RE2 cannot use, where they are written out."""
        if node.function not in _WITH_PATTERNS or len(node.arguments) < 2 or node.names:
            return
        pattern, flags = node.arguments[1], node.arguments[_WITH_PATTERNS[node.function] :]
        if not isinstance(pattern, tree.Text):
            return
        written = flags[0].value if flags and isinstance(flags[0], tree.Text) else ""
        try:
            compile_pattern(pattern.value, written)
        except PatternError as error:
            self.report(pattern, str(error), tr("Correct the pattern; RE2 has no look-around."))

    def _misfits(
        self, parameters: list[Parameter], types: list[ExpressionType]
    ) -> list[tuple[int, Parameter]]:
        return [
            (position, parameter)
            for position, (parameter, found) in enumerate(zip(parameters, types, strict=True))
            if found is not None and not fits(parameter.shape, found)
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
                if blank or (found and not has_order(found)):
                    what = tr("Blank") if blank or found is None else _capital(found)
                    self.report(
                        node,
                        tr("{what} has no order.", what=what),
                        tr("Compare it with = or != instead of an order."),
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
                several = isinstance(self.type_of(value, given), ListType)
                for item in items:
                    # A list is asked for among lists as it is, and not its items.
                    if not (several and isinstance(item, tree.ListOf)):
                        self._check_test(value, item, given)
            case _:
                found = self.type_of(test, given)
                if isinstance(found, ChoicesType):
                    self._check_same(value, self.type_of(value, given), test, _item(found))
                elif not isinstance(found, ListType | RangeType):
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
        kinds = {type(left_type), type(right_type)}
        if kinds in _COMPARABLE:
            return
        if ChoicesType in kinds and kinds & {ChoiceType, TextType}:
            self._suggest_includes(left, right, right_type)
            return
        remedy = tr("Compare values of the same type.")
        if isinstance(left_type, DateType) and isinstance(right, tree.Text):
            remedy = tr('Write the date as date("2026-06-11").')
        if isinstance(left_type, NumberType) and isinstance(right, tree.Text):
            remedy = tr("Write the number without quotation marks.")
        if kinds == {DateType, NumberType}:
            remedy = tr('Write the date as date("2026-06-11"): bare, it is a subtraction.')
        if kinds == {DaysType, NumberType}:
            remedy = tr('Write a number of days as duration("P30D"), or compare (…).days.')
        if isinstance(left_type, ListType):
            remedy = tr("To ask whether a list contains a value, use: list contains(…, …)")
        said = tr(
            "{type} is compared with {other}.",
            type=_capital(left_type),
            other=in_words(right_type),
        )
        self.report(right, said, remedy)

    def _suggest_includes(
        self, left: tree.Node, right: tree.Node, right_type: ExpressionType
    ) -> None:
        several, one = (right, left) if isinstance(right_type, ChoicesType) else (left, right)
        code = one.value if isinstance(one, tree.Text) else "…"
        key = several.key if isinstance(several, tree.Field) else "…"
        said = tr(
            "Several choices are compared with a single one, which fails as soon as two are ticked."
        )
        self.report(right, said, tr('Use “includes”: "{code}" in {key}', code=code, key=key))

    def _check_choice(self, type_: ChoosingType, text: tree.Text) -> None:
        codes = [choice.code for choice in type_.choices]
        if text.value in codes:
            return
        near = nearest(text.value, codes)
        remedy = (
            tr("Did you mean “{near}”?", near=near)
            if near
            else tr("Use one of: {codes}.", codes=", ".join(codes[:8]))
        )
        remedy = choice_remedy(text.value, type_) or remedy
        self.report(text, tr("There is no choice “{value}”.", value=text.value), remedy)


def _arithmetic_remedy(left: KnownType, right: KnownType, wrong: KnownType) -> str:
    if isinstance(left, DateType | DateTimeType) and isinstance(right, NumberType):
        return tr('Add a number of days as a duration: duration("P30D").')
    return tr("Use numbers.") if isinstance(wrong, NumberType) else tr("Use a number here.")


def _capital(type_: KnownType) -> str:
    return in_words(type_).capitalize()


def _item(found: ExpressionType) -> ExpressionType:
    """What a list of the type holds; a single value stands for a list of itself."""
    if isinstance(found, ListType | RangeType):
        return found.item
    return found.item_type() if isinstance(found, FieldType) else found


def _common(types: tuple[ExpressionType, ...]) -> ExpressionType:
    """The type that all share, where they share one; blanks do not count."""
    known = [type_ for type_ in types if type_ is not None]
    same = known and all(type(type_) is type(known[0]) for type_ in known)
    return known[0] if same else None
