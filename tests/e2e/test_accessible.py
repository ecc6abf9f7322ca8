"""No page has a serious fault of accessibility, by day or by night, everything unfolded."""

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


@pytest.mark.parametrize("theme", ["day", "night"])
def test_no_page_has_a_serious_accessibility_fault(browser: Chrome, address: str, theme: str) -> None:
    # Night differs from day in its colours only: there the rule about them suffices.
    tags = {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]}
    rules = tags if theme == "day" else {"type": "rule", "values": ["color-contrast"]}
    browser.get(address)
    browser.execute_script("localStorage.setItem('theme', arguments[0])", theme)
    for page in (address_of for addresses in PAGES.values() for address_of in addresses):
        visit(browser, address, page)
        assert browser.execute_script("return document.documentElement.dataset.theme") == theme
        browser.execute_script("for (const part of document.querySelectorAll('details')) part.open = true")
        browser.execute_script(AXE.read_text("utf-8"))
        run = f"const done = arguments[1]; axe.run({SEEN}, {{runOnly: arguments[0]}}).then(done)"
        found = browser.execute_async_script(run, rules)
        faults = [
            (v["id"], v["nodes"][0]["html"][:160], len(v["nodes"]))
            for v in found["violations"]
            if v["impact"] in {"serious", "critical"}
        ]
        assert faults == [], page
    browser.execute_script("localStorage.clear()")
