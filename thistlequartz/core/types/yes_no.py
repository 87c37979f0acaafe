"""Yes or no."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any, ClassVar

from thistlequartz.core.translation import tr
from thistlequartz.core.values.fault import Fault, quoted
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle
from thistlequartz.core.values.value import Reading, Value

from .base import (
    NOT_CANONICAL,
    ComparedAs,
    Comparison,
    EvaluatedAs,
    FieldType,
    FieldTypeName,
    OfferedPart,
    Quick,
    UsualSpelling,
)
from .domain import Domain

_YES = frozenset({"yes", "y", "true"})
_NO = frozenset({"no", "n", "false"})


@dataclass(frozen=True, slots=True)
class YesNoType(FieldType):
    """Yes or no; blank is neither."""

    name: ClassVar[FieldTypeName] = "yes_no"
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
