"""How long the service takes to answer, as ratios in one run.

Run it with `.venv/bin/python -m benchmarks.service`.

Starts a server of its own with the demo, then measures in turn, on one kept connection:
an empty answer (who is signed in), the bench's answer for the plant accession, and, in Chromium,
the first page from the call of its address until it can be used. Then a loan is opened, judged and
saved beside 1,000 and 100,000 stored ones, and the records are listed; rules forbid that two loans
of a piece overlap, or begin on one day (*elsewhere* and *unique*).
Between the two, beside 20,000, a blocking rule of uniqueness is released while loans are saved.
"""

import random
import time
from collections.abc import Callable
from datetime import date, timedelta
from functools import partial
from pathlib import Path

from playwright.sync_api import sync_playwright

from .calling import LOANS, Caller, milliseconds, on_a_server, report
from .sizes import sized
from .stored_records import a_loan, store_loans

ROUNDS = sized(400, 3)
WARM_UP = sized(40, 1)
PAGES = sized(7, 1)
SAVES = sized(150, 4)
SELDOM = sized(10, 1)
"""One in so many times a map is drawn, and ways through are looked for."""
ACTS = ("opening", "judging", "saving", "listing", "a map of two dates", "ways through")
APART = 200
"""Days between the loans that are tried, so that none overlaps with another."""
REASONS = {"loan_not_long": {"text": "A travelling exhibition."}}
"""The demo's draft asks them of shorter loans than its release does."""
FEW, SOME, MANY = sized(1_000, 40), sized(20_000, 60), sized(100_000, 80)
"""Stored records of the form."""


def first_pages(address: str) -> list[float]:
    """From the call of the address, in a new window each time, to a form that can be typed in."""
    times = []
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        for _ in range(PAGES):
            page = browser.new_context().new_page()

            def open_it(page=page):
                page.goto(address)
                page.get_by_label("Name").fill("steward")

            times.append(milliseconds(open_it))
        browser.close()
    return times


def measure(address: str, folder: Path) -> None:
    """Measure and print."""
    answers(Caller(address), address)
    beside_others(address, folder)


def answers(caller: Caller, address: str) -> None:
    """The figures, each kind of call in turn with the other."""
    empty, bench = [], []
    for number in range(ROUNDS + WARM_UP):
        values = {"latitude": str(number), "type_status": "holotype", "gathered_on": "2026-06-11"}
        body = {"values": values, "touched": ["latitude"]}
        a = milliseconds(lambda: caller.call("GET", "/api/v1/session"))
        b = milliseconds(
            lambda body=body: caller.call("POST", "/api/v1/forms/plant_accession/bench", body)
        )
        if number >= WARM_UP:
            empty.append(a)
            bench.append(b)
    pages = first_pages(address)
    print(f"{'':28} {'median':>10} {'p95':>12} {'ratio':>9}")
    report("an empty answer", empty, empty)
    report("the bench's answer", bench, empty)
    report("first page, new window", pages, empty)


def beside_others(address: str, folder: Path) -> None:
    """A loan judged and saved while a rule forbids that another overlaps with it, beside few and
    many stored loans; as ratios to few.
    """
    chance = random.Random(1)  # noqa: S311 - made-up data
    few: dict[str, list[float]] = {}
    release_rule(Caller(address), "One loan of a piece from a day on", ["piece", "lent_from"])
    for count in (FEW, SOME, MANY):
        store_loans(folder, count)
        caller = Caller(address)
        if count == SOME:
            release_beside(caller, Caller(address), chance)
            continue
        middle = caller.call("GET", f"{LOANS}/records?offset={count // 2}")["records"]
        numbers = [one["number"] for one in middle]
        times: dict[str, list[float]] = {one: [] for one in ACTS}
        for number in range(SAVES + WARM_UP):
            values = a_loan(chance, count, date(2031, 1, 1) + timedelta(days=APART * number))
            bench = {"values": values, "touched": ["piece"]}
            save = {"values": values, "reasons": REASONS}
            opened = milliseconds(
                partial(caller.call, "GET", f"{LOANS}/records/{chance.choice(numbers)}")
            )
            judged = milliseconds(partial(caller.call, "POST", f"{LOANS}/bench", bench))
            saved = milliseconds(partial(caller.call, "POST", f"{LOANS}/records", save))
            listed = milliseconds(partial(caller.call, "GET", f"{LOANS}/records"))
            if number >= WARM_UP and number % SELDOM == 0:
                around = {"request": bench, "across": "lent_from", "up": "lent_to"}
                draw = partial(caller.call, "POST", f"{LOANS}/bench/map", around)
                times["a map of two dates"].append(milliseconds(draw))
                blocked = {"request": {"values": {"piece": values["piece"]}}, "moment": "submit"}
                look = partial(caller.call, "POST", f"{LOANS}/bench/ways", blocked)
                times["ways through"].append(milliseconds(look))
            if number >= WARM_UP:
                times["opening"].append(opened)
                times["judging"].append(judged)
                times["saving"].append(saved)
                times["listing"].append(listed)
        few = few or times
        for act, taken in times.items():
            report(f"{act} beside {count:,}", taken, few[act])


def release_rule(
    steward: Caller, name: str, targets: list[str], wait: Callable[[], object] = lambda: None
) -> None:
    """Release a blocking rule of uniqueness; `wait` is done over and over until it is in force."""
    rule = {
        "kind": "unique",
        "key": name.lower().replace(" ", "_"),
        "name": name,
        "targets": targets,
        "severity": {"entry": "none", "save": "block", "submit": "block"},
    }
    steward.call("POST", f"{LOANS}/rules", {"rule": rule})
    steward.release(LOANS, name, wait)


def release_beside(steward: Caller, clerk: Caller, chance: random.Random) -> None:
    """A new blocking rule of uniqueness is released in the background while loans are saved: how
    long that takes, and how long the saves do meanwhile, as a ratio to saves before.
    """

    def save(number: int) -> float:
        values = a_loan(chance, SOME, date(2131, 1, 1) + timedelta(days=APART * number))
        body = {"values": values, "reasons": REASONS}
        return milliseconds(partial(clerk.call, "POST", f"{LOANS}/records", body))

    before = [save(number) for number in range(SAVES)]
    meanwhile: list[float] = []
    begun = time.perf_counter()
    release_rule(
        steward,
        "One loan of a piece at a time",
        ["piece", "lent_from", "lent_to"],
        lambda: meanwhile.append(save(SAVES + len(meanwhile))),
    )
    took = time.perf_counter() - begun
    print(f"a release beside {SOME:,} took {took:.0f} s, {len(meanwhile)} saves meanwhile")
    report("saving before it", before, before)
    if meanwhile:  # beside few it is over before anything can be saved
        report("saving meanwhile", meanwhile, before)
        print(f"the longest of them {max(meanwhile):.0f} ms")


if __name__ == "__main__":
    on_a_server(measure)
