"""Night Ferry mended by what is made here: from “to be made” to a report without a clash."""

import json
import urllib.request
from collections.abc import Mapping

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from marquetry.formats.mesh_files import MeshRead, read_mesh
from tests.e2e.test_night_ferry import settled, spoken, type_into, version, wait


def drawn_solid(browser: Chrome) -> None:
    """Wait until the turning preview shows what the drawing shows."""
    script = """const c = document.getElementById("turning");
        return c && c.dataset.shown === document.getElementById("made-drawing").dataset.mesh"""
    wait(browser, lambda b: b.execute_script(script))


def column(browser: Chrome, number: int) -> list[float]:
    """A column of figures of the newest version: 2 wanted, 3 asked."""
    cells = browser.find_elements(By.CSS_SELECTOR, f".version[open] .version-sizes td:nth-child({number})")
    return [float(cell.text) for cell in cells]


def solid(browser: Chrome) -> MeshRead:
    # Asked in one go: the page may be exchanged between finding a link and asking where it leads.
    link = browser.execute_script("return document.querySelector('.version[open] .version-files a').href")
    with urllib.request.urlopen(str(link)) as answer:  # noqa: S310  # our own server's file
        return read_mesh(answer.read(), "stl")


def made_and_measured(browser: Chrome, measured: Mapping[str, str]) -> MeshRead:
    """Make a version, read its solid, note what it measures, put it into the watch."""
    before = version(browser)
    browser.find_element(By.CSS_SELECTOR, "#make-version .button").click()
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, ".version[open] .version-sizes"))
    found = solid(browser)
    for label, value in measured.items():
        field = browser.find_element(
            By.XPATH, f"//details[@open]//input[starts-with(@aria-label, '{label}')]"
        )
        field.send_keys(value)
    browser.find_element(By.CSS_SELECTOR, ".version[open] .version-sizes button").click()
    settled(browser)
    browser.find_element(By.XPATH, "//details[@open]//button[.='It goes into the watch']").click()
    wait(browser, lambda b: int(version(b)) > int(before))
    wait(
        browser,
        lambda b: "IN THE WATCH" in b.find_element(By.CSS_SELECTOR, ".version[open] summary").text.upper(),
    )
    return found


def test_night_ferry_is_mended_by_a_spacer_and_a_holder_made_here(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/2/remedies?now=true")
    browser.find_element(By.XPATH, "(//*[@class='remedy-words'])[1]//a[contains(., 'spacer')]").click()
    wait(browser, lambda b: "Trying; nothing is stored" in b.find_element(By.ID, "status").text)
    drawn_solid(browser)
    turn = browser.find_element(By.CSS_SELECTOR, "#made-report .remedy-turns").text.upper()
    assert "STEM AGAINST TUBE" in turn
    assert turn.index("CLASH") < turn.index("CLEAR")
    assert "−0.50 mm" in browser.find_element(By.ID, "made-sides").text.replace("\u00a0", " ")

    type_into(browser, "ledger-spacers-0-inner_diameter-value", "28.60")
    wait(browser, lambda b: "less than spacers.0.outer_diameter" in b.find_element(By.ID, "made-fields").text)
    settled(browser)
    type_into(browser, "ledger-spacers-0-inner_diameter-value", "26.80")
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "#made-drawing svg"))
    settled(browser)
    drawn_solid(browser)

    file = made_and_measured(browser, {"Outer Ø": "28.50", "Inner Ø": "26.82", "Thickness": "0.74"})
    outer, _, thick = column(browser, 3)
    assert file.is_watertight
    assert file.bounds[1][0] == pytest.approx(outer / 2, abs=1e-3), "the file is as it was asked for"
    assert -file.bounds[0][2] == pytest.approx(thick, abs=1e-4)
    assert column(browser, 2) == [28.52, 26.8, 0.74], "what is wanted stands beside it"
    assert outer < 28.52, "this printer prints outsides too large"

    browser.get(f"{address}/watches/2/make/part/holder")
    assert browser.find_element(By.ID, "made-report").text.count("CLASH") == 0
    browser.find_element(By.ID, "take-all").click()
    wait(browser, lambda b: not b.find_elements(By.CSS_SELECTOR, "#made-fields .offer"))
    settled(browser)
    browser.find_element(By.ID, "switch-slot").click()
    wait(browser, lambda b: b.find_elements(By.ID, "ledger-holder-slot-width-value"))
    settled(browser)
    drawn_solid(browser)
    canvas = browser.find_element(By.ID, "turning")
    assert f"v={version(browser)}" in str(canvas.get_attribute("data-shown")), (
        "the preview follows a stored edit"
    )
    canvas.send_keys(Keys.ARROW_LEFT)
    tall = "5.18"
    file = made_and_measured(browser, {"Outer Ø": "29.14", "Inner Ø": "27.10", "Movement face": tall})
    assert file.is_watertight
    assert -file.bounds[0][2] == pytest.approx(column(browser, 3)[-1], abs=1e-4)

    browser.get(f"{address}/watches/2")
    assert spoken(browser, "stem_height").startswith("Stem against tube: clear")
    assert "CLASH" not in browser.find_element(By.CLASS_NAME, "way").text
    with urllib.request.urlopen(f"{address}/watches/2/findings.json") as answer:  # noqa: S310  # our own server
        found = {name: finding["verdict"] for name, finding in json.load(answer)["findings"].items()}
    assert "clash" not in found.values()
    made_here = ("stem_height", "holder_clamp", "holder_in_case", "holder_on_movement", "holder_tabs")
    assert {name: found[name] for name in made_here} == dict.fromkeys(made_here, "clear")
