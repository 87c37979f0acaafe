"""The types that expressions have beyond those of fields, and their names in words."""

from dataclasses import dataclass, field

from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
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


@dataclass(frozen=True, slots=True)
class DaysType:
    """An exact duration: days, hours, minutes, seconds."""


@dataclass(frozen=True, slots=True)
class MonthsType:
    """A duration in years and months."""


@dataclass(frozen=True, slots=True)
class ListType:
    """A list; the type of its items where it is known."""

    item: "ExpressionType" = None


@dataclass(frozen=True, slots=True)
class RangeType:
    """A range of values of one type."""

    item: "ExpressionType" = None


@dataclass(frozen=True, slots=True)
class ContextType:
    """Named values."""

    entries: dict[str, "ExpressionType"] = field(default_factory=dict, hash=False)


KnownType = ValueType | DaysType | MonthsType | ListType | RangeType | ContextType
ExpressionType = KnownType | None
"""None is the type of blank, and of what cannot be known before it is evaluated."""

TYPE_WORDS: dict[type[KnownType], str] = {
    TextType: tr("text"),
    NumberType: tr("a number"),
    DateType: tr("a date"),
    TimeType: tr("a time"),
    DateTimeType: tr("a date and time"),
    YesNoType: tr("yes or no"),
    ChoiceType: tr("a choice"),
    ChoicesType: tr("several choices"),
    ReferenceType: tr("a reference"),
    DaysType: tr("a duration in days"),
    MonthsType: tr("a duration in months"),
    ListType: tr("a list"),
    RangeType: tr("a range"),
    ContextType: tr("a context"),
}
ORDERED = (NumberType, DateType, TimeType, DateTimeType, TextType, DaysType, MonthsType)
"""The types whose values have an order."""


def in_words(type_: KnownType) -> str:
    """“a date”, “text”: the type as it stands in a message."""
    return TYPE_WORDS[type(type_)]
