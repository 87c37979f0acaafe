"""A form's last steps: released over many records in the background, and removed by its name."""

import re
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import date

from playwright.sync_api import Route, expect

from tests.server.copies import Caller

from .conftest import SignIn
from .hands import Mouse
from .ways import go_to, notice, release_draft

REFUSED = 37
MANY = 310
"""More than a release looks at while one waits."""


def test_release_page_shows_changes_and_restores_earlier_release(
    address: str, sign_in: SignIn
) -> None:
    steward = Caller(address)
    made = steward.call("POST", "/api/v1/forms", {"name": "Shelf mark", "purpose": "Marks."}).body
    at = f"/api/v1/forms/{made['key']}"
    field = {"type": "whole_number", "key": "shelf", "label": "Shelf"}
    steward.call("POST", f"{at}/fields", {"field": field})
    rule = {
        "kind": "range",
        "key": "shelves",
        "name": "Shelves there are",
        "targets": ["shelf"],
        "upper": {"value": "90"},
        "severity": {"entry": "none", "save": "warn", "submit": "block"},
    }
    steward.call("POST", f"{at}/rules", {"rule": rule})
    steward.release(at, "The beginning.")
    for shelf in ("7", "90", *map(str, range(91, 91 + REFUSED)), "12"):
        assert steward.call("POST", f"{at}/records", {"values": {"shelf": shelf}}).status == 201
    page = sign_in("steward")
    page.goto(f"/forms/{made['key']}/rules")
    page.get_by_role("button", name="Saving: warn (Shelves there are)").press("+")
    go_to(page, "Impact", by_key=True)
    page.get_by_role("button", name="Work out impact").press("Enter")
    meant = page.get_by_role("list", name="What the draft means for them")
    stopped = meant.get_by_role("listitem").filter(has_text="can be saved now; the draft")
    expect(stopped).to_contain_text(f"{REFUSED}")
    harder = page.get_by_role("listitem").filter(has_text="Shelves there are")
    expect(harder).to_contain_text("told of harder; it stops 37 on saving")
    stopped.get_by_text("which").click()
    expect(stopped.get_by_role("link", name=re.compile(r"^\d+$"))).to_have_count(REFUSED)
    view = steward.call("GET", at).body["rules"][0]
    removed = {"rules": [{"key": "shelves", "revision": view["revision"]}]}
    assert steward.call("POST", f"{at}/rule-removal", removed).status == 204
    page.reload()
    page.get_by_text("The draft or the release has changed since").wait_for()
    expect(stopped).to_contain_text(f"{REFUSED}")
    assert steward.call("POST", f"{at}/undo").status == 200
    # As the draft is again what was analysed, its impact counts again.
    expect(page.get_by_text("The draft or the release has changed since")).to_have_count(0)
    stopped.get_by_text("which").click()
    stopped.get_by_role("link", name="3", exact=True).press("Enter")
    expect(page.get_by_role("combobox", name="The record before")).to_contain_text("record 3")
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text("Blocked")
    go_to(page, "Rules", by_key=True)
    page.get_by_role("button", name="Rewrite “Shelves there are”").press("Enter")
    meaning = page.get_by_role("status", name="Stored records")
    expect(meaning).to_have_text(
        f"Would newly stop {REFUSED} of {REFUSED + 3} stored records on saving."
    )
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Release the draft…").click()
    expect(page.get_by_role("region", name="Rules")).to_contain_text("on saving: warns → blocks")
    known = page.get_by_role("list", name="What is known")
    expect(known).to_contain_text(f"{REFUSED} stored records could no longer be saved as they are.")
    button = page.get_by_role("button", name="Release", exact=True)
    page.get_by_label("What changed, and why").fill("No shelf past 90.")
    expect(button).to_be_disabled()
    page.get_by_text("Still to say: that you acknowledge each concern.").wait_for()
    for concern in page.get_by_role("checkbox", name=re.compile("^I acknowledge")).all():
        concern.check()
    page.get_by_role("radio", name="from a moment on").check()
    page.get_by_label("From the day", exact=True).fill("1 January 2020")
    button.click()
    page.get_by_text("This moment is past.").wait_for()
    page.get_by_label("From the day", exact=True).fill(f"1 June {date.today().year + 1}")
    button.click()
    page.get_by_text(re.compile("in force · Release 2 from 1 June")).wait_for()
    page.get_by_role("button", name="Withdraw it…").click()
    page.get_by_role("dialog").get_by_label("Why").fill("Sooner.")
    page.get_by_role("button", name="Withdraw it", exact=True).click()
    page.get_by_text("Withdrawn by Odile Farrowby: Sooner.").wait_for()
    release_draft(Mouse(page), "No shelf past 90.")
    notice(page, "Release 3 is in force.").wait_for()
    third = page.get_by_role("row", name=re.compile("^3 in force"))
    third.get_by_text("what was known: 1 concern acknowledged").click()
    kept = third.get_by_role("list", name="What is known")
    expect(kept).to_contain_text(f"{REFUSED} stored records could no longer be saved as they are.")
    told = page.get_by_role("region", name="What is different")
    expect(told).to_contain_text("on saving: warns → blocks")
    told.get_by_label("from").select_option("release 3")
    told.get_by_label("to").select_option("the draft")
    told.get_by_text("The two say the same.").wait_for()
    page.get_by_role("link", name="Go back to it…").press("Enter")
    page.get_by_role("heading", name="Go back to release 1").wait_for()
    expect(page.get_by_role("region", name="Rules")).to_contain_text("on saving: blocks → warns")
    page.get_by_text(f"Of {REFUSED + 3} stored records none is worse off.").wait_for()
    page.get_by_label("What changed, and why").fill("Shelf 91 is being built.")
    page.get_by_role("button", name="Release", exact=True).press("Enter")
    notice(page, "Release 4 is in force.").wait_for()
    page.get_by_text("Release 4 in force · unreleased changes").wait_for()


def begin(steward: Caller, name: str) -> str:
    """The key of a form with one text, released."""
    made = steward.call("POST", "/api/v1/forms", {"name": name, "purpose": "Marks."}).body
    at = f"/api/v1/forms/{made['key']}"
    field = {"type": "text", "key": "mark", "label": "Mark"}
    assert steward.call("POST", f"{at}/fields", {"field": field}).status == 201
    steward.release(at, "The beginning.")
    return made["key"]


def test_release_page_refreshes_concerns_after_quick_impact_job(
    address: str, sign_in: SignIn
) -> None:
    steward = Caller(address)
    key = begin(steward, "Impact soon")
    at = f"/api/v1/forms/{key}"
    assert steward.call("POST", f"{at}/records", {"values": {"mark": "a"}}).status == 201
    rule = {"kind": "mandatory", "key": "marked", "targets": ["mark"],
            "severity": {"entry": "none", "save": "warn", "submit": "block"}}  # fmt: skip
    assert steward.call("POST", f"{at}/rules", {"rule": rule}).status == 201

    def hold(route: Route) -> None:
        """The answer to the wish for the impact, until it is done."""
        answer, deadline = route.fetch(), time.monotonic() + 60
        while steward.call("GET", f"{at}/impact").body["impact"] is None:
            assert time.monotonic() < deadline, "its impact was never worked out"
        route.fulfill(response=answer)

    page = sign_in("steward")
    page.route(
        "**/impact",
        lambda route: hold(route) if route.request.method == "POST" else route.continue_(),
    )
    page.goto(f"/forms/{key}/releases/draft")
    page.get_by_text("Of 1 stored records none is worse off.").wait_for()


def test_release_job_shows_progress_and_reason_of_failure(address: str, sign_in: SignIn) -> None:
    steward = Caller(address)
    key = begin(steward, "Drawer label")
    at = f"/api/v1/forms/{key}"

    def save(mark: str) -> int:
        answer = steward.call("POST", f"{at}/records", {"values": {"mark": mark}})
        assert answer.status == 201
        return answer.body["number"]

    with ThreadPoolExecutor(4) as several:
        list(several.map(save, map(str, range(MANY))))
    twin = save("7")
    rule = {
        "kind": "unique",
        "key": "marks",
        "name": "Marks are unique",
        "targets": ["mark"],
        "severity": {"entry": "none", "save": "block", "submit": "block"},
    }
    assert steward.call("POST", f"{at}/rules", {"rule": rule}).status == 201

    page = sign_in("steward")
    page.goto(f"/forms/{key}/rules")
    release_draft(Mouse(page), "Marks are unique.")
    notice(page, "It was not released.").wait_for()
    page.get_by_role("link", name="Release the draft…").click()
    told = page.get_by_role("alert")
    expect(told).to_contain_text("would violate a rule of uniqueness at once")
    expect(told).to_contain_text(f"and {twin} hold the same values.")
    corrected = {"values": {"mark": "other"}, "revision": 1}
    assert steward.call("PUT", f"{at}/records/{twin}", corrected).status == 200

    def hold(route: Route) -> None:
        """The answer to the wish to release, until it is in force: it is told of all the same."""
        answer, deadline = route.fetch(), time.monotonic() + 60
        while steward.call("GET", f"{at}/release-work").body is not None:
            assert time.monotonic() < deadline, "it was never released"
        route.fulfill(response=answer)

    page.route(
        "**/releases",
        lambda route: hold(route) if route.request.method == "POST" else route.continue_(),
    )
    go_to(page, "Rules")
    release_draft(Mouse(page), "Marks are unique.")
    notice(page, "The release is made.").wait_for()
    page.get_by_text("Release 2 in force").wait_for()

    go_to(page, "Set-up")
    page.get_by_role("button", name="Remove the form…").click()
    sheet = page.get_by_role("dialog", name="Remove Drawer label")
    expect(sheet.get_by_role("button", name="Remove", exact=True)).to_be_disabled()
    page.keyboard.insert_text("Drawer label")
    page.keyboard.press("Enter")
    notice(page, "Drawer label was removed").wait_for()
    expect(page.get_by_role("link", name="Drawer label")).to_have_count(0)
