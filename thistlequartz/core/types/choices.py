"""Any number of choices."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar, Final

from thistlequartz.core.translation import tr
from thistlequartz.core.values.fault import Fault
from thistlequartz.core.values.reading_settings import PLAIN, ReadingSettings
from thistlequartz.core.values.value import Reading, Stored, Value

from .base import (
    NOT_CANONICAL,
    ComparedAs,
    Comparison,
    EvaluatedAs,
    FieldType,
    FieldTypeName,
    OfferedPart,
    Quick,
    ReadingMark,
    UsualSpelling,
)
from .choice import ChoiceType
from .choosing import ChoosingType, stays
from .reading import read_computed, read_value

MAX_TICKED: Final = 5_000
"""Choices that can be ticked in one field."""


@dataclass(frozen=True, slots=True)
class ChoicesType(ChoosingType):
    """A set of the given choices, stored by their codes in the order of the choices."""

    name: ClassVar[FieldTypeName] = "choice"
    called: ClassVar[str] = tr("several choices")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ()
    kind: ClassVar[EvaluatedAs] = "list"
    compared_as: ClassVar[ComparedAs] = "numbers"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("several",)
    part: ClassVar[OfferedPart | None] = "count"
    is_ordered: ClassVar[bool] = False
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = True

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """A set of codes, from a list or from text with semicolons between them."""
        if isinstance(given, dict):
            return Fault(tr("A list of choices is expected here: give their codes."))
        if isinstance(given, list | tuple | set | frozenset):
            parts = list(given)
        else:
            parts = str(given).split(";")
        if len(parts) > MAX_TICKED:
            return Fault(
                tr(
                    "This list has {count:,} choices: shorten it to {max_ticked:,}.",
                    count=len(parts),
                    max_ticked=MAX_TICKED,
                )
            )
        ticked: set[str] = set()
        single = ChoiceType(self.choices)
        for part in parts:
            read = read_value(part, single)
            if isinstance(read, Fault):
                return read
            if isinstance(read, str):
                ticked.add(read)
        return tuple(one.code for one in self.choices if one.code in ticked) or None

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """Lists of codes."""
        codes = tuple(one.code for one in self.choices)
        known = frozenset(code for code in codes if stays(code))

        def choices(given: object) -> object:
            if type(given) not in (list, tuple) or len(given) > MAX_TICKED:  # type: ignore[arg-type]
                return NOT_CANONICAL
            if not all(type(one) is str and one in known for one in given):  # type: ignore[attr-defined]
                return NOT_CANONICAL
            ticked = frozenset(given)  # type: ignore[call-overload]
            return tuple(code for code in codes if code in ticked) or None

        return choices

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """None that is worth a test."""
        return None

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """A list of codes that are among the choices."""
        return read_computed(value, self, PLAIN) if isinstance(value, list) else None

    def entries(self) -> Sequence[Stored]:
        """Each code, and the sets that begin the list."""
        return [
            *([one.code] for one in self.choices),
            *([one.code for one in self.choices[:n]] for n in range(2, len(self.choices) + 1)),
        ]

    def evaluated(self) -> Callable[[Any], Any] | None:
        """A list."""
        return list

    def unrounded(self) -> FieldType:
        """Itself."""
        return self

    def formula_type(self) -> FieldType:
        """Itself."""
        return self

    def item_type(self) -> FieldType:
        """One of the choices."""
        return ChoiceType(self.choices)

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """The labels or the codes."""
        if not labels or not isinstance(stored, list):
            return stored
        return [self.written(one) for one in stored]
