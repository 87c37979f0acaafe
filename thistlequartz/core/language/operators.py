"""The comparisons people choose in a condition, with their words for each type of field."""

from dataclasses import dataclass
from typing import Literal

from thistlequartz.core.translation import tr
from thistlequartz.core.types import ValueType
from thistlequartz.core.types.base import Comparison

from .tree import ComparisonOperator

Operator = Literal[
    "is",
    "is_not",
    "is_one_of",
    "is_none_of",
    "is_less",
    "is_at_most",
    "is_more",
    "is_at_least",
    "includes",
    "includes_not",
    "is_between",
    "contains",
    "contains_not",
    "starts_with",
    "ends_with",
    "is_blank",
    "has_value",
    "has_changed",
    "has_not_changed",
    "is_true",
    "holds_not",
]
OperandKind = Literal["none", "one", "several", "between"]
WEEKDAYS = (
    tr("Monday"),
    tr("Tuesday"),
    tr("Wednesday"),
    tr("Thursday"),
    tr("Friday"),
    tr("Saturday"),
    tr("Sunday"),
)
"""As FEEL numbers them, from 1 (DMN 1.4, table 65)."""

SIGN_OF: dict[Operator, ComparisonOperator] = {
    "is": "=",
    "is_not": "!=",
    "is_less": "<",
    "is_at_most": "<=",
    "is_more": ">",
    "is_at_least": ">=",
}
OPERATOR_OF: dict[ComparisonOperator, Operator] = {sign: name for name, sign in SIGN_OF.items()}
TEXT_FUNCTIONS: dict[Operator, str] = {
    "contains": "contains",
    "starts_with": "starts with",
    "ends_with": "ends with",
}
"""The FEEL functions that ask a text for a piece of it."""

_WORDS: dict[Operator, str] = {
    "is": tr("is"),
    "is_not": tr("is not"),
    "is_one_of": tr("is one of"),
    "is_none_of": tr("is none of"),
    "is_less": tr("is less than"),
    "is_at_most": tr("is at most"),
    "is_more": tr("is more than"),
    "is_at_least": tr("is at least"),
    "includes": tr("includes"),
    "includes_not": tr("does not include"),
    "is_between": tr("is between"),
    "contains": tr("contains"),
    "contains_not": tr("does not contain"),
    "starts_with": tr("starts with"),
    "ends_with": tr("ends with"),
    "is_blank": tr("is blank"),
    "has_value": tr("has a value"),
    "has_changed": tr("has changed"),
    "has_not_changed": tr("has not changed"),
    "is_true": tr("is met"),
    "holds_not": tr("is not met"),
}
MEASURE_WORDS: dict[Operator, str] = {
    "is": tr("has exactly"),
    "is_not": tr("does not have exactly"),
    "is_less": tr("has fewer than"),
    "is_at_most": tr("has at most"),
    "is_more": tr("has more than"),
    "is_at_least": tr("has at least"),
    "is_between": tr("has between"),
}
"""How many characters or choices a field has."""
_DATE_WORDS: dict[Operator, str] = {
    "is_less": tr("is before"),
    "is_at_most": tr("is on or before"),
    "is_more": tr("is after"),
    "is_at_least": tr("is on or after"),
}
_TEXT_WORDS: dict[Operator, str] = {
    "is_less": tr("is ahead of"),
    "is_at_most": tr("is ahead of or the same as"),
    "is_more": tr("is behind"),
    "is_at_least": tr("is behind or the same as"),
}
_EQUALITY: tuple[Operator, ...] = ("is", "is_not")
_LISTS: tuple[Operator, ...] = ("is_one_of", "is_none_of")
_ORDER: tuple[Operator, ...] = ("is_less", "is_at_most", "is_more", "is_at_least")
_HOLDING: tuple[Operator, ...] = ("includes", "includes_not")
_BETWEEN: tuple[Operator, ...] = ("is_between",)
_PIECES: tuple[Operator, ...] = ("contains", "contains_not", "starts_with", "ends_with")
_COMPARISONS: dict[Comparison, tuple[Operator, ...]] = {
    "equality": _EQUALITY,
    "order": _ORDER,
    "between": _BETWEEN,
    "lists": _LISTS,
    "several": _HOLDING,
    "pieces": _PIECES,
}
_BLANK: tuple[Operator, ...] = ("is_blank", "has_value")
_CHANGES: tuple[Operator, ...] = ("has_changed", "has_not_changed")


@dataclass(frozen=True, slots=True)
class OperatorOffer:
    """One comparison that fits a type: how it reads and what it needs beside it."""

    operator: Operator
    words: str
    operand: OperandKind


def words_for(operator: Operator, type_: ValueType | None) -> str:
    """How `operator` reads for a value of the type: “is before” for dates, say."""
    by_type = {"dates": _DATE_WORDS, "texts": _TEXT_WORDS, "numbers": _WORDS}
    words = by_type[type_.compared_as if type_ else "numbers"]
    return words.get(operator, _WORDS[operator])


def offers(type_: ValueType) -> tuple[OperatorOffer, ...]:
    """The comparisons that fit a field of the type, commonest first."""
    fitting = [operator for one in type_.comparisons for operator in _COMPARISONS[one]]
    return tuple(
        OperatorOffer(operator, words_for(operator, type_), _operand(operator))
        for operator in (*fitting, *_BLANK, *_CHANGES)
    )


def measure_offers() -> tuple[OperatorOffer, ...]:
    """The comparisons that fit a length or a count."""
    return tuple(OperatorOffer(one, said, _operand(one)) for one, said in MEASURE_WORDS.items())


def _operand(operator: Operator) -> OperandKind:
    if operator in (*_BLANK, *_CHANGES):
        return "none"
    if operator in _BETWEEN:
        return "between"
    return "several" if operator in _LISTS else "one"
