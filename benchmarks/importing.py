"""How long a file of plants takes to come in, with 1,000 and with 50,000 rows, and how much memory.

Run it with `.venv/bin/python -m benchmarks.importing`, or with other numbers of rows behind it. It
starts a server of its own with the demo, and brings each file as CSV. The rows are invented; a
tenth has a slip in it. The ratio is of the time for each row to that in the smaller file.
"""

import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from thistlequartz.core.tables import WrittenRow, written
from thistlequartz.demo.records import values_of

from .service import Caller, running_server
from .weighing import memory

ROWS = (1_000, 50_000)
FORM = "/api/forms/plant_accession"
SLIPS = 0.1
ASKED_EVERY = 0.5
"""Seconds."""


def main() -> None:
    """Measure and print."""
    first = 0.0
    with running_server() as (address, folder):
        for count in [int(one) for one in sys.argv[1:]] or ROWS:
            content = b"".join(_file(count))
            held: list[dict[int, float]] = []
            taken, came = _brought(Caller(address), content, folder, held)
            first = first or taken / count
            peak = max(sum(one.values()) for one in held)
            told = {key: value for key, value in came.items() if value}
            print(
                f"{count:>7,} rows  {taken:6.1f} s  ratio {taken / count / first:5.2f}"
                f"  {taken / count * 1000:5.2f} ms a row  {peak:,.0f} MB  {told}"
            )


def _file(count: int) -> Iterator[bytes]:
    rows = [one.values for one in values_of("plant_accession", count, count, SLIPS)]
    heads = list(dict.fromkeys(key for row in rows for key in row))
    return written("csv", heads, map(WrittenRow, rows))


def _brought(
    caller: Caller, content: bytes, folder: Path, held: list[dict[int, float]]
) -> tuple[float, dict[str, Any]]:
    begun = time.perf_counter()
    file = caller.call("POST", f"{FORM}/record-files?name=plants.csv", content)
    at = f"{FORM}/record-files/{file['id']}"
    print(f"  taken in after {time.perf_counter() - begun:.1f} s")
    asked = time.perf_counter()
    caller.call("POST", f"{at}/preview", file["plan"])
    print(f"  first rows seen after {time.perf_counter() - asked:.1f} s")
    caller.call("POST", f"{at}/run", {"dry": False})
    while (view := caller.call("GET", at))["job"]["state"] in ("waiting", "running"):
        held.append(dict(memory(folder)))
        time.sleep(ASKED_EVERY)
    came: dict[str, Any] = view["came"]
    return time.perf_counter() - begun, came


if __name__ == "__main__":
    main()
