"""A tree as an English sentence, with labels, units and dates as people write them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import timedelta
from typing import Literal

from thistlequartz.core.formats import NAMED_FORMATS, with_article
from thistlequartz.core.values import (
    DateType,
    Months,
    NumberType,
    ValueType,
    show_value,
    write_date_time,
    write_time,
)

from . import tree
from .declared import Vocabulary
from .feel.write import write_formula
from .operators import OPERATOR_OF, words_for

SegmentKind = Literal["word", "field", "value"]
_ARITHMETIC = {
    "+": " plus ",
    "-": " minus ",
    "*": " times ",
    "/": " divided by ",
    "**": " to the power of ",
}
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
            case tree.Fits(value, format_key, country):
                named = NAMED_FORMATS[format_key]
                of = f" of {country}" if country else ""
                verb = f" {self._verb('is')} {with_article(named.label)}{of}, such as "
                return [*self._operand(value, None), word(verb), Segment("value", named.example)]
            case tree.FitsPattern(value, pattern, described):
                if described:
                    return [*self._operand(value, None), word(f" {self._verb('is')} {described}")]
                verb = f" {self._verb('is')} written by the pattern "
                return [*self._operand(value, None), word(verb), Segment("value", pattern)]
            case tree.Quantified() | tree.InstanceOf() | tree.UnaryTest():
                return [Segment("value", write_formula(node)), word(" holds")]
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
        sides = [
            # A year is written without thousands marks.
            [Segment("value", f"{side.value:f}")]
            if isinstance(side, tree.Number) and _is_year(other)
            else self._operand(side, type_)
            for side, other in ((node.left, node.right), (node.right, node.left))
        ]
        return [*sides[0], word(f" {self._verb(verb)} "), *sides[1]]

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
                    [self._test(test, type_) for test in tests],
                    "or",
                )
                ending = [word(", in capitals or small letters")] if ignore_case else []
                return [*subject, word(f" {verb} "), *listed, *ending]

    def _test(self, test: tree.Node, type_: ValueType | None) -> Words:
        match test:
            case tree.Interval():
                return self._interval(test, type_)
            case tree.UnaryTest(sign, operand):
                said = words_for(OPERATOR_OF[sign], type_).removeprefix("is ")
                return [word(f"{said} "), *self._operand(operand, type_)]
            case _:
                return self._operand(test, type_)

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
            case tree.Arithmetic(_, left, right):
                moved = any(isinstance(self._type(side), DateType) for side in (left, right))
                return DateType() if moved else NumberType()
            case tree.Negate():
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
            case tree.And() | tree.Or() | tree.Not() | tree.Comparison() | tree.Membership():
                return [word("(whether "), *self.say(node, nested=True), word(")")]
            case _:
                return self._beyond_everyday(node)

    def _beyond_everyday(self, node: tree.Node) -> Words:
        """What few conditions use is said with the formula's own words around the labels."""
        match node:
            case tree.Time(value):
                return [Segment("value", write_time(value))]
            case tree.DateTime(value):
                return [Segment("value", write_date_time(value))]
            case tree.Duration(value):
                return [Segment("value", _duration_words(value))]
            case tree.Path(subject, name):
                return [word(f"the {name} of "), *self._operand(subject, None)]
            case tree.Call(function, arguments):
                return [word(f"{function} of "), *self._list(arguments, "and")]
            case tree.ListOf(items):
                return self._list(items, "and")
            case tree.If(condition, then, otherwise):
                return [
                    *self._operand(then, None),
                    word(" (if "),
                    *self.say(condition),
                    word(", otherwise "),
                    *self._operand(otherwise, None),
                    word(")"),
                ]
            case _:
                return [Segment("value", write_formula(node))]

    def _list(self, nodes: tuple[tree.Node, ...], joining: str) -> Words:
        return enumerate_words([self._operand(node, None) for node in nodes], joining)


def _is_year(node: tree.Node) -> bool:
    return isinstance(node, tree.Path) and node.name == "year"


def _duration_words(value: timedelta | Months) -> str:
    if isinstance(value, Months):
        years, months = divmod(abs(value.count), 12)
        parts = [(years, "year"), (months, "month")]
        negative = value.count < 0
    else:
        size, negative = abs(value), value < timedelta(0)
        hours, rest = divmod(size.seconds, 3600)
        parts = [(size.days, "day"), (hours, "hour"), (rest // 60, "minute"), (rest % 60, "second")]
    said = [f"{count} {unit}{'' if count == 1 else 's'}" for count, unit in parts if count]
    return ("minus " if negative else "") + (" ".join(said) or "no time")
