"""The comparisons people choose in a condition, with their words for each type of field."""

from dataclasses import dataclass
from typing import Literal

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
)

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
    "is_blank",
    "has_value",
]
OperandKind = Literal["none", "one", "several"]

SIGN_OF: dict[Operator, ComparisonOperator] = {
    "is": "=",
    "is_not": "!=",
    "is_less": "<",
    "is_at_most": "<=",
    "is_more": ">",
    "is_at_least": ">=",
}
OPERATOR_OF: dict[ComparisonOperator, Operator] = {sign: name for name, sign in SIGN_OF.items()}

_WORDS: dict[Operator, str] = {
    "is": "is",
    "is_not": "is not",
    "is_one_of": "is one of",
    "is_none_of": "is none of",
    "is_less": "is less than",
    "is_at_most": "is at most",
    "is_more": "is more than",
    "is_at_least": "is at least",
    "includes": "includes",
    "includes_not": "does not include",
    "is_blank": "is blank",
    "has_value": "has a value",
}
_DATE_WORDS: dict[Operator, str] = {
    "is_less": "is before",
    "is_at_most": "is on or before",
    "is_more": "is after",
    "is_at_least": "is on or after",
}
_TEXT_WORDS: dict[Operator, str] = {
    "is_less": "is ahead of",
    "is_at_most": "is ahead of or the same as",
    "is_more": "is behind",
    "is_at_least": "is behind or the same as",
}
_EQUALITY: tuple[Operator, ...] = ("is", "is_not")
_LISTS: tuple[Operator, ...] = ("is_one_of", "is_none_of")
_ORDER: tuple[Operator, ...] = ("is_less", "is_at_most", "is_more", "is_at_least")
_HOLDING: tuple[Operator, ...] = ("includes", "includes_not")
_BLANK: tuple[Operator, ...] = ("is_blank", "has_value")


@dataclass(frozen=True, slots=True)
class OperatorOffer:
    """One comparison that fits a type: how it reads and what it needs beside it."""

    operator: Operator
    words: str
    operand: OperandKind


def words_for(operator: Operator, type_: ValueType | None) -> str:
    """How `operator` reads for a value of the type: “is before” for dates, say."""
    if isinstance(type_, DateType | TimeType | DateTimeType):
        return _DATE_WORDS.get(operator, _WORDS[operator])
    if isinstance(type_, TextType | ChoiceType):
        return _TEXT_WORDS.get(operator, _WORDS[operator])
    return _WORDS[operator]


def offers(type_: ValueType) -> tuple[OperatorOffer, ...]:
    """The comparisons that fit a field of the type, commonest first."""
    match type_:
        case YesNoType() | ReferenceType():
            fitting = (*_EQUALITY, *_BLANK)
        case ChoicesType():
            fitting = (*_HOLDING, *_BLANK)
        case TextType() | ChoiceType():
            fitting = (*_EQUALITY, *_LISTS, *_BLANK)
        case NumberType() | DateType() | TimeType() | DateTimeType():
            fitting = (*_EQUALITY, *_ORDER, *_LISTS, *_BLANK)
    return tuple(
        OperatorOffer(operator, words_for(operator, type_), _operand(operator))
        for operator in fitting
    )


def _operand(operator: Operator) -> OperandKind:
    if operator in _BLANK:
        return "none"
    return "several" if operator in _LISTS else "one"
