"""From an empty workshop to a first report, and a measuring round by the caliper's button alone."""

import re
import subprocess
import sys
from pathlib import Path

from selenium.common.exceptions import (
    NoSuchElementException,
    StaleElementReferenceException,
    TimeoutException,
    WebDriverException,
)
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.wait import WebDriverWait

from tests.e2e.conftest import LONGEST_WAIT_S
from tests.nursery import serve

DIAL = """Redshank dial – sunray green
Size: 28.5mm (1.122 in)
Thickness: 0.4 mm
Centre hole: 1.95mm
1,830 sold | -15% this week
$22.50"""
MOST_INTERACTIONS = 10


def patient(browser: Chrome) -> WebDriverWait[Chrome]:
    """Waits also while the page itself is exchanged: what was found on the old one is asked for again."""
    gone = (NoSuchElementException, StaleElementReferenceException)
    return WebDriverWait(browser, LONGEST_WAIT_S, ignored_exceptions=gone)


def clicked(browser: Chrome, css: str) -> bool:
    browser.find_element(By.CSS_SELECTOR, css).click()
    return True


class Hand:
    """A builder at the page: every click, every paste and every figure typed with Enter is counted."""

    def __init__(self, browser: Chrome) -> None:
        self.browser, self.count = browser, 0

    def click(self, css: str) -> None:
        self.count += 1
        # A click on what was exchanged did not happen: it is made again, on what stands there now.
        patient(self.browser).until(lambda b: clicked(b, css))

    def paste(self, css: str, text: str) -> None:
        self.count += 1
        field = self.wait(css)
        self.browser.execute_script("arguments[0].value = arguments[1]", field, text)

    def figure(self, path: str, value: str) -> None:
        self.count += 1
        field = self.wait(f"#tray-{path.replace('.', '-')}-value")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(value, Keys.ENTER)

    def wait(self, css: str) -> WebElement:
        return patient(self.browser).until(lambda b: b.find_element(By.CSS_SELECTOR, css))

    def until(self, words: str) -> None:
        patient(self.browser).until(lambda b: words in b.find_element(By.TAG_NAME, "body").text)


def test_a_first_report_in_ten_interactions(browser: Chrome, own: str) -> None:
    browser.get(own)
    hand = Hand(browser)
    hand.click("label.start:has(input[value='family:diver-40'])")
    hand.paste("textarea[name=listing]", DIAL)
    hand.click("#start .button")
    hand.click(".kit-buttons .button")
    hand.wait(".next-drawing svg")
    before = doubt(browser)
    assert len(browser.find_elements(By.CSS_SELECTOR, ".next-after li")) >= 5
    hand.click("h1.watch-name a")
    hand.until("Dial in its bore")
    assert browser.find_element(By.CSS_SELECTOR, "#plate .body.assumed")
    hand.click("#rail-stem_height")
    hand.until("Stem against tube")
    hand.figure("case.seat_to_tube", "2.62")
    hand.until("Saved, version 3")
    hand.click("#rail-dial_bore_clearance")
    hand.figure("case.dial_bore", "28.62")
    hand.until("Saved, version 4")
    hand.click("a[href$='/next']")
    hand.wait(".next-drawing svg")
    assert doubt(browser) < before
    assert hand.count <= MOST_INTERACTIONS


def doubt(browser: Chrome) -> float:
    """How likely it is that a verdict would change, as the page Next says it."""
    return float(browser.find_element(By.CSS_SELECTOR, ".next-doubt b").text.removeprefix("Doubt "))


def test_thirty_dimensions_are_measured_by_the_calipers_button_alone_and_a_kill_loses_none(
    browser: Chrome, tmp_path: Path
) -> None:
    database = tmp_path / "round.sqlite3"
    process, address = serve(database, "serve")
    try:
        browser.get(address)
        Hand(browser).click("#start .button")
        Hand(browser).until("Dial in its bore")
        browser.get(f"{address}/round/watch/1")
        Hand(browser).click("main .button")
        labels = [measured(browser, address) for _ in range(15)]
        browser.get("about:blank")  # a page that listens would tell the log that its program went away
        process.kill()
        process.wait(10)
        process, address = serve(database, "serve")
        browser.get(f"{address}/round/watch/1")
        labels += [measured(browser, address) for _ in range(15)]
        assert len(set(labels)) == len(labels) == 30
        browser.get(f"{address}/round/watch/1")
        assert len(browser.find_elements(By.CSS_SELECTOR, ".round-line .done")) == 30
        browser.get("about:blank")
    finally:
        process.kill()
        process.wait(10)


def measured(browser: Chrome, address: str) -> str:
    """Press the caliper's button once; what was measured. Nobody touches the page.

    What only a worksheet leads to asks for several readings, so that it is left out here.
    """
    while browser.find_elements(By.CSS_SELECTOR, ".round-side .asked"):
        label = browser.find_element(By.CSS_SELECTOR, ".round h1").text
        browser.find_element(By.CSS_SELECTOR, "form[action$='/skipped'] button").click()
        assert gone_on(browser, label)
    label = Hand(browser).wait(".round h1").text
    size = re.search(r"now (\d+\.\d+)", browser.find_element(By.CSS_SELECTOR, ".round-side").text)
    listens = "return Boolean(Cable.field && Cable.source?.readyState === 1)"
    patient(browser).until(lambda b: b.execute_script(listens))
    press(address, f"{min(float(size[1]), 140.0):g}" if size else "1.00")
    assert gone_on(browser, label), f"the round stays at {label}"
    return label


def press(address: str, size: str) -> None:
    command = [sys.executable, "-m", "marquetry.cli", "caliper", size, "--to", address, "--seed", "5"]
    subprocess.run(command, check=True, capture_output=True, timeout=30)


def gone_on(browser: Chrome, label: str) -> bool:
    def elsewhere(found: Chrome) -> bool:
        headings = found.find_elements(By.CSS_SELECTOR, ".round h1")
        return bool(headings) and headings[0].text != label

    try:
        WebDriverWait(browser, LONGEST_WAIT_S, ignored_exceptions=(WebDriverException,)).until(elsewhere)
    except TimeoutException:  # selenium's timeout: the page waits for more
        return False
    return True
