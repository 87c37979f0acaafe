"""JSON Lines: an object a line, with the fields by key; values as a service sends them."""

from collections.abc import Iterator
from typing import BinaryIO

from thistlequartz.core.translation import tr
from thistlequartz.core.values import BrokenJson, read_json

from .table import BrokenTable, Table, TableRow, checked_heads, counted, lines_in


def open_json_lines(file: BinaryIO, _: str | None = None) -> Table:
    """Open JSON Lines as a table that can be read again and again.

    Its heads are all names in any line. Raises BrokenTable.
    """
    heads: dict[str, None] = {}
    for row in counted(_lines(file)):
        known = len(heads)
        heads.update(dict.fromkeys(row.cells))
        if len(heads) > known or not known:
            checked_heads(list(heads), tr("line {number:,}", number=row.number))
    return Table(tuple(heads), lambda: counted(_lines(file)), lines_in(file))


def _lines(file: BinaryIO) -> Iterator[TableRow]:
    """The lines by their numbers, from 1: there is no row of heads."""
    file.seek(0)
    for number, line in enumerate(file, 1):
        place = tr("line {number:,}", number=number)
        try:
            text = line.decode("utf-8-sig" if number == 1 else "utf-8").strip()
        except UnicodeError:
            raise BrokenTable(
                place, tr("A character is not written in UTF-8."), tr("Save the file in UTF-8.")
            ) from None
        if not text:
            continue
        try:
            told = read_json(text)
        except BrokenJson as broken:
            at = (
                tr("{place}, column {column}", place=place, column=broken.column)
                if broken.column
                else place
            )
            raise BrokenTable(at, broken.message, tr("Correct the JSON there.")) from None
        if not isinstance(told, dict):
            raise BrokenTable(place, tr("This is no object."), tr("Write one object a line: {…}."))
        yield TableRow(number, told)
