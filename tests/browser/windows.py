"""Windows of the browser. Those of somebody who is signed in are used again, as people do: what they
have loaded is there the next time, and of what pages keep in them nothing is.
"""

from collections import defaultdict
from typing import Any, Literal

from playwright.sync_api import Browser, BrowserContext, Page

from .net import WATCH

SEEN_WITHIN = 90_000
"""Milliseconds, so that a slow machine is not taken for a fault."""
KEPT_BY_PAGES = "local_storage,indexeddb,cache_storage,service_workers"

Theme = Literal["light", "dark"]


class Windows:
    """Windows on one address, in one browser."""

    def __init__(self, browser: Browser, address: str) -> None:
        self._browser = browser
        self._address = address
        self._free: dict[tuple[str, Theme], list[BrowserContext]] = defaultdict(list)
        self.entered: dict[str, Any] = {}
        """By name, the cookies of somebody who has signed in before."""

    def take(self, name: str, theme: Theme) -> BrowserContext:
        """A window for somebody; without a name, one that nobody has used."""
        free = self._free[name, theme]
        window = free.pop() if free else self._new(theme)
        window.add_cookies(self.entered.get(name, []))
        return window

    def _new(self, theme: Theme) -> BrowserContext:
        window = self._browser.new_context(
            viewport={"width": 1280, "height": 800}, color_scheme=theme, base_url=self._address
        )
        window.set_default_timeout(SEEN_WITHIN)
        window.add_init_script(WATCH)
        return window

    def page_in(self, window: BrowserContext) -> Page:
        """A page that finds nothing of what the ones before it kept."""
        page = window.new_page()
        kept = {"origin": self._address.rstrip("/"), "storageTypes": KEPT_BY_PAGES}
        window.new_cdp_session(page).send("Storage.clearDataForOrigin", kept)
        return page

    def put_back(self, name: str, theme: Theme, window: BrowserContext) -> None:
        """Close its pages and forget who it was of; without a name, close it."""
        if not name:
            window.close()
            return
        for page in window.pages:
            page.close()
        window.clear_cookies()
        window.set_offline(False)
        self._free[name, theme].append(window)
