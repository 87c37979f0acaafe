"""Type inference: what an expression gives, and what in it cannot work."""

from thistlequartz.core.values import (
    ChoiceType,
    DateType,
    NumberType,
    TextType,
    ValueType,
    YesNoType,
)

from . import tree
from .declared import Vocabulary
from .problems import Problem, nearest

_NAMES: dict[type[ValueType], str] = {
    TextType: "text",
    NumberType: "a number",
    DateType: "a date",
    YesNoType: "yes or no",
    ChoiceType: "a choice",
}
_ORDERED = (NumberType, DateType, TextType)


def check_types(
    node: tree.Node, vocabulary: Vocabulary, *, wanted: type[ValueType] | None = YesNoType
) -> tuple[Problem, ...]:
    """Everything in `node` that cannot work, in reading order; it must give the type `wanted`."""
    checker = _Checker(vocabulary)
    given = checker.type_of(node)
    if wanted and given and not isinstance(given, wanted) and not checker.problems:
        checker.report(
            node,
            f"This gives {_named(given)} where {_named_type(wanted)} is expected.",
            "Compare it with something, such as: … = 1" if wanted is YesNoType else "Change it.",
        )
    return tuple(checker.problems)


def _named(type_: ValueType) -> str:
    return _NAMES[type(type_)]


def _named_type(type_: type[ValueType]) -> str:
    return "a condition" if type_ is YesNoType else _NAMES[type_]


class _Checker:
    """Walks a tree once, giving types and collecting problems. None is the type of blank."""

    def __init__(self, vocabulary: Vocabulary) -> None:
        self.vocabulary = vocabulary
        self.problems: list[Problem] = []

    def report(self, node: tree.Node, message: str, remedy: str) -> None:
        self.problems.append(Problem(message, remedy, position=node.at))

    def type_of(self, node: tree.Node) -> ValueType | None:
        match node:
            case tree.Truth():
                return YesNoType()
            case tree.Number():
                return NumberType()
            case tree.Text():
                return TextType()
            case tree.Date() | tree.Today():
                return DateType()
            case tree.Field():
                return self._type_of_field(node)
            case tree.Negate(operand):
                self._need(operand, NumberType)
                return NumberType()
            case tree.Arithmetic(_, left, right):
                self._need(left, NumberType)
                self._need(right, NumberType)
                return NumberType()
            case tree.Comparison():
                self._check_comparison(node)
                return YesNoType()
            case tree.Membership(value, tests):
                self._check_membership(value, tests)
                return YesNoType()
            case tree.And(parts) | tree.Or(parts):
                for part in parts:
                    self._need(part, YesNoType)
                return YesNoType()
            case tree.Not(operand):
                self._need(operand, YesNoType)
                return YesNoType()
            case _:
                return None

    def _type_of_field(self, node: tree.Field) -> ValueType | None:
        declared = self.vocabulary.get(node.key)
        if declared:
            return declared.type
        near = nearest(node.key, self.vocabulary)
        remedy = f"Did you mean “{near}”?" if near else "Use the key of a field of this form."
        self.report(node, f"There is no field “{node.key}” in this form.", remedy)
        return None

    def _need(self, node: tree.Node, wanted: type[ValueType]) -> None:
        given = self.type_of(node)
        if given and not isinstance(given, wanted):
            remedy = (
                "Compare it with something, such as: … = 1"
                if wanted is YesNoType
                else "Use a number here."
            )
            self.report(
                node, f"This is {_named(given)} where {_named_type(wanted)} is expected.", remedy
            )

    def _check_comparison(self, node: tree.Comparison) -> None:
        left, right = self.type_of(node.left), self.type_of(node.right)
        if node.operator in ("=", "!="):
            self._check_same(node.left, left, node.right, right)
            return
        blank = isinstance(node.left, tree.Null) or isinstance(node.right, tree.Null)
        for side in (left, right):
            if blank or (side and not isinstance(side, _ORDERED)):
                what = "Blank" if blank or not side else _named(side).capitalize()
                self.report(
                    node, f"{what} has no order.", "Compare it with = or != instead of an order."
                )
                return
        self._check_same(node.left, left, node.right, right)

    def _check_membership(self, value: tree.Node, tests: tuple[tree.Node, ...]) -> None:
        type_ = self.type_of(value)
        for test in tests:
            if isinstance(test, tree.Interval):
                for bound, sign in ((test.low, ">="), (test.high, "<=")):
                    self._check_comparison(
                        tree.Comparison(sign, value, bound, at=bound.at)  # type: ignore[arg-type]
                    )
            else:
                self._check_same(value, type_, test, self.type_of(test))

    def _check_same(
        self,
        left: tree.Node,
        left_type: ValueType | None,
        right: tree.Node,
        right_type: ValueType | None,
    ) -> None:
        for type_, other in ((left_type, right), (right_type, left)):
            if isinstance(type_, ChoiceType) and isinstance(other, tree.Text):
                self._check_choice(type_, other)
                return
        if left_type is None or right_type is None:
            return
        if isinstance(left_type, ChoiceType) and isinstance(right_type, ChoiceType):
            return
        if type(left_type) is not type(right_type):
            remedy = "Compare values of the same type."
            if isinstance(left_type, DateType) and isinstance(right, tree.Text):
                remedy = 'Write the date as date("2026-06-11").'
            self.report(
                right,
                f"{_named(left_type).capitalize()} is compared with {_named(right_type)}.",
                remedy,
            )

    def _check_choice(self, type_: ChoiceType, text: tree.Text) -> None:
        codes = [choice.code for choice in type_.choices]
        if text.value in codes:
            return
        near = nearest(text.value, codes)
        remedy = f"Did you mean “{near}”?" if near else f"Use one of: {', '.join(codes[:8])}."
        self.report(text, f"There is no choice “{text.value}”.", remedy)
