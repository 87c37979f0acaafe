"""Two pairs of hands that do the same on a page: one with the mouse, one with the keyboard only.

Both find everything by role and label, as a person does.
"""

import re

from playwright.sync_api import Locator, Page, expect

MOST_TABS = 400


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
        expect(what).to_be_visible()
        if click:
            what.click()

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
        expect(what).to_be_visible()
        forth = what.evaluate(
            "aim => !document.activeElement || document.activeElement === document.body ||"
            " !!(document.activeElement.compareDocumentPosition(aim) & 4)"
        )
        aim = what.element_handle()
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
        if click and self._is_control(what):
            self.page.keyboard.press("Space" if self._is_box(what) else "Enter")

    def pick(self, label: str, *options: str, within: str = "") -> None:
        super().pick(label, *options, within=within)
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_role("menu")).to_have_count(0)

    def _is_control(self, what: Locator) -> bool:
        return bool(
            what.evaluate(
                "one => one.matches('button, a, [role=combobox], [type=checkbox], [type=radio]')"
            )
        )

    def _is_box(self, what: Locator) -> bool:
        return bool(what.evaluate("one => one.matches('[type=checkbox], [type=radio]')"))

    def _take(self, what: Locator) -> None:
        """Move to an entry of an open list by the arrow keys, and take it."""
        expect(what).to_be_visible()
        lit = self.page.locator("[data-highlighted]")
        for _ in range(MOST_TABS):
            if what.get_attribute("data-highlighted") is not None:
                self.page.keyboard.press("Enter")
                return
            if lit.count() == 0:
                self.page.keyboard.press("ArrowDown")
                expect(lit).to_have_count(1)
                continue
            before, aim = lit.inner_text(), what.element_handle()
            below = lit.evaluate("(one, aim) => !!(one.compareDocumentPosition(aim) & 4)", aim)
            self.page.keyboard.press("ArrowDown" if below else "ArrowUp")
            expect(lit).not_to_have_text(before)
        raise AssertionError(f"the arrow keys never reached {what}")
