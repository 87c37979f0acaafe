"""Links: a form opened by its address, or inside another page, by somebody without an account."""

import re
import threading
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest
from playwright.sync_api import Frame, Page, expect

from .accessible import violations
from .conftest import SignIn, Window
from .ways import open_form

Place = Page | Frame


class _Page(BaseHTTPRequestHandler):
    """Another page, of another origin, which shows what it is told to inside itself."""

    def do_GET(self) -> None:
        self.send_response(200)
        self.send_header("Content-Type", "text/html")
        self.end_headers()
        if self.path == "/":
            self.wfile.write(self.server.inside.encode())  # type: ignore[attr-defined]

    def log_message(self, *_: object) -> None:
        pass


@pytest.fixture
def other_page() -> Iterator[ThreadingHTTPServer]:
    with ThreadingHTTPServer(("127.0.0.1", 0), _Page) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield server
        server.shutdown()


def test_a_form_is_filled_in_by_a_link_and_inside_another_page(
    address: str, sign_in: SignIn, window: Window, other_page: ThreadingHTTPServer
) -> None:
    outside = f"http://127.0.0.1:{other_page.server_port}"
    steward = sign_in("steward")
    open_form(steward, "Access", "Borrower")
    steward.get_by_role("button", name="Create link…").press("Enter")
    making = steward.get_by_role("form", name="New link")
    making.get_by_role("button", name="Create link").click()
    expect(making.get_by_role("alert")).to_contain_text("Say what it is for.")
    making.get_by_label("What it is for").fill("Open day")
    making.get_by_label("Introduction above the form").fill("Who are you?")
    making.get_by_label("Records at most").fill("2")
    making.get_by_label("Pages that may show it inside").fill(outside)
    making.get_by_label("Text of ending 1").fill("Thank you, {name}.")
    making.get_by_role("button", name="another under a condition").click()
    making.get_by_role("button", name="The condition as a formula").press("Enter")
    making.get_by_label("Condition as a formula").fill('country = "PT"')
    making.get_by_label("Text of ending 1").fill("Obrigado, {name}.")
    assert violations(steward) == []
    making.get_by_role("button", name="Create link").press("Enter")
    row = steward.get_by_role("listitem").filter(has_text="Open day").first
    expect(row).to_contain_text("When Country is Portugal: “Obrigado, {name}.”")
    link = row.get_by_role("link", name=re.compile("^http")).get_attribute("href") or ""

    visitor = window()
    # Once the page for those with an account has come to rest, what it left behind is taken away.
    visitor.get_by_role("heading", name="Sign in").wait_for()
    visitor.wait_for_load_state("networkidle")
    visitor.context.clear_cookies()
    visitor.goto(link)
    visitor.get_by_role("heading", name="Borrower", level=1).wait_for()
    visitor.get_by_text("Who are you?").wait_for()
    visitor.get_by_label("Name of the house").fill("House of <Foxes>")
    visitor.get_by_role("button", name=re.compile("^Submit")).click()
    visitor.get_by_text("The record was not submitted.").wait_for()
    assert violations(visitor) == []
    visitor.reload()
    expect(visitor.get_by_label("Name of the house")).to_have_value("House of <Foxes>")
    fill_in(visitor, "Portugal")
    visitor.keyboard.press("Control+Enter")
    expect(visitor.get_by_role("heading", name="Sent")).to_be_focused()
    expect(visitor.get_by_role("main")).to_contain_text("Obrigado, House of <Foxes>.")
    assert visitor.context.cookies() == []
    visitor.get_by_role("button", name="Fill in another").click()
    expect(visitor.get_by_label("Name of the house")).to_have_value("")

    inside = link.replace("/fill/", "/embed/")
    other_page.inside = f'<iframe src="{inside}" title="Form" width="900" height="700">'  # type: ignore[attr-defined]
    visitor.goto(outside)
    frame = visitor.frame_locator("iframe")
    frame.get_by_label("Name of the house").fill("Second House")
    framed = next(one for one in visitor.frames if "/embed/" in one.url)
    fill_in(framed, "Austria")
    frame.get_by_role("button", name=re.compile("^Submit")).click()
    frame.get_by_text("Thank you, Second House.").wait_for()
    visitor.goto(link)
    visitor.get_by_text("As many answers as were wanted have come in.").wait_for()
    steward.reload()
    expect(row).to_contain_text("As many answers as were wanted have come in.")
    steward.get_by_role("link", name="Records", exact=True).click()
    steward.get_by_text("House of <Foxes>").first.wait_for()


def fill_in(place: Place, country: str) -> None:
    place.get_by_label("Country").select_option(country)
    place.get_by_label("Registration number").fill(f"REG-{country}")
    place.get_by_label("Facilities report seen on").first.fill("1 June 2026")
