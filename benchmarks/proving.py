"""How long a steward waits while proving rules, as ratios in one run.

Run it with `.venv/bin/python -m benchmarks.proving`.

On a server of its own with the demo: a keystroke on the bench of the full plant form at the server
and until the verdict is drawn in Chromium, a band, the map of two fields that a rule holds against
each other. In this process: 1,000 cases run, and the slips of 60 rules against 200 cases, as a
ratio to running those cases once for every slip.
"""

import statistics
import time
from datetime import date
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

from thistlequartz.core.candidates.baseline import good_baseline
from thistlequartz.core.cases.running import Runner
from thistlequartz.core.drafting.drafted_case import DraftedCase
from thistlequartz.core.drafting.techniques import drafted_cases
from thistlequartz.core.judging import Circumstances, CompiledForm, compile_ruleset
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.mutation.search import try_mutants
from thistlequartz.core.ruleset import Case
from thistlequartz.demo.cases import kept_cases

from .calling import Caller, milliseconds, on_a_server, report
from .core import ruleset
from .sizes import sized
from .writing import signed_in

KEYS, PICTURES, KEYSTROKES = sized(200, 3), sized(30, 2), sized(40, 3)
CASES, MANY_CASES = sized(200, 5), sized(1_000, 10)
PLANT = "/api/v1/forms/plant_accession"
TYPED = """
(text) => new Promise((resolve) => {
  const box = document.querySelector('[data-field="elevation_low"] input');
  const said = () => document.querySelector('[data-rule="elevation_plausible"]')?.textContent ?? "";
  const watcher = new MutationObserver(() => {
    if (!said().replaceAll(",", "").includes(text)) return;
    watcher.disconnect();
    requestAnimationFrame(() => resolve(performance.now() - start));
  });
  watcher.observe(document.body, { subtree: true, childList: true, characterData: true });
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const start = performance.now();
  set.call(box, text);
  box.dispatchEvent(new Event("input", { bubbles: true }));
})
"""


def at_the_server(caller: Caller) -> dict[str, list[float]]:
    """A whole sheet, one field of which changes at every call."""
    good = kept_cases("plant_accession")[3]
    times: dict[str, list[float]] = {"empty": [], "keystroke": [], "band": [], "map": []}

    def attempt(number: int) -> dict[str, Any]:
        values = {**good.values, "elevation_low": str(number), "elevation_high": "900"}
        return {"values": values, "as_of": "2026-06-12"}

    two = {"across": "elevation_low", "up": "elevation_high"}
    caller.call("POST", f"{PLANT}/bench", attempt(0))
    for number in range(KEYS):
        times["empty"].append(milliseconds(lambda: caller.call("GET", "/api/v1/session")))
        body = attempt(number)
        times["keystroke"].append(
            milliseconds(lambda body=body: caller.call("POST", f"{PLANT}/bench", body))
        )
        if number < PICTURES:
            for name, asked in {"band": {"field": "elevation_low"}, "map": two}.items():
                whole = {**asked, "request": body}
                address = f"{PLANT}/bench/{name}"
                times[name].append(
                    milliseconds(
                        lambda whole=whole, address=address: caller.call("POST", address, whole)
                    )
                )
    return times


def on_screen(address: str) -> list[float]:
    """From a key in a field of the plant form until its rule says so."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        page: Page = signed_in(browser, address)
        page.goto(f"{address}forms/plant_accession/bench")
        page.get_by_role("status", name="Verdict on saving").wait_for()
        times = []
        for number in range(KEYSTROKES):
            times.append(page.evaluate(TYPED, str(1_000 + number)))
            page.wait_for_load_state("networkidle")
        browser.close()
    return times


def drafted(form: CompiledForm, count: int) -> list[Case]:
    """So many different cases of a form, drafted."""
    ground = good_baseline(form, [], Circumstances(date(2026, 6, 12), role="clerk"))
    found: list[DraftedCase] = []
    for technique in ("both", "boundary", "choice", "blank"):
        found += drafted_cases(form, ground, technique, boundary_values=3)  # type: ignore[arg-type]
    cases = [one.case(f"case_{place}") for place, one in enumerate(found)]
    return [
        cases[place % len(cases)].model_copy(update={"key": f"case_{place}"})
        for place in range(count)
    ]


def seconds(act: Any) -> tuple[float, Any]:
    """How long something takes, and what it gives."""
    start = time.perf_counter()
    result = act()
    return time.perf_counter() - start, result


def measure(address: str, _: Path) -> None:
    """Measure and print."""
    server, screen = at_the_server(Caller(address)), on_screen(address)
    print(f"{'':34} {'median':>10} {'p95':>12} {'ratio':>9}")
    for name, words in {
        "empty": "an empty answer",
        "keystroke": "a keystroke, the full plant form",
        "band": "a band",
        "map": "a map",
    }.items():
        report(words, server[name], server["empty"])
    report("a keystroke until it is drawn", screen, server["empty"])

    form = compile_ruleset(ruleset(), form="form")
    cases = drafted(form, MANY_CASES)
    took, _ = seconds(lambda: list(Runner(form).run_all(cases)))
    print(f"\n{MANY_CASES} cases of {len(form.rules)} rules run in {took:.2f} s")
    some = cases[:CASES]
    once, _ = seconds(lambda: list(Runner(form).run_all(some)))
    ground = good_baseline(form, some, Circumstances(date(2026, 6, 12), role="clerk"))
    slips = list(mutants_of(form))
    took, found = seconds(lambda: list(try_mutants(form, some, ground, slips)))
    states = [one.state for one in found]
    print(
        f"{len(slips)} slips of {len(form.rules)} rules against {CASES} cases in {took:.2f} s: "
        f"{took / (once * len(slips)):.3f} of running every case for every slip; "
        + ", ".join(f"{states.count(one)} {one}" for one in dict.fromkeys(states))
    )
    print(f"a slip takes {1_000 * statistics.mean([took]) / len(slips):.1f} ms")


if __name__ == "__main__":
    on_a_server(measure)
