"""Refresh docs/screenshots/ from the demo.

Run ./start in one terminal, then: .venv/bin/python -m scripts.screenshots http://127.0.0.1:8640/
"""

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from thistlequartz.demo.names import PASSWORD

PICTURES = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def shoot(page: Page, name: str) -> None:
    """One picture, once the page is at rest."""
    page.wait_for_load_state("networkidle")
    page.screenshot(path=PICTURES / f"{name}.png")


def main(address: str) -> None:
    """All main views, as a steward at 1280 by 800."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_page(
            viewport={"width": 1280, "height": 800}, base_url=address, color_scheme="light"
        )
        page.goto("/")
        page.get_by_role("heading", name="Sign in").wait_for()
        shoot(page, "sign-in")
        page.get_by_label("Name").fill("steward")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Forms").wait_for()
        shoot(page, "catalogue")
        page.get_by_role("link", name="Plant accession").click()
        page.get_by_role("button", name="New rule").wait_for()
        shoot(page, "rules")
        page.get_by_role("button", name="Rewrite “Coordinates come with datum").click()
        page.get_by_text("Reads: When either").wait_for()
        shoot(page, "rule-sentence")
        page.get_by_role("link", name="Bench").click()
        page.get_by_label("Accession number", exact=True).fill("QH-P-004301")
        page.get_by_label("Gathered on", exact=True).fill("11 June 2026")
        page.get_by_label("Determined on", exact=True).fill("9 June 2026")
        page.get_by_label("Type status", exact=True).focus()
        page.get_by_text("check both dates").first.wait_for()
        shoot(page, "bench")
        page.get_by_role("link", name="Records").click()
        page.get_by_role("table").wait_for()
        shoot(page, "records")
        page.get_by_role("link", name="New record").click()
        page.get_by_label("Accession number", exact=True).fill("QH-P-004301")
        page.get_by_label("Sensitive locality", exact=True).get_by_label("yes", exact=True).check()
        page.get_by_role("button", name="Submit").click()
        page.get_by_text("The record was not submitted.").wait_for()
        shoot(page, "record")
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8640/")
