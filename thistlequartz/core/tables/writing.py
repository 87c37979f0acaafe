"""Tables written as files: piece by piece, as their rows come."""

import json
import tempfile
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any, Final

import xlsxwriter

from thistlequartz.core.values import CSV_MARK, csv_line, to_json

from .file_kinds import FileKindName
from .table import Cell

LONGEST_EXACT: Final = 15
"""Digits of a number that a cell of a workbook holds exactly (IEEE 754 binary64)."""
MOST_REMARKS: Final = 2_000
"""Cells of a workbook that carry a remark."""
_PIECE: Final = 1 << 16
_HEAD: Final = {"bold": True, "bottom": 1}
_REMARKED: Final = {"bg_color": "#F3E3C2"}
_DAY: Final = {"num_format": "yyyy-mm-dd"}
_EARLIEST: Final = 1901
"""Workbooks know no earlier year for sure."""


@dataclass(frozen=True, slots=True)
class WrittenRow:
    """The cells of a row by head, and what is remarked at some of them."""

    cells: Mapping[str, Cell]
    remarks: Mapping[str, str] = field(default_factory=dict)


def written(
    kind: FileKindName, heads: Sequence[str], rows: Iterable[WrittenRow]
) -> Iterator[bytes]:
    """The file, piece by piece. What is blank stands as a blank cell, or not at all in JSON."""
    return _WRITERS[kind](heads, rows)


def _csv(heads: Sequence[str], rows: Iterable[WrittenRow]) -> Iterator[bytes]:
    """By RFC 4180; no cell is taken for a formula."""
    yield (CSV_MARK + csv_line(heads)).encode()
    for row in rows:
        yield csv_line(_text(row.cells.get(head)) for head in heads).encode()


def _json_lines(_: Sequence[str], rows: Iterable[WrittenRow]) -> Iterator[bytes]:
    for row in rows:
        told = {head: _told(cell) for head, cell in row.cells.items() if cell is not None}
        yield f"{json.dumps(told, ensure_ascii=False)}\n".encode()


def _xlsx(heads: Sequence[str], rows: Iterable[WrittenRow]) -> Iterator[bytes]:
    """No cell is taken for a formula or a link; rows go to the disk as they come."""
    plain = {
        "constant_memory": True,
        "strings_to_formulas": False,
        "strings_to_urls": False,
        "strings_to_numbers": False,
    }
    with tempfile.TemporaryFile() as file:
        book = xlsxwriter.Workbook(file, plain)
        sheet = book.add_worksheet("Records")
        sheet.freeze_panes(1, 0)
        formats = {name: book.add_format(how) for name, how in _formats().items()}
        for column, head in enumerate(heads):
            sheet.write_string(0, column, head, formats["head"])
        remarks_left = MOST_REMARKS
        for number, row in enumerate(rows, 1):
            for column, head in enumerate(heads):
                remark = row.remarks.get(head)
                _put(sheet, number, column, row.cells.get(head), formats, bool(remark))
                if remark and remarks_left:
                    sheet.write_comment(number, column, remark)
                    remarks_left -= 1
        book.close()
        file.seek(0)
        yield from iter(lambda: file.read(_PIECE), b"")


def _formats() -> dict[str, dict[str, Any]]:
    return {
        "head": _HEAD,
        "plain": {},
        "plain remarked": _REMARKED,
        "day": _DAY,
        "day remarked": {**_DAY, **_REMARKED},
    }


def _put(
    sheet: Any, row: int, column: int, cell: Cell, formats: Mapping[str, Any], remarked: bool
) -> None:
    ending = " remarked" if remarked else ""
    match cell:
        case None:
            if remarked:
                sheet.write_blank(row, column, None, formats["plain remarked"])
        case datetime() | time() | bool():
            sheet.write_string(row, column, _text(cell), formats[f"plain{ending}"])
        case date() if cell.year >= _EARLIEST:
            sheet.write_datetime(row, column, cell, formats[f"day{ending}"])
        case int() | float() | Decimal() if _is_exact(cell):
            sheet.write_number(row, column, float(cell), formats[f"plain{ending}"])
        case _:
            sheet.write_string(row, column, _text(cell), formats[f"plain{ending}"])


def _is_exact(number: int | float | Decimal) -> bool:
    digits = Decimal(str(number)).as_tuple().digits
    return len(digits) <= LONGEST_EXACT


def _text(cell: Cell) -> str:
    match cell:
        case None:
            return ""
        case bool():
            return "yes" if cell else "no"
        case list() | tuple():
            return "; ".join(map(_text, cell))
        case str():
            return cell
        case datetime() | date() | time() | Decimal():
            return str(to_json(cell))
        case _:
            return str(cell)


def _told(cell: Cell) -> Any:
    if isinstance(cell, datetime | date | time | Decimal | tuple):
        return to_json(cell)
    return cell


_WRITERS: Final[
    dict[FileKindName, Callable[[Sequence[str], Iterable[WrittenRow]], Iterator[bytes]]]
] = {"csv": _csv, "xlsx": _xlsx, "jsonl": _json_lines}
