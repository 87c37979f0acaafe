"""A tree as an English sentence, with labels, units and dates as people write them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from thistlequartz.core.values import DateType, NumberType, ValueType, show_value

from . import tree
from .declared import Vocabulary
from .operators import OPERATOR_OF, words_for

SegmentKind = Literal["word", "field", "value"]
_ARITHMETIC = {"+": " plus ", "-": " minus ", "*": " times ", "/": " divided by "}
_OBLIGED = {"is": "must be", "has": "must have"}


@dataclass(frozen=True, slots=True)
class Segment:
    """A run of a sentence: plain words, the label of a field (with its key), or a value."""

    kind: SegmentKind
    text: str
    key: str | None = None


Words = list[Segment]


def plain(segments: Iterable[Segment]) -> str:
    """The sentence as plain text."""
    return "".join(segment.text for segment in segments)


def word(text: str) -> Segment:
    """A run of plain words."""
    return Segment("word", text)


def condition_words(node: tree.Node, vocabulary: Vocabulary) -> Words:
    """`node` as a clause that can follow “when”: “Type status is Holotype”."""
    return _Speaker(vocabulary, obliged=False).say(node)


def obligation_words(node: tree.Node, vocabulary: Vocabulary) -> Words:
    """`node` as what must hold: “Determined on must be on or after Gathered on”."""
    return _Speaker(vocabulary, obliged=True).say(node)


def enumerate_words(parts: Sequence[Words], joining: str) -> Words:
    """“A, B and C”, with the word that joins the last two."""
    out: Words = []
    for position, part in enumerate(parts):
        if position:
            out.append(word(f" {joining} " if position == len(parts) - 1 else ", "))
        out.extend(part)
    return out


class _Speaker:
    def __init__(self, vocabulary: Vocabulary, *, obliged: bool) -> None:
        self.vocabulary = vocabulary
        self.obliged = obliged

    def say(self, node: tree.Node, *, nested: bool = False) -> Words:
        match node:
            case tree.And(parts):
                said = self._join(parts, "and")
                return [word("both " if len(parts) == 2 else "all of "), *said] if nested else said
            case tree.Or(parts):
                return [word("either "), *self._join(parts, "or")]
            case tree.Not(tree.Membership(value, tests, ignore_case)):
                return self._membership(value, tests, ignore_case, negated=True)
            case tree.Not(operand):
                return [word("it is not so that "), *self.say(operand, nested=True)]
            case tree.Comparison():
                return self._comparison(node)
            case tree.Membership(value, tests, ignore_case):
                return self._membership(value, tests, ignore_case)
            case _:
                return [*self._operand(node, None), word(" " + self._verb("is")), word(" yes")]

    def _join(self, parts: tuple[tree.Node, ...], joining: str) -> Words:
        return enumerate_words([self.say(part, nested=True) for part in parts], joining)

    def _verb(self, words: str) -> str:
        first, _, rest = words.partition(" ")
        return f"{_OBLIGED[first]} {rest}".strip() if self.obliged else words

    def _comparison(self, node: tree.Comparison) -> Words:
        tested = tree.blank_tested(node)
        if tested:
            verb = "is blank" if node.operator == "=" else "has a value"
            return [*self._operand(tested, None), word(f" {self._verb(verb)}")]
        type_ = self._type(node.left) or self._type(node.right)
        verb = words_for(OPERATOR_OF[node.operator], type_)
        return [
            *self._operand(node.left, type_),
            word(f" {self._verb(verb)} "),
            *self._operand(node.right, type_),
        ]

    def _membership(
        self,
        value: tree.Node,
        tests: tuple[tree.Node, ...],
        ignore_case: bool,
        *,
        negated: bool = False,
    ) -> Words:
        type_ = self._type(value)
        subject = self._operand(value, type_)
        match tests:
            case (tree.Interval() as interval,):
                verb = self._verb("is not" if negated else "is")
                return [*subject, word(f" {verb} "), *self._interval(interval, type_)]
            case _:
                verb = self._verb("is none of" if negated else "is one of")
                listed = enumerate_words(
                    [
                        self._interval(test, type_)
                        if isinstance(test, tree.Interval)
                        else self._operand(test, type_)
                        for test in tests
                    ],
                    "or",
                )
                ending = [word(", in capitals or small letters")] if ignore_case else []
                return [*subject, word(f" {verb} "), *listed, *ending]

    def _interval(self, node: tree.Interval, type_: ValueType | None) -> Words:
        low, high = self._operand(node.low, type_), self._operand(node.high, type_)
        if node.low_included and node.high_included:
            if isinstance(node.low, tree.Number) and isinstance(node.high, tree.Number):
                low = self._operand(node.low, None)  # the unit is said once, at the end
            return [word("from "), *low, word(" to "), *high]
        at_least = words_for("is_at_least" if node.low_included else "is_more", type_)
        at_most = words_for("is_at_most" if node.high_included else "is_less", type_)
        return [
            word(at_least.removeprefix("is ") + " "),
            *low,
            word(f" and {at_most.removeprefix('is ')} "),
            *high,
        ]

    def _type(self, node: tree.Node) -> ValueType | None:
        match node:
            case tree.Field(key) if key in self.vocabulary:
                return self.vocabulary[key].type
            case tree.Date() | tree.Today():
                return DateType()
            case tree.Arithmetic() | tree.Negate():
                return NumberType()
            case _:
                return None

    def _operand(self, node: tree.Node, type_: ValueType | None) -> Words:
        match node:
            case tree.Field(key):
                declared = self.vocabulary.get(key)
                return [Segment("field", declared.label if declared else key, key)]
            case tree.Number(value) | tree.Text(value) | tree.Date(value) | tree.Truth(value):
                return [Segment("value", show_value(value, type_))]
            case tree.Today():
                return [Segment("value", "today")]
            case tree.Null():
                return [Segment("value", "blank")]
            case tree.Negate(operand):
                return [word("minus "), *self._operand(operand, type_)]
            case tree.Arithmetic(sign, left, right):
                return [
                    *self._operand(left, None),
                    word(_ARITHMETIC[sign]),
                    *self._operand(right, None),
                ]
            case _:
                return [word("(whether "), *self.say(node, nested=True), word(")")]
