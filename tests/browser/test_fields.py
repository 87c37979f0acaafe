"""A form from nothing: begun, given fields, ordered, undone, released and filled in."""

import re

from playwright.sync_api import Page, Route, expect

from .conftest import SignIn, control
from .hands import Mouse
from .ways import go_to, notice, release_draft


def add_field(page: Page, label: str, holds: str) -> None:
    page.get_by_role("button", name="New field").click()
    page.get_by_label("Label", exact=True).fill(label)
    page.get_by_role("combobox", name="What it takes").click()
    page.get_by_role("option", name=holds, exact=True).click()


def stored(page: Page) -> None:
    page.get_by_role("button", name="Add field", exact=True).click()
    expect(page.get_by_role("region", name="A new field")).to_have_count(0)


def expect_order(page: Page, *labels: str) -> None:
    handles = page.get_by_role("button", name=re.compile("^Move "))
    expect(handles).to_have_count(len(labels))
    for place, label in enumerate(labels):
        name = f"Move {label}: Alt + arrow up or down"
        expect(handles.nth(place)).to_have_accessible_name(name)


def test_a_form_is_made_from_nothing_and_filled_in(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("button", name="New form").click()
    page.get_by_label("Name", exact=True).fill("Field trip")
    page.get_by_label("What it is for").fill("Plans a trip.")
    page.get_by_role("button", name="Begin", exact=True).click()
    page.get_by_text("No fields yet.").wait_for()
    add_field(page, "Trip", "text")
    stored(page)
    add_field(page, "Distance", "a decimal number")
    page.get_by_label("Unit or currency").fill("km")
    stored(page)
    add_field(page, "Means", "one choice")
    page.get_by_label("Choices, one a line", exact=False).fill("On foot\nBoat\n- Cart")
    stored(page)
    add_field(page, "Stay", "a duration")
    page.get_by_role("combobox", name="Finest unit").click()
    page.get_by_role("option", name="hours", exact=True).click()
    stored(page)
    page.get_by_text("a duration in hours").wait_for()
    add_field(page, "Pack", "a quantity")
    page.get_by_label("Other units it may be given in").fill("g")
    stored(page)
    page.get_by_text("a quantity in kg, g").wait_for()
    page.get_by_text("one choice of 2").wait_for()
    page.get_by_text("a decimal number in km").wait_for()

    handle = page.get_by_role("button", name="Move Means: Alt + arrow up or down")
    handle.focus()
    held: list[Route] = []

    def hold(route: Route) -> None:
        held.append(route)

    page.route("**/field-order", hold, times=1)
    page.keyboard.press("Alt+ArrowUp")
    expect(handle).to_be_focused()
    page.keyboard.press("Alt+ArrowUp")
    expect_order(page, "Means", "Trip", "Distance", "Stay", "Pack")

    page.get_by_role("button", name="Change Trip").click()
    page.get_by_role("button", name="Remove it").click()
    # What was done first is stored first, however long it takes.
    held.pop().continue_()
    notice(page, "“Trip” was removed.").wait_for()
    expect(page.get_by_role("button", name="Change Trip")).to_have_count(0)
    page.get_by_role("button", name="Undo", exact=True).click()
    page.get_by_role("button", name="Change Trip").wait_for()
    expect_order(page, "Means", "Trip", "Distance", "Stay", "Pack")

    page.get_by_role("button", name="Change Distance").click()
    page.get_by_label("Label", exact=True).fill("")
    page.get_by_role("button", name="Save field").click()
    page.get_by_text("label: This is blank or too short.").wait_for()
    page.get_by_role("button", name="Discard my changes").click()

    release_draft(Mouse(page), "The first release.")
    notice(page, "Release 1 is in force.").wait_for()
    go_to(page, "Records")
    page.get_by_role("link", name="New record").click()
    page.get_by_label("Means", exact=True).select_option("Boat")
    expect(page.get_by_role("option", name="Cart")).to_have_count(0)
    page.get_by_label("Distance", exact=True).fill("12.5")
    stay = page.get_by_label("Stay", exact=True)
    stay.fill("5")
    stay.blur()
    page.get_by_text("write a number with its unit, such as 2 days 4 hours").first.wait_for()
    stay.fill("52 h")
    stay.blur()
    expect(stay).to_have_value("2 days 4 hours")
    page.get_by_label("Pack", exact=True).fill("9500")
    page.get_by_label("Unit of Pack").select_option("g")
    expect(page.get_by_label("Pack", exact=True)).to_have_value("9500")
    control(page, "Save").click()
    notice(page, "Record 1 is saved.").wait_for()
    page.goto("/forms/field_trip/records/1")
    expect(page.get_by_label("Stay", exact=True)).to_have_value("2 days 4 hours")
    expect(page.get_by_label("Pack", exact=True)).to_have_value("9500")
    expect(page.get_by_label("Unit of Pack")).to_have_value("g")


def test_a_field_in_use_says_what_would_break_and_comes_back_when_undone(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Plant accession", exact=True).click()
    go_to(page, "Fields")
    page.get_by_role("button", name="rules touch Latitude").click()
    page.get_by_text("Latitude must be from −90 to 90°.").wait_for()
    page.get_by_role("button", name="Change Latitude").click()
    page.get_by_role("combobox", name="What it takes").click()
    page.get_by_role("option", name="text", exact=True).click()
    page.get_by_role("button", name="Save field").click()
    told = page.get_by_role("alert")
    expect(told).to_contain_text("Latitude is in use: 1 rule would be violated.")
    expect(told).to_contain_text("Latitude lies on the globe")
    page.get_by_role("button", name="Discard my changes").click()

    page.get_by_role("button", name="Change Latitude").click()
    page.get_by_role("button", name="Remove it").click()
    expect(told).to_contain_text("3 rules and the values of")
    page.get_by_role("button", name="Do it anyway; it can be undone").click()
    notice(page, "“Latitude” was removed.").wait_for()
    expect(page.get_by_role("button", name="Change Latitude")).to_have_count(0)
    go_to(page, "Rules")
    globe = page.get_by_role("row", name="Latitude lies on the globe")
    expect(globe).to_contain_text("Unfinished, so it has no effect")
    page.keyboard.press("Control+z")
    expect(globe).to_contain_text("Latitude must be from −90 to 90°.")
    go_to(page, "Fields")
    page.get_by_role("button", name="Change Latitude").wait_for()
    page.get_by_label("required ones only").check()
    page.get_by_role("button", name="Change Scientific name").wait_for()
    expect(page.get_by_role("button", name="Change Latitude")).to_have_count(0)


def test_a_rule_is_copied_made_to_hold_and_seen_to_hold_on_the_bench(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Mineral accession", exact=True).click()
    page.get_by_role("button", name="Rewrite “The mineral is named”").click()
    page.get_by_role("button", name="Copy it").click()
    name = "The mineral is named (copy)"
    page.get_by_role("region", name=f"Rewriting “{name}”").wait_for()
    page.get_by_label("saving goes through, and puts the record on hold").check()
    page.get_by_role("button", name="Save rule").click()
    page.get_by_label("Search the rules").fill("(copy)")
    page.get_by_role("cell", name="hold", exact=True).wait_for()
    go_to(page, "Bench")
    page.get_by_text("Saving puts this record on hold.").wait_for()
    go_to(page, "Rules")
    copy = page.get_by_role("button", name=f"Rewrite “{name}”")
    copy.click()
    page.get_by_role("button", name="Remove it").click()
    expect(copy).to_have_count(0)
    page.get_by_label("Search the rules").fill("")


def test_fields_added_fast_one_after_the_other_are_all_there(sign_in: SignIn) -> None:
    """Nobody waits for the server between two fields; one that it refuses comes back to be corrected."""
    page = sign_in("steward")
    page.goto("/forms")
    name = "Written in a hurry"
    key = page.request.post(
        "/api/v1/forms",
        data={"name": name, "purpose": "For a test."},
        headers={"X-CSRFToken": page.request.get("/api/v1/session").json()["token"]},
    ).json()["key"]
    page.goto(f"/forms/{key}/fields")
    page.get_by_role("heading", name="Fields").first.wait_for()
    for label in ("First", "Second", "Third", "Fourth", "Fifth"):
        page.keyboard.press("n")
        page.keyboard.type(label, delay=5)
        page.keyboard.press("Control+Enter")
    for label in ("First", "Second", "Third", "Fourth", "Fifth"):
        page.get_by_role("button", name=f"Change {label}").first.wait_for()
    page.keyboard.press("n")
    page.get_by_label("Label", exact=True).fill("Sixth")
    page.get_by_label("Key in formulas").fill("fifth")
    page.get_by_role("checkbox", name="it is required to submit").check()
    page.get_by_label("Key in formulas").press("Control+Enter")
    again = page.get_by_role("region", name="A new field")
    expect(again.get_by_label("Label", exact=True)).to_have_value("Sixth")
    expect(again.get_by_role("alert")).to_contain_text("fifth")
    expect(again.get_by_role("checkbox", name="it is required to submit")).to_be_checked()
    again.get_by_label("Key in formulas").fill("sixth")
    page.keyboard.press("Control+Enter")
    page.get_by_role("button", name="Change Sixth").first.wait_for()
