"""Every exercise by keyboard alone, at every size; a finger that holds; motion reduced; from the bench and back."""

import re
import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing
from functools import partial
from pathlib import Path

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from marquetry.core.rehearsal.exercise import MoveOffer, PlayMove
from marquetry.core.rehearsal.exercises import EXERCISES
from marquetry.core.rehearsal.play import Play
from marquetry.store import rehearsals
from marquetry.store.database import connect
from tests.conftest import copy_of
from tests.e2e.test_accessible import AXE, faults
from tests.e2e.test_night_ferry import wait
from tests.e2e.test_sizes import LEAST_PX, SIZES, SMALLEST, resized
from tests.nursery import serve
from tests.strategies import MODEL

PATIENCE = 40
AXE_RULES = {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]}


@pytest.fixture(scope="module")
def practised(tmp_path_factory: pytest.TempPathFactory, demo_file: Path) -> Iterator[tuple[str, Path]]:
    """A workshop that only this file plays in."""
    database = copy_of(demo_file, tmp_path_factory.mktemp("practised") / "demo.sqlite3")
    process, at = serve(database)
    yield at, database
    process.terminate()
    process.wait(10)


def play_of(database: Path, number: int) -> Play:
    with closing(connect(database, MODEL)) as connection:
        stored = rehearsals.rehearsal(connection, number)
        return stored.begun_play(connection).replayed(stored.moves)


def press(browser: Chrome, key: str) -> None:
    ActionChains(browser).send_keys(NAMED.get(key, key)).perform()


def hold(browser: Chrome, key: str, seconds: float) -> None:
    chain = ActionChains(browser).key_down(NAMED.get(key, key)).pause(seconds)
    chain.key_up(NAMED.get(key, key)).perform()


NAMED = {"Enter": Keys.ENTER}


def made(browser: Chrome, offer: MoveOffer, move: PlayMove) -> None:
    """One move by keys alone."""
    if offer.kind == "hold":
        hold(browser, offer.key, move.value / 1000)
    elif offer.kind == "amount":
        press(browser, offer.key)
        ActionChains(browser).send_keys(f"{move.value:.6f}", Keys.ENTER).perform()
    elif offer.kind == "pick":
        press(browser, offer.key)
        for _ in [option.word for option in offer.options][: _place(offer, move)]:
            press(browser, Keys.TAB)
        press(browser, Keys.ENTER)
    else:
        press(browser, offer.key)


def _place(offer: MoveOffer, move: PlayMove) -> int:
    return [option.word for option in offer.options].index(move.word)


def moves(browser: Chrome) -> int:
    """How many were made, by the place that the page's forms name; one more once it is over."""
    found = browser.find_elements(By.CSS_SELECTOR, "#play input[name=place]")
    return int(found[0].get_attribute("value") or 0) - 1 if found else -1


def _went_on(count: int, browser: Chrome) -> bool:
    return moves(browser) != count


@pytest.mark.parametrize("key", [one.key for one in EXERCISES])
def test_an_exercise_is_played_by_keyboard_alone(
    browser: Chrome, practised: tuple[str, Path], key: str
) -> None:
    """What a hand lets go late it reads and mends: the play goes by where it truly stands."""
    at, database = practised
    browser.get(f"{at}/rehearsal")
    browser.find_element(By.CSS_SELECTOR, f"#exercise-{key} .exercise-go button").send_keys(Keys.ENTER)
    wait(browser, lambda b: b.find_elements(By.ID, "play"))
    number = int(browser.current_url.rpartition("/")[2])
    for width, height in SIZES:
        resized(browser, width, height)
        assert browser.execute_script("return document.documentElement.scrollWidth - innerWidth") <= 0
        smallest, words = browser.execute_script(SMALLEST)
        assert smallest > LEAST_PX - 0.05, words
    resized(browser, *SIZES[0])
    browser.execute_script(AXE.read_text("utf-8"))
    assert faults(browser, AXE_RULES) == []
    for _ in range(PATIENCE):
        play = play_of(database, number)
        if play.outcome:
            break
        move = play.exercise.sure(play.now)
        count = len(play.moves)
        made(browser, next(one for one in play.offers if one.what == move.what), move)
        wait(browser, partial(_went_on, count))
    play = play_of(database, number)
    assert play.outcome, [move.what for move in play.moves]
    wait(browser, lambda b: b.find_elements(By.ID, "play-teacher"))
    assert browser.switch_to.active_element.get_attribute("id") == "play-teacher", (
        "what the teacher says is read out"
    )
    assert browser.find_element(By.ID, "play-state").text in {"reached", "missed"}
    assert len(browser.find_elements(By.CSS_SELECTOR, ".play-figures li")) == len(play.outcome.figures)
    if play.exercise.key not in BY_THE_CLOCK:
        assert play.outcome.reached


BY_THE_CLOCK = {"midnight", "gasket", "hands", "stem"}
"""What is held here is let go as late as the driver is that moment: these may miss their aim."""


def test_a_finger_holds_and_what_moves_is_seen(browser: Chrome, practised: tuple[str, Path]) -> None:
    at, _ = practised
    begin(browser, at, "stem")
    button = browser.find_element(By.CSS_SELECTOR, "[data-hold=cut]")
    ActionChains(browser).click_and_hold(button).pause(0.7).perform()
    shift = browser.execute_script(
        "return document.querySelector('[data-moves=cut]').getAttribute('transform')"
    )
    assert float(re.findall(r"-?[\d.]+", shift)[0]) < -3, "the jaws walk inwards"
    assert "held" in (button.get_attribute("class") or "")
    ActionChains(browser).release().perform()
    wait(browser, lambda b: "Cut " in b.find_element(By.CSS_SELECTOR, ".play-notes li").text)


def test_where_motion_is_reduced_the_plate_goes_in_steps(
    browser: Chrome, practised: tuple[str, Path]
) -> None:
    at, _ = practised
    browser.execute_cdp_cmd(
        "Emulation.setEmulatedMedia", {"features": [{"name": "prefers-reduced-motion", "value": "reduce"}]}
    )
    try:
        begin(browser, at, "stem")
        seen = browser.execute_async_script(
            """const done = arguments[0], seen = new Set();
            const part = document.querySelector('[data-moves=cut]');
            Rehearse.hold(document.querySelector('[data-hold=cut]'));
            const watch = setInterval(() => seen.add(part.getAttribute('transform')), 10);
            setTimeout(() => { clearInterval(watch); Rehearse.held = null; done([...seen]); }, 1100);"""
        )
        assert 3 <= len(set(seen) - {None}) <= 6, "about four steps a second, not sixty"
    finally:
        browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})


def begin(browser: Chrome, at: str, key: str) -> None:
    browser.get(f"{at}/rehearsal")
    browser.find_element(By.CSS_SELECTOR, f"#exercise-{key} .exercise-go button").click()
    wait(browser, lambda b: b.find_elements(By.ID, "play"))


def test_from_the_bench_with_one_key_and_back_to_the_step(
    browser: Chrome, practised: tuple[str, Path]
) -> None:
    at, database = practised
    browser.get(f"{at}/watches/1/build/at/measure_gap")
    wait(browser, lambda b: b.execute_script("return Bench.screens.size > 50"))
    press(browser, "r")
    wait(browser, lambda b: "/rehearsal/" in b.current_url)
    assert "twin of Skerry Light" in browser.find_element(By.CLASS_NAME, "screen-place").text
    press(browser, Keys.ENTER)
    wait(browser, lambda b: b.find_elements(By.ID, "play-teacher"))
    assert browser.find_element(By.ID, "play-state").text == "missed"
    assert browser.find_element(By.CLASS_NAME, "play-moment").text.startswith("Seat the crown")
    press(browser, "x")
    wait(browser, lambda b: b.current_url.endswith("/build/at/measure_gap"))
    assert "it went wrong" in browser.find_element(By.CLASS_NAME, "screen-rehearse").text
    with closing(sqlite3.connect(database)) as connection:
        told = connection.execute("SELECT count(*) FROM bench_entry WHERE what = 'cut' AND watch_id = 1")
        assert told.fetchone()[0] == 0, "the watch itself was never touched"


def test_a_move_is_answered_at_once(browser: Chrome, practised: tuple[str, Path]) -> None:
    """Not how fast, which the benchmark tells: that a second key pressed meanwhile is neither lost nor doubled."""
    at, database = practised
    begin(browser, at, "stem")
    number = int(browser.current_url.rpartition("/")[2])
    for key in "hghg":
        press(browser, key)
    end = time.monotonic() + 10
    while len(play_of(database, number).moves) < 4 and time.monotonic() < end:
        time.sleep(0.1)
    assert [move.what for move in play_of(database, number).moves] == ["home", "gap", "home", "gap"]
