"""A tree as an English sentence, with labels, units and dates as people write them."""

from thistlequartz.core.formats import NAMED_FORMATS, with_article
from thistlequartz.core.translation import tr
from thistlequartz.core.values import (
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    TimeType,
    ValueType,
    show_length,
    show_value,
)

from . import tree
from .bounds import bounds_joined
from .declared import Vocabulary
from .feel.write import write_formula
from .inference import CIRCUMSTANCES
from .operators import MEASURE_WORDS, MONTHS, OPERATOR_OF, TEXT_FUNCTIONS, WEEKDAYS, words_for
from .segments import Segment, Words, enumerate_words, in_a_row, word

_ARITHMETIC = {
    "+": " plus ",
    "-": " minus ",
    "*": " times ",
    "/": tr(" divided by "),
    "**": tr(" to the power of "),
}
_OBLIGED = {
    "is": tr("must be"),
    "has": tr("must have"),
    "includes": tr("must include"),
    "does": "must",
    "fits": tr("must fit"),
    "goes": tr("must go"),
    "contains": tr("must contain"),
    "starts": tr("must start"),
    "ends": tr("must end"),
}
_MEASURED = {"string length": ("character", "characters"), "count": ("choice", "choices")}
_NUMBERED = {"weekday": WEEKDAYS, "month": MONTHS}
_QUANTITIES: dict[tree.Quantity, tuple[str, str]] = {
    "at_least_one": (tr("at least one of "), "and"),
    "exactly_one": (tr("exactly one of "), "and"),
    "all_or_none": (tr("either all or none of "), "and"),
}
_CIRCUMSTANCE_WORDS = {
    "event": tr("the record"),
    "entry_point": tr("the entry point"),
    "role": tr("the role"),
}


_ROWS_SAID = 6
"""Rows of governing answers that a sentence lists."""
_ANY_CASE = tr(", in capitals or small letters")


def condition_words(node: tree.Node, vocabulary: Vocabulary) -> Words:
    """`node` as a clause that can follow “when”: “Type status is Holotype”."""
    return _Speaker(vocabulary, obliged=False).say(node)


def obligation_words(node: tree.Node, vocabulary: Vocabulary) -> Words:
    """`node` as what must hold: “Determined on must be on or after Gathered on”."""
    return _Speaker(vocabulary, obliged=True).say(node)


def value_words(node: tree.Node, key: str, vocabulary: Vocabulary) -> Words:
    """`node` as a value of the field `key`: “5 %”, “Loaned to minus Loaned from”."""
    declared = vocabulary.get(key)
    return _Speaker(vocabulary, obliged=False).value(node, declared.type if declared else None)


class _Speaker:
    def __init__(
        self, vocabulary: Vocabulary, *, obliged: bool, among_others: bool = False
    ) -> None:
        self.vocabulary = vocabulary
        self.obliged = obliged
        self.among_others = among_others
        """Whether other records are spoken of, so that a field here is “this” one."""

    def value(self, node: tree.Node, type_: ValueType | None) -> Words:
        """`node` as a value."""
        return self._operand(node, type_)

    def say(self, node: tree.Node, *, nested: bool = False) -> Words:
        match node:
            case tree.And(every):
                parts = bounds_joined(every)
                said = self._join(parts, "and")
                if len(parts) == 1:
                    return said
                return (
                    [word("both " if len(parts) == 2 else tr("all of ")), *said] if nested else said
                )
            case tree.Or(parts):
                return [word("either "), *self._join(parts, "or")]
            case tree.Not(tree.Membership(value, (tree.Field() as several,))) if self._holds(
                several
            ):
                return self._includes(several, value, tr("does not include"))
            case tree.Membership(value, (tree.Field() as several,)) if self._holds(several):
                return self._includes(several, value, "includes")
            case tree.Not(tree.Membership(value, tests, ignore_case)):
                return self._membership(value, tests, ignore_case, negated=True)
            case tree.Not(tree.ChangedField(key)):
                verb = tr("must not have changed") if self.obliged else tr("has not changed")
                return [self._label(key), word(f" {verb}")]
            case tree.Not(tree.Call("contains", (text, piece), ())):
                return self._piece(text, tr("does not contain"), piece)
            case tree.Call(function, (text, piece), ()) if function in TEXT_FUNCTIONS.values():
                return self._piece(text, function, piece)
            case tree.Not(tree.NamedConditionUse(key)):
                return [
                    self._label(key, quoted=True),
                    word(tr(" {verb} met", verb=self._verb("is not"))),
                ]
            case tree.Not(operand):
                return [word(tr("it is not so that ")), *self.say(operand, nested=True)]
            case tree.Comparison():
                return self._comparison(node)
            case tree.Membership(value, tests, ignore_case):
                return self._membership(value, tests, ignore_case)
            case tree.MatchesFormat(value, format_key, country):
                named = NAMED_FORMATS[format_key]
                of = tr(" of {country}", country=country) if country else ""
                verb = tr(
                    " {verb} {with_article}{of}, such as ",
                    verb=self._verb("is"),
                    with_article=with_article(named.label),
                    of=of,
                )
                example = Segment("value", named.example_in(country))
                return [*self._operand(value, None), word(verb), example]
            case tree.MatchesPattern(value, pattern, described):
                if described:
                    return [*self._operand(value, None), word(f" {self._verb('is')} {described}")]
                verb = tr(" {verb} written by the pattern ", verb=self._verb("is"))
                return [*self._operand(value, None), word(verb), Segment("value", pattern)]
            case tree.Quantified() | tree.InstanceOf() | tree.UnaryTest():
                return [
                    Segment("value", write_formula(node)),
                    word(tr(" {verb} true", verb=self._verb("is"))),
                ]
            case tree.ChangedField(key):
                verb = tr("must have changed") if self.obliged else tr("has changed")
                return [self._label(key), word(f" {verb}")]
            case tree.NamedConditionUse(key):
                return [
                    self._label(key, quoted=True),
                    word(tr(" {verb} met", verb=self._verb("is"))),
                ]
            case _:
                return self._check(node)

    def _check(self, node: tree.Node) -> Words:
        """What only rules say, and no formula."""
        match node:
            case tree.Filled(quantity, keys):
                begin, joining = _QUANTITIES[quantity]
                listed = enumerate_words([[self._label(key)] for key in keys], joining)
                return [word(begin), *listed, word(tr(" {verb} a value", verb=self._verb("has")))]
            case tree.EnteredTwice(key):
                return [
                    self._label(key),
                    word(tr(" {verb} entered twice alike", verb=self._verb("is"))),
                ]
            case tree.Unique(keys):
                listed = enumerate_words([[self._label(key)] for key in keys], "and")
                begin = (
                    tr("no two records may share ")
                    if self.obliged
                    else tr("no other record shares ")
                )
                return [word(begin), *listed]
            case tree.NoOther(condition):
                speaker = _Speaker(self.vocabulary, obliged=False, among_others=True)
                inner = speaker.say(condition)
                verb = tr("there must be") if self.obliged else tr("there is")
                return [word(tr("{verb} no other record where ", verb=verb)), *inner]
            case tree.AllAmong(value, tests):
                type_ = self._type(value)
                listed = enumerate_words([self._test(test, type_) for test in tests], "or")
                verb = self._verb("is")
                return [
                    *self._operand(value, None),
                    word(tr(" {verb} nothing but ", verb=verb)),
                    *listed,
                ]
            case tree.ValueByAnswer(value, governor, rows, ignore_case):
                ending = [word(_ANY_CASE)] if ignore_case else []
                return [*self._goes(value, governor, rows), *ending]
            case _:
                return [*self._operand(node, None), word(" " + self._verb("is")), word(" yes")]

    def _goes(
        self, value: tree.Node, governor: tree.Node, rows: tuple[tree.AllowedValuesRow, ...]
    ) -> Words:
        type_, governing = self._type(value), self._type(governor)
        said = [*self._operand(value, None), word(tr(" {verb} with ", verb=self._verb("goes")))]
        said += self._operand(governor, None)
        listed = []
        for row in rows[:_ROWS_SAID]:
            fitting = enumerate_words([self._test(test, type_) for test in row.tests], "or")
            listed.append([*fitting, word(" with "), *self._operand(row.governing, governing)])
        rest = len(rows) - len(listed)
        more = [word(tr("; and {rest} more", rest=rest))] if rest else []
        return [*said, word(": "), *in_a_row(listed), *more]

    def _label(self, key: str, *, quoted: bool = False) -> Segment:
        declared = self.vocabulary.get(key)
        label = declared.label if declared else key
        return Segment("field", f"“{label}”" if quoted else label, key)

    def _holds(self, field: tree.Field) -> bool:
        return isinstance(self._type(field), ChoicesType)

    def _includes(self, several: tree.Field, value: tree.Node, verb: str) -> Words:
        type_ = self._type(several)
        assert isinstance(type_, ChoicesType)
        one = self._operand(value, ChoiceType(type_.choices))
        return [self._label(several.key), word(f" {self._verb(verb)} "), *one]

    def _join(self, parts: tuple[tree.Node, ...], joining: str) -> Words:
        return enumerate_words([self.say(part, nested=True) for part in parts], joining)

    def _verb(self, words: str) -> str:
        first, _, rest = words.partition(" ")
        return f"{_OBLIGED[first]} {rest}".strip() if self.obliged else words

    def _comparison(self, node: tree.Comparison) -> Words:
        tested = tree.blank_tested(node)
        if tested:
            verb = tr("is blank") if node.operator == "=" else tr("has a value")
            return [*self._operand(tested, None), word(f" {self._verb(verb)}")]
        counted = _counted(node.left)
        if counted and isinstance(node.right, tree.Number):
            verb = self._verb(MEASURE_WORDS[OPERATOR_OF[node.operator]])
            number = self._operand(node.right, None)
            unit = _MEASURED[counted.function][node.right.value != 1]
            return [
                *self._operand(counted.arguments[0], None),
                word(f" {verb} "),
                *number,
                word(f" {unit}"),
            ]
        type_ = self._type(node.left) or self._type(node.right)
        verb = words_for(OPERATOR_OF[node.operator], type_)
        sides = [
            [Segment("value", _named_number(side, other))]
            if isinstance(side, tree.Number) and isinstance(other, tree.Path)
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
        counted = _counted(value)
        if counted and len(tests) == 1 and isinstance(tests[0], tree.Interval) and not negated:
            said = [*self._operand(counted.arguments[0], None), word(f" {self._verb('has')} ")]
            return [
                *said,
                *self._interval(tests[0], None),
                word(f" {_MEASURED[counted.function][1]}"),
            ]
        match tests:
            case (tree.Interval() as interval,):
                verb = self._verb(tr("is not") if negated else "is")
                return [*subject, word(f" {verb} "), *self._interval(interval, type_)]
            case _:
                verb = self._verb(tr("is none of") if negated else tr("is one of"))
                listed = enumerate_words(
                    [
                        [Segment("value", _named_number(test, value))]
                        if isinstance(test, tree.Number) and isinstance(value, tree.Path)
                        else self._test(test, type_)
                        for test in tests
                    ],
                    "or",
                )
                ending = [word(_ANY_CASE)] if ignore_case else []
                return [*subject, word(f" {verb} "), *listed, *ending]

    def _piece(self, text: tree.Node, verb: str, piece: tree.Node) -> Words:
        return [
            *self._operand(text, None),
            word(f" {self._verb(verb)} "),
            *self._operand(piece, None),
        ]

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
        if isinstance(node.low, tree.Number) and isinstance(node.high, tree.Number):
            low = self._operand(node.low, None)  # the unit is said once, at the end
        if node.low_included and node.high_included:
            return [word("from "), *low, word(" to "), *high]
        at_least = words_for("is_at_least" if node.low_included else "is_more", type_)
        at_most = words_for("is_at_most" if node.high_included else "is_less", type_)
        return [
            word(at_least.removeprefix("is ") + " "),
            *low,
            word(tr(" and {removeprefix} ", removeprefix=at_most.removeprefix("is "))),
            *high,
        ]

    def _type(self, node: tree.Node) -> ValueType | None:
        match node:
            case tree.Field(key) | tree.StoredValue(key) | tree.OtherField(key) if (
                key in self.vocabulary
            ):
                return self.vocabulary[key].type
            case tree.Referred(tree.Field(key), _, name):
                fields = self.vocabulary[key].fields or {}
                return fields[name].type if name in fields else None
            case tree.Date() | tree.Today():
                return DateType()
            case tree.Time():
                return TimeType()
            case tree.DateTime() | tree.Now():
                return DateTimeType()
            case tree.Circumstance(name):
                known = CIRCUMSTANCES[name]
                return known if isinstance(known, ChoiceType) else None
            case tree.Arithmetic(_, left, right):
                days = [isinstance(self._type(side), DateType) for side in (left, right)]
                if all(days):
                    return None  # the days between them
                return DateType() if any(days) else NumberType()
            case tree.Negate():
                return NumberType()
            case _:
                return None

    def _operand(self, node: tree.Node, type_: ValueType | None) -> Words:
        match node:
            case tree.Field(key) if self.among_others:
                return [word("this "), self._label(key)]
            case tree.Field(key):
                return [self._label(key)]
            case tree.Number(value) | tree.Text(value) | tree.Date(value) | tree.Boolean(value):
                return [Segment("value", show_value(value, type_))]
            case tree.Time(value) | tree.DateTime(value):
                return [Segment("value", show_value(value, type_))]
            case tree.StoredValue(key):
                return [self._label(key), word(tr(" as it was before"))]
            case tree.OtherField(key):
                return [word("its "), self._label(key)]
            case tree.Referred(subject, _, name):
                return [*self._operand(subject, None), word("’s "), self._referred(subject, name)]
            case tree.Now():
                return [Segment("value", "now")]
            case tree.Circumstance(name):
                return [word(_CIRCUMSTANCE_WORDS[name])]
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

    def _referred(self, subject: tree.Node, name: str) -> Segment:
        key = getattr(subject, "key", "")
        declared = self.vocabulary.get(key)
        inner = (declared.fields or {}).get(name) if declared else None
        return Segment("field", inner.label if inner else name, key)

    def _beyond_everyday(self, node: tree.Node) -> Words:
        """What few conditions use is said with the formula's own words around the labels."""
        match node:
            case tree.Duration(value):
                return [Segment("value", show_length(value))]
            case tree.Call("string length", (subject,), ()):
                return [word(tr("the length of ")), *self._operand(subject, None)]
            case tree.Call("count", (subject,), ()):
                return [word(tr("the number of choices in ")), *self._operand(subject, None)]
            case tree.Path(subject, name):
                return [word(tr("the {name} of ", name=name)), *self._operand(subject, None)]
            case tree.Call(function, arguments):
                return [
                    word(tr("{function} of ", function=function)),
                    *self._list(arguments, "and"),
                ]
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


def _counted(node: tree.Node) -> tree.Call | None:
    """`node`, where it counts the characters or the choices of something."""
    counts = isinstance(node, tree.Call) and node.function in _MEASURED and not node.names
    return node if counts else None  # type: ignore[return-value]


def _named_number(node: tree.Number, beside: tree.Path) -> str:
    """A weekday or a month by its name; a year, say, without thousands marks."""
    names = _NUMBERED.get(beside.name, ())
    position = int(node.value)
    if node.value == position and 0 < position <= len(names):
        return names[position - 1]
    return f"{node.value:f}"
