"""What every type of value says of itself; one that leaves out a part cannot be made."""

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping, Sequence
from datetime import date
from typing import Any, ClassVar, Final, Literal, NamedTuple

from thistlequartz.core.translation import tr
from thistlequartz.core.values.fault import Fault
from thistlequartz.core.values.reading_settings import ReadingSettings
from thistlequartz.core.values.showing import WritingStyle
from thistlequartz.core.values.value import Reading, Stored, Value

from .domain import Domain, SolverRange

NOT_CANONICAL: Final = object()
"""What a quick reader gives where it cannot answer."""
Quick = Callable[[object], object]
EvaluatedAs = Literal[
    "text", "number", "boolean", "date", "time", "date_time", "days", "months", "list"
]
ComparedAs = Literal["dates", "texts", "numbers"]
Comparison = Literal["equality", "order", "between", "lists", "several", "pieces"]
OfferedPart = Literal["length", "count", "day", "record"]
ReadingMark = Literal["decimal_mark", "date_order"]
FieldTypeName = Literal[
    "text",
    "number",
    "date",
    "time",
    "date_time",
    "duration",
    "quantity",
    "yes_no",
    "choice",
    "reference",
]


class UsualSpelling(NamedTuple):
    """The spelling that most values of a field have, for a reader that is generated.

    Python source over `given`: where `test` holds, `value` is what `read_value` gives. Neither
    raises. The names in braces stand for `names`.
    """

    test: str
    value: str
    names: Mapping[str, object]
    pattern: str | None = None
    """Of texts in ASCII of fewer than `MAX_TEXT` characters, for RE2 and for Python alike."""
    matched: str = ""
    """What `read_value` gives where a text matches the pattern."""


class FieldType(ABC):
    """The type of a field's values: how they are read, sent, shown, compared and coerced."""

    __slots__ = ()

    name: ClassVar[FieldTypeName]
    """By what screens know it."""
    called: ClassVar[str]
    """What one of its values is called in a message: “a date”."""
    read_by: ClassVar[tuple[ReadingMark, ...]]
    """Which marks of a file say how its values are written."""
    kind: ClassVar[EvaluatedAs]
    """As what formulas evaluate it (`core/kernel`)."""
    compared_as: ClassVar[ComparedAs]
    """As what its values are compared in words: dates (“before”), texts or numbers."""
    comparisons: ClassVar[tuple[Comparison, ...]]
    """Which comparisons a condition can make, the commonest first."""
    part: ClassVar[OfferedPart | None]
    """What of a value a condition can speak of beside itself; None: nothing."""
    is_ordered: ClassVar[bool]
    """Whether its values come before one another."""
    is_free_text: ClassVar[bool]
    """Whether any text is a value: normalised as the field says, and sent in any spelling."""
    holds_several: ClassVar[bool]
    """Whether a value is a list."""

    def __init_subclass__(cls, **more: Any) -> None:
        """Refuse a type that says its name and leaves out another of its parts."""
        super().__init_subclass__(**more)
        lacking = [one for one in FieldType.__annotations__ if not hasattr(cls, one)]
        if hasattr(cls, "name") and lacking:
            raise TypeError(f"{cls.__name__} does not say its {', '.join(lacking)}.")

    @abstractmethod
    def read(self, given: object, settings: ReadingSettings) -> Reading:
        """Read what is given, which is neither None nor blank text, as people type it."""

    @abstractmethod
    def quick_reader(self, settings: ReadingSettings) -> Quick:
        """For values that are not None: the value of what is canonical, or NOT_CANONICAL.

        It never gives a fault: what it cannot answer, `read_value` is asked.
        """

    @abstractmethod
    def usual_spelling(self, settings: ReadingSettings) -> UsualSpelling | None:
        """None where a type has no spelling that is worth a test of its own."""

    @abstractmethod
    def shower(self, style: WritingStyle) -> Callable[[Any], str]:
        """What shows values of the type that are filled."""

    @abstractmethod
    def domain(self, today: date) -> Domain | None:
        """Return the line its values stand on; of a text that of its length; None without one."""

    @abstractmethod
    def usual_entry(self, today: date) -> str | None:
        """Return an entry that nobody would find odd; None where none is like another."""

    @abstractmethod
    def answers(self) -> tuple[tuple[str, str], ...] | None:
        """Return the codes and labels of all values, where there are only some."""

    @abstractmethod
    def entries(self) -> Sequence[Stored]:
        """Return an entry for each value; of sets each code, and the sets that begin the list.

        Empty where there are any number of them, or where they are not known here.
        """

    @abstractmethod
    def bounds_hint(self) -> str | None:
        """Return a hint with a place for {bounds}; None where bounds alone say enough."""

    @abstractmethod
    def holds(self, value: object) -> bool:
        """Whether a value, as formulas give it, is one that this type shows."""

    @abstractmethod
    def coerced(self, value: object, settings: ReadingSettings) -> Value | None:
        """Return a computed value as a field of the type can hold it; None where it cannot."""

    @abstractmethod
    def evaluated(self) -> Callable[[Any], Any] | None:
        """Return what makes of a filled value what formulas see; None where that is the value."""

    @abstractmethod
    def solver_range(self) -> SolverRange | None:
        """Return the whole numbers that stand for its values in the solver.

        None of truth, texts and sets, which the solver knows otherwise.
        """

    @abstractmethod
    def properties(self) -> "Mapping[str, FieldType]":
        """Return what formulas can ask of a value by name (`due.year`), with the type of each."""

    @abstractmethod
    def item_type(self) -> "FieldType":
        """Return the type of one value of a set; of another type itself."""

    @abstractmethod
    def unrounded(self) -> "FieldType":
        """Return the type of what its values are held against, which may be finer than they are."""

    @abstractmethod
    def formula_type(self) -> "FieldType":
        """Return the type of what formulas see of its values (`evaluated`)."""

    @property
    @abstractmethod
    def referred_form(self) -> str | None:
        """The key of the form whose records its values refer to; None where they are none."""

    @abstractmethod
    def from_cell(self, cell: object) -> object:
        """Return what stands in a cell as `read` takes it."""

    @abstractmethod
    def to_cell(self, stored: Stored, *, labels: bool) -> object:
        """Return a stored value as a cell holds it; `labels`: choices by label where that reads
        back as the same.
        """


def one_value(given: object) -> Fault | None:
    """The fault of several values where one is expected."""
    if isinstance(given, list | tuple | dict | set | frozenset):
        return Fault(tr("Several values were given where one is expected: give one."))
    return None


def never(given: object) -> object:
    """A quick reader that never answers."""
    return NOT_CANONICAL
