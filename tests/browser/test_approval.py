"""From a first save on hold to approval, as each role does it, by keyboard where it counts."""

import csv
import re

from playwright.sync_api import expect

from .conftest import SignIn, control
from .ways import go_to, open_form


def test_a_record_is_returned_mended_and_approved_with_the_list_beside_it(sign_in: SignIn) -> None:
    clerk = sign_in("clerk")
    clerk.get_by_role("link", name="New record of Plant accession").click()
    clerk.get_by_label("Accession number", exact=True).fill("QH-P-770001")
    control(clerk, "Submit").click()
    summary = clerk.get_by_role("list", name="What stands in the way of it")
    expect(summary).to_contain_text("Scientific name")
    assert clerk.evaluate(
        "document.activeElement.contains("
        "document.querySelector('[aria-label=\"What stands in the way of it\"]'))"
    ), "the focus goes to what was refused"
    summary.get_by_role("button", name="Scientific name").press("Enter")
    name = clerk.get_by_label("Scientific name", exact=True)
    expect(name).to_be_focused()
    name.fill("Quillora tenella")
    control(clerk, "Submit").press("Enter")
    clerk.get_by_text("It can no longer be changed where it is:").wait_for()
    expect(clerk.get_by_role("main").get_by_role("textbox")).to_have_count(0)
    clerk.get_by_role("button", name="Take it back").click()
    expect(name).to_have_value("Quillora tenella")
    control(clerk, "Submit").press("Enter")
    clerk.get_by_text("It can no longer be changed where it is:").wait_for()

    approver = sign_in("approver")
    approver.get_by_role("link", name=re.compile("To approve in Plant accession")).press("Enter")
    row = approver.get_by_role("button", name=re.compile("QH-P-770001"))
    row.press("Enter")
    paper = approver.get_by_role("article")
    expect(paper.get_by_role("heading", level=3).first).to_contain_text("QH-P-770001")
    row.press("b")
    expect(approver.get_by_label("What is to be corrected")).to_be_focused()
    approver.keyboard.insert_text("Who collected it?")
    approver.keyboard.press("Control+Enter")
    approver.get_by_text("1 record returned.").wait_for()
    expect(row).to_have_count(0)

    clerk.get_by_role("link", name="Desk").click()
    clerk.get_by_role("link", name=re.compile("Returned, to me.* in Plant accession")).click()
    expect(clerk.get_by_role("combobox", name="State")).to_have_value("returned")
    clerk.get_by_role("link", name=re.compile("QH-P-770001")).click()
    clerk.get_by_text("Who collected it?").wait_for()
    clerk.get_by_label("Collector", exact=True).fill("M. Quist")
    control(clerk, "Submit").press("Enter")
    clerk.get_by_text("It can no longer be changed where it is:").wait_for()

    approver.reload()
    row.press("Enter")
    paper.get_by_text("M. Quist").wait_for()
    row.press("x")
    approver.get_by_role("button", name="Approve the 1 chosen record").wait_for()
    row.press("a")
    approver.get_by_text("1 record approved.").wait_for()
    clerk.reload()
    clerk.get_by_text("It stays as it is, whatever is released.").wait_for()


def test_records_are_found_by_what_they_hold_and_a_list_is_kept(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Records")
    found = page.get_by_text(re.compile(r"^\d+ records?$"))
    all_of_them = found.inner_text()
    page.get_by_role("button", name="Further filters").click()
    page.get_by_role("button", name="Ask of a field…").click()
    page.get_by_label("Field of condition 1").select_option("Latitude")
    page.get_by_label("Comparison of condition 1").select_option("is at least")
    value = page.get_by_label("Value of condition 1")
    value.fill("north")
    value.press("Enter")
    page.get_by_text("The list cannot be filtered like this.").wait_for()
    value.fill("60")
    value.press("Enter")
    page.get_by_role("button", name="Fields shown beside each record").click()
    page.get_by_role("menuitemcheckbox", name="Latitude", exact=True).click()
    page.keyboard.press("Escape")
    column = page.get_by_role("columnheader", name="Latitude")
    column.wait_for()
    expect(found).not_to_have_text(all_of_them)
    said = found.inner_text()
    page.get_by_label("Name for this list").fill("The north")
    page.get_by_role("button", name="Keep this list").click()
    page.get_by_label("Search the records").fill("nothing like it")
    page.get_by_text("No record fits.").wait_for()
    page.get_by_role("button", name="The north", exact=True).click()
    expect(found).to_have_text(said)
    go_to(page, "History")
    go_to(page, "Records")
    expect(page.get_by_label("Value of condition 1")).to_have_value("60")
    page.get_by_role("button", name="Forget the list The north").click()
    page.get_by_text("none yet").wait_for()


def test_several_are_decided_on_at_once_and_become_a_file(sign_in: SignIn) -> None:
    page = sign_in("approver")
    open_form(page, "Records", "Mineral accession")
    choices = page.get_by_role("checkbox", name=re.compile(r"^Choose record \d+"))
    choices.first.wait_for()
    page.get_by_role("checkbox", name="Choose all that are listed here").check()
    chosen = page.get_by_role("region", name="The chosen records")
    expect(chosen).to_contain_text(f"{choices.count()} records chosen")
    with page.expect_download() as loading:
        chosen.get_by_role("link", name="Export them as CSV").click()
    rows = list(csv.DictReader(loading.value.path().read_text("utf-8-sig").splitlines()))
    assert len(rows) == choices.count()
    submitted = sum(row["State"] == "submitted" for row in rows)
    assert 0 < submitted < len(rows), "some can be approved, and some cannot"
    chosen.get_by_role("button", name="Approve them").click()
    said = page.get_by_role("status").filter(has_text=re.compile("[0-9] records? approved"))
    expect(said).to_contain_text(re.compile("cannot be approved: it is in progress"))
    assert said.get_by_role("paragraph").count() == 1 + len(rows) - submitted


def test_an_account_is_made_and_whoever_gets_it_chooses_a_password(sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="People").click()
    page.get_by_role("button", name="New account").click()
    page.get_by_label("Name as it is shown").fill("Wren Tallow")
    page.get_by_label("Name to sign in with").fill("wren")
    page.get_by_label("Password for the first time, which they change then").fill("short")
    page.get_by_role("button", name="Make the account").click()
    expect(page.get_by_role("alert")).to_contain_text("at least 10 characters")
    page.get_by_label("Password for the first time, which they change then").fill(
        "an-odd-grey-kettle"
    )
    page.get_by_role("button", name="Make the account").click()
    row = page.get_by_role("row", name=re.compile("^Wren Tallow"))
    expect(row).to_contain_text("never")
    page.get_by_role("button", name="Change the account of Wren Tallow").click()
    page.get_by_label("Form with another role").select_option("Loan out")
    page.get_by_label("Role in Loan out").select_option("nothing: does not see it")
    page.get_by_role("button", name="Save account").click()
    expect(row).to_contain_text("otherwise in one form")
    page.get_by_role("button", name="Sign out").click()
    page.get_by_label("Name").fill("wren")
    page.get_by_label("Password").fill("an-odd-grey-kettle")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Choose a password").wait_for()
    page.get_by_label("Current password").fill("an-odd-grey-kettle")
    page.get_by_label("New password", exact=True).fill("a-lamp-under-stairs")
    page.get_by_label("New password again").fill("a-lamp-under-stairs")
    page.get_by_role("button", name="Change password").click()
    page.get_by_role("heading", name="Desk").wait_for()
    page.get_by_role("link", name="Plant accession", exact=True).wait_for()
    expect(page.get_by_role("link", name="Loan out", exact=True)).to_have_count(0)
    page.get_by_role("link", name="Wren Tallow").click()
    page.get_by_text("this one").wait_for()
