"""The end of a watch as its builder has it: noted, found again, put away, mended, handed out, learnt from."""

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from tests.e2e.test_night_ferry import wait


def words(browser: Chrome, css: str) -> str:
    return browser.find_element(By.CSS_SELECTOR, css).text


def test_a_watch_is_noted_put_away_mended_and_handed_out(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/4")
    browser.find_element(By.TAG_NAME, "body").send_keys("z")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "story-log"))
    browser.find_element(By.TAG_NAME, "body").send_keys("/")
    browser.switch_to.active_element.send_keys("leak" + Keys.ENTER)
    wait(browser, lambda b: "words=leak" in b.current_url)
    assert "Leak at 10.00" in words(browser, ".story-day")
    browser.find_element(By.LINK_TEXT, "Everything").click()
    wait(browser, lambda b: len(b.find_elements(By.CSS_SELECTOR, ".story-day li")) > 50)
    note = browser.find_element(By.CSS_SELECTOR, ".story-note textarea")
    note.send_keys("The bar came with the mail boat.")
    Select(browser.find_element(By.NAME, "about")).select_by_value("strap")
    browser.find_element(By.CSS_SELECTOR, ".story-note .button").click()
    wait(browser, lambda b: "mail boat" in words(b, ".story-day"))
    browser.find_element(By.LINK_TEXT, "Put away, out, and back").click()
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "left-piece"))
    browser.find_element(By.CSS_SELECTOR, ".left-piece [value=client]").click()
    wait(browser, lambda b: len(b.find_elements(By.CLASS_NAME, "left-piece")) == 1)
    changed = browser.find_element(By.XPATH, "//form[.//input[@value='changed']]")
    changed.find_element(By.NAME, "words").send_keys("New bars; back off for a look.")
    changed.find_element(By.CSS_SELECTOR, "[name=opened][value=back]").click()
    changed.find_element(By.TAG_NAME, "button").click()
    wait(browser, lambda b: "Still to prove before it goes" in words(b, ".away-out"))
    browser.find_element(By.CSS_SELECTOR, ".away-service .button").click()
    wait(browser, lambda b: words(b, ".away-where").startswith("sold"))
    browser.get(address)
    assert len(browser.find_elements(By.CLASS_NAME, "strip")) == 3
    browser.find_element(By.TAG_NAME, "body").send_keys("z")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "year-plank"))
    browser.find_element(By.LINK_TEXT, "Lessons").click()
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "lesson"))
    assert "held" not in words(browser, ".lesson .lesson-where")
    browser.find_element(By.CSS_SELECTOR, ".lesson summary").click()
    browser.find_element(By.CSS_SELECTOR, ".lesson [value=held]").click()
    wait(browser, lambda b: "held 1 time" in words(b, ".lesson .lesson-where"))
