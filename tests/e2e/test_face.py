"""Face and brief in a real browser: dressed by arrow keys, looks edited, the client's sheet answered."""

from functools import partial
from pathlib import Path

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.e2e.test_night_ferry import version, wait


def worn(browser: Chrome, kind: str) -> str:
    """The name of the part that is worn, read in one go: the list is put in anew with every answer."""
    words = browser.execute_script(f"return document.getElementById('choose-{kind}').innerText")
    return str(words).splitlines()[-1]


def garments(browser: Chrome) -> object:
    return browser.execute_script("return document.getElementById('garments').outerHTML")


def press(browser: Chrome, *keys: str) -> None:
    for key in keys:
        before = garments(browser)
        browser.find_element(By.TAG_NAME, "body").send_keys(key)
        wait(browser, partial(changed, before=before))


def changed(browser: Chrome, before: object) -> bool:
    return garments(browser) != before


def test_a_watch_is_dressed_by_arrow_keys_alone_and_kept(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1")
    browser.find_element(By.TAG_NAME, "body").send_keys("?")
    wait(browser, lambda b: "try the next part" in b.find_element(By.ID, "keys").text)
    browser.find_element(By.CSS_SELECTOR, "#keys button").click()
    browser.find_element(By.TAG_NAME, "body").send_keys("v")
    wait(browser, lambda b: b.find_elements(By.ID, "garments"))
    assert worn(browser, "dial") == "Lamp-room white"
    press(browser, Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_DOWN, Keys.ARROW_LEFT)
    tried = worn(browser, "dial"), worn(browser, "hands")
    assert tried != ("Lamp-room white", "Lantern set")
    assert "nothing is stored" in browser.find_element(By.ID, "beside").text
    browser.back()
    wait(browser, lambda b: worn(b, "hands") == "Lantern set")
    browser.forward()
    wait(browser, lambda b: worn(b, "hands") == tried[1])
    browser.find_element(By.ID, "keep-worn").click()
    wait(browser, lambda b: version(b) == "2")
    assert "wear=" not in browser.current_url, "the address says what is shown"
    browser.refresh()
    assert (worn(browser, "dial"), worn(browser, "hands")) == tried
    browser.find_element(By.TAG_NAME, "body").send_keys("u")
    wait(browser, lambda b: worn(b, "dial") == "Lamp-room white")


def test_a_look_that_is_changed_is_seen_at_once_and_the_night_is_dark_in_both_themes(
    browser: Chrome, address: str
) -> None:
    browser.get(f"{address}/watches/3/face?part=dial")
    browser.find_element(By.TAG_NAME, "body").send_keys("e")
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "[data-editing]"))
    field = browser.find_element(By.ID, "ledger-dial-face-colour-value")
    field.send_keys(Keys.CONTROL + "a")
    field.send_keys("#12ab34", Keys.TAB)
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "#face path[fill='#12ab34']"))
    Select(browser.find_element(By.ID, "ledger-dial-face-finish-value")).select_by_visible_text("sunray")
    wait(browser, lambda b: version(b) == "3")
    top = browser.find_element(By.ID, "face").rect
    assert top["y"] < 200, "the face stays in view beside the fields"
    for theme in ("day", "night"):
        browser.execute_script("document.documentElement.dataset.theme = arguments[0]", theme)
        browser.get(f"{address}/watches/1/face?show=night")
        ground = browser.find_element(By.ID, "face").value_of_css_property("background-color")
        assert ground == "rgba(10, 11, 13, 1)"


def test_the_clients_sheet_is_answered_without_the_program(
    browser: Chrome, address: str, tmp_path: Path
) -> None:
    browser.get(f"{address}/watches/1/brief")
    link = browser.find_element(By.LINK_TEXT, "The client's sheet").get_attribute("href")
    browser.get(str(link))
    saved = tmp_path / "sheet.html"
    saved.write_text(browser.page_source, "utf-8")
    browser.get(saved.as_uri())
    browser.find_element(By.NAME, "yes-finishes").click()
    browser.find_element(By.NAME, "rather-straps").send_keys("the woven one only")
    browser.find_element(By.NAME, "words").send_keys("Thank you.\nSee you in March.")
    answer = str(browser.find_element(By.ID, "text").get_property("value"))
    assert answer.splitlines()[1:] == [
        "Finishes: agreed",
        "Strap or straps: rather the woven one only",
        "Words: Thank you. See you in March.",
    ]
    browser.get(f"{address}/watches/1/brief")
    browser.find_element(By.NAME, "text").send_keys(answer)
    browser.find_element(By.XPATH, "//button[.='Read it']").click()
    wait(browser, lambda b: b.find_elements(By.XPATH, "//button[.='Take it so']"))
    assert "the woven one only" in browser.find_element(By.CSS_SELECTOR, ".answer").text
    browser.find_element(By.XPATH, "//button[.='Take it so']").click()
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "brief-desk"))
    assert browser.find_elements(By.CSS_SELECTOR, ".brief-settled #wish-finishes")
    assert "the woven one only" in browser.find_element(By.ID, "wish-straps").text
