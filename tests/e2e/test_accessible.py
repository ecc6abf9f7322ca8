"""No page has a serious fault of accessibility, by day or by night, everything unfolded."""

from collections.abc import Mapping
from pathlib import Path

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By

from tests.e2e.pages import FOUND, PAGES
from tests.e2e.test_night_ferry import wait

AXE = Path(__file__).parents[2] / "node_modules" / "axe-core" / "axe.min.js"
SEEN = "{exclude: ['g.face']}"
"""A face is a picture: hundreds of marks in a part's own colours, named as a whole by what is around it."""


def visit(browser: Chrome, address: str, page: str) -> None:
    """Open a page; a search is begun by its form, never by an address."""
    if page != FOUND:
        browser.get(address + page)
        return
    browser.get(f"{address}/watches/2/finder?slots=strap&unmeasured=true")
    browser.find_element(By.XPATH, "//button[.='Find']").click()
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "#work[data-over]"))


NIGHT = """
document.documentElement.dataset.theme = "night";
return getComputedStyle(document.documentElement).colorScheme;
"""


def faults(browser: Chrome, rules: Mapping[str, object]) -> list[tuple[object, ...]]:
    run = f"const done = arguments[1]; axe.run({SEEN}, {{runOnly: arguments[0]}}).then(done)"
    found = browser.execute_async_script(run, rules)
    return [
        (v["id"], v["nodes"][0]["html"][:160], len(v["nodes"]))
        for v in found["violations"]
        if v["impact"] in {"serious", "critical"}
    ]


HALF = 4
"""Parts of the pages that this file looks at; as many others are in the next."""


@pytest.mark.parametrize("part", range(HALF))
def test_no_page_has_a_serious_accessibility_fault(browser: Chrome, looked_at: str, part: int) -> None:
    look_at(browser, looked_at, part)


def look_at(browser: Chrome, address: str, part: int) -> None:
    """One part of all pages, by day and by night."""
    # Night differs from day in its colours only: there the rule about them suffices.
    tags = {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]}
    colours = {"type": "rule", "values": ["color-contrast"]}
    axe, pages = AXE.read_text("utf-8"), [page for addresses in PAGES.values() for page in addresses]
    for page in pages[part :: 2 * HALF]:
        visit(browser, address, page)
        browser.execute_script("for (const part of document.querySelectorAll('details')) part.open = true")
        browser.execute_script(axe)
        assert faults(browser, tags) == [], page
        assert browser.execute_script(NIGHT) == "dark"
        assert faults(browser, colours) == [], (page, "night")
