"""How long stored records are weighed, beside 1,000 and 100,000, and how much memory that takes.

Run it with `.venv/bin/python -m benchmarks.weighing`. It starts a server of its own with the demo.
First the draft of the loans is weighed as it stands, where more than checks may differ, then one in
which one check differs; and a rule being written is weighed, as the editor does.
"""

import time
from functools import partial
from pathlib import Path
from typing import Any

from tests.server.copies import process

from .service import LOANS, Caller, milliseconds, report, running_server
from .stored_records import store_loans

COUNTS = (1_000, 100_000)
ASKED = 40
WORKER = "Background work"
ASKED_EVERY = 0.2
"""Seconds."""


def main() -> None:
    """Measure and print; the ratio is of the time for each record to that beside fewer."""
    with running_server() as (address, folder):
        few: dict[str, float] = {}
        first: list[float] = []
        for count in COUNTS:
            store_loans(folder, count)
            caller = Caller(address)  # one that nothing comes on for long is closed
            print(f"\nBeside {count:,}")
            for name, change in (("the draft as it is", None), ("one check differs", _change)):
                if change is not None:
                    change(caller)
                taken, weight = _weighed(caller)
                each = taken / count
                few.setdefault(name, each)
                how = "checks only" if weight["narrowed"] else "everything"
                ratio = each / few[name]
                print(f"  {name:24} {taken:8.1f} s   ratio {ratio:5.2f}   judged first: {how}")
            asking = partial(caller.call, "POST", f"{LOANS}/bench/impact", {"rule": _rule(caller)})
            times = [milliseconds(asking) for _ in range(ASKED)]
            first = first or times
            report("  a rule, by a sample", times, first)
            print(f"  the worker has taken up to {_peak(folder):,.0f} MB")


def _weighed(caller: Caller) -> tuple[float, dict[str, Any]]:
    begun = time.perf_counter()
    caller.call("POST", f"{LOANS}/weighing")
    while (view := caller.call("GET", f"{LOANS}/weighing"))["job"]["state"] != "done":
        time.sleep(ASKED_EVERY)
    weight: dict[str, Any] = view["weight"]
    return time.perf_counter() - begun, weight


def _change(caller: Caller) -> None:
    """Release the draft, then have one of its checks say something else."""
    form = caller.call("GET", LOANS)
    if form["draft_changed"]:
        mark = caller.call("GET", f"{LOANS}/releasing")["mark"]
        caller.call("POST", f"{LOANS}/releases", {"note": "For weighing.", "knowing": mark})
        while (work := caller.call("GET", f"{LOANS}/release-work")) is not None:
            if work["state"] not in ("waiting", "running"):
                raise SystemExit(f"The release did not come about: {work['trouble']}")
            time.sleep(ASKED_EVERY)
    view = _view(caller)
    rule = {**view["rule"], "severity": {"save": "block", "submit": "block"}}
    key = rule["key"]
    caller.call("PUT", f"{LOANS}/rules/{key}", {"rule": rule, "version": view["version"]})


def _view(caller: Caller) -> dict[str, Any]:
    rules = caller.call("GET", LOANS)["rules"]
    return next(one for one in rules if one["rule"]["kind"] == "range")


def _rule(caller: Caller) -> dict[str, Any]:
    rule: dict[str, Any] = _view(caller)["rule"]
    return {**rule, "severity": {"save": "warn", "submit": "block"}}


def _peak(folder: Path) -> float:
    """The most memory the worker has ever held, in megabytes."""
    status = Path(f"/proc/{process(folder, WORKER).pid}/status").read_text()
    line = next(one for one in status.splitlines() if one.startswith("VmHWM"))
    return int(line.split()[1]) / 1024


if __name__ == "__main__":
    main()
