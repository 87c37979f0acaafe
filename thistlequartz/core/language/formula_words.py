"""A tree as an English sentence, with labels, units and dates as people write them."""

from collections.abc import Mapping, Sequence

from thistlequartz.core.formats import NAMED_FORMATS, NamedFormat, with_article
from thistlequartz.core.translation import Joining, tr, tr_count
from thistlequartz.core.types import (
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    TimeType,
    ValueType,
    show_value,
)
from thistlequartz.core.values import show_length
from thistlequartz.core.values.month_names import MONTHS

from . import clause_words as say
from . import tree
from .bounds import bounds_joined
from .clause_words import ClauseWords, Mood
from .declared import Vocabulary
from .feel.write import write_formula
from .inference import CIRCUMSTANCES
from .operators import OPERATOR_OF, WEEKDAYS, Operator
from .segments import Segment, Words, enumerate_words, in_a_row, phrase, word

_ARITHMETIC: Mapping[str, str] = {
    "+": tr("{left} plus {right}"),
    "-": tr("{left} minus {right}"),
    "*": tr("{left} times {right}"),
    "/": tr("{left} divided by {right}"),
    "**": tr("{left} to the power of {right}"),
}
_COUNTING = ("string length", "count")
_NUMBERED = {"weekday": WEEKDAYS, "month": MONTHS}
_QUANTITIES: Mapping[tree.Quantity, ClauseWords] = {
    "at_least_one": say.HAVE_VALUE_ANY,
    "exactly_one": say.HAVE_VALUE_ONE,
    "all_or_none": say.HAVE_VALUE_ALL,
}
_CIRCUMSTANCE_WORDS = {
    "event": tr("the record"),
    "entry_point": tr("the entry point"),
    "role": tr("the role"),
}


_ROWS_SAID = 6
"""Rows of governing answers that a sentence lists."""


def condition_words(node: tree.Node, vocabulary: Vocabulary) -> Words:
    """`node` as a clause that can follow “when”: “Type status is Holotype”."""
    return _Speaker(vocabulary, "stated").say(node)


def obligation_words(node: tree.Node, vocabulary: Vocabulary) -> Words:
    """`node` as what must hold: “Determined on must be on or after Gathered on”."""
    return _Speaker(vocabulary, "obliged").say(node)


def bare_words(node: tree.Node, key: str, vocabulary: Vocabulary) -> Words:
    """`node` without its subject, where that is the field `key`: “from 1 to 10”; else nothing."""
    speaks_of_it = all(_subject(part) == tree.Field(key) for part in _parts(node))
    return _Speaker(vocabulary, "bare").say(node) if speaks_of_it else []


def _parts(node: tree.Node) -> tuple[tree.Node, ...]:
    return bounds_joined(node.parts) if isinstance(node, tree.And) else (node,)


def _subject(node: tree.Node) -> tree.Node | None:
    """What a clause is about, where it can be said without it."""
    match node:
        case tree.Comparison(_, left, _):
            counted = _counted(left)
            return counted.arguments[0] if counted else None if tree.blank_tested(node) else left
        case tree.Membership(value, _, _):
            counted = _counted(value)
            return counted.arguments[0] if counted else value
        case tree.MatchesFormat(value, _, _) | tree.MatchesPattern(value, _, _):
            return value
        case tree.AllAmong(value, _):
            return value
        case _:
            return None


def value_words(node: tree.Node, key: str, vocabulary: Vocabulary) -> Words:
    """`node` as a value of the field `key`: “5 %”, “Loaned to minus Loaned from”."""
    declared = vocabulary.get(key)
    return _Speaker(vocabulary, "stated").value(node, declared.type if declared else None)


class _Speaker:
    def __init__(self, vocabulary: Vocabulary, mood: Mood, *, among_others: bool = False) -> None:
        self.vocabulary = vocabulary
        self.mood = mood
        self.among_others = among_others
        """Whether other records are spoken of, so that a field here is “this” one."""

    def value(self, node: tree.Node, type_: ValueType | None) -> Words:
        """`node` as a value."""
        return self._operand(node, type_)

    def say(self, node: tree.Node, *, nested: bool = False) -> Words:
        """`node` as a clause."""
        match node:
            case tree.And(every):
                return self._all_of(bounds_joined(every), nested)
            case tree.Or(parts):
                return phrase(tr("either {clauses}"), clauses=self._join(parts, "or"))
            case tree.Not(operand):
                return self._denied(operand)
            case tree.Membership(value, (tree.Field() as several,)) if self._holds(several):
                return self._includes(several, value, say.INCLUDES)
            case tree.Call(function, (text, piece), ()) if function in say.PIECES:
                return self._sides(say.PIECES[function], text, piece)
            case tree.Comparison():
                return self._comparison(node)
            case tree.Membership(value, tests, ignore_case):
                return self._membership(value, tests, ignore_case)
            case tree.MatchesFormat(value, format_key, country):
                return self._has_format(value, NAMED_FORMATS[format_key], country)
            case tree.MatchesPattern(value, pattern, described):
                left = self._operand(value, None)
                if described:
                    return self._clause(say.IS_DESCRIBED, left=left, described=described)
                shown = Segment("value", pattern)
                return self._clause(say.HAS_PATTERN, left=left, pattern=shown)
            case tree.Quantified() | tree.InstanceOf() | tree.UnaryTest():
                return self._clause(say.IS_TRUE, left=Segment("value", write_formula(node)))
            case tree.ChangedField(key):
                return self._clause(say.HAS_CHANGED, left=self._label(key))
            case tree.NamedConditionUse(key):
                return self._clause(say.IS_MET, left=self._label(key, quoted=True))
            case _:
                return self._check(node)

    def _all_of(self, parts: tuple[tree.Node, ...], nested: bool) -> Words:
        clauses = self._join(parts, "and")
        if len(parts) == 1 or not nested:
            return clauses
        both = tr("both {clauses}") if len(parts) == 2 else tr("all of {clauses}")
        return phrase(both, clauses=clauses)

    def _denied(self, operand: tree.Node) -> Words:
        match operand:
            case tree.Membership(value, (tree.Field() as several,)) if self._holds(several):
                return self._includes(several, value, say.DOES_NOT_INCLUDE)
            case tree.Membership(value, tests, ignore_case):
                return self._membership(value, tests, ignore_case, negated=True)
            case tree.ChangedField(key):
                return self._clause(say.HAS_NOT_CHANGED, left=self._label(key))
            case tree.Call("contains", (text, piece), ()):
                return self._sides(say.DOES_NOT_CONTAIN, text, piece)
            case tree.NamedConditionUse(key):
                return self._clause(say.IS_NOT_MET, left=self._label(key, quoted=True))
            case _:
                clause = self.say(operand, nested=True)
                return phrase(tr("it is not so that {clause}"), clause=clause)

    def _check(self, node: tree.Node) -> Words:
        """What only rules say, and no formula."""
        match node:
            case tree.Filled(quantity, keys):
                fields = enumerate_words([[self._label(key)] for key in keys], "and")
                return self._clause(_QUANTITIES[quantity], listed=fields)
            case tree.EnteredTwice(key):
                return self._clause(say.TWICE_ALIKE, left=self._label(key))
            case tree.Unique(keys):
                fields = enumerate_words([[self._label(key)] for key in keys], "and")
                return self._clause(say.UNIQUE, listed=fields)
            case tree.NoOther(condition):
                speaker = _Speaker(self.vocabulary, "stated", among_others=True)
                return self._clause(say.NO_OTHER, condition=speaker.say(condition))
            case tree.AllAmong(value, tests):
                fitting = self._tests(tests, self._type(value))
                return self._clause(say.ONLY, left=self._operand(value, None), listed=fitting)
            case tree.ValueByAnswer(value, governor, rows, ignore_case):
                return _in_any_case(self._goes(value, governor, rows), ignore_case)
            case _:
                return self._clause(say.IS_YES, left=self._operand(node, None))

    def _clause(self, words: ClauseWords, **places: Words | Segment | str) -> Words:
        return phrase(words.in_mood(self.mood), **places)

    def _sides(self, words: ClauseWords, left: tree.Node, right: tree.Node) -> Words:
        return self._clause(words, left=self._operand(left, None), right=self._operand(right, None))

    def _goes(
        self, value: tree.Node, governor: tree.Node, rows: tuple[tree.AllowedValuesRow, ...]
    ) -> Words:
        type_, governing = self._type(value), self._type(governor)
        told = [
            phrase(
                tr("{values} with {answer}"),
                values=self._tests(row.tests, type_),
                answer=self._operand(row.governing, governing),
            )
            for row in rows[:_ROWS_SAID]
        ]
        rest = len(rows) - len(told)
        return self._clause(
            say.GOES_WITH_SOME if rest else say.GOES_WITH,
            left=self._operand(value, None),
            governor=self._operand(governor, None),
            rows=in_a_row(told),
            rest=str(rest),
        )

    def _has_format(self, value: tree.Node, named: NamedFormat, country: str | None) -> Words:
        return self._clause(
            say.HAS_FORMAT_OF if country else say.HAS_FORMAT,
            left=self._operand(value, None),
            format=with_article(named.label),
            country=country or "",
            example=Segment("value", named.example_in(country)),
        )

    def _label(self, key: str, *, quoted: bool = False) -> Segment:
        declared = self.vocabulary.get(key)
        label = declared.label if declared else key
        return Segment("field", f"“{label}”" if quoted else label, key)

    def _holds(self, field: tree.Field) -> bool:
        type_ = self._type(field)
        return type_ is not None and type_.holds_several

    def _includes(self, several: tree.Field, value: tree.Node, words: ClauseWords) -> Words:
        type_ = self._type(several)
        assert type_ is not None
        one = self._operand(value, type_.item_type())
        return self._clause(words, left=self._label(several.key), right=one)

    def _join(self, parts: tuple[tree.Node, ...], joining: Joining) -> Words:
        return enumerate_words([self.say(part, nested=True) for part in parts], joining)

    def _comparison(self, node: tree.Comparison) -> Words:
        tested = tree.blank_tested(node)
        if tested:
            words = say.IS_BLANK if node.operator == "=" else say.HAS_VALUE
            return self._clause(words, left=self._operand(tested, None))
        counted = _counted(node.left)
        if counted and isinstance(node.right, tree.Number):
            number, one = self._operand(node.right, None), node.right.value == 1
            return self._clause(
                say.MEASURED[OPERATOR_OF[node.operator]],
                left=self._operand(counted.arguments[0], None),
                right=_measure(counted, number, 1 if one else 2),
            )
        type_ = self._type(node.left) or self._type(node.right)
        left, right = (
            [Segment("value", _named_number(side, other))]
            if isinstance(side, tree.Number) and isinstance(other, tree.Path)
            else self._operand(side, type_)
            for side, other in ((node.left, node.right), (node.right, node.left))
        )
        return self._clause(say.compared(OPERATOR_OF[node.operator], type_), left=left, right=right)

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
            return self._clause(
                say.MEASURED["is_between"],
                left=self._operand(counted.arguments[0], None),
                right=_measure(counted, self._interval(tests[0], None), 2),
            )
        match tests:
            case (tree.Interval() as interval,):
                words = say.IS_NOT_WITHIN if negated else say.IS_WITHIN
                return self._clause(words, left=subject, right=self._interval(interval, type_))
            case _:
                fitting = enumerate_words(
                    [
                        [Segment("value", _named_number(test, value))]
                        if isinstance(test, tree.Number) and isinstance(value, tree.Path)
                        else self._test(test, type_)
                        for test in tests
                    ],
                    "or",
                )
                words = say.IS_NONE_OF if negated else say.IS_ONE_OF
                return _in_any_case(self._clause(words, left=subject, listed=fitting), ignore_case)

    def _tests(self, tests: Sequence[tree.Node], type_: ValueType | None) -> Words:
        return enumerate_words([self._test(test, type_) for test in tests], "or")

    def _test(self, test: tree.Node, type_: ValueType | None) -> Words:
        match test:
            case tree.Interval():
                return self._interval(test, type_)
            case tree.UnaryTest(sign, operand):
                return self._bare(OPERATOR_OF[sign], operand, type_)
            case _:
                return self._operand(test, type_)

    def _bare(self, operator: Operator, operand: tree.Node, type_: ValueType | None) -> Words:
        """A comparison without its subject: “at least 3”."""
        bare = say.compared(operator, type_).in_mood("bare")
        return phrase(bare, right=self._operand(operand, type_))

    def _interval(self, node: tree.Interval, type_: ValueType | None) -> Words:
        both_numbers = isinstance(node.low, tree.Number) and isinstance(node.high, tree.Number)
        # The unit of two numbers is said once, at the end.
        low_type = None if both_numbers else type_
        if node.low_included and node.high_included:
            low = self._operand(node.low, low_type)
            high = self._operand(node.high, type_)
            return phrase(tr("from {low} to {high}"), low=low, high=high)
        at_least: Operator = "is_at_least" if node.low_included else "is_more"
        at_most: Operator = "is_at_most" if node.high_included else "is_less"
        low = phrase(say.compared(at_least, type_).bare, right=self._operand(node.low, low_type))
        return enumerate_words([low, self._bare(at_most, node.high, type_)], "and")

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
                return phrase(tr("this {field}"), field=self._label(key))
            case tree.Field(key):
                return [self._label(key)]
            case tree.Number(value) | tree.Text(value) | tree.Date(value) | tree.Boolean(value):
                return [Segment("value", show_value(value, type_))]
            case tree.Time(value) | tree.DateTime(value):
                return [Segment("value", show_value(value, type_))]
            case tree.StoredValue(key):
                return phrase(tr("{field} as it was before"), field=self._label(key))
            case tree.OtherField(key):
                return phrase(tr("its {field}"), field=self._label(key))
            case tree.Referred(subject, _, name):
                owner, field = self._operand(subject, None), self._referred(subject, name)
                return phrase(tr("{owner}’s {field}"), owner=owner, field=field)
            case tree.Now():
                return [Segment("value", tr("now"))]
            case tree.Circumstance(name):
                return [word(_CIRCUMSTANCE_WORDS[name])]
            case tree.Today():
                return [Segment("value", tr("today"))]
            case tree.Null():
                return [Segment("value", tr("blank"))]
            case tree.Negate(operand):
                return phrase(tr("minus {value}"), value=self._operand(operand, type_))
            case tree.Arithmetic(sign, left, right):
                return phrase(
                    _ARITHMETIC[sign],
                    left=self._operand(left, None),
                    right=self._operand(right, None),
                )
            case tree.And() | tree.Or() | tree.Not() | tree.Comparison() | tree.Membership():
                return phrase(tr("(whether {clause})"), clause=self.say(node, nested=True))
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
                return phrase(tr("the length of {value}"), value=self._operand(subject, None))
            case tree.Call("count", (subject,), ()):
                return phrase(
                    tr("the number of choices in {value}"), value=self._operand(subject, None)
                )
            case tree.Path(subject, name):
                return phrase(
                    tr("the {part} of {value}"), part=name, value=self._operand(subject, None)
                )
            case tree.Call(function, arguments):
                return phrase(
                    tr("{function} of {values}"),
                    function=function,
                    values=self._list(arguments, "and"),
                )
            case tree.ListOf(items):
                return self._list(items, "and")
            case tree.If(condition, then, otherwise):
                return phrase(
                    tr("{value} (if {condition}, otherwise {another})"),
                    value=self._operand(then, None),
                    condition=self.say(condition),
                    another=self._operand(otherwise, None),
                )
            case _:
                return [Segment("value", write_formula(node))]

    def _list(self, nodes: tuple[tree.Node, ...], joining: Joining) -> Words:
        return enumerate_words([self._operand(node, None) for node in nodes], joining)


def _counted(node: tree.Node) -> tree.Call | None:
    """`node`, where it counts the characters or the choices of something."""
    counts = isinstance(node, tree.Call) and node.function in _COUNTING and not node.names
    return node if counts else None  # type: ignore[return-value]


def _measure(counted: tree.Call, number: Words, count: int) -> Words:
    """A number of characters or choices, with its noun."""
    if counted.function == "count":
        return phrase(tr_count("{number} choice", "{number} choices", count), number=number)
    return phrase(tr_count("{number} character", "{number} characters", count), number=number)


def _in_any_case(clause: Words, ignore_case: bool) -> Words:
    return phrase(say.ANY_CASE, clause=clause) if ignore_case else clause


def _named_number(node: tree.Number, beside: tree.Path) -> str:
    """A weekday or a month by its name; a year, say, without thousands marks."""
    names = _NUMBERED.get(beside.name, ())
    position = int(node.value)
    if node.value == position and 0 < position <= len(names):
        return names[position - 1]
    return f"{node.value:f}"
