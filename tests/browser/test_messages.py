"""Messages: written as a sentence, looked at beforehand, and read by each receiver."""

import re

from playwright.sync_api import Page, expect

from .accessible import violations
from .conftest import SignIn, control
from .ways import open_form


def test_a_message_is_written_seen_beforehand_and_read_by_each_receiver(sign_in: SignIn) -> None:
    steward = sign_in("steward")
    open_form(steward, "Messages", "Borrower")
    steward.get_by_role("button", name="Write a message").press("Enter")
    writing = steward.get_by_role("region", name="New message")
    writing.get_by_role("button", name="Add message").click()
    expect(writing.get_by_role("alert")).to_contain_text("Say who is to get it.")
    writing.get_by_label("Name of the message").fill("A borrower was written down")
    tick(steward, "Occasions", "saved")
    tick(steward, "Receivers", "every approver", "the address in E-mail")
    tick(steward, "Copies", "who is to go on with it")
    writing.get_by_role("textbox", name="Text").fill("{person} wrote:\n{marc}")
    writing.get_by_text("Nothing can be put in the place of “{marc}”.").wait_for()
    writing.get_by_role("textbox", name="Text").fill("{person} wrote:\n")
    writing.get_by_role("button", name="Put a value into the text").press("Enter")
    steward.get_by_role("menuitem", name="{answers} all answers").press("Enter")
    writing.get_by_role("button", name="only when…").press("Enter")
    writing.get_by_role("button", name="The condition as a formula").press("Enter")
    writing.get_by_label("Condition as a formula").fill('starts with(name, "Foxmere")')
    writing.get_by_text("This record does not meet the condition").wait_for()
    assert violations(steward) == []
    before = writing.frame_locator("iframe")
    before.get_by_text("Odile Farrowby wrote:").wait_for()
    writing.get_by_role("button", name="Add message").press("Enter")
    steward.get_by_role("heading", name="A borrower was written down").wait_for()
    clerk = sign_in("clerk")
    for name in ("Foxmere House <b>", "Another House"):
        open_form(clerk, "Records", "Borrower")
        clerk.get_by_role("link", name="New record").click()
        clerk.get_by_label("Name of the house").fill(name)
        for box in clerk.get_by_label(re.compile("^E-mail")).all():
            box.fill("fox@example.org")
        control(clerk, "Save").click()
        clerk.get_by_role("heading", name=re.compile("Record [0-9]+")).wait_for()
    for page in (clerk, sign_in("approver")):
        page.get_by_role("link", name="Mail").click()
        line = page.get_by_role("button", name=re.compile("Borrower: record .* was saved")).first
        line.click()
        letter = page.get_by_role("article", name="The message")
        expect(letter).to_contain_text("ruben.halloway@example.org")
        expect(letter).to_contain_text("fox@example.org")
        assert violations(page) == []
        inside = page.frame_locator("iframe")
        inside.get_by_text("Foxmere House <b>").wait_for()
        expect(page.get_by_role("button", name=re.compile("Another House"))).to_have_count(0)
    steward.get_by_role("link", name="What went out").click()
    went_out = steward.get_by_role("region", name="What went out")
    went_out.get_by_text("to Ruben Halloway, fox@example.org").first.wait_for()
    assert violations(steward) == []


def tick(page: Page, label: str, *options: str) -> None:
    page.get_by_role("button", name=label, exact=True).press("Enter")
    for option in options:
        page.get_by_role("menuitemcheckbox", name=option).first.press("Enter")
    page.keyboard.press("Escape")
    expect(page.get_by_role("menu")).to_have_count(0)
    expect(page.get_by_role("button", name=label, exact=True)).to_be_focused()
