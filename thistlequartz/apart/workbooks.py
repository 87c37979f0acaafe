"""Workbooks read by a process of their own, within bounds of time and memory.

A workbook is a compressed archive that anybody may send: what explodes while it is read takes
nothing with it, and ends when nobody reads on.
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

from thistlequartz.core.tables import BrokenTable, FailedFormula, Row, Table, open_xlsx

MEMORY: Final = 1_536 * 1024 * 1024
"""Bytes of address space."""
WORK: Final = 120
"""Seconds of processor time for one reading."""
SILENT_FOR: Final = 30.0
"""Seconds within which the next line has to come."""
ROWS_AT_ONCE: Final = 200
_READ: Final = 1 << 16
TOO_MUCH: Final = (
    "",
    "This workbook takes more time or memory to read than it may.",
    "Save the table as CSV, or split it into several files.",
)


def open_workbook(file: BinaryIO, sheet: str | None = None) -> Table:
    """A sheet of a workbook, as `open_xlsx`; `file` is a real file. Raises BrokenTable."""
    lines = _asked(file, sheet, "heads")
    head = next(lines, None)
    lines.close()
    if head is None:
        raise BrokenTable(*TOO_MUCH)

    def rows() -> Iterator[Row]:
        heads = head["heads"]
        for some in _asked(file, sheet, "rows"):
            for number, cells in some:
                yield Row(number, dict(zip(heads, map(_value, cells), strict=True)))

    return Table(tuple(head["heads"]), rows, head["about"], tuple(head["sheets"]))


def _asked(file: BinaryIO, sheet: str | None, what: str) -> Generator[Any]:
    """What a process prints; raises BrokenTable for what it could not read."""
    process = subprocess.Popen(  # noqa: S603 - no shell, and the sheet is a JSON text
        [sys.executable, "-m", "thistlequartz.apart.workbooks", what, json.dumps(sheet)],
        stdin=file.fileno(),
        stdout=subprocess.PIPE,
    )
    try:
        for line in _lines(process):
            told = json.loads(line)
            if isinstance(told, dict) and "broken" in told:
                raise BrokenTable(*told["broken"])
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
    out, kept = process.stdout.fileno(), b""
    while True:
        ready, _, _ = select.select([out], [], [], SILENT_FOR)
        more = os.read(out, _READ) if ready else b""
        if not more:
            return
        *whole, kept = (kept + more).split(b"\n")
        yield from whole


def _main(what: str, sheet: str | None) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (WORK, WORK))
    # Opened anew, so that two who read the same file do not share its place.
    with open("/proc/self/fd/0", "rb") as file:
        try:
            table = open_xlsx(file, sheet)
            if what == "heads":
                _print({"heads": table.heads, "about": table.about, "sheets": table.sheets})
            else:
                _print_rows(table)
            _print("end")
        except BrokenTable as broken:
            _print({"broken": [broken.place, broken.message, broken.remedy]})
        except MemoryError:
            _print({"broken": TOO_MUCH})


def _print_rows(table: Table) -> None:
    waiting: list[Any] = []
    for row in table.rows():
        waiting.append([row.number, [_told(row.cells.get(head)) for head in table.heads]])
        if len(waiting) == ROWS_AT_ONCE:
            _print(waiting)
            waiting = []
    _print(waiting)


def _print(told: Any) -> None:
    print(json.dumps(told), flush=True)


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
        case "failed":
            return FailedFormula(written)
        case _:
            return Decimal(written)


if __name__ == "__main__":
    with suppress(BrokenPipeError):
        _main(sys.argv[1], json.loads(sys.argv[2]))
