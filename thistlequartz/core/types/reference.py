"""A record of another form."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, ClassVar

from thistlequartz.core.translation import tr
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle
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
from .cells import spelt
from .domain import Domain, SolverRange
from .reading import read_computed
from .text import TEXT_TEST, quick_text, read_text


@dataclass(frozen=True, slots=True)
class ReferenceType(FieldType):
    """A record of the form with the key `form`, by its id."""

    form: str

    name: ClassVar[FieldTypeName] = "reference"
    called: ClassVar[str] = tr("a reference")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ()
    kind: ClassVar[EvaluatedAs] = "text"
    compared_as: ClassVar[ComparedAs] = "numbers"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality",)
    part: ClassVar[OfferedPart | None] = "record"
    is_ordered: ClassVar[bool] = False
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """The number of a record, or what else it is known by, in one form: 7 and not 007."""
        read = read_text(str(given) if type(given) is int else given)
        if isinstance(read, str) and read.isascii() and read.isdigit():
            return read.lstrip("0") or "0"
        return read

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """Texts in ASCII that begin with no nought."""
        return _quick

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """Texts in ASCII that begin with a digit but nought, or with a letter."""
        return UsualSpelling(f"{TEXT_TEST} and '0' < given[:1]", "given.strip()", {})

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """As it is."""
        return str

    def domain(self, today: date) -> Domain | None:
        """It has no order."""
        return None

    def usual_entry(self, today: date) -> str | None:
        """None."""
        return None

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def bounds_hint(self) -> str | None:
        """Nothing: it has no bounds."""
        return None

    def holds(self, value: object) -> bool:
        """Numbers of records, as texts."""
        return isinstance(value, str)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """A text, as when typed."""
        return read_computed(value, self, settings) if isinstance(value, str) else None

    def entries(self) -> Sequence[Stored]:
        """The records are not known here."""
        return []

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The number."""
        return None

    def solver_range(self) -> SolverRange | None:
        """None: a text."""
        return None

    def properties(self) -> Mapping[str, FieldType]:
        """None: the fields of the record are asked in another way."""
        return {}

    def unrounded(self) -> FieldType:
        """Itself."""
        return self

    def formula_type(self) -> FieldType:
        """Itself."""
        return self

    def item_type(self) -> FieldType:
        """Itself."""
        return self

    @property
    def referred_form(self) -> str | None:
        """Its form."""
        return self.form

    def from_cell(self, cell: object) -> object:
        """As spreadsheets hold it."""
        return spelt(cell)

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """As it is stored."""
        return stored


def _quick(given: object) -> object:
    return NOT_CANONICAL if type(given) is str and given.lstrip()[:1] == "0" else quick_text(given)
