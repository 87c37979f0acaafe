"""Refresh docs/screenshots/ from the demo.

Run ./start in one terminal, then: .venv/bin/python -m scripts.screenshots http://127.0.0.1:8640/
"""

import sys
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from tests.browser.ways import go_to
from thistlequartz.core.tables import WrittenRow, written
from thistlequartz.demo.names import PASSWORD
from thistlequartz.demo.records import values_of

PICTURES = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def shoot(page: Page, name: str) -> None:
    """One picture, once the page is at rest."""
    page.wait_for_load_state("networkidle")
    page.screenshot(path=PICTURES / f"{name}.png")


def answer(page: Page, field: str, words: str) -> None:
    """Answer a field of yes or no."""
    page.get_by_role("radiogroup", name=field).get_by_label(words, exact=True).check()


def new_record(page: Page, form: str) -> None:
    """From anywhere to a new record of a form."""
    page.get_by_role("link", name="Forms").click()
    page.get_by_role("link", name=form, exact=True).click()
    go_to(page, "Records")
    page.get_by_role("link", name="New record").click()
    page.get_by_role("button", name="Submit").first.wait_for()


def finding(page: Page) -> None:
    """What is wrong with the rules, with the record that shows it."""
    page.goto("/forms/loan_out/findings")
    page.get_by_role("heading", name="Wrong").wait_for()
    expect(page.get_by_role("progressbar")).to_have_count(0)
    expect(page.get_by_text("searching again")).to_have_count(0)
    page.get_by_text("a record that shows it").first.click()
    shoot(page, "findings")


def releasing(page: Page) -> None:
    """What is known before releasing, and the stored records."""
    page.goto("/forms/mineral_accession/releases/draft")
    known = page.get_by_role("list", name="What is known")
    expect(known).not_to_contain_text("was not worked out")
    expect(known).not_to_contain_text("is being worked out", timeout=30_000)
    expect(known).not_to_contain_text("still running", timeout=30_000)
    shoot(page, "releasing")
    page.goto("/forms/plant_accession/impact")
    page.get_by_role("button", name="Work out impact").click()
    page.get_by_role("heading", name="By rule").wait_for()
    page.get_by_text("which", exact=True).first.click()
    shoot(page, "impact")


def living(page: Page) -> None:
    """How the rules fare at work."""
    page.goto("/forms/mineral_accession/watch")
    page.get_by_role("heading", name="By rule").wait_for()
    shoot(page, "watch")


def proving(page: Page) -> None:
    """A band and a map on the bench, the table of cases, and what they prove."""
    page.goto("/forms/loan_out/bench")
    page.get_by_role("button", name="What would let it through on submitting?").click()
    page.get_by_role("button", name="Try this").first.click()
    page.get_by_label("Insured value", exact=True).fill("30000")
    page.keyboard.press("F9")
    page.get_by_role("figure", name="Where Insured value passes").wait_for()
    page.get_by_role("button", name="Map two fields").click()
    page.get_by_role("group", name="Map").wait_for()
    page.get_by_role("slider").scroll_into_view_if_needed()
    page.get_by_role("slider").focus()
    shoot(page, "band")
    page.goto("/forms/plant_accession/bench")
    go_to(page, "Cases")
    page.get_by_role("button", name="The pole itself").wait_for()
    shoot(page, "cases")
    go_to(page, "Proof")
    page.get_by_role("button", name="Search for slips").click()
    page.get_by_text("are proved to make no difference").wait_for()
    shoot(page, "proof")


def sign_in(page: Page, name: str) -> None:
    """Come in under the name of a demo account."""
    page.goto("/")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("link", name="Plant accession", exact=True).wait_for()


def the_desk(page: Page) -> None:
    """What waits for an approver."""
    page.goto("/")
    page.get_by_role("button", name="Sign out").click()
    lose = page.get_by_role("button", name="Sign out and lose it")
    lose.or_(page.get_by_role("button", name="Sign in")).first.wait_for()
    if lose.is_visible():
        lose.click()
    page.get_by_role("button", name="Sign in").wait_for()
    sign_in(page, "approver")
    shoot(page, "desk")


def a_file(page: Page) -> None:
    """A file of records, before it is brought in."""
    rows = [dict(one.values) for one in values_of("plant_accession", 30, 30, 0.3)]
    for number, row in enumerate(rows):
        row["accession_number"] = f"QH-P-{9_100 + number:06}"
        row["shelf"] = "12"
    rows[4]["latitude"] = "95.2"
    rows[9]["accession_number"] = "QH-P-004301"
    rows[17]["gathered_on"] = "31 June 2019"
    heads = list(dict.fromkeys(key for row in rows for key in row))
    content = b"".join(written("csv", heads, map(WrittenRow, rows)))
    page.goto("/forms/plant_accession/imports")
    file = {"name": "field-season.csv", "mimeType": "text/csv", "buffer": content}
    page.get_by_label("Bring a file with records").set_input_files(file)
    page.get_by_role("heading", name="Where its columns go").wait_for()
    shoot(page, "import")


def outside(page: Page) -> None:
    """Sent mail, access of other systems, and a form opened by its link."""
    page.goto("/outbox?form=loan_out")
    page.get_by_role("button", name="waits for approval").first.click()
    page.get_by_role("article", name="The message").wait_for()
    shoot(page, "mail")
    page.goto("/forms/borrower/access?kind=systems")
    page.get_by_role("button", name="Create token…").click()
    form = page.get_by_role("form", name="New token")
    form.get_by_label("What it is for").fill("Tablets of the lending desk")
    form.get_by_label("save records").check()
    form.get_by_role("button", name="Create token").click()
    page.get_by_role("button", name="Close").click()
    page.get_by_text("what it takes").first.wait_for()
    shoot(page, "access")
    page.goto("/forms/borrower/access?kind=links")
    page.goto(page.get_by_role("link", name="/fill/").get_attribute("href") or "")
    page.get_by_role("button", name="A school").click()
    page.get_by_label("Name of the house").fill("Foxmere School")
    page.get_by_role("button", name="Submit").click()
    page.get_by_text("The record was not submitted.").wait_for()
    page.evaluate("window.scrollTo(0, 0)")
    shoot(page, "link")


def records(page: Page) -> None:
    """A list with filters and a column, and a record that was refused."""
    go_to(page, "Records")
    page.get_by_role("link", name="QH-P-").first.wait_for()
    page.get_by_role("button", name="Further filters").click()
    page.get_by_role("button", name="Ask of a field…").click()
    page.get_by_label("Field of condition 1").select_option("Gathered on")
    page.get_by_label("Comparison of condition 1").select_option("is at least")
    page.get_by_label("Value of condition 1", exact=True).fill("1 June 2005")
    page.get_by_role("button", name="Fields shown beside each record").click()
    page.get_by_role("menuitemcheckbox", name="Gathered on", exact=True).click()
    page.keyboard.press("Escape")
    shoot(page, "records")
    page.get_by_role("link", name="New record").click()
    page.get_by_label("Accession number", exact=True).fill("QH-P-004301")
    answer(page, "Sensitive locality", "yes")
    page.get_by_role("button", name="Submit").first.click()
    page.get_by_text("The record was not submitted.").wait_for()
    page.evaluate("window.scrollTo(0, 0)")
    shoot(page, "record")


def main(address: str) -> None:
    """All main views, as a steward at 1280 by 800."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        page = browser.new_page(
            viewport={"width": 1280, "height": 800}, base_url=address, color_scheme="light"
        )
        sign_in(page, "steward")
        shoot(page, "catalogue")
        page.get_by_role("link", name="Plant accession", exact=True).click()
        page.get_by_role("button", name="New rule").wait_for()
        shoot(page, "rules")
        page.get_by_role("button", name="Rewrite “Coordinates come with datum").click()
        page.get_by_text("Reads: When either").wait_for()
        shoot(page, "rule-sentence")
        page.keyboard.press("Escape")
        go_to(page, "Fields")
        page.get_by_role("button", name="rules touch Accession number").click()
        shoot(page, "fields")
        go_to(page, "Bench")
        page.get_by_label("Accession number", exact=True).fill("QH-P-004301")
        page.get_by_label("Gathered on", exact=True).fill("11 June 2026")
        page.get_by_label("Determined on", exact=True).fill("9 June 2026")
        page.get_by_label("Type status", exact=True).focus()
        page.get_by_text("check both dates").first.wait_for()
        page.evaluate("window.scrollTo(0, 0)")
        shoot(page, "bench")
        proving(page)
        records(page)
        finding(page)
        releasing(page)
        living(page)
        a_file(page)
        outside(page)
        the_desk(page)
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8640/")
