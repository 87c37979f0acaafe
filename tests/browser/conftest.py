"""A browser on the real server with the real database and the demo."""

import re
import shutil
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Locator, Page, expect, sync_playwright

from tests.private_server import private_folder
from tests.server.copies import copies, once_served, running
from thistlequartz.demo.names import PASSWORD
from thistlequartz.launch.database import free_port

from .net import Net

ROOT = Path(__file__).resolve().parents[2]
CHROMIUM = "/usr/bin/chromium-headless-shell"
SWITCHES = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    # Most pages live too briefly for their scripts to be worth optimizing.
    "--js-flags=--no-opt --no-maglev",
]
SEEN_WITHIN = 90_000
"""Milliseconds, so that a slow machine is not taken for a fault."""
expect.set_options(timeout=SEEN_WITHIN)

HOMES = re.compile("^(Forms|Desk)$")
HOMES_OR_DOOR = re.compile("^(Forms|Desk|Sign in)$")

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


@pytest.fixture
def window(address: str, chromium: Browser) -> Iterator[Window]:
    """Open a browser window of one's own on the sign-in page, with a net under its pages."""
    windows, net = [], Net()

    def open_window(theme: str = "light", cookies: Sequence[Any] = ()) -> Page:
        window = chromium.new_context(
            viewport={"width": 1280, "height": 800}, color_scheme=theme, base_url=address
        )
        window.add_cookies(cookies)
        window.set_default_timeout(SEEN_WITHIN)
        windows.append(window)
        net.spread(window)
        page = window.new_page()
        page.goto("/")
        return page

    yield open_window
    faults = net.draw_in()
    for window in windows:
        window.close()
    assert faults == []


@pytest.fixture(scope="session")
def entered() -> dict[str, Any]:
    """By name, the cookies of somebody who has signed in before."""
    return {}


@pytest.fixture
def sign_in(window: Window, entered: dict[str, Any]) -> SignIn:
    """Be signed in under a name in a window of one's own."""

    def enter(name: str, theme: str = "light") -> Page:
        page = window(theme, entered.get(name, ()))
        page.get_by_role("heading", name=HOMES_OR_DOOR).wait_for()
        if page.get_by_role("heading", name="Sign in").count():
            give_name(page, name)
            page.get_by_role("heading", name=HOMES).wait_for()
            entered[name] = page.context.cookies()
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
