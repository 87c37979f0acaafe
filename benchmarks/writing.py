"""How long a steward waits while writing a form of a thousand rules, as ratios in one run.

Run it with `.venv/bin/python -m benchmarks.writing`.

On a server of its own: the reading of a formula at every keystroke, a severity stepped and the
form fetched again, at the server; and in Chromium the register from the click on the form's name
until its rules stand there, and a severity from the click until it is drawn.
"""

import statistics
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from thistlequartz.demo.names import PASSWORD

from .calling import Caller, milliseconds, on_a_server, report
from .sizes import sized

FIELDS, RULES = sized(200, 10), sized(1_000, 30)
ROUNDS, PAGES, STEPS = sized(60, 2), sized(7, 1), sized(12, 2)
STEP = """
() => new Promise((resolve) => {
  const mark = document.querySelector('[data-cell="3-4"]');
  const before = mark.getAttribute("aria-label");
  const watcher = new MutationObserver(() => {
    const now = document.querySelector('[data-cell="3-4"]').getAttribute("aria-label");
    if (now === before) return;
    watcher.disconnect();
    requestAnimationFrame(() => resolve(performance.now() - start));
  });
  watcher.observe(document.body, { subtree: true, childList: true, attributes: true });
  const start = performance.now();
  mark.click();
})
"""


def rules() -> Iterator[dict[str, object]]:
    """Rules of four kinds, most of them under a condition on another field."""
    severity = {"entry": "note", "save": "warn", "submit": "block"}
    for number in range(RULES):
        field, other = f"f{number % FIELDS}", f"f{(number * 7 + 3) % FIELDS}"
        shared = {
            "key": f"r{number}",
            "name": f"Rule number {number}",
            "targets": [field],
            "severity": severity,
        }
        yield (
            shared
            | (
                {"kind": "mandatory", "when": f"{other} > {number}"},
                {"kind": "range", "lower": {"value": "1"}, "when": f"{other} != null"},
                {"kind": "cross_field", "must": f"{field} <= {other} + {number}"},
                {"kind": "allowed_values", "values": [str(number), str(number + 1)]},
            )[number % 4]
        )


def at_the_server(caller: Caller, form: str) -> dict[str, list[float]]:
    """The times of each kind of call, each in turn with the others."""
    address = f"/api/v1/forms/{form}"
    rule = next(rules())
    revision = 1
    times: dict[str, list[float]] = {"empty": [], "formula": [], "step": [], "fetch": []}
    caller.call("GET", address)
    for number in range(ROUNDS):
        written = {"rule": rule | {"when": f"f3 > {number} and f4 <"}, "clauses": {}}
        change = {
            "key": "r9",
            "revision": revision,
            "severity": {"save": ("note", "warn")[number % 2]},
        }
        for name, call in {
            "empty": ("GET", "/api/v1/session", None),
            "formula": ("POST", f"{address}/rules/read", written),
            "step": ("PATCH", f"{address}/rules", {"rules": [change]}),
            "fetch": ("GET", address, None),
        }.items():
            times[name].append(milliseconds(lambda call=call: caller.call(*call)))
        revision = caller.call("GET", address)["rules"][9]["revision"]
    return times


def signed_in(browser: Browser, address: str) -> Page:
    """A page on the catalogue."""
    page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(address)
    page.get_by_label("Name").fill("steward")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Forms").wait_for()
    return page


def on_screen(address: str) -> dict[str, list[float]]:
    """The register opened in new windows, and severities stepped in the last of them."""
    times: dict[str, list[float]] = {"register": [], "drawn": []}
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        for _ in range(PAGES):
            page = signed_in(browser, address)
            link = page.get_by_role("link", name="A thousand rules", exact=True)
            first = page.get_by_role("button", name="Rewrite “Rule number 0”")

            def opened(link=link, first=first) -> None:
                link.click()
                first.wait_for()

            times["register"].append(milliseconds(opened))
        for _ in range(STEPS):
            times["drawn"].append(page.evaluate(STEP))
            page.wait_for_load_state("networkidle")
        browser.close()
    return times


def measure(address: str, _: Path) -> None:
    """Measure and print."""
    fields = [
        {"type": "decimal", "key": f"f{number}", "label": f"Measure {number}"}
        for number in range(FIELDS)
    ]
    caller = Caller(address)
    body = {"name": "A thousand rules", "fields": fields, "rules": list(rules())}
    form = caller.call("POST", "/api/v1/forms", body)["key"]
    server, screen = at_the_server(caller, form), on_screen(address)
    print(f"{'':28} {'median':>10} {'p95':>12} {'ratio':>9}")
    for name, words in {
        "empty": "an empty answer",
        "formula": "a keystroke in a formula",
        "step": "a severity stored",
        "fetch": "the form after a change",
    }.items():
        report(words, server[name], server["empty"])
    report("the register on screen", screen["register"], server["empty"])
    report("a severity drawn", screen["drawn"], server["empty"])
    print(f"rules: {RULES}; median of the register {statistics.median(screen['register']):.0f} ms")


if __name__ == "__main__":
    on_a_server(measure)
