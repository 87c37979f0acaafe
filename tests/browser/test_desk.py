"""Filling in what rules open, lock, propose and hold, as a clerk meets it."""

import re

from playwright.sync_api import Page, expect

from tests.server.copies import Caller

from .conftest import SignIn, control
from .ways import go_to


def new_record(page: Page, form: str) -> None:
    page.get_by_role("link", name=form, exact=True).click()
    go_to(page, "Records")
    page.get_by_role("link", name="New record").click()
    expect(control(page, "Submit")).to_contain_text(re.compile("will|goes|needs"))


def fill(page: Page, **entries: str) -> None:
    for label, text in entries.items():
        page.get_by_label(label.replace("_", " "), exact=True).fill(text)


def test_a_loan_opens_what_it_asks_and_takes_its_rate_from_the_table(sign_in: SignIn) -> None:
    page = sign_in("clerk")
    new_record(page, "Loan out")
    expect(page.get_by_label("From", exact=True)).not_to_have_value("")
    fill(page, Piece="QH-P-008888", To="31 December 2027")
    borrower = page.get_by_role("combobox", name="Borrower")
    borrower.press("ArrowDown")
    offered = page.get_by_role("listbox", name="Records that fit").get_by_role("option")
    free = offered.filter(has_not_text="on hold").first
    name = free.inner_text().split("\n")[0]
    borrower.fill(name.lower())
    expect(free).to_contain_text(name)
    free.click()
    borrower.press("Tab")
    expect(borrower).to_have_value(name)
    submit, save = control(page, "Submit"), control(page, "Save")

    crate = page.get_by_role("radiogroup", name="Needs a climate crate")
    expect(page.get_by_label("Kind of crate")).to_have_count(0)
    crate.get_by_label("yes").check()
    page.get_by_label("Kind of crate").select_option("Humidity held")
    humidity = page.get_by_label("Humidity to be held", exact=True)
    humidity.fill("75")
    humidity.blur()
    damp = page.get_by_text("Our pieces travel at 30 to 60 % of humidity: check the figure.")
    damp.wait_for()
    humidity.fill("45")
    expect(damp).to_have_count(0)
    crate.get_by_label("no", exact=True).check()
    expect(humidity).to_have_count(0)
    crate.get_by_label("yes").check()
    expect(humidity).to_have_value("45")

    page.get_by_text("This loan lasts longer than 180 days").first.wait_for()
    expect(save).to_contain_text("needs a reason first")
    page.get_by_label("To pass this warning, give a reason").fill("A travelling exhibition.")
    expect(save).to_contain_text("goes through")

    fill(page, Insured_value="30,000.00")
    page.get_by_role("button", name="Apply").click()
    page.get_by_text("€ 1,200").wait_for()
    expect(page.get_by_label("Rate of premium")).to_have_count(0)
    fill(page, Insured_value="1500")
    page.get_by_text("No longer proposed:").wait_for()
    page.get_by_role("button", name="Take it off").click()
    page.get_by_role("button", name="Apply").click()
    page.get_by_text("€ 22.5").wait_for()

    page.get_by_role("radiogroup", name="Condition photographed").get_by_label("yes").check()
    page.get_by_role("radiogroup", name="Terms of loan accepted").get_by_label("yes").check()
    submit.click()
    page.get_by_text("It can no longer be changed where it is:").wait_for()
    expect(page.get_by_text("A travelling exhibition.")).to_contain_text("Passed by Tamsin Oke")


def test_first_things_come_first_and_a_strong_source_locks_its_case(sign_in: SignIn) -> None:
    page = sign_in("clerk")
    new_record(page, "Mineral accession")
    mineral = page.get_by_label("Mineral", exact=True)
    expect(mineral).to_have_attribute("readonly", "")
    page.get_by_text("This can be filled in once Accession number has a value.").first.wait_for()
    fill(page, Accession_number="QH-M-007777")
    expect(mineral).not_to_have_attribute("readonly", "")
    page.get_by_text("not asked").first.wait_for()
    page.get_by_role("radiogroup", name="Radioactive").get_by_label("yes").check()
    page.get_by_label("Dose rate").fill("7.5")
    expect(page.get_by_label("Display case")).to_have_count(0)
    page.get_by_role("img", name="locked").wait_for()
    hazards = page.get_by_role("group", name="Hazards")
    hazards.get_by_label("Fibres").check()
    page.get_by_role("radiogroup", name="Gloves needed").get_by_label("yes").check()
    page.get_by_label("Glove material").wait_for()
    hazards.get_by_label("Fibres").uncheck()
    expect(page.get_by_label("Glove material")).to_have_count(0)


def test_a_day_is_chosen_and_its_time_said_next(address: str, sign_in: SignIn) -> None:
    steward = Caller(address)
    made = steward.call("POST", "/api/v1/forms", {"name": "Sightings", "purpose": "When."}).body
    at = f"/api/v1/forms/{made['key']}"
    field = {"type": "date_time", "key": "seen", "label": "Seen at"}
    steward.call("POST", f"{at}/fields", {"field": field})
    steward.release(at, "The beginning.")
    page = sign_in("clerk")
    page.goto(f"/forms/{made['key']}/records/new")
    box = page.get_by_label("Seen at", exact=True)
    box.fill("11 June 2026 14:30")
    box.press("Tab")
    expect(box).to_have_value("11 June 2026, 14:30")
    page.get_by_role("button", name="Calendar for Seen at").click()
    page.get_by_role("button", name=re.compile("12 June 2026")).click()
    expect(box).to_be_focused()
    expect(box).to_have_value("2026-06-12 14:30")
    page.wait_for_function("getSelection().toString() === '14:30'")
    page.keyboard.insert_text("09:15")
    box.press("Tab")
    expect(box).to_have_value("12 June 2026, 09:15")
