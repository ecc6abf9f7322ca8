"""A whole build of Skerry Light by keyboard alone; two screens at once; a line lost and back again."""

import json
import urllib.parse
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.conftest import copy_of
from tests.e2e.test_night_ferry import wait
from tests.nursery import serve

SKERRY = json.loads((Path(__file__).parents[1] / "bench" / "steps" / "p00.json").read_text("utf-8"))["build"]
STEM = 8.03
"""What has to come off the stem in truth, mm."""
OF_ADVICE = {
    "Expected": "gap",
    "Measure the gap first": "gap",
    "Read the gap again": "gap",
    "Cut": "cut",
    "File": "file",
}
"""The figure that each advice asks for."""
HIDDEN = """const bar = document.querySelector('.taps').getBoundingClientRect().top;
    const told = '.screen-figure, .screen-entry-first, .screen-caution, .screen-question';
    return Array.from(document.querySelectorAll(told))
    .filter(e => e.offsetParent && e.getBoundingClientRect().bottom > bar).map(e => e.className)"""
TAPS = "Array.from(document.querySelectorAll('#screen .tap, #screen .taps a, .head a, .head button'))"
SMALL = f"""return {TAPS}.filter(e => e.offsetParent && (e.offsetHeight < 64 || e.offsetWidth < 64))
    .map(e => e.outerHTML)"""
FIGURE_PX = """return Array.from(document.querySelectorAll('.screen-figure .figure, .screen-entry input'))
    .map(e => parseFloat(getComputedStyle(e).fontSize))"""


def step_of(browser: Chrome) -> str:
    return of_screen(browser, "step")


def of_screen(browser: Chrome, name: str) -> str:
    """What the screen carries under that name; asked in one go, since screens are exchanged at any moment."""
    return str(browser.execute_script("return document.getElementById('screen').dataset[arguments[0]]", name))


def words_of(browser: Chrome, name: str) -> str:
    return str(browser.execute_script("return document.getElementById(arguments[0]).textContent", name))


def press(browser: Chrome, key: str) -> None:
    """Keys as from a keyboard, to whatever has the cursor at that moment.

    Not to an element asked for first: a screen that was measured is exchanged for a fresh one at any
    moment, and the element would be gone between the question and the key.
    """
    ActionChains(browser).send_keys(key).perform()


def saved(browser: Chrome) -> None:
    wait(browser, lambda b: b.find_element(By.ID, "line").text == "Saved")


def ready(browser: Chrome) -> None:
    """Every screen is held in the page, so that going on needs no line."""
    wait(
        browser,
        lambda b: b.execute_script("return Bench.screens.size > 50 && Object.keys(Bench.states).length > 50"),
    )


def brought_in(browser: Chrome, own: str, folder: Path) -> None:
    """Skerry Light on the bench of an empty workshop, by its build sheet."""
    sheet = folder / "skerry-light.json"
    sheet.write_text(json.dumps(SKERRY), "utf-8")
    browser.get(f"{own}/begin")
    field = browser.find_element(By.CSS_SELECTOR, "input[type=file][name=sheet]")
    field.send_keys(str(sheet))
    field.find_element(By.XPATH, "ancestor::form").submit()
    wait(browser, lambda b: "/watches/1" in b.current_url)


def test_a_whole_build_by_keyboard_alone(browser: Chrome, own: str, tmp_path: Path) -> None:
    brought_in(browser, own, tmp_path)
    press(browser, "h")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "build-begin"))
    press(browser, Keys.ENTER)
    wait(browser, lambda b: b.find_elements(By.ID, "screen"))
    ready(browser)
    seen: list[str] = []
    while (step := step_of(browser)) and of_screen(browser, "next"):
        seen.append(step)
        settle(browser, step)
        wait(browser, lambda b, step=step: step_of(b) != step)  # type: ignore[misc]  # bound to this step
    press(browser, " ")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "build-desk"))
    assert len(seen) == 54
    assert "Every step is settled" in browser.find_element(By.CLASS_NAME, "build-go").text
    assert len(browser.find_elements(By.CSS_SELECTOR, ".step-row.step-done, .step-row.step-passed")) == 55


def settle(browser: Chrome, step: str) -> None:
    """One step as a builder does it: what is asked is typed, what sets is heard, then the usual key."""
    assert browser.execute_script(SMALL) == [], step
    assert all(size >= 40 for size in browser.execute_script(FIGURE_PX)), step
    if step in {"measure_gap", "cut_stem"}:
        done_by_advice(browser)
    if step in {"seat_crown", "pressure_dry"}:
        saved(browser)
        wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "#bell button"))
        press(browser, "q")
        browser.switch_to.alert.accept()
        wait(browser, lambda b: not b.find_elements(By.ID, "bell"))
        wait(browser, lambda b: b.execute_script(f"return Bench.states['{step}'][0]") == "open")
    is_gate = of_screen(browser, "gate")
    press(browser, "1" if is_gate else " ")


def ledger_of(browser: Chrome) -> str:
    return str(browser.execute_script("return document.querySelector('.screen-rows')?.innerText ?? ''"))


def done_by_advice(browser: Chrome, off: float = 0.0) -> tuple[list[str], float]:
    """What the large words ask for, typed where the cursor stands: into which fields, and what came off."""
    typed: list[str] = []
    while len(typed) < 12:
        found = browser.execute_script(
            """const words = document.querySelector('.screen-figure').innerText.split(/\\s*\\n\\s*/);
            const at = document.activeElement;
            return [words[0], words[1], at.closest('[data-entry]')?.dataset.entry ?? '', at.value ?? '']"""
        )
        advice, amount, field, value = found
        if not field or advice not in OF_ADVICE:
            return typed, off
        assert (field, value) == (OF_ADVICE[advice], ""), (found, typed)
        assert browser.execute_script(HIDDEN) == []
        figure = round(STEM - off, 2) if field == "gap" else float(amount.split()[0])
        off += 0.0 if field == "gap" else figure
        before = ledger_of(browser)
        press(browser, f"{figure:.2f}{Keys.ENTER}")
        wait(browser, lambda b, before=before: ledger_of(b) != before)  # type: ignore[misc]  # bound to this one
        typed.append(field)
    raise AssertionError(typed)


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (1024, 768), (820, 1180)])
def test_a_stem_is_cut_by_keys_without_one_wrong_entry(
    browser: Chrome, own: str, tmp_path: Path, width: int, height: int
) -> None:
    size = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    brought_in(browser, own, tmp_path)
    browser.get(f"{own}/watches/1/build/at/measure_gap")
    ready(browser)
    assert done_by_advice(browser)[0] == ["gap"]
    press(browser, Keys.ARROW_RIGHT)
    wait(browser, lambda b: step_of(b) == "cut_stem")
    press(browser, "9.9" + Keys.ENTER)
    wait(browser, lambda b: "Only 8.0" in words_of(b, "screen-fault"))
    assert browser.execute_script("return document.activeElement.value") == "9.9"
    press(browser, Keys.BACKSPACE)
    typed, off = done_by_advice(browser)
    assert typed[0] == "cut"
    assert set(typed) <= {"gap", "cut", "file"}
    assert STEM - 0.10 <= off <= STEM + 0.15
    advice = "return document.querySelector('.screen-advice')?.innerText"
    wait(browser, lambda b: b.execute_script(advice) == "Seat the crown")


@pytest.fixture(scope="module")
def bench(tmp_path_factory: pytest.TempPathFactory, driver: Chrome, demo_file: Path) -> Iterator[str]:
    """One demo workshop for all of these: each test is at another place of it, or takes back what it did."""
    process, at = serve(copy_of(demo_file, tmp_path_factory.mktemp("bench") / "demo.sqlite3"))
    yield at
    driver.get("about:blank")
    process.terminate()
    process.wait(10)


def test_two_screens_at_once_agree(browser: Chrome, bench: str) -> None:
    here = f"{bench}/watches/1/build/at/fit_bezel"
    browser.get(here)
    ready(browser)
    first = browser.current_window_handle
    browser.switch_to.new_window("tab")
    browser.get(here)
    ready(browser)
    press(browser, " ")
    saved(browser)
    browser.close()
    browser.switch_to.window(first)
    wait(browser, lambda b: b.find_element(By.ID, "screen-state").text == "done")
    press(browser, "u")
    wait(browser, lambda b: b.find_element(By.ID, "screen-state").text == "open")
    saved(browser)


def test_a_lost_line_keeps_what_was_tapped_and_sends_it_later(browser: Chrome, bench: str) -> None:
    browser.get(f"{bench}/watches/3/build/at/remove_feet")
    ready(browser)
    browser.execute_script(
        "window.line = window.fetch; window.fetch = () => Promise.reject(new Error('no line'))"
    )
    press(browser, " ")
    wait(browser, lambda b: step_of(b) == "dress_stubs")
    press(browser, " ")
    wait(browser, lambda b: "kept here" in b.find_element(By.ID, "line").text)
    assert step_of(browser) == "clean_after_filing"
    # The tablet is switched off and on again: what was tapped is still there, and goes out.
    browser.refresh()
    ready(browser)
    saved(browser)
    assert browser.execute_script("return Bench.states.dress_stubs[0]") == "done"


INSECURE = (
    "delete Crypto.prototype.randomUUID; Object.defineProperty(navigator, 'wakeLock', {value: undefined});"
)
"""What a browser keeps from a page over plain http on a network."""


def test_it_works_where_a_browser_gives_a_page_less(browser: Chrome, bench: str) -> None:
    script = {"source": INSECURE}
    number = browser.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", script)["identifier"]
    browser.get(f"{bench}/watches/3/build/at/trial_dial")
    ready(browser)
    assert browser.execute_script("return !crypto.randomUUID && !navigator.wakeLock")
    browser.execute_script("Bench.tap('note', { words: 'over plain http' })")
    saved(browser)
    wait(browser, lambda b: "over plain http" in b.find_element(By.ID, "screen").text)
    browser.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", {"identifier": number})


def test_the_calipers_button_enters_a_reading_without_a_finger(browser: Chrome, bench: str) -> None:
    browser.get(f"{bench}/watches/4/build/at/measure_gap")
    ready(browser)
    data = urllib.parse.urlencode({"keys": "0.05"}).encode()
    request = urllib.request.Request(f"{bench}/caliper/readings", data, {"Origin": bench})
    wait(browser, lambda _: json.load(urllib.request.urlopen(request))["heard"] == 1)
    wait(browser, lambda b: "gap read 0.05" in b.find_element(By.CLASS_NAME, "screen-rows").text)
    saved(browser)


def test_no_leads_to_the_mishap_and_a_way_back_opens_its_steps(browser: Chrome, bench: str) -> None:
    browser.get(f"{bench}/watches/4/build/at/crystal_seated")
    ready(browser)
    press(browser, "o")
    wait(browser, lambda b: b.find_element(By.ID, "screen-state").text == "open")
    saved(browser)
    press(browser, "2")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "mishap-kinds"))
    press(browser, "1")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "mishap-ways"))
    assert "Crystal stands proud" in browser.find_element(By.CLASS_NAME, "screen-title").text
    press(browser, "3")
    wait(browser, lambda b: b.find_elements(By.ID, "screen"))
    # Another crystal has to go in: which face of that one is inside is asked anew.
    assert step_of(browser) == "crystal_side"
    assert "another part" in words_of(browser, "screen-why-not")
    press(browser, "u")
    wait(browser, lambda b: b.find_element(By.ID, "screen-state").text == "passed")
    saved(browser)


def test_skipping_a_gate_asks_for_a_reason(browser: Chrome, bench: str) -> None:
    browser.get(f"{bench}/watches/3/build/at/washer_seated")
    ready(browser)
    press(browser, "o")
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "[data-opens=skips]"))
    press(browser, "3")
    wait(browser, lambda b: b.find_element(By.ID, "skips").is_displayed())
    press(browser, "4")
    wait(browser, lambda b: step_of(b) != "washer_seated")
    saved(browser)
    browser.get(f"{bench}/watches/3/build/at/washer_seated")
    assert "Looked at in another way" in browser.find_element(By.CLASS_NAME, "screen-note").text


def test_what_is_tapped_is_large_at_every_size(browser: Chrome, bench: str) -> None:
    for width, height in ((1024, 768), (820, 1180), (390, 844), (1280, 800)):
        size = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
        browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
        for page in ("/watches/1/build/at/fit_bezel", "/watches/4/build/at/check_minute"):
            browser.get(f"{bench}{page}")
            assert browser.execute_script(SMALL) == [], (width, page)
            assert all(px >= 40 for px in browser.execute_script(FIGURE_PX)), (width, page)
