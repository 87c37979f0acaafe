"""The door for other systems: a token made, used, seen used, and ended."""

import http.client
import json
from urllib.parse import urlsplit

from playwright.sync_api import expect

from .conftest import SignIn
from .ways import go_to


def called(address: str, token: str, path: str) -> tuple[int, object]:
    connection = http.client.HTTPConnection(urlsplit(address).netloc, timeout=30)
    connection.request("GET", f"/service/v1{path}", headers={"Authorization": f"Bearer {token}"})
    answer = connection.getresponse()
    return answer.status, json.loads(answer.read())


def test_a_token_is_made_shown_once_used_and_ended(address: str, sign_in: SignIn) -> None:
    page = sign_in("steward")
    page.get_by_role("link", name="Borrower", exact=True).click()
    go_to(page, "Doors", by_key=True)
    expect(page.get_by_text("No system may come in yet.")).to_be_visible()
    page.get_by_role("button", name="Make a token…").press("Enter")
    form = page.get_by_role("form", name="New token")
    form.get_by_role("button", name="Make it").click()
    expect(form.get_by_role("alert")).to_contain_text("Say what it is for.")
    form.get_by_label("What it is for").fill("Lending desk")
    form.get_by_label("save records").check()
    form.get_by_label("Loan out").check()
    form.get_by_role("button", name="Make it").press("Enter")
    text = page.get_by_role("region", name="The new token").get_by_role("textbox").input_value()
    assert text.startswith("tq_")
    status, told = called(address, text, "/forms/borrower/records?limit=2")
    assert status == 200
    assert len(told["records"]) == 2  # type: ignore[index]
    page.get_by_role("button", name="I have it").press("Enter")
    row = page.get_by_role("row", name="Lending desk")
    expect(row).to_contain_text("read, judge, save")
    expect(row).to_contain_text("Borrower, Loan out")
    page.reload()
    expect(row).not_to_contain_text("never")
    expect(page.get_by_text(text)).to_have_count(0)
    page.get_by_text("what it takes").first.click()
    expect(page.get_by_text("values: an object, needed").first).to_be_visible()
    page.get_by_role("button", name="End Lending desk").press("Enter")
    expect(row).to_contain_text("has ended")
    status, told = called(address, text, "/forms")
    assert (status, told["type"]) == (401, "urn:thistlequartz:problem:no-token")  # type: ignore[index]
