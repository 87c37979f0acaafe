"""Any file of a known kind, opened as a table."""

from collections.abc import Callable
from typing import BinaryIO, Final

from thistlequartz.core.translation import tr

from .csv_table import open_csv
from .file_kinds import FileKindName, kind_of
from .json_lines import open_json_lines
from .table import BrokenTable, Table
from .xlsx_table import open_xlsx

Opener = Callable[[BinaryIO, str | None], Table]
_OPENERS: Final[dict[FileKindName, Opener]] = {
    "csv": open_csv,
    "jsonl": open_json_lines,
    "xlsx": open_xlsx,
}
_OTHERS: Final = (
    (b"\xd0\xcf\x11\xe0", tr("an older or a locked workbook")),
    (b"%PDF", tr("a PDF document")),
    (b"\x1f\x8b", tr("a compressed file")),
    (b"\x89PNG", "a picture"),
    (b"\xff\xd8\xff", "a picture"),
    (b"SQLite format", "a database"),
    (b"PAR1", tr("a Parquet file")),
)
"""What some other kinds of files begin with."""
_LOOKED_AT: Final = 4_096


def open_table(file: BinaryIO, part: str | None = None) -> Table:
    """Open the table in a file, so that it can be read again and again.

    `part` names the sheet of a workbook, or the encoding of a text that is not UTF-8.

    Raises BrokenTable.
    """
    file.seek(0)
    beginning = file.read(_LOOKED_AT)
    if not beginning.strip():
        raise BrokenTable(
            "", tr("The file is empty."), tr("Choose one with heads and at least one row.")
        )
    for magic, what in _OTHERS:
        if beginning.startswith(magic):
            raise BrokenTable(
                "",
                tr("This is {what}.", what=what),
                tr("Save the table as CSV, XLSX or JSON Lines, and choose that."),
            )
    file.seek(0)
    return _OPENERS[kind_of(beginning)](file, part)
