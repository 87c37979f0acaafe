"""CSV (RFC 4180), with whichever of the usual marks between its cells."""

import csv
import io
from collections.abc import Iterator
from contextlib import contextmanager
from typing import BinaryIO, Final

from thistlequartz.core.translation import tr
from thistlequartz.core.values import BrokenCsv, read_csv_rows

from .table import (
    MAX_CELL,
    BrokenTable,
    Table,
    TableRow,
    WrongEncoding,
    checked_heads,
    counted,
    lines_in,
)

ENCODINGS: Final = ("utf-8", "windows-1252")
"""That people can say a text is written in; UTF-16 says so itself."""
DELIMITERS: Final = ",;\t|"
_UTF_16: Final = (b"\xff\xfe", b"\xfe\xff")
csv.field_size_limit(MAX_CELL)


def open_csv(file: BinaryIO, encoding: str | None = None) -> Table:
    """The table in a file that can be read again and again. Raises BrokenTable."""
    if encoding is not None and encoding not in ENCODINGS:
        said = tr("The encoding “{encoding}” is not known.", encoding=encoding[:60])
        raise BrokenTable(
            "", said, tr("Choose one of these: {encodings}.", encodings=", ".join(ENCODINGS))
        )
    beginning = file.read(2)
    file.seek(0)
    encoding = "utf-16" if beginning in _UTF_16 else encoding or "utf-8"
    if encoding == "utf-8":
        encoding = "utf-8-sig"
    with _as_text(file, encoding) as text:
        first = text.readline()
        delimiter = max(DELIMITERS, key=first.count)
        text.seek(0)
        written, _ = read_csv_rows(text, delimiter)
    heads = checked_heads(written, "row 1")

    def rows() -> Iterator[TableRow]:
        with _as_text(file, encoding) as text:
            _, found = read_csv_rows(text, delimiter)
            for row in found:
                yield TableRow(row.number, dict(zip(heads, row.cells, strict=True)))

    return Table(heads, lambda: counted(rows()), lines_in(file) - 1)


@contextmanager
def _as_text(file: BinaryIO, encoding: str) -> Iterator[io.TextIOWrapper]:
    file.seek(0)
    text = io.TextIOWrapper(file, encoding=encoding, newline="")
    try:
        yield text
    except BrokenCsv as broken:
        raise BrokenTable(broken.place, broken.message, broken.remedy) from None
    except UnicodeError:
        raise WrongEncoding(
            _place_of(file, encoding),
            tr(
                "A character is not written in {encoding}.",
                encoding=encoding.removesuffix("-sig").upper(),
            ),
            tr("Save the file as “CSV UTF-8”, or say which encoding it has."),
        ) from None
    finally:
        text.detach()  # the file stays open


def _place_of(file: BinaryIO, encoding: str) -> str:
    """The first line that cannot be read."""
    file.seek(0)
    for number, line in enumerate(file, 1):
        try:
            line.decode(encoding)
        except UnicodeError:
            return tr("line {number:,}", number=number)
    return ""
