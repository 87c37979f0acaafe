"""One of several choices."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from thistlequartz.core.translation import listed, tr
from thistlequartz.core.values.fault import Fault, quoted
from thistlequartz.core.values.reading_settings import ReadingSettings
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
from .choosing import ChoosingType, stays


@dataclass(frozen=True, slots=True)
class ChoiceType(ChoosingType):
    """One of the given choices, stored by its code."""

    name: ClassVar[FieldTypeName] = "choice"
    called: ClassVar[str] = tr("a choice")
    read_by: ClassVar[tuple[ReadingMark, ...]] = ()
    kind: ClassVar[EvaluatedAs] = "text"
    compared_as: ClassVar[ComparedAs] = "texts"
    comparisons: ClassVar[tuple[Comparison, ...]] = ("equality", "lists")
    part: ClassVar[OfferedPart | None] = None
    is_ordered: ClassVar[bool] = False
    is_free_text: ClassVar[bool] = False
    holds_several: ClassVar[bool] = False

    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """The code or the label of a choice."""
        text = str(given)
        fitting = self.fitting(text)
        if len(fitting) == 1:
            return fitting[0]
        if fitting:
            several = listed(fitting[:3], "or")
            return Fault(
                tr(
                    "{text} fits several choices: write the code, {codes}.",
                    text=quoted(text),
                    codes=several,
                )
            )
        return Fault(tr("{text} is not among the choices: choose one of them.", text=quoted(text)))

    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """Codes."""
        codes = self._codes()
        return lambda given: given if type(given) is str and given in codes else NOT_CANONICAL

    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """Codes."""
        test = "type(given) is str and given in {codes}"
        return UsualSpelling(test, "given", {"codes": self._codes()})

    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """A code that is among the choices."""
        known = isinstance(value, str) and any(one.code == value for one in self.choices)
        return value if known else None  # type: ignore[return-value]

    def entries(self) -> Sequence[Stored]:
        """The codes."""
        return [one.code for one in self.choices]

    def evaluated(self) -> Callable[[Any], Any] | None:
        """The code."""
        return None

    def unrounded(self) -> FieldType:
        """Itself."""
        return self

    def formula_type(self) -> FieldType:
        """Itself."""
        return self

    def item_type(self) -> FieldType:
        """Itself."""
        return self

    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """The label or the code."""
        return self.written(stored) if labels and isinstance(stored, str) else stored

    def _codes(self) -> frozenset[str]:
        return frozenset(one.code for one in self.choices if stays(one.code))
