"""House rules in a real browser: saved as typed, and what that turns is seen at once."""

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.e2e.test_night_ferry import wait


def text(browser: Chrome, selector: str) -> str:
    found = browser.find_elements(By.CSS_SELECTOR, selector)
    return " ".join(found[0].text.split()).lower() if found else ""


def test_a_rule_is_saved_as_typed_and_tells_what_it_turns(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/rules?family=movement")
    assert "clash" not in text(browser, "#rule-stem_height .turned")
    for end, figure in (("low", "-1"), ("high", "1")):
        field = browser.find_element(By.ID, f"stem_height-{end}")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(figure, Keys.TAB)
        wait(browser, lambda b: text(b, "#rule-stem_height .told").startswith("own, "))
    wait(
        browser, lambda b: "night ferry, stem against tube: clash → " in text(b, "#rule-stem_height .turned")
    )
    assert text(browser, "#chapters a[aria-current] .tally") == "1"
    browser.get(f"{address}/rules?family=movement")
    assert browser.find_element(By.ID, "stem_height-high").get_attribute("value") == "1.00"
    browser.find_element(By.CSS_SELECTOR, "#rule-stem_height button[name=reset]").click()
    wait(browser, lambda b: not text(b, "#rule-stem_height .turned"))
    assert text(browser, "#chapters a[aria-current] .tally") == ""


def test_what_is_no_figure_is_told_beside_its_field(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/rules?family=dial")
    field = browser.find_element(By.ID, "dial_cover-low")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("wide", Keys.TAB)
    wait(browser, lambda b: "expected a number" in text(b, "#rule-dial_cover .error"))
    assert "0 differ" in text(browser, ".sets")
