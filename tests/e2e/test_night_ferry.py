"""The main journeys in a real browser, with nothing in its log at the end of any."""

import re
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver import Chrome
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.wait import WebDriverWait

from tests.conftest import copy_of
from tests.e2e.conftest import LONGEST_WAIT_S
from tests.nursery import serve


def wait(browser: Chrome, until: Callable[[Chrome], object]) -> None:
    # A part of the page may be exchanged between finding and asking it: then it is asked again.
    WebDriverWait(browser, LONGEST_WAIT_S, ignored_exceptions=[StaleElementReferenceException]).until(until)


def settled(browser: Chrome) -> None:
    """Wait until nothing is being computed or saved, so that no part of the page will be exchanged."""
    wait(browser, lambda b: not b.find_elements(By.CSS_SELECTOR, "#status.saving"))


def version(browser: Chrome) -> str:
    return str(browser.find_element(By.ID, "status").get_attribute("data-version"))


def tray(browser: Chrome) -> str:
    return browser.find_element(By.ID, "tray").text


def note(browser: Chrome, check: str) -> WebElement:
    return browser.find_element(By.CSS_SELECTOR, f"#plate .finding[data-check={check}] a.note")


def spoken(browser: Chrome, check: str) -> str:
    return str(note(browser, check).get_attribute("aria-label"))


def type_into(browser: Chrome, field: str, text: str, end: str = Keys.TAB) -> None:
    found = browser.find_element(By.ID, field)
    found.send_keys(Keys.CONTROL, "a")
    found.send_keys(text + end)


def test_night_ferry_is_mended_by_typing_a_spacer(browser: Chrome, address: str) -> None:
    browser.get(address)
    browser.find_element(By.PARTIAL_LINK_TEXT, "Night Ferry").click()
    assert spoken(browser, "stem_height") == "Stem against tube: clash 0.74"
    assert "CLASH" in tray(browser)
    assert "Misses by 0.64 mm" in tray(browser).replace("\u00a0", " ")

    type_into(browser, "spacer-value", "0.74", Keys.ENTER)
    wait(browser, lambda b: version(b) == "2")
    assert spoken(browser, "stem_height") == "Stem against tube: clear 0.00"
    assert spoken(browser, "rotor_clearance") == "Rotor to case back: tight 0.26"
    assert "Rotor to case back: CLEAR → TIGHT" in browser.find_element(By.CLASS_NAME, "turned").text

    browser.refresh()
    assert spoken(browser, "stem_height") == "Stem against tube: clear 0.00"

    browser.find_element(By.ID, "undo").click()
    wait(browser, lambda b: version(b) == "3")
    assert spoken(browser, "stem_height") == "Stem against tube: clash 0.74"


def test_typing_a_dimension_recomputes_at_once_and_keeps_the_place(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1?check=stem_height")
    browser.execute_script(
        "window.unloaded = false; addEventListener('pagehide', () => window.unloaded = true)"
    )
    type_into(browser, "tray-movement-face_to_stem-value", "2.60")
    wait(browser, lambda b: version(b) == "2")
    assert spoken(browser, "stem_height") == "Stem against tube: clash −0.38"
    assert browser.execute_script("return window.unloaded") is False
    active = browser.switch_to.active_element
    assert active.get_attribute("id") == "tray-movement-face_to_stem-tol"
    ledger = browser.find_element(By.ID, "ledger-movement-face_to_stem-value")
    assert ledger.get_attribute("value") == "2.60"
    active.send_keys(Keys.ESCAPE)
    browser.find_element(By.TAG_NAME, "body").send_keys("u")
    wait(browser, lambda b: version(b) == "3")
    assert spoken(browser, "stem_height") == "Stem against tube: tight 0.00"


def test_a_refused_entry_is_told_by_its_field_and_the_next_edit_goes_on(
    browser: Chrome, address: str
) -> None:
    browser.get(f"{address}/watches/1?check=stem_height")
    field = "tray-dial-thickness-value"
    type_into(browser, field, "thin")
    wait(browser, lambda b: b.find_element(By.ID, field).get_attribute("aria-invalid") == "true")
    told = browser.find_element(By.ID, "tray-dial-thickness-told").text
    assert told == "value: “thin” cannot be; expected a number in mm, such as 2.62."
    assert browser.find_element(By.ID, field).get_attribute("value") == "thin"
    assert version(browser) == "1"
    type_into(browser, field, "0,45", Keys.ENTER)
    wait(browser, lambda b: version(b) == "2")
    assert browser.find_element(By.ID, field).get_attribute("value") == "0.45"


def test_pointing_lights_the_gap_and_its_note_both_ways(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/2")

    def lit() -> set[str]:
        found = browser.find_elements(By.CSS_SELECTOR, "#plate .finding.lit")
        return {str(mark.get_attribute("data-check")) for mark in found}

    for selector in (
        ".finding[data-check=holder_clamp] a.note",
        ".finding[data-check=stem_height] .gap-area",
    ):
        target = browser.find_element(By.CSS_SELECTOR, f"#plate {selector}")
        ActionChains(browser).move_to_element(target).perform()
        check = "holder_clamp" if "holder" in selector else "stem_height"
        wait(browser, lambda _, check=check: lit() == {check})  # type: ignore[misc]
    browser.execute_script("arguments[0].focus()", note(browser, "stem_height"))
    wait(browser, lambda _: lit() == {"stem_height"})
    rail = browser.find_element(By.ID, "rail-rotor_clearance")
    ActionChains(browser).move_to_element(rail).perform()
    wait(browser, lambda _: lit() == {"rotor_clearance"})


def test_keys_walk_the_findings_and_change_the_view(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/2")
    body = browser.find_element(By.TAG_NAME, "body")
    seen = set()
    for _ in range(8):
        seen.add(browser.find_element(By.CSS_SELECTOR, "#tray h2").text)
        before = browser.current_url
        body.send_keys("j")
        wait(browser, lambda b, before=before: b.current_url != before)  # type: ignore[misc]
        settled(browser)
    assert len(seen) == 8
    body.send_keys("3")
    wait(browser, lambda b: "view=hands" in b.current_url)
    wait(browser, lambda b: b.find_element(By.ID, "view-hands").get_attribute("aria-current") == "true")
    browser.back()
    wait(browser, lambda b: b.find_element(By.ID, "view-half").get_attribute("aria-current") == "true")
    browser.find_element(By.TAG_NAME, "body").send_keys("?")
    wait(browser, lambda b: b.find_element(By.ID, "keys").is_displayed())  # it is fetched when it is opened


def test_a_second_tab_is_told_and_nothing_is_overwritten(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1?check=stem_height")
    first = browser.current_window_handle
    browser.switch_to.new_window("tab")
    browser.get(f"{address}/watches/1?check=stem_height")
    type_into(browser, "tray-dial-thickness-value", "0.50")
    wait(browser, lambda b: version(b) == "2")
    browser.close()
    browser.switch_to.window(first)
    type_into(browser, "tray-dial-thickness-value", "0.90")
    wait(browser, lambda b: "Changed meanwhile" in b.find_element(By.ID, "notice").text)
    assert browser.find_element(By.ID, "tray-dial-thickness-value").get_attribute("value") == "0.90"
    browser.find_element(By.LINK_TEXT, "Show the newest").click()
    wait(browser, lambda b: version(b) == "2")
    assert browser.find_element(By.ID, "tray-dial-thickness-value").get_attribute("value") == "0.50"


def test_a_file_too_large_is_told_before_it_is_sent(browser: Chrome, address: str, tmp_path: Path) -> None:
    large = tmp_path / "large.json"
    large.write_bytes(b" " * 50_000_000)
    browser.get(f"{address}/begin")
    browser.find_element(By.ID, "new-sheet").send_keys(str(large))
    browser.find_element(By.XPATH, "//button[.='Bring in']").click()
    wait(browser, lambda b: "50.0 MB" in b.find_element(By.ID, "new-sheet-told").text)


def slid(browser: Chrome) -> float:
    """What the spacer's field shows, asked in one go, since the field may be exchanged meanwhile."""
    script = "return document.getElementById('tray-spacers-0-thickness-value').value"
    return float(browser.execute_script(script))


def test_what_if_slides_without_storing_until_kept(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/2?check=stem_height")
    browser.find_element(By.ID, "what-if").click()
    wait(browser, lambda b: b.find_elements(By.ID, "tried"))
    type_into(browser, "spacer-value", "0.60", Keys.ENTER)
    slider = "tray-spacers-0-thickness-slide"
    wait(browser, lambda b: b.find_elements(By.ID, slider))
    ActionChains(browser).drag_and_drop_by_offset(browser.find_element(By.ID, slider), 6, 0).perform()
    wait(browser, lambda b: slid(b) != 0.60)
    settled(browser)
    while (shown := slid(browser)) != 0.74:
        key = Keys.ARROW_RIGHT if shown < 0.74 else Keys.ARROW_LEFT
        browser.find_element(By.ID, slider).send_keys(key)
        wait(browser, lambda b, shown=shown: slid(b) != shown)  # type: ignore[misc]
        settled(browser)
    wait(browser, lambda b: spoken(b, "stem_height") == "Stem against tube: clear 0.00")
    settled(browser)
    assert "thickness 0.74" in browser.find_element(By.ID, "tried").text
    browser.find_element(By.ID, "tray-spacers-0-thickness-tol").send_keys(Keys.SHIFT + Keys.ARROW_UP)
    wait(browser, lambda b: spoken(b, "stem_height") == "Stem against tube: tight 0.00")
    settled(browser)
    browser.find_element(By.ID, "tray-spacers-0-thickness-tol").send_keys(Keys.SHIFT + Keys.ARROW_DOWN)
    wait(browser, lambda b: spoken(b, "stem_height") == "Stem against tube: clear 0.00")
    shared = browser.current_url

    browser.get(f"{address}/watches/2")
    assert version(browser) == "1"
    assert spoken(browser, "stem_height") == "Stem against tube: clash 0.74"
    browser.get(shared)
    browser.find_element(By.ID, "variant-name").send_keys("Dial side" + Keys.ENTER)
    wait(browser, lambda b: "Dial side" in b.find_element(By.TAG_NAME, "main").text)
    browser.find_element(By.XPATH, "//button[.='Make it the watch']").click()
    wait(browser, lambda b: b.find_element(By.CLASS_NAME, "compare-counts").text.startswith("0 CLASH"))
    browser.get(f"{address}/watches/2?check=stem_height")
    assert spoken(browser, "stem_height") == "Stem against tube: clear 0.00"


def drawn(browser: Chrome) -> list[str]:
    """Plate and rail as they stand in the page, without what an edit turned, which is told once."""
    script = "return ['plate', 'rail'].map((part) => document.getElementById(part).innerHTML)"
    return [re.sub(r'<p class="turned".*?</p>', "", part) for part in browser.execute_script(script)]


def test_letting_go_of_a_slider_keeps_the_last_position(browser: Chrome, address: str) -> None:
    """Many positions and the release in one go: while the first is computed, the last is still on its way."""
    browser.get(f"{address}/watches/1?try=[]&check=stem_height")
    browser.execute_script("""
        const slider = document.getElementById("tray-dial-thickness-slide");
        const happen = (kind) => slider.dispatchEvent(new Event(kind, { bubbles: true }));
        happen("pointerdown");
        for (const value of ["0.45", "0.52", "0.61"]) { slider.value = value; happen("input"); }
        happen("pointerup");
    """)
    settled(browser)
    assert browser.find_element(By.ID, "tray-dial-thickness-value").get_attribute("value") == "0.61"
    assert "0.40 ±0.01 measured → 0.61" in browser.find_element(By.ID, "tried").text
    assert "0.61" in browser.current_url
    grafted = drawn(browser)
    browser.refresh()
    assert grafted == drawn(browser), "what was put over the old drawing is what the server draws"


def test_what_was_acknowledged_survives_a_kill(browser: Chrome, tmp_path: Path, demo_file: Path) -> None:
    process, address = serve(copy_of(demo_file, tmp_path / "killed.sqlite3"))
    browser.get(f"{address}/watches/1?check=stem_height")
    for edit in range(1, 4):
        type_into(browser, "tray-dial-thickness-value", f"0.5{edit}")
        wait(browser, lambda b, edit=edit: version(b) == str(edit + 1))  # type: ignore[misc]
    browser.get("about:blank")
    process.kill()
    process.wait(10)
    process, address = serve(tmp_path / "killed.sqlite3")
    browser.get(f"{address}/watches/1?check=stem_height")
    assert version(browser) == "4"
    assert browser.find_element(By.ID, "tray-dial-thickness-value").get_attribute("value") == "0.53"
    browser.get("about:blank")
    process.terminate()
    process.wait(10)


def test_the_program_says_its_version() -> None:
    command = [sys.executable, "-m", "marquetry.cli", "--version"]
    assert subprocess.run(command, capture_output=True, text=True, check=True).stdout.startswith("marquetry ")
