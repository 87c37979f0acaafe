"""By which decimal mark and which order of dates a file is written: found from its values."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final, get_args

from thistlequartz.core.types import read_value
from thistlequartz.core.values import DateOrder, DecimalMark, Fault, Reading, ReadingSettings

if TYPE_CHECKING:  # a process that reads a file loads this package alone
    from thistlequartz.core.language import Declaration

MARKS: Final[tuple[DecimalMark, ...]] = get_args(DecimalMark)
ORDERS: Final[tuple[DateOrder, ...]] = get_args(DateOrder)


@dataclass(frozen=True, slots=True)
class Marks:
    """How the numbers and days of a file are written; None: as each field says."""

    decimal_mark: DecimalMark | None = None
    date_order: DateOrder | None = None


@dataclass(frozen=True, slots=True)
class FoundMarks:
    """What the values of a file show, and whether they could be read in more than one way."""

    marks: Marks
    decimal_mark_open: bool = False
    date_order_open: bool = False


def with_marks(settings: ReadingSettings, marks: Marks) -> ReadingSettings:
    """How a field is read where the file says how it is written."""
    return replace(
        settings,
        decimal_mark=marks.decimal_mark or settings.decimal_mark,
        date_order=marks.date_order or settings.date_order,
    )


def marks_of(columns: Iterable[tuple["Declaration", Sequence[object]]]) -> FoundMarks:
    """Return the decimal and group marks by which the most values can be read.

    Those of the field where they read as many as any; open, where several read the same values
    differently.
    """
    numbers: list[tuple[Declaration, str]] = []
    days: list[tuple[Declaration, str]] = []
    for declared, values in columns:
        texts = [(declared, one) for one in values if isinstance(one, str)]
        if "decimal_mark" in declared.type.read_by:
            numbers += texts
        if "date_order" in declared.type.read_by:
            days += texts
    mark, mark_open = _best(numbers, [Marks(decimal_mark=one) for one in MARKS])
    order, order_open = _best(days, [Marks(date_order=one) for one in ORDERS])
    found = Marks(mark.decimal_mark, order.date_order)
    return FoundMarks(found, mark_open, order_open)


def _best(values: Sequence[tuple["Declaration", str]], ways: Sequence[Marks]) -> tuple[Marks, bool]:
    plainly = Marks()
    readings = {way: list(_readings(values, way)) for way in (plainly, *ways)}
    faults = {way: sum(isinstance(one, Fault) for one in read) for way, read in readings.items()}
    fewest = min(faults.values(), default=0)
    if faults[plainly] == fewest:
        return plainly, False
    good = [way for way in ways if faults[way] == fewest]
    return good[0], any(readings[way] != readings[good[0]] for way in good[1:])


def _readings(values: Sequence[tuple["Declaration", str]], way: Marks) -> Iterator[Reading]:
    for declared, text in values:
        yield read_value(text, declared.type, with_marks(declared.settings, way))
