"""XLSX (ECMA-376), by openpyxl; what could blow up is looked at before it is opened."""

import importlib
import re
import zipfile
from collections.abc import Iterator
from functools import cache
from typing import Any, BinaryIO, Final

import re2

from thistlequartz.core.translation import tr

from .table import (
    MAX_COLUMNS,
    MAX_ROWS,
    BrokenTable,
    Cell,
    FailedFormula,
    Table,
    TableRow,
    checked_heads,
    counted,
)

MAX_UNPACKED: Final = 512 * 1024 * 1024
"""Bytes of everything in the workbook once it is unpacked."""
MAX_MEMBERS: Final = 5_000
_FAILED: Final = "e"
"""How the file marks cells whose formula failed."""
_AT_ONCE: Final = 1 << 20
_OVERLAP: Final = 1 << 14
_WORKSHEET: Final = re.compile(r"xl/worksheets/[^/]+\.xml\Z")
_NEVER_COMPUTED: Final = re2.compile(
    rb"<(?:\w+:)?f\b[^>]*(?:/>|>[^<]*</(?:\w+:)?f>)\s*(?:<(?:\w+:)?v\s*/>\s*)?</(?:\w+:)?c>"
)
"""A cell with a formula and without a value; on RE2, as what is read comes from anybody."""


def open_xlsx(file: BinaryIO, sheet: str | None = None) -> Table:
    """A sheet of a workbook: the one of that name, or the first. Raises BrokenTable."""
    _look_inside(file)
    workbook = _opened(file)
    names = tuple(one.title for one in workbook.worksheets)
    if not names:
        raise BrokenTable(
            "", tr("The workbook has no sheet with cells."), tr("Choose another file.")
        )
    if sheet is not None and sheet not in names:
        raise BrokenTable(
            "",
            tr("There is no sheet “{sheet}”.", sheet=sheet[:60]),
            tr("Choose one of its sheets."),
        )
    place = names.index(sheet) if sheet else 0
    about = workbook.worksheets[place].max_row or 0
    written = next(_cells_of(workbook, place), ())
    while written and written[-1] is None:
        written = written[:-1]
    heads = checked_heads([_head(cell) for cell in written], "row 1")

    def rows() -> Iterator[TableRow]:
        for number, cells in enumerate(_cells_of(_opened(file), place), 1):
            if any(cell is not None for cell in cells[len(heads) :]):
                at = tr("row {number:,}", number=number)
                raise BrokenTable(
                    at, tr("A cell stands under no head."), tr("Give its column a head.")
                )
            if number > 1:
                values = map(_plain, cells[: len(heads)])
                yield TableRow(number, dict(zip(heads, values, strict=False)))

    return Table(heads, lambda: counted(rows()), min(max(about - 1, 0), MAX_ROWS), names)


def _opened(file: BinaryIO) -> Any:
    # Loaded by the first workbook that is read: it is a tenth of what a start would load.
    openpyxl = importlib.import_module("openpyxl")
    file.seek(0)
    try:
        return openpyxl.load_workbook(file, read_only=True, data_only=True, keep_links=False)
    except Exception:
        # A broken workbook makes openpyxl raise whatever it stumbled on.
        raise BrokenTable(
            "", tr("This workbook cannot be read."), tr("Save it once more as XLSX, or as CSV.")
        ) from None


def _cells_of(workbook: Any, place: int) -> Iterator[tuple[Any, ...]]:
    sheet = workbook.worksheets[place]
    # What the sheet says of its own size may be wrong.
    sheet.reset_dimensions()
    rows = sheet.iter_rows(max_col=MAX_COLUMNS + 1)
    read = 0
    while True:
        try:
            row = next(rows, None)
        except Exception:
            at = tr("after row {read:,}", read=read)
            raise BrokenTable(
                at, tr("The sheet cannot be read on."), tr("Save it once more as XLSX.")
            ) from None
        if row is None:
            return
        read += 1
        yield tuple(map(_value, row))


def _value(cell: Any) -> Cell:
    """What a cell holds; signs that XML cannot carry, line ends among them, as they were written
    (ECMA-376, part 1, 22.4.2.4).
    """
    value = cell.value
    if not isinstance(value, str):
        return value
    if cell.data_type == _FAILED:
        return FailedFormula(value)
    return str(_unescaped()(value)) if "_x" in value else value


@cache
def _unescaped() -> Any:
    return importlib.import_module("openpyxl.utils.escape").unescape


def _head(cell: Cell) -> str:
    return "" if cell is None else str(_plain(cell))


def _plain(cell: Cell) -> Cell:
    """Whole numbers without a point: the file itself knows no others."""
    return int(cell) if isinstance(cell, float) and cell.is_integer() else cell


def _look_inside(file: BinaryIO) -> None:
    """Raise BrokenTable where it unpacks to too much, or has formulas without values."""
    unpacked = 0
    try:
        with zipfile.ZipFile(file) as archive:
            members = archive.infolist()
            if len(members) > MAX_MEMBERS:
                raise _too_much()
            for member in members:
                before, seeks = b"", _WORKSHEET.match(member.filename) is not None
                with archive.open(member) as inside:
                    while piece := inside.read(_AT_ONCE):
                        unpacked += len(piece)
                        if unpacked > MAX_UNPACKED:
                            raise _too_much()
                        if seeks and _NEVER_COMPUTED.search(before + piece):
                            raise BrokenTable(
                                member.filename,
                                tr("There are formulas of which no values are stored."),
                                tr(
                                    "Open the file in the program that made it and save it "
                                    "again, or put values in their place."
                                ),
                            )
                        before = piece[-_OVERLAP:]
    except BrokenTable:
        raise
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError, ValueError):
        raise BrokenTable(
            "",
            tr("This workbook is damaged, or locked by a password."),
            tr("Save it once more as XLSX."),
        ) from None


def _too_much() -> BrokenTable:
    most = MAX_UNPACKED // (1024 * 1024)
    return BrokenTable(
        "",
        tr("The workbook unpacks to more than {most} MB.", most=most),
        tr("Split it into several files."),
    )
