"""Access for other systems: a token made, used, seen used, and revoked."""

import http.client
import json
import re
from urllib.parse import urlsplit

from playwright.sync_api import expect

from .accessible import violations
from .conftest import SignIn, control
from .ways import go_to, open_form


def called(address: str, token: str, path: str) -> tuple[int, object]:
    connection = http.client.HTTPConnection(urlsplit(address).netloc, timeout=30)
    connection.request("GET", f"/service/v1{path}", headers={"Authorization": f"Bearer {token}"})
    answer = connection.getresponse()
    return answer.status, json.loads(answer.read())


def test_a_token_is_made_shown_once_used_and_ended(address: str, sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Borrower", exact=True).click()
    go_to(page, "Access", by_key=True)
    page.get_by_role("button", name="API tokens").press("Enter")
    page.get_by_text("No API tokens yet.").wait_for()
    page.get_by_role("button", name="Create token…").press("Enter")
    form = page.get_by_role("form", name="New token")
    form.get_by_role("button", name="Create token").click()
    expect(form.get_by_role("alert")).to_contain_text("Say what it is for.")
    form.get_by_label("What it is for").fill("Lending desk")
    form.get_by_label("save records").check()
    form.get_by_label("Loan out").check()
    form.get_by_role("button", name="Create token").press("Enter")
    text = page.get_by_role("region", name="The new token").get_by_role("textbox").input_value()
    assert text.startswith("tq_")
    status, told = called(address, text, "/forms/borrower/records?limit=2")
    assert status == 200
    assert len(told["records"]) == 2  # type: ignore[index]
    page.get_by_role("button", name="Close").press("Enter")
    row = page.get_by_role("row", name="Lending desk")
    expect(row).to_contain_text("read, judge, save")
    expect(row).to_contain_text("Borrower, Loan out")
    page.reload()
    expect(row).not_to_contain_text("never")
    expect(page.get_by_text(text)).to_have_count(0)
    page.get_by_text("what it takes").first.click()
    page.get_by_text("values: an object, required").first.wait_for()
    page.get_by_role("button", name="End Lending desk").press("Enter")
    expect(row).to_contain_text("has ended")
    status, told = called(address, text, "/forms")
    assert (status, told["type"]) == (401, "urn:thistlequartz:problem:no-token")  # type: ignore[index]


def test_another_system_is_called_and_called_again(sign_in: SignIn) -> None:
    page = sign_in("steward")
    open_form(page, "Access", "Mineral accession")
    page.get_by_role("button", name="Webhooks").click()
    page.get_by_role("button", name="Add webhook…").press("Enter")
    form = page.get_by_role("form", name="New webhook")
    form.get_by_label("Who is called").fill("Catalogue")
    form.get_by_label("saved").check()
    form.get_by_label("Address").fill("http://192.0.2.1/")
    form.get_by_role("button", name="Add webhook").click()
    expect(form.get_by_role("alert")).to_contain_text("Calls do not go to http://192.0.2.1")
    form.get_by_label("Address").fill("")
    form.get_by_role("button", name="Add webhook").press("Enter")
    expect(page.get_by_label("The secret with which calls")).to_have_value(re.compile("^whsec_"))
    page.get_by_role("button", name="Close").press("Enter")
    clerk = sign_in("clerk")
    open_form(clerk, "Records", "Mineral accession")
    clerk.get_by_role("link", name="New record").click()
    clerk.get_by_label("Accession number").fill("QH-M-009876")
    control(clerk, "Save").click()
    clerk.get_by_role("heading", name=re.compile("Record [0-9]+")).wait_for()
    page.reload()
    call = page.get_by_role("listitem").filter(has_text="was saved, to Catalogue")
    call.get_by_text("answered 204").wait_for()
    page.get_by_text("what it has received").click()
    expect(page.get_by_text("signature fits, taken")).to_have_count(1)
    page.get_by_role("button", name="let it refuse the next two").click()
    page.get_by_text("It refuses the next 2 calls.").wait_for()
    call.get_by_role("button", name=re.compile("Call again")).press("Enter")
    call.get_by_text("It answered 503.").wait_for()
    call.get_by_text(re.compile("answered 503, again")).wait_for()
    assert violations(page) == []
    page.get_by_role("button", name="Call Catalogue no more").press("Enter")
    page.get_by_text("but not any more").wait_for()
