"""What an expression may name: fields and named conditions."""

from collections.abc import Mapping
from dataclasses import dataclass

from thistlequartz.core.types import ValueType
from thistlequartz.core.values import PLAIN, ReadingSettings


@dataclass(frozen=True, slots=True)
class Declaration:
    """A field, or a named condition, as an expression sees it."""

    label: str
    type: ValueType
    settings: ReadingSettings = PLAIN
    fields: "Vocabulary | None" = None
    """Of a reference: the fields of the form it refers to."""
    names_record: bool = False
    """Whether it is one of the texts that people know a record by."""
    condition: bool = False
    """Whether it is a named condition instead of a field."""


Vocabulary = Mapping[str, Declaration]
