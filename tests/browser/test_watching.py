"""Watch and history: what rules did at work, by whom and why; what was changed, found again."""

import re

from playwright.sync_api import expect

from .conftest import SignIn
from .ways import go_to, open_form


def test_watch_leads_to_records_and_rule(
    sign_in: SignIn,
) -> None:
    page = sign_in("steward")
    open_form(page, "Watch", "Mineral accession")
    page.get_by_role("heading", name=re.compile("tries to save or submit")).wait_for()
    picture = page.get_by_role("img", name=re.compile("^Tries by week: "))
    expect(picture).to_contain_text("release 2")
    softer = page.get_by_role("listitem").filter(has_text="The softer side comes first").first
    expect(softer).to_contain_text(re.compile(r"warned \d+"))
    apart = page.get_by_role("button", name="Tell “The softer side comes first” apart")
    apart.press("Enter")
    told = page.get_by_role("region", name="“The softer side comes first” told apart")
    told.get_by_role("row", name=re.compile("^Tamsin Oke")).wait_for()
    page.get_by_text(re.compile("“The mineral is named” fell from")).wait_for()
    page.get_by_label("Showing").select_option("silent")
    hardness = page.get_by_role("listitem").filter(has_text="Hardness lies on the Mohs scale")
    expect(hardness).to_contain_text("never spoke")
    page.get_by_role("combobox", name="by", exact=True).select_option("Tamsin Oke")
    expect(page).to_have_url(re.compile("person=clerk"))
    page.get_by_label("From", exact=True).fill("1 May 2001")
    page.get_by_text("The days do not fit together.").wait_for()
    page.get_by_label("to", exact=True).fill("30 May 2001")
    page.keyboard.press("Tab")
    page.get_by_text("No record was saved or submitted").wait_for()
    page.goto("/forms/mineral_accession/watch")
    page.get_by_role("button", name="Tell “The softer side comes first” apart").click()
    page.get_by_role("region", name="“The softer side comes first” told apart").get_by_role(
        "link", name="The rule"
    ).click()
    expect(page.get_by_label("Name", exact=True)).to_have_value("The softer side comes first")


def test_who_only_fills_in_is_not_shown_how_others_fare(sign_in: SignIn) -> None:
    page = sign_in("clerk")
    page.goto("/forms/mineral_accession/watch")
    page.get_by_text(re.compile("may not see how the rules fare")).wait_for()


def test_what_was_done_is_found_by_who_and_what_and_says_what_it_changed(
    sign_in: SignIn,
) -> None:
    page = sign_in("steward")
    open_form(page, "Rules", "Borrower")
    page.get_by_role("button", name=re.compile("^Saving: ")).first.press("+")
    page.get_by_role("button", name=re.compile("^Undo: ")).wait_for()
    go_to(page, "History")
    page.get_by_role("combobox", name="By", exact=True).select_option("Odile Farrowby")
    newest = page.get_by_role("row").nth(1)
    expect(newest).to_contain_text(re.compile("on saving: .* → "))
    page.get_by_role("combobox", name="What", exact=True).select_option("Draft released")
    expect(page.get_by_role("row").nth(1)).to_contain_text("First release of the register.")
    file = page.get_by_role("link", name=re.compile("as a table"))
    expect(file).to_have_attribute("href", re.compile("act=release.*person=steward"))
    page.get_by_role("combobox", name="What", exact=True).select_option("")
    page.get_by_role("combobox", name="By", exact=True).select_option("Tamsin Oke")
    page.get_by_label("Search the history").fill("Record 7")
    expect(page.get_by_role("row").nth(1)).to_contain_text(re.compile("Tamsin Oke .* record 7"))
    page.get_by_label("Search the history").fill("nothing of the sort")
    page.get_by_text("Nothing matches. Widen the search.").wait_for()
    open_form(page, "Rules", "Borrower")
    page.get_by_role("button", name=re.compile("^Undo: ")).click()
