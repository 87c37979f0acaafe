"""CSV by RFC 4180: one head for each column, and no surprises.

A spreadsheet takes a cell that begins with =, +, - or @ for a formula. What is written for people
is guarded by an apostrophe where it would be taken so, and reading takes that apostrophe off again.
"""

import csv
import re
from collections import Counter
from collections.abc import Iterable, Iterator
from io import StringIO
from itertools import count
from typing import Any, Final, NamedTuple

from thistlequartz.core.translation import tr, tr_count

_PLAIN_NUMBER = re.compile(r"[-+]?[0-9][0-9., ]*\Z")
_GUARDED = re.compile(r"'+[=+\-@\t\r]")
_FORMULA: Final = ("=", "+", "-", "@", "\t", "\r")
_SHOWN = 60
_CALLED: Final = {",": tr("comma"), ";": tr("semicolon"), "\t": tr("tab")}
CSV_MARK: Final = "\N{ZERO WIDTH NO-BREAK SPACE}"
"""The byte order mark: by it spreadsheets know a file for UTF-8."""


class BrokenCsv(ValueError):
    """What is wrong in a CSV text: `message`, where: `place`, and `remedy`."""

    def __init__(self, place: str, message: str, remedy: str) -> None:
        super().__init__(f"{place}: {message} {remedy}")
        self.place = place
        self.message = message
        self.remedy = remedy


class CsvRow(NamedTuple):
    """A row of a CSV text."""

    line: int
    """The number of its last line, from 1: a cell may be several lines high."""
    number: int
    """As a spreadsheet counts: the heads are row 1, and blank rows count."""
    cells: list[str]


def read_csv(text: str) -> tuple[list[str], Iterator[tuple[int, dict[str, str]]]]:
    """Return the heads, and each row by its heads with its line number, from 1.

    Each head has its own name. Raises BrokenCsv, also while the rows are read.
    """
    heads, found = read_csv_rows(StringIO(text, newline=""))
    twice = next((head for head, count in Counter(heads).items() if count > 1), None)
    if twice is not None:
        said = tr(
            "The head “{twice}” stands {count} times.",
            twice=twice[:_SHOWN],
            count=heads.count(twice),
        )
        raise BrokenCsv("row 1", said, tr("Give each column a head of its own."))
    return heads, ((row.line, dict(zip(heads, row.cells, strict=True))) for row in found)


def read_csv_rows(lines: Iterable[str], delimiter: str = ",") -> tuple[list[str], Iterator[CsvRow]]:
    """Return the heads, and the rows that are not blank.

    Lines come with their ends, as from a file opened with newline="". Raises BrokenCsv.
    """
    reader = csv.reader(_without_nul(lines), delimiter=delimiter, strict=True)
    try:
        heads = next(reader, [])
    except csv.Error as error:
        raise _broken(reader.line_num, error) from None
    return heads, _rows(reader, heads, delimiter)


def _without_nul(lines: Iterable[str]) -> Iterator[str]:
    for number, line in enumerate(lines, 1):
        if "\x00" in line:
            raise BrokenCsv(
                tr("row {number}", number=number),
                tr("A character cannot be stored (NUL)."),
                tr("Remove it."),
            )
        yield line


def _rows(reader: Any, heads: list[str], delimiter: str) -> Iterator[CsvRow]:
    for number in count(2):
        try:
            cells = next(reader)
        except StopIteration:
            return
        except csv.Error as error:
            raise _broken(reader.line_num, error) from None
        if not cells:
            continue
        if len(cells) != len(heads):
            raise BrokenCsv(
                tr("row {line}", line=reader.line_num),
                tr_count(
                    "{count} cell, where the number of heads is {heads}.",
                    "{count} cells, where the number of heads is {heads}.",
                    len(cells),
                    heads=len(heads),
                ),
                tr(
                    "Look for a missing {delimiter} or quotation mark.",
                    delimiter=_CALLED.get(delimiter, "mark"),
                ),
            )
        yield CsvRow(reader.line_num, number, list(map(_unguarded, cells)))


def _broken(line: int, error: csv.Error) -> BrokenCsv:
    return BrokenCsv(tr("row {line}", line=line), f"{error}.", tr("Correct the CSV there."))


def guarded(cell: str) -> str:
    """The cell as no spreadsheet takes it for a formula; plain numbers stay as they are."""
    formula = cell.startswith(_FORMULA) and not _PLAIN_NUMBER.match(cell)
    return f"'{cell}" if formula or _GUARDED.match(cell) else cell


def csv_line(cells: Iterable[str]) -> str:
    """One line of a CSV file by RFC 4180; no cell is taken for a formula."""
    text = StringIO()
    csv.writer(text).writerow(map(guarded, cells))
    return text.getvalue()


def _unguarded(cell: str) -> str:
    return cell[1:] if _GUARDED.match(cell) else cell
