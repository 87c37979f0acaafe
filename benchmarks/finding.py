"""How long a list of records takes to find them, beside 1,000 and 100,000 stored ones.

Run it with `.venv/bin/python -m benchmarks.finding`. It starts a server of its own with the demo;
each list is asked for on one kept connection, in turn with the others, fifty records at a time.
"""

from functools import partial
from pathlib import Path

from .calling import LOANS, Caller, milliseconds, on_a_server, report
from .sizes import sized
from .stored_records import store_loans

ROUNDS, WARM_UP = sized(60, 2), sized(5, 1)
COUNTS = (sized(1_000, 40), sized(100_000, 80))
LISTS = {
    "all, newest first": "",
    "by state": "state=submitted",
    "a number or name that is there": "search=QH-P-000042",
    "a name that is not there": "search=nowhere",
    "one answer of a field": "where=piece~is~QH-P-000042",
    "a range of days": "where=lent_from~from~1 June 2010&where=lent_from~to~1 July 2010",
    "half of all, by a day": "where=lent_from~from~1 June 2012",
    "halves by two days": "where=lent_from~from~1 June 2012&where=lent_to~to~1 June 2016",
    "part of a text": "where=piece~contains~042",
    "by name, with columns": "order=title&columns=lent_from&columns=borrower",
    "longest untouched, of one person": "order=changed&by=clerk",
    "far down the list": "offset=900",
    "on hold": "on_hold=true",
}


def measure(address: str, folder: Path) -> None:
    """Measure and print; the ratio is to the same list beside fewer."""
    few: dict[str, list[float]] = {}
    for count in COUNTS:
        store_loans(folder, count)
        caller = Caller(address)
        times: dict[str, list[float]] = {name: [] for name in [*LISTS, "the desk"]}
        for number in range(ROUNDS + WARM_UP):
            for name, query in LISTS.items():
                address_of = f"{LOANS}/records?{query}".replace(" ", "%20")
                taken = milliseconds(partial(caller.call, "GET", address_of))
                if number >= WARM_UP:
                    times[name].append(taken)
            taken = milliseconds(partial(caller.call, "GET", "/api/v1/desk"))
            if number >= WARM_UP:
                times["the desk"].append(taken)
        few = few or times
        print(f"\nBeside {count:,}{'':22} {'median':>10} {'p95':>12} {'ratio':>9}")
        for name, taken_for in times.items():
            report(name, taken_for, few[name])


if __name__ == "__main__":
    on_a_server(measure)
