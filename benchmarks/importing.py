"""How long a file of plants takes to come in, with 1,000 and with 50,000 rows, beside what came in
before, as CSV and as XLSX, and how much memory.

Run it with `.venv/bin/python -m benchmarks.importing`, or with other files behind it, such as
`1000.csv 50000.csv`. It starts a server of its own with the demo, and brings one file after the
other. The rows are invented; a tenth has a slip in it. The ratio is of the time for each row to
that in the first file. Meanwhile a clerk saves plants one after the other; how long that takes is
set against saves with nothing beside them.
"""

import re
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from thistlequartz.core.tables import WrittenRow, written
from thistlequartz.demo.records import values_of

from .calling import Caller, memory, milliseconds, on_a_server, report
from .sizes import sized

FEW, MANY = sized(1_000, 30), sized(50_000, 60)
FILES = (f"{FEW}.csv", f"{MANY}.csv", f"{MANY}.csv", f"{MANY}.xlsx")
FORM = "/api/v1/forms/plant_accession"
SLIPS = 0.1
BEGIN, SAVED = 500_000, 900_000
"""Numbers that plants from files begin with, and those that are saved one by one."""
SAVES = sized(100, 3)
FITS = re.compile("QH-P-[0-9]{6}")
ASKED_EVERY = 0.1
"""Seconds."""


def measure(address: str, folder: Path) -> None:
    """Measure and print."""
    first, before = 0.0, 0
    plants = _plants()
    clerk = Caller(address)

    def save() -> float:
        body = {"values": next(plants)}
        return milliseconds(lambda: clerk.call("POST", f"{FORM}/records", body))

    alone = [save() for _ in range(SAVES)]
    report("saving a plant", alone, alone)
    for name in [one for one in sys.argv[1:] if "." in one] or FILES:
        rows, _, kind = name.partition(".")
        count = int(rows)
        content = b"".join(_file(count, kind, before))
        held: list[dict[int, float]] = []
        waited: list[float] = []

        def meanwhile(held=held, waited=waited) -> None:
            held.append(dict(memory(folder)))
            waited.append(save())

        taken, came = _brought(Caller(address), content, name, meanwhile)
        first = first or taken / count
        peak = max(sum(one.values()) for one in held)
        told = {key: value for key, value in came.items() if value}
        print(
            f"{name:>10} beside {before:>7,}  {taken:6.1f} s"
            f"  ratio {taken / count / first:5.2f}  {taken / count * 1000:5.2f} ms a row"
            f"  {peak:,.0f} MB  {told}"
        )
        report(f"saving beside {name}", waited, alone)
        before += count


def _plants() -> Iterator[dict[str, Any]]:
    """Good ones, each with a number of its own."""
    for number, one in enumerate(values_of("plant_accession", 20_000, 20_000, 0)):
        yield {**one.values, "accession_number": f"QH-P-{SAVED + number:06}"}


def _file(count: int, kind: str, before: int) -> Iterator[bytes]:
    rows = [dict(one.values) for one in values_of("plant_accession", count, count, SLIPS)]
    for number, row in enumerate(rows):
        if FITS.fullmatch(str(row.get("accession_number"))):
            # Numbers of their own: what is stored already is not in the way.
            row["accession_number"] = f"QH-P-{BEGIN + before + number:06}"
    heads = list(dict.fromkeys(key for row in rows for key in row))
    return written(kind, heads, map(WrittenRow, rows))  # type: ignore[arg-type]


def _brought(
    caller: Caller, content: bytes, name: str, meanwhile: Callable[[], None]
) -> tuple[float, dict[str, Any]]:
    begun = time.perf_counter()
    file = caller.call("POST", f"{FORM}/record-files?name={name}", content)
    at = f"{FORM}/record-files/{file['id']}"
    print(f"  taken in after {time.perf_counter() - begun:.1f} s")
    asked = time.perf_counter()
    caller.call("POST", f"{at}/preview", file["plan"])
    print(f"  first rows seen after {time.perf_counter() - asked:.1f} s")
    caller.call("POST", f"{at}/run", {"dry": False})
    while (view := caller.call("GET", at))["job"]["state"] in ("waiting", "running"):
        meanwhile()
        time.sleep(ASKED_EVERY)
    assert view["job"]["state"] == "done", view["job"]
    came: dict[str, Any] = view["came"]
    return time.perf_counter() - begun, came


if __name__ == "__main__":
    on_a_server(measure)
