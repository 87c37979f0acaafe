"""How long impact analysis takes at 1,000 and 100,000 stored records, and how much memory.

Run it with `.venv/bin/python -m benchmarks.impact`. It starts a server of its own with the demo.
The draft of the loans is one in which one check differs, so that only that one is judged first;
then one in which a rule with an effect differs, too, and everything is judged; and a rule being
written is screened, as the editor does.
"""

import time
from functools import partial
from pathlib import Path
from typing import Any

from .calling import LOANS, Caller, memory, milliseconds, on_a_server, report
from .sizes import sized
from .stored_records import store_loans

COUNTS = (sized(1_000, 40), sized(100_000, 80))
ASKED = sized(40, 2)
ASKED_EVERY = 0.2
"""Seconds."""


def measure(address: str, folder: Path) -> None:
    """Measure and print; the ratio is of the time for each record to that beside fewer."""
    few: dict[str, float] = {}
    first: list[float] = []
    for count in COUNTS:
        store_loans(folder, count)
        caller = Caller(address)  # one that nothing comes on for long is closed
        print(f"\nBeside {count:,}")
        for name, change in (("one check differs", _check), ("an effect differs", _effect)):
            change(caller)
            held: list[dict[int, float]] = []
            taken, impact = _screened(caller, folder, held)
            each = taken / count
            few.setdefault(name, each)
            how = "checks only" if impact["narrowed"] else "everything"
            ratio = each / few[name]
            peak = max(held, key=lambda one: sum(one.values()))
            most = f"up to {sum(peak.values()):,.0f} MB in {len(peak)}"
            print(f"  {name:20} {taken:6.1f} s   ratio {ratio:5.2f}   {how}, {most}")
        asking = partial(caller.call, "POST", f"{LOANS}/bench/impact", {"rule": _rule(caller)})
        times = [milliseconds(asking) for _ in range(ASKED)]
        first = first or times
        report("  a rule, by a sample", times, first)


def _screened(
    caller: Caller, folder: Path, held: list[dict[int, float]]
) -> tuple[float, dict[str, Any]]:
    begun = time.perf_counter()
    caller.call("POST", f"{LOANS}/impact")
    while (view := caller.call("GET", f"{LOANS}/impact"))["job"]["state"] != "done":
        held.append(dict(memory(folder)))
        time.sleep(ASKED_EVERY)
    impact: dict[str, Any] = view["impact"]
    return time.perf_counter() - begun, impact


def _check(caller: Caller) -> None:
    """Release the draft, then have one of its checks say something else."""
    _release(caller)
    blocks = _view(caller, "range")["rule"]["severity"].get("save") == "block"
    severity = {"save": "warn" if blocks else "block", "submit": "block"}
    _change(caller, "range", {"severity": severity})


def _effect(caller: Caller) -> None:
    """Then have a rule with an effect say something else, though it means the same."""
    now = _view(caller, "lock")["rule"].get("when")
    _change(caller, "lock", {"when": None if now else "1 = 1"})


def _release(caller: Caller) -> None:
    if caller.call("GET", LOANS)["draft_changed"]:
        caller.release(LOANS, "For newest.", lambda: time.sleep(ASKED_EVERY))


def _change(caller: Caller, kind: str, change: dict[str, Any]) -> None:
    """Have the first rule of a kind differ."""
    view = _view(caller, kind)
    rule = {**view["rule"], **change}
    body = {"rule": rule, "revision": view["revision"]}
    caller.call("PUT", f"{LOANS}/rules/{rule['key']}", body)


def _view(caller: Caller, kind: str) -> dict[str, Any]:
    rules = caller.call("GET", LOANS)["rules"]
    view: dict[str, Any] = next(one for one in rules if one["rule"]["kind"] == kind)
    return view


def _rule(caller: Caller) -> dict[str, Any]:
    rule: dict[str, Any] = _view(caller, "range")["rule"]
    return {**rule, "severity": {"save": "warn", "submit": "block"}}


if __name__ == "__main__":
    on_a_server(measure)
