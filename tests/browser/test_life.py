"""A held record from its first save to approval: by keyboard alone, and with everything that can
come between.
"""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from .conftest import SignIn, control
from .hands import Keyboard, Mouse
from .net import AT_REST_NOW
from .ways import notice, sign_in_again

AT_REST = "It can no longer be changed where it is:"
MISSING = ("Name of the house", "Country", "Registration number", "Facilities report seen on")
Act = Callable[[], None]


def without_more(page: Page, act: Act) -> None:
    act()


def with_the_connection_lost(page: Page, act: Act) -> None:
    lost = page.get_by_text("The server cannot be reached. It is being tried again")
    page.context.set_offline(True)
    act()
    lost.wait_for()
    page.context.set_offline(False)
    expect(lost).to_have_count(0)


def with_the_session_ended(page: Page, act: Act) -> None:
    page.evaluate(AT_REST_NOW)  # it is the act that finds the session ended
    page.context.clear_cookies(name="thistlequartz_session")
    act()
    sign_in_again(page)


def starts_with(name: str) -> re.Pattern[str]:
    return re.compile(f"^{name}")


@pytest.mark.parametrize(
    ("kind", "lost", "ended"),
    [
        (Keyboard, without_more, without_more),
        (Mouse, with_the_connection_lost, with_the_session_ended),
    ],
    ids=["by keyboard", "with everything between"],
)
def test_a_held_record_comes_from_its_first_save_to_approval(
    sign_in: SignIn,
    kind: type[Mouse],
    lost: Callable[[Page, Act], None],
    ended: Callable[[Page, Act], None],
) -> None:
    clerk = sign_in("clerk")
    hands = kind(clerk)
    house = f"Museum of Ostrey {kind.__name__}"
    hands.press("New record of Borrower", "link")
    hands.press("A museum")
    told = clerk.get_by_role("status", name="Messages about the whole form")
    expect(told).to_contain_text("Saving puts this record on hold.")
    for label in MISSING:
        expect(told).to_contain_text(label)
    hands.write("Name of the house", house)
    hands.write("Registration number", f"R-9{len(house)}")
    country = clerk.get_by_label("Country", exact=True)
    hands.reach(country)
    country.select_option("Norway")
    expect(told).to_contain_text("Still missing: Facilities report seen on")
    expect(told).not_to_contain_text("Country")
    lost(clerk, lambda: hands.press(starts_with("Save")))
    expect(notice(clerk, "is saved, and on hold")).to_have_count(1)
    expect(clerk.get_by_role("button", name="Lift the hold")).to_have_count(0)

    approver = sign_in("approver")
    others = kind(approver)
    approver.goto(clerk.url)
    others.press("Lift the hold")
    approver.get_by_text("stays on hold: something is still missing").wait_for()
    expect(control(clerk, "Submit")).to_contain_text("will be refused")
    hands.press(starts_with("Submit"))
    expect(clerk.get_by_role("alert")).to_contain_text("was not submitted")
    hands.write("Facilities report seen on", "2 March 2026")
    clerk.keyboard.press("Tab")
    ended(clerk, lambda: hands.press(starts_with("Save")))
    expect(clerk.get_by_role("button", name="Discard my changes")).to_have_count(0)
    expect(told).to_contain_text("Complete: a steward can release it")
    hands.press(starts_with("Submit"))
    expect(clerk.get_by_role("alert")).to_contain_text("have a steward release it from hold")

    approver.reload()
    ended(approver, lambda: others.press("Lift the hold"))
    notice(approver, re.compile("The hold of record .* is lifted")).wait_for()
    clerk.reload()
    expect(told).to_have_text("")
    ended(clerk, lambda: hands.press(starts_with("Submit")))
    clerk.get_by_text(AT_REST).wait_for()

    others.press("Desk", "link")
    others.press(re.compile("To approve in Borrower"), "link")
    others.press(re.compile(house))
    others.press("Return…")
    expect(approver.get_by_label("What is to be corrected")).to_be_focused()
    approver.keyboard.insert_text("Which country is it in now?")
    ended(approver, lambda: approver.keyboard.press("Control+Enter"))
    expect(approver.get_by_role("button", name=re.compile(house))).to_have_count(0)

    hands.press("Desk", "link")
    hands.press(re.compile("Returned, to me.* in Borrower"), "link")
    hands.press(re.compile(house), "link")
    clerk.get_by_text("Which country is it in now?").wait_for()
    hands.reach(country)
    country.select_option("Sweden")
    lost(clerk, lambda: hands.press(starts_with("Submit")))
    clerk.get_by_text(AT_REST).wait_for()

    others.press("Desk", "link")
    others.press(re.compile("To approve in Borrower"), "link")
    others.press(re.compile(house))
    others.press("Approve")
    notice(approver, re.compile("Record .* is approved")).wait_for()
    reader = sign_in("reader")
    reader.goto(clerk.url)
    reader.get_by_text("It stays as it is, whatever is released.").wait_for()
    expect(reader.get_by_role("main").get_by_role("textbox")).to_have_count(0)
    expect(reader.get_by_role("button", name=re.compile("^(Save|Submit|Approve)"))).to_have_count(0)
