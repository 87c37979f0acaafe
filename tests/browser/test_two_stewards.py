"""Two stewards at work: every page that says something is so stays right as the other one edits."""

import re

from playwright.sync_api import Page, expect

from tests.server.copies import Caller

from .conftest import SignIn

FOLLOWS_WITHIN = 15_000
"""Milliseconds in which a register of forms is asked for again."""
RULE = {
    "kind": "mandatory",
    "key": "mark_given",
    "name": "Mark is given",
    "targets": ["mark"],
    "severity": {"entry": "none", "save": "block", "submit": "block"},
}


def begin(steward: Caller, name: str) -> str:
    made = steward.call("POST", "/api/v1/forms", {"name": name, "purpose": "Marks."}).body
    at = f"/api/v1/forms/{made['key']}"
    for key in ("mark", "note"):
        field = {"type": "text", "key": key, "label": key.capitalize()}
        assert steward.call("POST", f"{at}/fields", {"field": field}).status == 201
    assert steward.call("POST", f"{at}/rules", {"rule": RULE}).status == 201
    request = {"values": {"mark": "a"}}
    kept = steward.call("POST", f"{at}/cases", {"name": "One with a mark", "request": request})
    assert kept.status == 201, kept.body
    steward.release(at, "The beginning.")
    return made["key"]


def passes(page: Page) -> None:
    expect(page.get_by_role("status", name="How the cases stand")).to_have_text("1 case passes")


def test_pages_stay_right_while_another_steward_edits(address: str, sign_in: SignIn) -> None:
    other = Caller(address)
    key, elsewhere = begin(other, "Shared marks"), begin(other, "Marks elsewhere")
    at = f"/api/v1/forms/{key}"
    page = sign_in("deputy")
    page.goto(f"/forms/{key}/cases")
    passes(page)
    case = page.get_by_role("row", name=re.compile("One with a mark"))
    expect(case).to_be_visible()

    # Another form: nothing of this one goes stale.
    longer = {**RULE, "key": "note_given", "name": "Note is given", "targets": ["note"]}
    other.call("POST", f"/api/v1/forms/{elsewhere}/rules", {"rule": longer})
    passes(page)

    # The same form: the page follows by itself, in its header and its table.
    assert other.call("POST", f"{at}/rules", {"rule": longer}).status == 201
    header = page.get_by_role("status", name="How the cases stand")
    expect(header).to_have_text("1 of 1 case fails")
    page.get_by_role("columnheader", name=re.compile("Note is given")).first.wait_for()
    expect(page.get_by_text("Release 1 in force · unreleased changes")).to_be_visible()

    # The register of all forms follows as well.
    page.goto("/forms")
    row = page.get_by_role("row", name=re.compile("Shared marks"))
    expect(row).to_contain_text("1 of 1 case fails")
    assert other.call("POST", f"{at}/undo").status == 200
    expect(row).not_to_contain_text("fail", timeout=FOLLOWS_WITHIN)
    assert other.call("POST", f"{at}/redo").status == 200
    expect(row).to_contain_text("1 of 1 case fails", timeout=FOLLOWS_WITHIN)
    expect(row).not_to_contain_text("…", timeout=FOLLOWS_WITHIN)

    # Looking at what is known of a release, with a reason typed and a concern acknowledged.
    page.goto(f"/forms/{key}/releases/draft")
    page.get_by_label("What changed, and why").fill("Notes are required.")
    page.reload()
    expect(page.get_by_label("What changed, and why")).to_have_value("Notes are required.")
    concern = page.get_by_role("checkbox", name=re.compile("^I acknowledge: 1 of 1 case fails"))
    concern.check()
    assert other.call("POST", f"{at}/undo").status == 200
    expect(concern).to_have_count(0)
    passes(page)
    page.get_by_text("says the same as release 1").wait_for()
    assert other.call("POST", f"{at}/redo").status == 200
    expect(concern).to_be_checked()
    expect(page.get_by_label("What changed, and why")).to_have_value("Notes are required.")

    # Released by the other: the page says so.
    other.release(at, "Notes are required.")
    page.get_by_text("Release 2 in force").wait_for()


def test_an_open_rule_reads_anew_when_another_steward_renames_its_field(
    address: str, sign_in: SignIn
) -> None:
    other = Caller(address)
    key = begin(other, "Marks read anew")
    at = f"/api/v1/forms/{key}"
    page = sign_in("deputy")
    page.goto(f"/forms/{key}/rules?rule=mark_given")
    editor = page.get_by_role("region", name=re.compile("^Rewriting"))
    editor.get_by_text("Reads: Mark is required.").wait_for()
    (field,) = (
        one for one in other.call("GET", at).body["fields"] if one["field"]["key"] == "mark"
    )
    renamed = {"field": {**field["field"], "label": "Brand"}, "revision": field["revision"]}
    assert other.call("PUT", f"{at}/fields/mark", renamed).status == 200
    editor.get_by_text("Reads: Brand is required.").wait_for(timeout=FOLLOWS_WITHIN)
