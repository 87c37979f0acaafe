"""The tour of the README, step by step: by mouse, and by keyboard with the focus watched."""

import re

import pytest
from playwright.sync_api import Page, expect

from thistlequartz.demo.names import PASSWORD

from .conftest import HOMES, Window, control
from .hands import Keyboard, Mouse
from .ways import home_link, notice, release_draft, walk_to
from .windows import SEEN_WITHIN

NEW = "A new rule"
FORM = "The form"
NUMBERS = {"Holotype": "QH-P-000007", "Isotype": "QH-P-000017"}


def enter(hands: Mouse, name: str) -> None:
    hands.write("Name", name)
    hands.write("Password", PASSWORD)
    hands.press("Sign in")
    hands.page.get_by_role("heading", name=HOMES).wait_for()


def verdicts(page: Page, saving: str, submitting: str) -> None:
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text(saving)
    expect(page.get_by_role("status", name="Verdict on submitting")).to_have_text(submitting)


def see_the_catalogue(hands: Mouse) -> None:
    """Each count opens the rules it counts, and the way back keeps what was looked at."""
    page = hands.page
    hands.choose("Which forms are shown", "those that can stop a save")
    for of, switches in (("can warn", None), ("can stop a save", 5)):
        count = page.get_by_role("link", name=re.compile(f"rules that {of} in Plant accession"))
        number = int(count.inner_text())
        hands.reach(count, click=True)
        expect(page.get_by_role("switch")).to_have_count(number)
        assert switches in (None, number)
        assert "show=" in page.url
        page.reload()
        expect(page.get_by_role("switch")).to_have_count(number)
        page.go_back()
        expect(page).to_have_url(re.compile(r"show=stopping$"))
    hands.press(re.compile(r"^\d+ required fields in Plant accession$"), "link")
    page.get_by_role("button", name="Change Accession number", exact=True).wait_for()
    expect(page.get_by_role("button", name="Change Habitats", exact=True)).to_have_count(0)
    page.go_back()
    hands.press("Plant accession", "link")
    expect(page).to_have_title("Rules – Plant accession – Thistlequartz")


def read_the_rules(hands: Mouse) -> None:
    page, rule = hands.page, "(Datum is one we convert)"
    row = page.get_by_role("row", name="Datum is one we convert")
    hands.reach(row)
    saving = page.get_by_role("button", name=f"Saving: warn {rule}")
    if isinstance(hands, Keyboard):
        for _ in range(2):  # from the words of the rule past the mark of typing
            page.keyboard.press("ArrowRight")
    else:
        saving.focus()
    expect(saving).to_be_focused()
    page.keyboard.press("3")
    expect(page.get_by_role("button", name=f"Saving: block {rule}")).to_be_focused()
    page.keyboard.press("2")
    expect(saving).to_be_focused()
    page.keyboard.press("Tab")
    assert not row.evaluate("one => one.contains(document.activeElement)"), "one tab stop a row"


def write_the_rule(hands: Mouse, status: str) -> str:
    page, called = hands.page, f"When Type status is {status}, Determined by is required"
    page.keyboard.press("n")
    expect(page.get_by_role("button", name="Fields the rule is about")).to_be_focused()
    expect(page.get_by_role("region", name=NEW).get_by_role("alert")).to_have_count(0)
    hands.pick("Fields the rule is about", "Determined by", within=NEW)
    hands.choose("Always or under a condition", "Type status", within=NEW, shows="When")
    hands.choose("Value of the condition", status, within=NEW)
    page.get_by_text(f"Reads: {called}.").wait_for()
    saving = re.compile("^Saving: warn")
    page.get_by_role("region", name=NEW).get_by_role("button", name=saving).wait_for()
    hands.press("The condition as a formula", within=NEW)
    formula = page.get_by_role("textbox", name="Condition as a formula")
    expect(formula).to_contain_text("type_status = ")
    page.keyboard.press("F2")
    expect(page.get_by_role("combobox", name="Value of the condition")).to_have_text(status)
    page.keyboard.press("Control+Enter")
    expect(page.get_by_role("button", name=f"Rewrite “{called}”")).to_be_focused()
    return called


def prove_it(hands: Mouse, called: str, status: str) -> None:
    page = hands.page
    walk_to(hands, "Bench")
    hands.write("Accession number", NUMBERS[status], within=FORM)
    hands.write("Scientific name", "Quillora tenella", within=FORM)
    verdicts(page, "Clear", "Clear")
    row = page.get_by_role("row", name=called)
    answer = page.get_by_label("Type status", exact=True)
    hands.reach(answer)
    answer.focus()
    answer.select_option(status)
    verdicts(page, "Warned", "Blocked")
    for saving, submitting in (("Clear", "Clear"), ("Warned", "Blocked")):
        page.keyboard.press("F8")
        verdicts(page, saving, submitting)
    expect(row).to_contain_text("Determined by is blank.")
    hands.write("Determined by", "P. Abernook", within=FORM)
    verdicts(page, "Clear", "Clear")
    hands.write("Determined by", " ", within=FORM)
    verdicts(page, "Warned", "Blocked")
    answer.select_option("Paratype")
    expect(row).to_contain_text(f"Only when Type status is {status}. Here Type status is Paratype.")
    answer.select_option(status)
    hands.press(called)
    page.get_by_role("button", name="Try without this rule").wait_for()
    hands.write("Elevation from", "2500", within=FORM)
    page.keyboard.press("F9")
    page.get_by_role("figure", name="Where Elevation from passes").wait_for()
    hands.press("What would let it through on submitting?")
    page.get_by_role("button", name="Try this").first.wait_for()
    page.keyboard.press("Control+Enter")
    expect(page.get_by_role("dialog").get_by_label("Name", exact=True)).to_be_focused()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text(f"A {status} without a determiner")
    page.keyboard.press("Enter")
    notice(page, f"Kept: A {status} without a determiner.").wait_for()


def look_at_cases_and_proof(hands: Mouse, status: str) -> None:
    page = hands.page
    walk_to(hands, "Cases")
    kept = page.get_by_role("row", name=re.compile(f"^Choose A {status} without a determiner"))
    expect(kept).to_contain_text("passes")
    hands.press(f"A {status} without a determiner")
    page.get_by_role("button", name="Open on the bench").wait_for()
    hands.press("Draft cases…")
    page.get_by_role("dialog", name="Draft cases").wait_for()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Draft cases…")).to_be_focused()
    walk_to(hands, "Proof")
    hands.press("Search for slips")
    # The solver may take thirty seconds for a slip where others need the machine, too.
    page.get_by_text(re.compile(r"Of \d+ slips")).wait_for(timeout=4 * SEEN_WITHIN)


def release(hands: Mouse) -> None:
    page = hands.page
    release_draft(hands, "Types must name their determiner.")
    notice(page, re.compile(r"Release \d+ is in force\.")).wait_for()


def new_record(hands: Mouse, form: str) -> None:
    hands.press(home_link(hands.page).inner_text(), "link")
    hands.press(form, "link")
    walk_to(hands, "Records")
    hands.press("New record", "link")
    expect(control(hands.page, "Submit")).to_contain_text(re.compile("will|goes|needs"))


def try_other_forms(hands: Mouse) -> None:
    page = hands.page
    new_record(hands, "Loan out")
    hands.write("To", "31 December 2027")
    hands.answer("Needs a climate crate", "yes")
    page.get_by_label("Kind of crate").wait_for()
    hands.write("Insured value", "30,000.00")
    hands.press("Apply")
    page.get_by_text("€ 1,200").wait_for()
    page.get_by_text("This loan lasts longer than 180 days").first.wait_for()
    new_record(hands, "Borrower")
    hands.press("A museum")
    page.get_by_text("Saving puts this record on hold.").wait_for()
    new_record(hands, "Mineral accession")
    hands.write("Accession number", "QH-M-004301")
    expect(page.get_by_label("Mineral", exact=True)).not_to_have_attribute("readonly", "")


def meet_it_at_the_desk(hands: Mouse, status: str) -> None:
    page = hands.page
    new_record(hands, "Plant accession")
    answer = page.get_by_label("Type status", exact=True)
    hands.reach(answer)
    answer.select_option(status)
    expect(control(page, "Submit")).to_contain_text(
        re.compile(r"will be refused: \d fields to fill in")
    )
    page.reload()
    expect(answer).to_have_value(status.lower())
    hands.write("Accession number", NUMBERS[status])
    hands.write("Scientific name", "Quillora tenella")
    expect(control(page, "Save")).to_contain_text("goes through: 1 warning")
    hands.press(re.compile("^Save"))
    notice(page, re.compile(r"Record \d+ is saved\. 1 rule is violated\.")).wait_for()
    message = page.get_by_role("main").get_by_text("Determined by is required. This applies when")
    message.wait_for()
    hands.press(re.compile("^Submit"))
    page.get_by_text("The record was not submitted.").wait_for()
    hands.write("Determined by", "P. Abernook")
    expect(message).to_have_count(0)
    expect(page.get_by_text("The record was not submitted.")).to_have_count(0)
    expect(control(page, "Submit")).to_contain_text("goes through")
    hands.press(re.compile("^Submit"))
    page.get_by_text("It can no longer be changed where it is:").wait_for()


@pytest.mark.parametrize(("kind_of_hands", "status"), [(Mouse, "Holotype"), (Keyboard, "Isotype")])
def test_the_tour(window: Window, kind_of_hands: type[Mouse], status: str) -> None:
    hands = kind_of_hands(window())
    enter(hands, "steward")
    see_the_catalogue(hands)
    read_the_rules(hands)
    called = write_the_rule(hands, status)
    prove_it(hands, called, status)
    look_at_cases_and_proof(hands, status)
    release(hands)
    try_other_forms(hands)
    hands.press("Sign out")
    # Records that were begun and not stored are told first.
    hands.press("Sign out and lose it")
    enter(hands, "clerk")
    meet_it_at_the_desk(hands, status)
