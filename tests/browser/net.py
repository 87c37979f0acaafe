"""A net under every page: no error, no failed answer, and at rest once nobody touches it."""

import contextlib

from playwright.sync_api import BrowserContext, ConsoleMessage, Error, Page, Response

REFUSED = "Failed to load resource"
"""What the console says of every answer that refuses, and of a server out of reach: both are told
on the screen."""
BLOCKED = "Blocked script execution in 'about:srcdoc'"
"""What the console says of WATCH itself in a sandboxed frame, where no script runs."""

WATCH = """
(() => {
  const seen = { at: performance.now(), underWay: 0, calls: {}, asked: new Set() };
  const note = (what) => {
    seen.at = performance.now();
    seen.calls[what] = (seen.calls[what] ?? 0) + 1;
  };
  for (const name of ["pushState", "replaceState"]) {
    const original = history[name].bind(history);
    history[name] = (...args) => { note(`history.${name}`); return original(...args); };
  }
  const ask = window.fetch.bind(window);
  window.fetch = async (...args) => {
    const asked = { at: args[0].url ?? String(args[0]) };
    seen.asked.add(asked);
    const response = await ask(...args).finally(() => seen.asked.delete(asked));
    note(`request ${new URL(response.url || location.href).pathname}`);
    const text = await response.clone().text().catch(() => "");
    if (/"state": ?"(waiting|running)"/.test(text)) seen.underWay = performance.now();
    return response;
  };
  new MutationObserver(() => note("render")).observe(document, {
    subtree: true, childList: true, attributes: true, characterData: true,
  });
  window.unanswered = () => [...seen.asked].map(({ at }) => at);
  window.restlessness = (quiet, most) => new Promise((resolve) => {
    const start = performance.now();
    seen.calls = {};
    const look = () => {
      const now = performance.now();
      if (now - Math.max(start, seen.at) >= quiet) resolve(null);
      else if (now - Math.max(start, seen.underWay) > most) resolve(seen.calls);
      else setTimeout(look, 50);
    };
    look();
  });
})();
"""

LINES = 80
"""Of what a page showed, when its test fails."""
QUIET, WITHIN = 400, 3000
"""Milliseconds without a call of the history, a request or a render, and how soon they must come.
What a job under way answers does not count: its page asks until it is done."""
AT_REST_NOW = f"restlessness({QUIET}, {WITHIN})"
"""Waits until the page is at rest; what it did meanwhile, where that does not come in time."""


class Net:
    """Gathers what goes wrong on the pages of one test."""

    def __init__(self) -> None:
        self.faults: list[str] = []
        self._pages: list[Page] = []

    def spread(self, window: BrowserContext) -> None:
        """Watch every page that is opened in a window, in which WATCH runs."""
        window.on("page", self._watch)

    def lift(self, window: BrowserContext) -> None:
        """Watch no more of them."""
        window.remove_listener("page", self._watch)

    def _watch(self, page: Page) -> None:
        self._pages.append(page)
        page.on("pageerror", lambda error: self._catch(page, f"error: {error}"))
        page.on("console", lambda message: self._hear(page, message))
        page.on("response", lambda response: self._answered(page, response))

    def _hear(self, page: Page, message: ConsoleMessage) -> None:
        if message.type == "error" and not message.text.startswith((REFUSED, BLOCKED)):
            self._catch(page, f"console: {message.text}")

    def _answered(self, page: Page, response: Response) -> None:
        if response.status >= 500:
            self._catch(page, f"{response.status} from {response.request.method} {response.url}")

    def _catch(self, page: Page, fault: str) -> None:
        self.faults.append(f"{page.url}: {fault}")

    def shows(self) -> str:
        """What stands on the pages now, and what they have asked and not been answered."""
        told = []
        for page in (one for one in self._pages if not one.is_closed()):
            told.append(page.url)
            with contextlib.suppress(Error):  # it may be what broke the page, too
                told.append(f"not answered: {page.evaluate('unanswered()')}")
                told += page.locator("body").aria_snapshot(timeout=5_000).splitlines()[:LINES]
        return "\n".join(told)

    def draw_in(self) -> list[str]:
        """What went wrong; waits until each page is at rest."""
        for page in self._pages:
            if page.is_closed():
                continue
            calls = page.evaluate(AT_REST_NOW)
            if calls is not None:
                self._catch(page, f"not at rest after {WITHIN} ms: {calls}")
        return self.faults
