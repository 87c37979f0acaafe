"""Files that people send, read by a process of their own within bounds of time and memory.

A workbook is a compressed archive, and a text may be one endless line: what explodes while it is
read takes nothing with it, and ends when nobody reads on.
"""

import json
import os
import resource
import select
import subprocess
import sys
from collections.abc import Generator, Iterator
from contextlib import suppress
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any, BinaryIO, Final

from thistlequartz.core.tables import (
    BrokenTable,
    FailedFormula,
    Table,
    TableRow,
    WrongEncoding,
    kind_of,
    open_table,
)
from thistlequartz.core.translation import tr

MEMORY: Final = 1_536 * 1024 * 1024
"""Bytes of address space."""
WORK: Final = 120
"""Seconds of processor time for one reading."""
SILENT_FOR: Final = 60.0
"""Seconds within which the next line has to come."""
ROWS_AT_ONCE: Final = 200
LONGEST_LINE: Final = 1 << 20
"""Characters from which on fewer rows are told at once."""
SMALL_TEXT: Final = 1024 * 1024
"""Bytes of a text that is read where it is: whatever it holds takes a second at most, and a few
dozen times its size.
"""
_READ: Final = 1 << 16
TOO_MUCH: Final = (
    "",
    tr("This file takes more time or memory to read than it may."),
    tr("Split it into several files; save the table of a workbook as CSV."),
)
_ABSENT: Final[dict[str, Any]] = {}
"""A cell that an object of JSON Lines has not, which is not the same as a blank one."""


def open_apart(file: BinaryIO, part: str | None = None) -> Table:
    """The table in a file, as `open_table` gives it. Raises BrokenTable."""
    file.seek(0, os.SEEK_END)
    size = file.tell()
    file.seek(0)
    small = size <= SMALL_TEXT and kind_of(file.read(SMALL_TEXT)) != "xlsx"
    if small or not size:
        return open_table(file, part)
    if hasattr(file, "rollover"):
        file.rollover()  # another process reads it, so it has to stand on the disk
    lines = _asked(file, part, "heads")
    head = next(lines, None)
    lines.close()
    if head is None:
        raise BrokenTable(*TOO_MUCH)

    def rows() -> Iterator[TableRow]:
        heads = head["heads"]
        for some in _asked(file, part, "rows"):
            for number, cells in some:
                there = zip(heads, cells, strict=True)
                yield TableRow(
                    number, {key: _value(cell) for key, cell in there if cell != _ABSENT}
                )

    return Table(tuple(head["heads"]), rows, head["about"], tuple(head["sheets"]))


def _asked(file: BinaryIO, part: str | None, what: str) -> Generator[Any]:
    """What a process prints; raises BrokenTable for what it could not read."""
    process = subprocess.Popen(  # noqa: S603 - no shell, and the part is a JSON text
        [sys.executable, "-m", "thistlequartz.workers.tables", what, json.dumps(part)],
        stdin=file.fileno(),
        stdout=subprocess.PIPE,
    )
    try:
        for line in _lines(process):
            told = json.loads(line)
            if isinstance(told, dict) and "broken" in told:
                raise (WrongEncoding if told["encoding"] else BrokenTable)(*told["broken"])
            if told == "end":
                return
            yield told
        raise BrokenTable(*TOO_MUCH)
    finally:
        process.kill()
        process.wait()
        if process.stdout is not None:
            process.stdout.close()


def _lines(process: "subprocess.Popen[bytes]") -> Iterator[bytes]:
    """The lines as they come; ends where none comes for too long."""
    assert process.stdout is not None
    out, kept = process.stdout.fileno(), list[bytes]()
    while True:
        ready, _, _ = select.select([out], [], [], SILENT_FOR)
        more = os.read(out, _READ) if ready else b""
        if not more:
            return
        rest, *begun = more.split(b"\n")
        kept.append(rest)
        for one in begun:
            yield b"".join(kept)
            kept = [one]


def _main(what: str, part: str | None) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (WORK, WORK))
    # Opened anew, so that two who read the same file do not share its place.
    with open("/proc/self/fd/0", "rb") as file:
        try:
            table = open_table(file, part)
            if what == "heads":
                _print({"heads": table.heads, "about": table.about, "sheets": table.sheets})
            else:
                _print_rows(table)
            _print("end")
        except BrokenTable as broken:
            said = [broken.place, broken.message, broken.remedy]
            _print({"broken": said, "encoding": isinstance(broken, WrongEncoding)})
        except MemoryError:
            _print({"broken": TOO_MUCH, "encoding": False})


def _print_rows(table: Table) -> None:
    waiting: list[str] = []
    size = 0
    for row in table.rows():
        cells = [_told(row.cells.get(head, _ABSENT)) for head in table.heads]
        waiting.append(json.dumps([row.number, cells]))
        size += len(waiting[-1])
        if len(waiting) == ROWS_AT_ONCE or size > LONGEST_LINE:
            _print_line(f"[{','.join(waiting)}]")
            waiting, size = [], 0
    _print_line(f"[{','.join(waiting)}]")


def _print(told: Any) -> None:
    _print_line(json.dumps(told))


def _print_line(line: str) -> None:
    print(line, flush=True)


def _told(cell: Any) -> Any:
    """A cell as JSON; what JSON has no word for with its type."""
    match cell:
        case datetime() | date() | time():
            return {type(cell).__name__: cell.isoformat()}
        case timedelta():
            return {"timedelta": [cell.days, cell.seconds, cell.microseconds]}
        case Decimal():
            return {"Decimal": str(cell)}
        case FailedFormula():
            return {"failed": cell}
        case None | str() | bool() | int() | float():
            return cell
        case list() | dict() if cell is not _ABSENT:
            return {"json": cell}
        case dict():
            return {}
        case _:
            return str(cell)


def _value(told: Any) -> Any:
    if not isinstance(told, dict):
        return told
    ((type_, written),) = told.items()
    match type_:
        case "datetime":
            return datetime.fromisoformat(written)
        case "date":
            return date.fromisoformat(written)
        case "time":
            return time.fromisoformat(written)
        case "timedelta":
            return timedelta(*written)
        case "json":
            return written
        case "failed":
            return FailedFormula(written)
        case _:
            return Decimal(written)


if __name__ == "__main__":
    with suppress(BrokenPipeError):
        _main(sys.argv[1], json.loads(sys.argv[2]))
