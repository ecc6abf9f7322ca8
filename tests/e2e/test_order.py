"""What is lacking is ordered, arrives and is booked, with keys and clicks as a builder has them."""

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.e2e.test_night_ferry import wait


def test_from_the_watch_to_the_piece_in_its_drawer(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1")
    browser.find_element(By.TAG_NAME, "body").send_keys("o")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "plan-sum"))
    planned = len(browser.find_elements(By.CLASS_NAME, "plan-slip"))
    browser.find_element(By.CSS_SELECTOR, ".plan-head .button").click()
    wait(browser, lambda b: len(b.find_elements(By.CLASS_NAME, "order-open")) >= planned)
    browser.find_element(By.CSS_SELECTOR, "tr:has(.order-open) a").click()
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "supply-line"))
    browser.find_element(By.XPATH, "//button[.='It is sent to the supplier']").click()
    wait(browser, lambda b: "sent" in b.find_element(By.CSS_SELECTOR, ".head .order-state").text)
    place = browser.find_element(By.NAME, "place")
    place.send_keys("Drawer Z9" + Keys.ENTER)
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, ".supply-pieces a"))
    browser.find_element(By.CSS_SELECTOR, ".supply-pieces a").click()
    wait(browser, lambda b: "Drawer Z9" in b.find_element(By.ID, "pieces").text)
    browser.get(f"{address}/watches/1/money")
    before = browser.find_element(By.CLASS_NAME, "plan-sum").text
    browser.find_element(By.NAME, "time").send_keys("1:30" + Keys.ENTER)
    wait(browser, lambda b: b.find_element(By.CLASS_NAME, "plan-sum").text != before)
    assert (
        float(browser.find_element(By.CLASS_NAME, "plan-sum").text.split()[0])
        == float(before.split()[0]) + 45
    )
