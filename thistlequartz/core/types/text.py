"""Text, counted in code points."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from fractions import Fraction
from typing import Any, ClassVar, Final

from thistlequartz.core.translation import tr
from thistlequartz.core.values.fault import Fault
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
    never,
)
from .cells import spelt
from .domain import Domain, SolverRange, in_sight
from .reading import MAX_TEXT, read_computed, too_long

PRINTABLE: Final = "[!-~](?:[ -~]*[!-~])?"
"""Texts in ASCII without control characters, and with nothing to trim."""
TEXT_TEST: Final = (
    f"type(given) is str and given.isascii() and given.isprintable() and len(given) <= {MAX_TEXT}"
)
"""Where a text can be trimmed and taken as it is, in Python."""


@dataclass(frozen=True, slots=True)
class TextType(FieldType):
    """Text, counted in code points."""

    name: ClassVar[FieldTypeName] = "text"
    called: ClassVar[str] = tr("text")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ()
    kind: ClassVar[EvaluatedAs] = "text"
    compared_as: ClassVar[ComparedAs] = "texts"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "lists", "pieces")
    part: ClassVar[OfferedPart | None] = "length"
    is_ordered: ClassVar[bool] = False
    is_free_text: ClassVar[bool] = True
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """Any text that is not too long."""
        return read_text(given)

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """Texts in ASCII, where they are trimmed and otherwise left as they are."""
        return quick_text if _is_plain(settings) else never

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """Printable ASCII."""
        if not _is_plain(settings):
            return None
        return UsualSpelling(TEXT_TEST, "given.strip() or None", {}, PRINTABLE, "given")

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """Between quotation marks."""
        return lambda value: f"“{value}”"

    def domain(self, today: date) -> Domain | None:
        """The number of its characters."""
        one = Fraction(1)
        return Domain("lengths", one, int, in_sight(one), True, one, one, Fraction(MAX_TEXT))

    def usual_entry(self, today: date) -> str | None:
        """None."""
        return None

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Any number of them."""
        return None

    def bounds_hint(self) -> str | None:
        """Nothing: a text has no bounds."""
        return None

    def holds(self, value: object) -> bool:
        """Texts."""
        return isinstance(value, str)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """A text, normalised as when typed."""
        return read_computed(value, self, settings) if isinstance(value, str) else None

    def entries(self) -> Sequence[Stored]:
        """Any number of them."""
        return []

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The text."""
        return None

    def solver_range(self) -> SolverRange | None:
        """None: a text."""
        return None

    def properties(self) -> Mapping[str, FieldType]:
        """None."""
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
        """None."""
        return None

    def from_cell(self, cell: object) -> object:
        """Everything as a text."""
        match cell:
            case bool():
                return "TRUE" if cell else "FALSE"
            case int() | float():
                return str(cell)
            case _:
                return spelt(cell)

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """As it is stored."""
        return stored


def read_text(given: object) -> Reading:
    """Any text that is not too long."""
    if not isinstance(given, str):
        return Fault(tr("A text is expected here: write it between quotation marks."))
    if len(given) > MAX_TEXT:
        return too_long(given)
    return given


def quick_text(given: object) -> object:
    """A text in ASCII, trimmed."""
    if type(given) is not str or not given.isascii() or len(given) > MAX_TEXT:
        return NOT_CANONICAL
    return NOT_CANONICAL if "\x00" in given else given.strip() or None


def _is_plain(settings: ReadingSettings) -> bool:
    return settings.trim and not settings.collapse and settings.letter_case is None
