"""A browser on the real server with the real database and the demo."""

import re
import shutil
from collections.abc import Callable, Generator, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Locator, Page, expect, sync_playwright

from tests.private_server import private_folder
from tests.server.copies import copies, once_served, running
from thistlequartz.demo.names import PASSWORD
from thistlequartz.launch.database import free_port

from .net import Net
from .windows import SEEN_WITHIN, Theme, Windows

ROOT = Path(__file__).resolve().parents[2]
CHROMIUM = "/usr/bin/chromium-headless-shell"
SWITCHES = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    # Most pages live too briefly for their scripts to be worth optimizing.
    "--js-flags=--no-opt --no-maglev",
]
expect.set_options(timeout=SEEN_WITHIN)

HOMES = re.compile("^(Forms|Desk)$")
HOMES_OR_SIGN_IN = re.compile("^(Forms|Desk|Sign in)$")

SignIn = Callable[..., Page]
Window = Callable[..., Page]


@pytest.fixture(scope="session")
def address() -> Iterator[str]:
    """The address of a server started as ./start starts it, in a folder of its own."""
    with once_served() as served, private_folder() as folder, copies() as begin:
        shutil.copytree(served, folder, dirs_exist_ok=True)
        begin(folder, "--port", str(free_port()))
        yield running(folder)["address"]


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=SWITCHES)
        yield browser
        browser.close()


@pytest.fixture(scope="session")
def kept(address: str, chromium: Browser) -> Windows:
    """The windows that somebody was signed in at before."""
    return Windows(chromium, address)


@pytest.fixture
def net() -> Net:
    """What is spread under the pages of a test."""
    return Net()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(
    item: pytest.Item, call: pytest.CallInfo[None]
) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    """Of a test that fails, tell what its pages showed."""
    report = yield
    net = getattr(item, "funcargs", {}).get("net")
    if net and call.when == "call" and report.failed:
        report.sections.append(("What the pages showed", net.shows()))
    return report


@pytest.fixture
def window(kept: Windows, net: Net) -> Iterator[Window]:
    """Open a browser window of one's own on the sign-in page, with a net under its pages; of
    somebody who was signed in before, at the page that comes after that.
    """
    opened = []

    def open_window(theme: Theme = "light", name: str = "") -> Page:
        window = kept.take(name, theme)
        opened.append((name, theme, window))
        net.spread(window)
        page = kept.page_in(window)
        page.goto("/")
        return page

    yield open_window
    faults = net.draw_in()
    for name, theme, window in opened:
        net.lift(window)
        kept.put_back(name, theme, window)
    assert faults == []


@pytest.fixture
def sign_in(window: Window, kept: Windows) -> SignIn:
    """Be signed in under a name in a window of one's own."""

    def enter(name: str, theme: Theme = "light") -> Page:
        page = window(theme, name)
        page.get_by_role("heading", name=HOMES_OR_SIGN_IN).wait_for()
        if page.get_by_role("heading", name="Sign in").count():
            give_name(page, name)
            page.get_by_role("heading", name=HOMES).wait_for()
            kept.entered[name] = page.context.cookies()
        return page

    return enter


def give_name(page: Page, name: str) -> None:
    """Sign in on the page that asks who one is."""
    page.get_by_role("heading", name="Sign in").wait_for()
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()


def control(page: Page, name: str) -> Locator:
    """Save or Submit, as they stand ahead of a form; a long form has them at its end, too."""
    return page.get_by_role("button", name=re.compile(f"^{name}")).first
