"""The table of cases: found, looked at on the bench, accepted, removed, and given to others."""

import json
import re
from pathlib import Path

from playwright.sync_api import Page, expect

from .conftest import SignIn
from .ways import go_to, open_form


def row(page: Page, name: str):
    return page.get_by_role("row", name=re.compile(f"^Choose {name}"))


def test_cases_are_found_looked_at_accepted_taken_out_and_brought_back(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Mineral accession", exact=True).click()
    go_to(page, "Cases")
    page.get_by_role("link", name="1 of 7 cases fails").wait_for()
    page.get_by_role("button", name="fail 1").click()
    boulder = row(page, "A boulder")
    expect(boulder).to_contain_text("fails: Saving is warned, where clear was expected.")
    expect(row(page, "Harder than diamond")).to_have_count(0)
    page.get_by_role("button", name="all 7").click()
    page.get_by_label("Suite").select_option("Radiation")
    row(page, "Radioactive in a drawer").wait_for()
    expect(boulder).to_have_count(0)
    page.get_by_label("Suite").select_option("every suite")
    page.get_by_label("Search the cases").fill("diamond")
    row(page, "Harder than diamond").wait_for()
    expect(boulder).to_have_count(0)
    page.get_by_label("Search the cases").fill("")

    page.get_by_role("button", name="Harder than diamond").click()
    page.get_by_role("button", name="Open on the bench").click()
    expect(page.get_by_role("status", name="Verdict on saving")).to_have_text("Blocked")
    expect(page.get_by_label("As of", exact=True)).to_have_value("12 June 2026")
    go_to(page, "Cases")

    page.get_by_role("button", name="A boulder").click()
    page.get_by_text("“Two people can lift it” is violated, which was not").wait_for()
    page.get_by_label("What happens now is right, because").fill("Nobody lifts a ton.")
    page.get_by_role("button", name="Expect that from now on").click()
    page.get_by_role("link", name="7 cases pass").wait_for()
    page.get_by_text("Nobody lifts a ton.\nNobody lifts a ton.").wait_for()

    page.get_by_label("Choose A boulder").check()
    page.get_by_label("Choose Harder than diamond").check()
    page.get_by_role("button", name="Take 2 out").click()
    page.get_by_role("link", name="5 cases pass").wait_for()
    page.get_by_role("button", name="Undo", exact=True).click()
    page.get_by_role("link", name="7 cases pass").wait_for()
    page.get_by_role("button", name=re.compile("^Undo: ")).click()
    page.get_by_role("link", name="1 of 7 cases fails").wait_for()


def test_cases_go_from_one_form_to_a_file_and_back(sign_in: SignIn, tmp_path: Path) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Borrower", exact=True).click()
    go_to(page, "Cases")
    with page.expect_download() as download:
        page.get_by_role("link", name="JSON").click()
    path = tmp_path / "cases.json"
    download.value.save_as(path)
    kept = json.loads(path.read_text())
    kept["cases"] = [{**one, "name": f"{one['name']}, again"} for one in kept["cases"][:1]]
    path.write_text(json.dumps(kept))
    page.get_by_label("Case file").set_input_files(path)
    expect(row(page, "A house that is known, again")).to_contain_text("passes")
    kept["cases"][0]["values"]["telefone"] = "1"
    path.write_text(json.dumps(kept))
    page.get_by_label("Case file").set_input_files(path)
    expect(page.get_by_role("alert")).to_contain_text("Did you mean “telephone”?")
    page.get_by_label("Choose A house that is known, again").check()
    page.get_by_role("button", name="Take 1 out").click()
    expect(row(page, "A house that is known, again")).to_have_count(0)


def test_an_approver_looks_at_cases_and_keeps_none(sign_in: SignIn) -> None:
    page = sign_in("approver")
    open_form(page, "Bench")
    page.get_by_role("status", name="Verdict on saving").wait_for()
    expect(page.get_by_role("button", name="Save as case")).to_have_count(0)
    page.get_by_role("combobox", name="Judged by").click()
    page.get_by_role("option", name=re.compile("release 1: ")).click()
    page.get_by_text("“Open places name their country” is not there").wait_for()
    go_to(page, "Cases")
    page.get_by_role("button", name="The pole itself").wait_for()
    expect(page.get_by_role("button", name="Run all")).to_have_count(0)
    expect(page.get_by_role("checkbox")).to_have_count(0)
    go_to(page, "Proof")
    page.get_by_role("heading", name="Rule by rule").wait_for()
    expect(page.get_by_role("button", name="Search for slips")).to_have_count(0)


def test_a_change_to_a_stored_record_is_tried_with_what_it_held(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Bench")
    page.get_by_role("button", name="Start again").click()
    page.get_by_role("combobox", name="New or changed").click()
    page.get_by_role("option", name="a change to").click()
    page.get_by_role("combobox", name="The record before").click()
    page.get_by_role("option", name=re.compile(r"^record \d+, QH-P-")).first.click()
    expect(page.get_by_role("combobox", name="The record before")).to_contain_text("QH-P-")
    expect(page.get_by_role("row", name=re.compile("Sheets are accessioned"))).to_contain_text(
        "Starting values are for new records only."
    )
    page.get_by_role("button", name="Start again").click()
