"""The types that expressions have beyond those of fields, and their names in words."""

from dataclasses import dataclass, field
from typing import ClassVar

from thistlequartz.core.translation import tr
from thistlequartz.core.types import FieldType, ValueType


@dataclass(frozen=True, slots=True)
class ListType:
    """A list; the type of its items where it is known."""

    called: ClassVar[str] = tr("a list")

    item: "ExpressionType" = None


@dataclass(frozen=True, slots=True)
class RangeType:
    """A range of values of one type."""

    called: ClassVar[str] = tr("a range")

    item: "ExpressionType" = None


@dataclass(frozen=True, slots=True)
class ContextType:
    """Named values."""

    called: ClassVar[str] = tr("a context")

    entries: dict[str, "ExpressionType"] = field(default_factory=dict, hash=False)


KnownType = ValueType | ListType | RangeType | ContextType
ExpressionType = KnownType | None
"""None is the type of blank, and of what cannot be known before it is evaluated."""


def has_order(type_: KnownType) -> bool:
    """Whether formulas can order its values: texts too, by code point."""
    return isinstance(type_, FieldType) and (type_.is_ordered or type_.is_free_text)


def in_words(type_: KnownType | type[KnownType]) -> str:
    """“a date”, “text”: the type as it stands in a message."""
    return type_.called
