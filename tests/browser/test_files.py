"""Records from a file: seen first, brought in, what was refused corrected and brought again."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.server.copies import Caller

from .conftest import SignIn
from .ways import go_to

CONTENT = """Mark;Weight in kg;Seen on;Shelf
north;1,5;31/12/2025;7
south;heavy;01/02/2026;7
north;2;02/02/2026;8
west;250;03/02/2026;8
"""
BLOCKED = {"entry": "none", "save": "block", "submit": "block"}


def a_form(address: str) -> str:
    steward = Caller(address)
    made = steward.call(
        "POST", "/api/v1/forms", {"name": "Way stone", "purpose": "Marks ways."}
    ).body
    at = f"/api/v1/forms/{made['key']}"
    for field in (
        {"type": "text", "key": "mark", "label": "Mark"},
        {"type": "decimal", "key": "weight", "label": "Weight"},
        {"type": "date", "key": "seen", "label": "Seen on"},
    ):
        assert steward.call("POST", f"{at}/fields", {"field": field}).status == 201
    unique = {"kind": "unique", "key": "one", "targets": ["mark"], "severity": BLOCKED}
    light = {
        "kind": "range",
        "key": "light",
        "targets": ["weight"],
        "upper": {"value": "100"},
        "severity": BLOCKED,
    }
    for rule in (unique, light):
        assert steward.call("POST", f"{at}/rules", {"rule": rule}).status == 201
    steward.release(at, "The beginning.")
    return made["key"]


def bring(page: Page, name: str, content: str | bytes) -> None:
    raw = content if isinstance(content, bytes) else content.encode()
    file = {"name": name, "mimeType": "text/csv", "buffer": raw}
    page.get_by_label("Bring a file with records").set_input_files(file)


def test_import_previews_rows_and_returns_rejected_rows(
    address: str, sign_in: SignIn, tmp_path: Path
) -> None:
    key = a_form(address)
    page = sign_in("clerk")
    page.goto(f"/forms/{key}/records")
    go_to(page, "Imports")
    page.get_by_text("No file has come in yet.").wait_for()
    bring(page, "picture.png", b"\x89PNG")
    expect(page.get_by_role("alert")).to_contain_text("The file cannot be read.")
    bring(page, "stones.csv", CONTENT)
    page.get_by_role("heading", name="stones.csv").wait_for()
    first = page.get_by_role("status", name="What the first rows would come to")
    expect(first).to_have_text("Of the first 4 rows 3 would be added, 1 would be refused.")
    goes = page.get_by_role("combobox", name="Weight in kg goes to")
    expect(goes).to_have_value("")
    goes.select_option("Weight")
    expect(first).to_have_text("Of the first 4 rows 1 would be added, 3 would be refused.")
    expect(page.get_by_role("combobox", name="How days are written")).to_have_text(
        "day first (31/12/2026)"
    )
    refused = page.get_by_role("table", name="First rows refused")
    expect(refused.get_by_role("row", name=re.compile("^3 "))).to_contain_text(
        "Weight in kg: “heavy” is not a number"
    )
    page.get_by_role("button", name="Try all rows, store nothing").press("Enter")
    came = page.get_by_role("status", name="What came of the rows")
    expect(came).to_have_text(
        "Tried only, nothing is stored. Of 4 rows 1 would be added, 3 would be refused."
    )
    page.get_by_role("button", name="Bring them in").press("Enter")
    expect(came).to_have_text("Of 4 rows 1 added, 3 refused.")
    expect(first).to_have_text("Of the first 4 rows 1 was brought already, 3 would be refused.")
    with page.expect_download() as coming:
        page.get_by_role("link", name="Have the refused rows with their reasons, as CSV").click()
    assert coming.value.suggested_filename == "refused - stones.csv"
    back = Path(coming.value.path()).read_text("utf-8-sig")
    assert "Weight in kg: “heavy” is not a number" in back
    corrected = back.replace("heavy", "12").replace("north,2", "east,2").replace("250", "25")
    page.get_by_role("link", name="All files").press("Enter")
    expect(page.get_by_role("row", name=re.compile("^stones.csv"))).to_contain_text(
        "Of 4 rows 1 added, 3 refused."
    )
    bring(page, "corrected.csv", corrected)
    page.get_by_role("combobox", name="Weight in kg goes to").select_option("Weight")
    expect(first).to_have_text("Of the first 3 rows 3 would be added.")
    page.get_by_role("button", name="Bring them in").click()
    expect(came).to_have_text("Of 3 rows 3 added.")
    go_to(page, "Records")
    page.get_by_text("4 records", exact=True).wait_for()
    with page.expect_download() as coming:
        page.get_by_role("link", name="Export all 4 as JSON Lines").click()
    assert coming.value.suggested_filename == f"{key}.jsonl"
    assert '"Mark": "east"' in Path(coming.value.path()).read_text()


def test_records_are_changed_by_a_file_that_names_them(address: str, sign_in: SignIn) -> None:
    key = a_form(address)
    steward = Caller(address)
    values = {"mark": "north", "weight": "3", "seen": "2026-01-02"}
    saved = steward.call("POST", f"/api/v1/forms/{key}/records", {"values": values})
    assert saved.status == 201
    page = sign_in("steward")
    page.goto(f"/forms/{key}/imports")
    bring(page, "old.csv", "Größe\nmäßig\n".encode("windows-1252"))
    expect(page.get_by_role("alert")).to_contain_text("A character is not written in UTF-8.")
    page.get_by_role("button", name="Read old.csv as Western European").press("Enter")
    page.get_by_role("row", name=re.compile("^Größe mäßig")).wait_for()
    page.get_by_role("combobox", name="Encoding").press("Enter")
    page.get_by_role("option", name="UTF-8").press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("The file cannot be read.")
    page.get_by_role("combobox", name="Encoding").press("Enter")
    page.get_by_role("option", name="Western European (Windows-1252)").press("Enter")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.get_by_role("button", name="Forget it").click()
    bring(page, "weights.csv", "Mark,Weight\nNORTH,4.25\nsouth,1\n")
    first = page.get_by_role("status", name="What the first rows would come to")
    expect(first).to_have_text("Of the first 2 rows 1 would be added, 1 would be refused.")
    page.get_by_role("combobox", name="Which record a row is").press("Enter")
    page.get_by_role("option", name=re.compile("^a change to the record of the same Mark")).click()
    expect(first).to_have_text("Of the first 2 rows 1 would be added, 1 would be changed.")
    page.get_by_role("button", name="Bring them in").click()
    came = page.get_by_role("status", name="What came of the rows")
    expect(came).to_have_text("Of 2 rows 1 added, 1 changed.")
    now = steward.call("GET", f"/api/v1/forms/{key}/records/{saved.body['number']}").body
    assert now["values"] == {**values, "mark": "NORTH", "weight": "4.25"}
    page.get_by_role("button", name="Forget it").click()
    page.get_by_text("No file has come in yet.").wait_for()
