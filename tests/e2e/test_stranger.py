"""A stranger's watch, from an empty workshop: begun from sellers' texts and judged by what is known of it."""

import json
import re
from urllib.request import urlopen

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By

from marquetry.core.values.dimension import Source
from marquetry.formats.build_sheet import loads
from tests.e2e.test_beginning import press
from tests.e2e.walking import Walker
from tests.strategies import MODEL
from tests.web.test_beginning import KIT_FOR_TERN

TUBE, TUBE_TOO_LOW = "case.seat_to_tube", 0.5
"""The fault that is in this case: its tube sits so much deeper than the movement's stem."""
MOST_ACTIONS, FEW = 24, 10
WORDS = {"crystal.material": "sapphire"}


def begun(browser: Chrome, own: str, *came: str) -> Walker:
    walker = Walker(browser, own)
    walker.press("Diver 40")
    walker.type("Sellers' texts, pasted", KIT_FOR_TERN)
    for each in came:
        walker.tick(each)
    walker.press("Begin")
    walker.press("Use all sure values")
    walker.sees("doubt then")
    return walker


def count(browser: Chrome, css: str) -> int:
    return len(browser.find_elements(By.CSS_SELECTOR, css))


def open_count(walker: Walker) -> int:
    """How many findings are open, assumed or unmeasured, as the page Next counts them."""
    found = re.search(r"(\d+) open ·", walker.text)
    return int(found[1]) if found else 0


def told_at(address: str) -> bytes:
    """A file of the watch, asked for beside the browser: it would ask for an icon too."""
    with urlopen(address, timeout=10) as answer:  # noqa: S310  # our own server
        return bytes(answer.read())


def truth(own: str) -> dict[str, float]:
    """What the parts on the bench really are: as they suit each other, but for the fault."""
    build = loads(told_at(f"{own}/watches/1/sheet.json"), MODEL.anatomy)
    sizes = {path: dimension.value for path, dimension in build.dimensions.items()}
    return {**sizes, TUBE: sizes[TUBE] + TUBE_TOO_LOW}


def hidden(browser: Chrome, name: str) -> str:
    found = browser.find_elements(By.CSS_SELECTOR, f".next-side input[type=hidden][name={name}]")
    return str(found[0].get_attribute("value")) if found else ""


def one_done(walker: Walker, true: dict[str, float]) -> str:
    """Do what the page proposes and say what was seen; its key or path."""
    version = walker.browser.find_element(By.CSS_SELECTOR, ".status .saved").text
    trial, path = hidden(walker.browser, "key"), hidden(walker.browser, "path")
    if trial:
        walker.press("It does not fit" if trial == "stem_in_tube" else "I tried it: it fits")
    elif path in true:
        walker.enter("It measures", f"{true[path]:.3f}")
    else:
        walker.press(WORDS[path])
    walker.waits(lambda b: b.find_element(By.CSS_SELECTOR, ".status .saved").text != version, trial or path)
    return trial or path


def test_three_dry_fits_leave_few_things_open_and_nothing_is_red(browser: Chrome, own: str) -> None:
    walker = begun(browser, own, "The whole case, with all from crystal to back", "Strap", "Spring bars")
    true = {**truth(own), TUBE: truth(own)[TUBE] - TUBE_TOO_LOW}
    assert not count(browser, "#plate .verdict-clash")
    dry_fits = 0
    while dry_fits < 3:
        dry_fits += bool(hidden(browser, "key"))
        one_done(walker, true) if hidden(browser, "key") else walker.press("Leave it out for now")
    walker.waits(lambda _: open_count(walker) < FEW, "few things are open")
    walker.press("Undo")
    walker.sees("Lay")


def test_a_tube_half_a_millimetre_too_low_is_found_by_what_is_proposed(browser: Chrome, own: str) -> None:
    walker = begun(browser, own)
    true, done = truth(own), list[str]()
    while "CLASH" not in walker.text and len(done) < MOST_ACTIONS:
        done.append(one_done(walker, true))
    assert set(done) & {"stem_in_tube", TUBE}, done
    findings = json.loads(told_at(f"{own}/watches/1/findings.json"))["findings"]
    assert [name for name, finding in findings.items() if finding["verdict"] == "clash"] == ["stem_height"]


def test_a_caliper_reads_into_the_page_and_it_goes_on_by_itself(browser: Chrome, own: str) -> None:
    walker = begun(browser, own)
    browser.get(f"{own}/watches/1/next?do=strap.width")
    walker.sees("Measure: Strap")
    listens = "return Boolean(Cable.field && Cable.source?.readyState === 1)"
    walker.waits(lambda b: b.execute_script(listens), "the page listens")
    press(own, "20.02")
    walker.sees("Saved, version 3", "doubt then")
    strap = loads(told_at(f"{own}/watches/1/sheet.json"), MODEL.anatomy).dimensions["strap.width"]
    assert strap.value == pytest.approx(20.02, abs=0.03)
    assert strap.source is Source.MEASURED
    browser.get("about:blank")  # a page that listens would tell the log that its program went away
