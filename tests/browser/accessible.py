"""Whether a page is accessible, as far as axe-core can tell."""

import json

from playwright.sync_api import Page

from .conftest import ROOT

AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
EVERYTHING = ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]
COLOURS = ["color-contrast", "link-in-text-block"]
"""What a theme can change."""
SHOW = "theme => { document.documentElement.dataset.theme = theme }"


def violations(page: Page) -> list[str]:
    """WCAG 2.2 A and AA, as far as axe-core can tell: all in the light, the colours in the dark."""
    page.evaluate("source => window.axe ?? (0, eval)(source)", AXE.read_text())
    found = []
    for theme, rules in (("light", EVERYTHING), ("dark", COLOURS)):
        page.evaluate(SHOW, theme)
        found += page.evaluate(
            "only => axe.run(document, {runOnly: only, resultTypes: ['violations'],"
            " preload: false, selectors: false}).then(found => found.violations)",
            rules,
        )
    return [
        f"{one['id']}: {json.dumps([node['html'][:120] for node in one['nodes'][:3]])}"
        for one in found
    ]
