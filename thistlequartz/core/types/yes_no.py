"""Yes or no."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, ClassVar

from thistlequartz.core.translation import tr
from thistlequartz.core.values.fault import Fault, quoted
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

_YES = frozenset({"yes", "y", "true"})
_NO = frozenset({"no", "n", "false"})


@dataclass(frozen=True, slots=True)
class YesNoType(FieldType):
    """Yes or no; blank is neither."""

    name: ClassVar[FieldTypeName] = "yes_no"
    called: ClassVar[str] = tr("yes or no")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ()
    kind: ClassVar[EvaluatedAs] = "boolean"
    compared_as: ClassVar[ComparedAs] = "numbers"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality",)
    part: ClassVar[OfferedPart | None] = None
    is_ordered: ClassVar[bool] = False
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """Yes, no, or true and false."""
        if isinstance(given, bool):
            return given
        word = str(given).casefold()
        if word in _YES:
            return True
        if word in _NO:
            return False
        return Fault(tr("{given} is neither yes nor no: choose one.", given=quoted(given)))

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """True and false."""
        return lambda given: given if given is True or given is False else NOT_CANONICAL

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """True and false."""
        return UsualSpelling("given is True or given is False", "given", {})

    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """Yes or no."""
        return lambda value: tr("yes") if value else tr("no")

    def domain(self, today: date) -> Domain | None:
        """It has no order."""
        return None

    def usual_entry(self, today: date) -> str | None:
        """None."""
        return None

    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Yes and no."""
        return (("true", tr("yes")), ("false", tr("no")))

    def bounds_hint(self) -> str | None:
        """Nothing: it has no bounds."""
        return None

    def holds(self, value: object) -> bool:
        """True and false."""
        return isinstance(value, bool)

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """As it is."""
        return value if isinstance(value, bool) else None

    def entries(self) -> Sequence[Stored]:
        """Yes and no."""
        return [True, False]

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The answer."""
        return None

    def solver_range(self) -> SolverRange | None:
        """None: a truth."""
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
        """As spreadsheets hold it."""
        return spelt(cell)

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """As it is stored."""
        return stored
