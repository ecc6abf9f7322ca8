"""Remedies and the Finder in a real browser: from a clash to what mends it, and to parts that go together."""

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.e2e.test_night_ferry import spoken, version, wait


def test_a_clash_is_mended_by_a_remedy_that_was_tried(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/2")
    browser.find_element(By.TAG_NAME, "body").send_keys("m")
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "li.remedy"))
    first = browser.find_element(By.CSS_SELECTOR, "li.remedy")
    assert "A spacer of 0.74" in first.text
    assert "NO CLASH LEFT" in first.text
    first.find_element(By.LINK_TEXT, "Look").click()
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "trying"))
    assert spoken(browser, "stem_height") == "Stem against tube: clear 0.00"
    browser.find_element(By.XPATH, "//button[.='Keep']").click()
    wait(browser, lambda b: version(b) == "2")
    browser.find_element(By.ID, "undo").click()
    wait(browser, lambda b: version(b) == "3")
    assert spoken(browser, "stem_height") == "Stem against tube: clash 0.74"


def test_a_watch_is_completed_while_one_looks_on(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/2")
    browser.find_element(By.TAG_NAME, "body").send_keys("f")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "finder-form"))
    for kind in ("dial", "crystal", "hands"):
        browser.find_element(By.CSS_SELECTOR, f"input[name=slots][value={kind}]").send_keys(Keys.SPACE)
    browser.find_element(By.CSS_SELECTOR, "select[name=spacer]").send_keys("up to 1.0")
    browser.find_element(By.XPATH, "//button[.='Find']").click()
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "#work[data-over]"))
    assert browser.find_elements(By.CSS_SELECTOR, ".found-table tbody tr")
    browser.find_element(By.LINK_TEXT, "Look").click()
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "trying"))
    assert "clash" not in spoken(browser, "stem_height")


def test_the_matrix_is_read_at_a_glance_and_filtered(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1/pairs?kinds=movement-case")
    everything = len(browser.find_elements(By.CSS_SELECTOR, ".pairs-table td .mark-svg"))
    browser.find_element(By.CSS_SELECTOR, "select[name=only]").send_keys("clash")
    wait(browser, lambda b: "only=clash" in b.current_url)
    clashes = browser.find_elements(By.CSS_SELECTOR, ".pairs-table td .mark-svg")
    assert 0 < len(clashes) < everything
