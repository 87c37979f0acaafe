"""What an expression may name: fields with their labels and types."""

from collections.abc import Mapping
from dataclasses import dataclass

from thistlequartz.core.values import ValueType


@dataclass(frozen=True, slots=True)
class Declared:
    """A field as an expression sees it."""

    label: str
    type: ValueType


Vocabulary = Mapping[str, Declared]
