"""Where the hand is not stopped: focus, what is kept for whom, what is told when."""

import re

from playwright.sync_api import Page, Route, expect

from .conftest import SignIn, Window, control, give_name
from .test_bench import RANGE, WHY, begin, begin_with
from .ways import go_to, notice, open_form, sign_in_again

NEW = "A new rule"


def fill_in_a_record(page: Page, number: str) -> None:
    open_form(page, "Records")
    page.get_by_role("link", name="New record").click()
    page.get_by_label("Accession number", exact=True).fill(number)


def test_entries_stay_with_the_person_who_began_them(sign_in: SignIn) -> None:
    page = sign_in("clerk")
    fill_in_a_record(page, "QH-P-000011")
    # What is typed next is what finds the session ended: the dialog comes after it, not into it. So
    # the field is entered before: leaving the one before it asks the server, too.
    name = page.get_by_label("Scientific name", exact=True)
    name.focus()
    page.wait_for_load_state("networkidle")
    page.context.clear_cookies(name="thistlequartz_session")  # the session has ended
    name.fill("Quillora tenella")
    sign_in_again(page)
    expect(name).to_have_value("Quillora tenella")
    fill_in = page.get_by_label("Accession number", exact=True)
    expect(fill_in).to_have_value("QH-P-000011")
    control(page, "Save").click()
    notice(page, re.compile(r"Record \d+ is saved")).wait_for()
    fill_in_a_record(page, "QH-P-000012")
    page.get_by_role("button", name="Sign out").click()
    asking = page.get_by_role("dialog", name="Sign out?")
    expect(asking).to_contain_text("Not stored yet: 1 record.")
    asking.get_by_role("button", name="Stay signed in").click()
    expect(fill_in).to_have_value("QH-P-000012")
    page.get_by_role("button", name="Sign out").click()
    asking.get_by_role("button", name="Sign out and lose it").click()
    give_name(page, "approver")
    expect(notice(page, re.compile("is saved"))).to_have_count(0)
    open_form(page, "Records")
    page.get_by_role("link", name="New record").click()
    expect(fill_in).to_have_value("")
    assert page.evaluate("Object.values(sessionStorage).join().includes('QH-P-000012')") is False


def test_every_tab_follows_who_is_there(sign_in: SignIn) -> None:
    page = sign_in("clerk")
    other = page.context.new_page()
    other.goto("/forms/plant_accession/records/new")
    box = other.get_by_label("Accession number", exact=True)
    box.fill("QH-P-000013")
    page.get_by_role("button", name="Sign out").click()
    other.get_by_role("heading", name="Sign in").wait_for()
    expect(other.get_by_text("session has ended")).to_have_count(0)
    give_name(page, "approver")
    expect(box).to_have_value("")
    expect(other.get_by_text("Tamsin Oke")).to_have_count(0)


def test_a_list_opened_with_an_unknown_choice_shows_everything(sign_in: SignIn) -> None:
    page = sign_in("clerk")
    page.goto("/forms/plant_accession/records?state=x&outcome=y&offset=-5")
    page.get_by_text(re.compile(r"^\d+ records$")).wait_for()
    expect(page.get_by_label("State")).to_have_value("")


def test_a_view_opened_by_its_address_is_at_rest_and_can_be_left(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.goto("/forms/plant_accession/rules?show=stops_save&rule=latitude_range")
    page.goto("/forms/plant_accession/rules?show=stops_save&search=globe&rule=not_there")
    expect(page.get_by_role("switch")).to_have_count(2)
    rewrite = page.get_by_role("button", name="Rewrite “Latitude lies on the globe”")
    rewrite.click()
    expect(page).to_have_url(re.compile("rule="))
    address = page.url
    page.get_by_role("button", name="Close", exact=True).click()
    expect(rewrite).to_be_focused()
    page.goto(address)
    page.get_by_label("Upper bound", exact=True).wait_for()
    page.keyboard.press("Escape")
    expect(page.get_by_label("Upper bound", exact=True)).to_have_count(0)
    go_to(page, "Bench")
    expect(page).to_have_title("Bench – Plant accession – Thistlequartz")
    go_to(page, "Rules")
    expect(page.get_by_role("switch")).to_have_count(2)


def test_ctrl_enter_stores_from_a_list_and_an_open_tick_list(sign_in: SignIn) -> None:
    page = sign_in("steward")
    key = begin(page, "Stored from a list", [{**RANGE, "upper": {"value": "90"}}])
    page.goto(f"/forms/{key}/rules")
    page.get_by_role("button", name="Rewrite “Rule 1”").click()
    page.get_by_role("combobox", name="What must be true").focus()
    page.keyboard.press("Control+Enter")
    expect(page.get_by_role("button", name="Rewrite “Rule 1”")).to_be_focused()
    expect(page.get_by_role("listbox")).to_have_count(0)
    page.keyboard.press("n")
    page.get_by_role("button", name="Fields the rule is about").press("Enter")
    page.get_by_role("menuitemcheckbox", name="Reason").click()
    page.keyboard.press("Control+Enter")
    expect(page.get_by_role("button", name="Rewrite “Reason is required”")).to_be_focused()
    expect(page.get_by_role("menu")).to_have_count(0)


def test_a_rule_stored_while_its_day_is_being_read_opens_as_it_is_stored(sign_in: SignIn) -> None:
    page = sign_in("steward")
    key = begin(page, "Stored in haste", [{**RANGE, "upper": {"value": "90"}}])
    page.goto(f"/forms/{key}/rules")
    rewrite = page.get_by_role("button", name="Rewrite “Rule 1”")
    for day in ("1 December 2030", "2 December 2030", "3 December 2030"):
        rewrite.click()
        page.get_by_label("in force from", exact=True).fill(day)
        page.get_by_role("button", name="Save rule").click()
        expect(page.get_by_role("rowheader").filter(has_text=f"from {day}")).to_have_count(1)
        expect(page.get_by_role("region", name="Rewriting “Rule 1”")).to_have_count(0)


def test_focus_goes_back_or_on_after_each_act(sign_in: SignIn) -> None:
    page = sign_in("steward")
    key = begin(page, "Where focus goes", [{**RANGE, "upper": {"value": "90"}}])
    page.goto(f"/forms/{key}/rules")
    for opener in ("Recipes…", "Tiers…"):
        page.get_by_role("button", name=opener).press("Enter")
        page.get_by_role("dialog").wait_for()
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name=opener)).to_be_focused()
    rewrite = page.get_by_role("button", name="Rewrite “Rule 1”")
    rewrite.press("Enter")
    page.get_by_label("Upper bound", exact=True).fill("91")
    page.get_by_role("button", name="Discard my changes").press("Enter")
    expect(rewrite).to_be_focused()
    go_to(page, "Bench", by_key=True)
    expect(page.get_by_role("main")).to_be_focused()
    page.get_by_label("Value", exact=True).fill("95")
    page.get_by_role("button", name="What would let it through on saving?").press("Enter")
    page.get_by_role("button", name="Try this").first.press("Enter")
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text("Clear")
    assert page.evaluate("document.activeElement !== document.body")
    page.keyboard.press("Control+Enter")
    expect(page.get_by_role("dialog").get_by_label("Name", exact=True)).to_be_focused()
    page.keyboard.press("Escape")
    box = page.get_by_label("Value", exact=True)
    box.fill("7")  # nothing is inert after the dialog
    expect(box).to_have_value("7")


def test_nothing_moves_under_a_pointer_that_is_down(sign_in: SignIn) -> None:
    page = sign_in("steward")
    key = begin(page, "Under the pointer", [{**RANGE, "upper": {"value": "90"}}])
    page.goto(f"/forms/{key}/bench")
    value, below = (page.get_by_label(name, exact=True) for name in ("Value", "Second"))
    saving = page.get_by_role("status", name="Verdict on saving")
    for number, outcome in (("95", "Blocked"), ("7", "Clear"), ("96", "Blocked")):
        value.fill(number)
        # Judged, and not told yet while it is typed in; the second time it had been left before.
        expect(saving).to_have_text(outcome)
        place = below.bounding_box()
        assert place is not None
        page.mouse.move(place["x"] + 20, place["y"] + place["height"] / 2)
        page.mouse.down()
        expect(below).to_be_focused()
        assert below.bounding_box() == place
        page.mouse.up()
        expect(page.locator("[data-field=value]").get_by_role("listitem")).to_have_count(
            int(outcome == "Blocked")
        )


def test_nothing_is_told_of_what_was_not_begun(sign_in: SignIn) -> None:
    page = sign_in("steward")
    key = begin_with(page, "Begun in peace", [WHY], [])
    page.goto(f"/forms/{key}/rules")
    page.get_by_role("button", name="New rule").click()
    editor = page.get_by_role("region", name=NEW)
    page.get_by_role("combobox", name="Always or under a condition").click()
    page.get_by_role("option", name="When", exact=True).click()
    page.get_by_role("combobox", name="Field of the condition").wait_for()
    expect(editor.get_by_role("alert")).to_have_count(0)
    page.get_by_role("button", name="Add rule").click()
    expect(editor.get_by_role("alert")).not_to_have_count(0)
    expect(page.get_by_role("button", name="Rewrite")).to_have_count(0)


def test_single_keys_can_be_switched_off_and_actions_are_found_by_name(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.keyboard.press("?")
    page.get_by_role("checkbox", name=re.compile("^n and")).uncheck()
    page.keyboard.press("Escape")
    page.keyboard.press("n")
    page.keyboard.press("?")
    expect(page.get_by_role("region", name=NEW)).to_have_count(0)
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Go to, or do").fill("new rule")
    page.keyboard.press("Enter")
    page.get_by_role("region", name=NEW).wait_for()
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name=NEW)).to_have_count(0)


def test_no_form_moves_under_the_hand_when_its_findings_are_counted(sign_in: SignIn) -> None:
    page = sign_in("steward")
    # How many cases fail is told in a line of its own: they are run first.
    expect(page.get_by_text(re.compile("to be run again"))).to_have_count(0)
    held: list[Route] = []
    page.route("**/api/v1/finding-counts", lambda one: held.append(one))  # noqa: PLW0108 - no builtin
    page.reload()
    last = page.get_by_role("rowheader").last.get_by_role("link").first
    last.wait_for()
    there = last.bounding_box()
    (asked,) = held
    keys = [form["key"] for form in page.request.get("/api/v1/forms").json()]
    asked.fulfill(
        json=[
            {"form": key, "wrong": 2, "doubtful": 1, "current": place % 2 == 0}
            for place, key in enumerate(keys)
        ]
    )
    expect(page.get_by_role("link", name=re.compile("^3 findings"))).to_have_count(len(keys))
    assert last.bounding_box() == there


def test_signing_in_begins_at_the_name(window: Window) -> None:
    expect(window("light", "").get_by_label("Name")).to_be_focused()


def test_focus_goes_to_what_is_to_be_written(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Records")
    page.get_by_role("link", name="New record").click()
    expect(page.get_by_label("Accession number", exact=True)).to_be_focused()
    page.goto("/people")
    page.get_by_role("button", name="New account").click()
    expect(page.get_by_label("Name as it is shown")).to_be_focused()
    page.goto("/forms/plant_accession/setup")
    page.get_by_role("button", name="Add a section").click()
    expect(page.get_by_label(re.compile("^Name of the section")).last).to_be_focused()
    page.goto("/forms/plant_accession/messages")
    page.get_by_role("button", name="Write a message").click()
    expect(page.get_by_label("Name of the message")).to_be_focused()


def test_dialog_saved_by_key_returns_focus_to_field(
    sign_in: SignIn,
) -> None:
    page = sign_in("steward")
    open_form(page, "Bench")
    number = page.get_by_label("Accession number", exact=True)
    page.get_by_role("status", name="Verdict on saving").wait_for()
    number.fill("QH-P-900001")
    page.keyboard.press("Control+Enter")
    dialog = page.get_by_role("dialog", name="Save as a case")
    dialog.get_by_label("Name", exact=True).fill("A number by itself")
    page.keyboard.press("Control+Enter")
    expect(dialog).to_have_count(0)
    expect(number).to_be_focused()


def test_space_ticks_what_was_found_by_its_letters(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_role("button", name="New rule").click()
    fields = page.get_by_role("button", name="Fields the rule is about")
    expect(fields).to_be_focused()
    page.keyboard.press("Enter")
    page.keyboard.type("hab")
    page.keyboard.press("Space")
    page.keyboard.press("Escape")
    expect(fields).to_have_text("Habitats")


def test_space_ticks_what_was_found_on_a_slow_machine(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Rules")
    page.get_by_role("button", name="New rule").click()
    fields = page.get_by_role("button", name="Fields the rule is about")
    expect(fields).to_be_focused()
    slowness = page.context.new_cdp_session(page)
    slowness.send("Emulation.setCPUThrottlingRate", {"rate": 20})
    page.keyboard.press("Enter")
    page.keyboard.type("hab")
    page.keyboard.press("Space")
    page.keyboard.press("Escape")
    slowness.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    expect(fields).to_have_text("Habitats")
