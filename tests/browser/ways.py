"""The ways through the product: from anywhere to a form, and to a page of it."""

import re

from playwright.sync_api import Locator, Page, expect

from thistlequartz.demo.names import PASSWORD

from .hands import Mouse

STAGES = {
    "Write": ["Fields", "Rules", "Plan", "Set-up"],
    "Prove": ["Bench", "Cases", "Proof", "Findings"],
    "Release": ["Impact", "Releases"],
    "Live": ["To approve", "Records", "Imports", "Access", "Watch", "Messages", "History"],
}


def go_to(page: Page, place: str, *, by_key: bool = False) -> None:
    """To a page of the form one is in: by its stage, where another one is open."""
    places = page.get_by_role("navigation", name="Places of")
    stage = next(name for name, pages in STAGES.items() if place in pages)
    link = places.get_by_role("link", name=place, exact=True)
    wanted = link.or_(places.get_by_role("link", name=stage, exact=True)).first
    wanted.wait_for()
    if link.count() == 0:
        wanted.press("Enter") if by_key else wanted.click()
        link.wait_for()
        if link.get_attribute("aria-current") == "page":
            return
    link.press("Enter") if by_key else link.click()


def walk_to(hands: Mouse, place: str) -> None:
    """The same with a pair of hands: by mouse or by the tabulator alone."""
    places = hands.page.get_by_role("navigation", name="Places of")
    stage = next(name for name, pages in STAGES.items() if place in pages)
    link = places.get_by_role("link", name=place, exact=True)
    link.or_(places.get_by_role("link", name=stage, exact=True)).first.wait_for()
    if link.count() == 0:
        hands.press(stage, "link")
        link.wait_for()
        if link.get_attribute("aria-current") == "page":
            return
    hands.press(place, "link")


def home_link(page: Page) -> Locator:
    """What leads to the forms: the catalogue, or the desk for who only fills in."""
    main = page.get_by_role("navigation", name="Main")
    forms = main.get_by_role("link", name="Forms")
    main.get_by_role("link").first.wait_for()
    return forms if forms.count() else main.get_by_role("link", name="Desk")


def open_form(page: Page, place: str, form: str = "Plant accession") -> None:
    """From anywhere to a page of a form: by the forms, or by the desk for who only fills in."""
    home_link(page).click()
    page.get_by_role("link", name=form, exact=True).click()
    go_to(page, place)


def sign_in_again(page: Page) -> None:
    """Give the password where the session has ended, over the page one was at."""
    again = page.get_by_role("dialog", name="Sign in again")
    expect(again.get_by_label("Password")).to_be_focused()
    again.get_by_label("Password").fill(PASSWORD)
    page.keyboard.press("Enter")
    expect(again).to_have_count(0)


def notice(page: Page, text: str | re.Pattern[str]) -> Locator:
    """A notice at the foot of the screen; it is told aloud as well, which is not looked at."""
    return page.get_by_role("region", name="Notices").get_by_text(text)


def release_draft(hands: Mouse, note: str) -> None:
    """Look at what is known of the draft once it is settled, and release it knowingly."""
    page = hands.page
    hands.press("Release the draft…", "link")
    hands.write("What changed, and why", note)
    known = page.get_by_role("list", name="What is known")
    expect(known).not_to_contain_text(re.compile("(was not|is being) worked out|have not been run"))
    expect(page.get_by_text("It waits until everything above is worked out.")).to_have_count(0)
    for concern in page.get_by_role("checkbox", name=re.compile("^I acknowledge")).all():
        hands.reach(concern)
        concern.check()
    hands.press("Release")
