"""A table as it stands in a file: heads, and rows that are read one after the other."""

from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, BinaryIO, Final

from thistlequartz.core.translation import tr

MAX_COLUMNS: Final = 500
MAX_ROWS: Final = 1_000_000
MAX_CELL: Final = 100_000
"""Characters in one cell."""
Cell = Any
"""What stands in a cell: a text, or what the file itself holds as a number, a day or yes and no."""


class FailedFormula(str):
    """What a cell of a workbook shows whose formula failed: #N/A, #DIV/0! and the like."""

    __slots__ = ()


class BrokenTable(ValueError):
    """A file that cannot be read as a table: `place`, what is wrong, and how to correct it."""

    def __init__(self, place: str, message: str, remedy: str) -> None:
        super().__init__(f"{place}: {message} {remedy}" if place else f"{message} {remedy}")
        self.place = place
        self.message = message
        self.remedy = remedy


class WrongEncoding(BrokenTable):
    """A text that is written in another encoding than it was read in."""


@dataclass(frozen=True, slots=True)
class TableRow:
    """One row: its number as a spreadsheet counts (the heads are row 1), and its cells by head."""

    number: int
    cells: Mapping[str, Cell]


@dataclass(frozen=True, slots=True)
class Table:
    """A table; `rows` reads them anew each time and raises BrokenTable where they cannot be."""

    heads: tuple[str, ...]
    rows: Callable[[], Iterator[TableRow]]
    about: int = 0
    """About how many rows there are; 0 where that is not known beforehand."""
    sheets: tuple[str, ...] = ()
    """The names of all its sheets, where it has several."""


def lines_in(file: BinaryIO) -> int:
    """How many lines a file has."""
    file.seek(0)
    return sum(piece.count(b"\n") for piece in iter(lambda: file.read(1 << 20), b""))


def checked_heads(heads: list[str], row: str) -> tuple[str, ...]:
    """The heads, each by its own name; a blank one is called by its place. Raises BrokenTable."""
    if not any(head.strip() for head in heads):
        raise BrokenTable(row, tr("There are no heads."), tr("Begin with a row of column heads."))
    if len(heads) > MAX_COLUMNS:
        said = tr(
            "There are {count:,} columns, and at most {max_columns} are taken.",
            count=len(heads),
            max_columns=MAX_COLUMNS,
        )
        raise BrokenTable(row, said, tr("Leave out those that no field of the form needs."))
    named = [
        head.strip() or tr("Column {place}", place=place) for place, head in enumerate(heads, 1)
    ]
    twice = next((head for head, count in Counter(named).items() if count > 1), None)
    if twice:
        said = tr(
            "The head “{twice}” stands {count} times.", twice=twice[:60], count=named.count(twice)
        )
        raise BrokenTable(row, said, tr("Give each column a head of its own."))
    return tuple(named)


def counted(rows: Iterator[TableRow]) -> Iterator[TableRow]:
    """The rows that hold something; raises BrokenTable past the most that are taken."""
    for row in rows:
        if row.number > MAX_ROWS + 1:
            raise BrokenTable(
                tr("row {number:,}", number=row.number),
                tr("The file has more than {max_rows:,} rows.", max_rows=MAX_ROWS),
                tr("Split it into several files."),
            )
        if any(cell is not None and cell != "" for cell in row.cells.values()):
            long = next(
                (h for h, c in row.cells.items() if isinstance(c, str) and len(c) > MAX_CELL), None
            )
            if long is not None:
                raise BrokenTable(
                    tr("row {number:,}, “{long}”", number=row.number, long=long[:60]),
                    tr("A cell has more than {max_cell:,} characters.", max_cell=MAX_CELL),
                    tr("Shorten it, or look for a missing quotation mark."),
                )
            yield row
