"""Two pairs of hands that do the same on a page: one with the mouse, one with the keyboard only.

Both find everything by role and label, as a person does.
"""

import re

from playwright.sync_api import Locator, Page, expect

MOST_TABS = 400
PRESSED_BY = """one => one.matches('[type=checkbox], [type=radio]') ? 'Space'
  : one.matches('button, a, [role=combobox]') ? 'Enter' : null"""
LEADS_TO = """aim => {
  const lit = document.querySelector('[data-highlighted]');
  if (lit === aim) return ['Enter', null];
  const above = lit && lit.compareDocumentPosition(aim) & Node.DOCUMENT_POSITION_PRECEDING;
  return [above ? 'ArrowUp' : 'ArrowDown', lit && lit.innerText];
}"""
"""The key that leads from the entry that is lit, if any is, to another, and what the lit one says."""


class Mouse:
    """Clicks, and counts what it does: each click, and each text that is written."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.acts = 0

    def press(self, name: str | re.Pattern[str], role: str = "button", within: str = "") -> None:
        self.acts += 1
        self.reach(self._place(within).get_by_role(role, name=name, exact=True).first, click=True)

    def write(self, label: str, text: str, within: str = "") -> None:
        self.acts += 1
        box = self._place(within).get_by_label(label, exact=True)
        self.reach(box, click=True)
        self.page.keyboard.press("Control+a")
        self.page.keyboard.insert_text(text)

    def choose(self, label: str, option: str, within: str = "", shows: str = "") -> None:
        """Take an option of a list, which then shows it, or the words given."""
        part = self._place(within).get_by_role("combobox", name=label, exact=True)
        if part.inner_text() in (option, shows):
            return
        self.press(label, "combobox", within)
        self.acts += 1
        self._take(self.page.get_by_role("option", name=option, exact=True))
        expect(part).to_have_text(shows or option)

    def pick(self, label: str, *options: str, within: str = "") -> None:
        """Tick entries of a list that opens; what is done next closes it."""
        self.press(label, "button", within)
        for option in options:
            self.acts += 1
            self._take(self.page.get_by_role("menuitemcheckbox", name=option, exact=True))

    def tick(self, label: str) -> None:
        self.acts += 1
        self.reach(self.page.get_by_label(label, exact=True), click=True)

    def answer(self, group: str, words: str) -> None:
        """One of the answers that stand side by side."""
        self.acts += 1
        radios = self.page.get_by_role("radiogroup", name=group)
        self._answer(radios, radios.get_by_label(words, exact=True))

    def reach(self, what: Locator, *, click: bool = False) -> None:
        if click:
            what.click()
        else:
            what.wait_for()

    def _answer(self, radios: Locator, wanted: Locator) -> None:
        wanted.check()

    def _take(self, what: Locator) -> None:
        what.click()

    def _place(self, within: str) -> Page | Locator:
        return self.page.get_by_role("region", name=within) if within else self.page


class Keyboard(Mouse):
    """Presses keys, and moves the focus by the tabulator alone; no act may lose the focus."""

    def press(self, name: str | re.Pattern[str], role: str = "button", within: str = "") -> None:
        super().press(name, role, within)
        self._keep_focus()

    def write(self, label: str, text: str, within: str = "") -> None:
        super().write(label, text, within)
        self._keep_focus()

    def choose(self, label: str, option: str, within: str = "", shows: str = "") -> None:
        super().choose(label, option, within, shows)
        self._keep_focus()

    def tick(self, label: str) -> None:
        super().tick(label)
        self._keep_focus()

    def _answer(self, radios: Locator, wanted: Locator) -> None:
        self.reach(radios)
        for _ in range(radios.get_by_role("radio").count()):
            if not wanted.is_checked():
                self.page.keyboard.press("ArrowRight")
        expect(wanted).to_be_checked()
        self._keep_focus()

    def _keep_focus(self) -> None:
        expect(self.page.locator(":focus")).not_to_have_count(0)

    def reach(self, what: Locator, *, click: bool = False) -> None:
        what.wait_for()
        aim = what.element_handle()
        forth = aim.evaluate(
            "aim => !document.activeElement || document.activeElement === document.body ||"
            " !!(document.activeElement.compareDocumentPosition(aim) & 4)"
        )
        for _ in range(MOST_TABS):
            # An element that holds the focus inside, as an editor does, has been reached too.
            reached = aim.evaluate(
                "aim => aim.isConnected ? aim.contains(document.activeElement) : null"
            )
            if reached:
                break
            if reached is None:
                aim = what.element_handle()
                continue
            self.page.keyboard.press("Tab" if forth else "Shift+Tab")
        else:
            raise AssertionError(f"the keyboard never reached {what}")
        key = aim.evaluate(PRESSED_BY) if click else None
        if key:
            self.page.keyboard.press(key)

    def pick(self, label: str, *options: str, within: str = "") -> None:
        super().pick(label, *options, within=within)
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_role("menu")).to_have_count(0)

    def _take(self, what: Locator) -> None:
        """Move to an entry of an open list by the arrow keys, and take it."""
        lit = self.page.locator("[data-highlighted]")
        for _ in range(MOST_TABS):
            key, before = what.evaluate(LEADS_TO)
            self.page.keyboard.press(key)
            if key == "Enter":
                return
            if before is None:
                expect(lit).to_have_count(1)
            else:
                expect(lit).not_to_have_text(before)
        raise AssertionError(f"the arrow keys never reached {what}")
