"""Two pairs of hands that do the same on a page: one with the mouse, one with the keyboard only.

Both find everything by role and label, as a person does.
"""

import re

from playwright.sync_api import Locator, Page, expect

MOST_TABS = 400


class Mouse:
    """Clicks."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def press(self, name: str | re.Pattern[str], role: str = "button", within: str = "") -> None:
        self.reach(self._place(within).get_by_role(role, name=name, exact=True).first, click=True)

    def write(self, label: str, text: str, within: str = "") -> None:
        box = self._place(within).get_by_label(label, exact=True)
        self.reach(box, click=True)
        self.page.keyboard.press("Control+a")
        self.page.keyboard.insert_text(text)

    def choose(self, label: str, option: str, within: str = "") -> None:
        part = self._place(within).get_by_role("combobox", name=label, exact=True)
        if part.inner_text() == option:
            return
        self.press(label, "combobox", within)
        self._take(self.page.get_by_role("option", name=option, exact=True))
        expect(part).to_have_text(option)

    def pick(self, label: str, *options: str, within: str = "") -> None:
        """Tick entries of a list that opens, and close it again."""
        self.press(label, "button", within)
        for option in options:
            self._take(self.page.get_by_role("menuitemcheckbox", name=option, exact=True))
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("menu")).to_have_count(0)

    def tick(self, label: str) -> None:
        self.reach(self.page.get_by_label(label, exact=True), click=True)

    def reach(self, what: Locator, *, click: bool = False) -> None:
        expect(what).to_be_visible()
        if click:
            what.click()

    def _take(self, what: Locator) -> None:
        what.click()

    def _place(self, within: str) -> Page | Locator:
        return self.page.get_by_role("region", name=within) if within else self.page


class Keyboard(Mouse):
    """Presses keys, and moves the focus by the tabulator alone."""

    def reach(self, what: Locator, *, click: bool = False) -> None:
        expect(what).to_be_visible()
        aim = what.element_handle()
        assert aim is not None
        forth = self.page.evaluate(
            "aim => !document.activeElement || document.activeElement === document.body ||"
            " !!(document.activeElement.compareDocumentPosition(aim) & 4)",
            aim,
        )
        for _ in range(MOST_TABS):
            # An element that holds the focus inside, as an editor does, has been reached too.
            if self.page.evaluate("aim => aim.contains(document.activeElement)", aim):
                break
            self.page.keyboard.press("Tab" if forth else "Shift+Tab")
        else:
            raise AssertionError(f"the keyboard never reached {what}")
        if click and self._is_control(what):
            self.page.keyboard.press("Space" if self._is_box(what) else "Enter")

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
