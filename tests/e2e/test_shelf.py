"""The shelf in a real browser: searching as one types, a caliper that types, a file with its progress."""

import json
import re
import subprocess
import sys
from pathlib import Path

import pytest
from PIL import Image
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from marquetry.store.database import connect
from marquetry.store.pieces_in_watch import links_in
from marquetry.store.watches import all_watches
from tests.e2e.test_night_ferry import settled, type_into, version, wait
from tests.strategies import MODEL


def found(browser: Chrome) -> list[str]:
    return [name.text for name in browser.find_elements(By.CLASS_NAME, "slip-name")]


def caliper(browser: Chrome, address: str, *sizes: str) -> None:
    """Send readings from the command line once the page listens."""
    command = [sys.executable, "-m", "marquetry.cli", "caliper", *sizes, "--to", address, "--seed", "5"]

    def heard(_: Chrome) -> bool:
        return "listens" not in subprocess.run(command, capture_output=True, text=True, check=True).stdout

    wait(browser, heard)


def test_the_shelf_is_searched_as_one_types_and_fills_a_watch(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/shelf?for=2&kind=dial")
    browser.find_element(By.ID, "seek").send_keys("green st")
    wait(browser, lambda b: found(b) == ["Green stone dial"])
    assert "q=green+st" in browser.current_url
    assert "for=2" in browser.current_url
    browser.find_element(By.LINK_TEXT, "Try").click()
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "trying"))
    assert "Green stone dial" in browser.find_element(By.ID, "tried").text
    browser.back()
    browser.find_element(By.XPATH, "//button[.='Plan']").click()
    wait(browser, lambda b: b.find_elements(By.ID, "tray"))
    assert version(browser) == "2"


def test_a_parts_drawing_follows_the_field_and_its_entries_are_saved(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/parts/1")
    type_into(browser, "ledger-dial-thickness-value", "0.45")
    wait(browser, lambda b: version(b) == "2")
    browser.find_element(By.ID, "ledger-dial-centre_hole-value").click()
    wait(browser, lambda b: "Centre hole" in b.find_element(By.CSS_SELECTOR, "#part-drawing figcaption").text)
    type_into(browser, "ledger-dial-diameter-value", "12.5")
    wait(browser, lambda b: b.find_elements(By.CLASS_NAME, "offer"))
    browser.find_element(By.CLASS_NAME, "offer").click()
    wait(browser, lambda b: not b.find_elements(By.CLASS_NAME, "offer"))
    field = browser.find_element(By.ID, "ledger-dial-diameter-value")
    assert field.get_attribute("value") == "25.00"


def test_the_caliper_types_into_a_card_and_into_any_dimensions_field(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/2/card?path=dial.thickness")
    wait(browser, lambda b: b.switch_to.active_element.get_attribute("id") == "next")
    caliper(browser, address, "0.44", "0.44", "0.44")
    wait(browser, lambda b: len(readings(b)) == 3)
    assert "mean of" in browser.find_element(By.CLASS_NAME, "result").text
    browser.find_element(By.XPATH, "//form[@id='direct']//button[.='Save']").click()
    wait(browser, lambda b: "Micrometer" in b.find_element(By.CLASS_NAME, "former").text)

    browser.get(f"{address}/watches/2?check=stem_height")
    before = int(version(browser))
    browser.find_element(By.ID, "tray-dial-thickness-value").click()
    caliper(browser, address, "0.52")
    wait(browser, lambda b: int(version(b)) > before)
    settled(browser)

    # A cable is a keyboard: digits and Enter, and the next reading goes into the next empty field.
    browser.get(f"{address}/watches/2/card?path=case.dial_bore")
    browser.find_element(By.ID, "next").send_keys("28.61" + Keys.ENTER)
    wait(browser, lambda b: readings(b) == ["28.61"])
    browser.switch_to.active_element.send_keys("28.60" + Keys.ENTER)
    wait(browser, lambda b: readings(b) == ["28.61", "28.60"])


def test_a_worksheets_field_takes_one_reading_after_the_other(browser: Chrome, address: str) -> None:
    browser.get(
        f"{address}/watches/2/card?path=case.seat_to_tube&sheet=seat-to-tube&in-hole=1.95&in-bore=1.2"
    )
    browser.find_element(By.ID, "in-seat-to-tube-seat").send_keys("5.10" + Keys.ENTER)
    wait(browser, lambda b: "2.55" in b.find_element(By.ID, "sheet-seat-to-tube").text)
    # The field may be exchanged between finding it and typing into it: then nothing was typed yet.
    wait(browser, lambda b: typed(b, "5.14" + Keys.ENTER))
    wait(browser, lambda b: "2.57" in b.find_element(By.ID, "sheet-seat-to-tube").text)
    caliper(browser, address, "5.12")
    # Asked in one wait: the field is exchanged with each reading, and may be between two questions.
    wait(
        browser,
        lambda b: (found := readings_in(b, "in-seat-to-tube-seat"))[2:] and found[:2] == ["5.10", "5.14"],
    )


def typed(browser: Chrome, keys: str) -> bool:
    browser.switch_to.active_element.send_keys(keys)
    return True


def readings_in(browser: Chrome, field: str) -> list[str]:
    return str(browser.find_element(By.ID, field).get_attribute("value")).split()


def readings(browser: Chrome) -> list[str]:
    return [str(field.get_attribute("value")) for field in browser.find_elements(By.NAME, "reading")]


def test_the_calipers_window_sends_to_the_field_in_the_other_window(browser: Chrome, address: str) -> None:
    browser.get(f"{address}/watches/1/card?path=dial.diameter")
    main = browser.current_window_handle
    browser.switch_to.new_window("window")
    browser.get(f"{address}/caliper")
    type_into(browser, "size", "28.5", Keys.ENTER)
    wait(browser, lambda b: b.find_element(By.ID, "size").get_attribute("value") == "28.5")
    browser.close()
    browser.switch_to.window(main)
    wait(browser, lambda b: len(readings(b)) == 1)
    assert readings(browser)[0].startswith("28.")


CLICK = """
    const picture = document.querySelector(".picture");
    const at = new DOMPoint(arguments[0], arguments[1]).matrixTransform(picture.getScreenCTM());
    picture.dispatchEvent(new MouseEvent("click", { bubbles: true, clientX: at.x, clientY: at.y }));
"""
"""A click on a pixel of the picture, in one go: the picture is exchanged after each."""


def test_points_are_clicked_in_a_photograph_one_after_the_other(
    browser: Chrome, address: str, tmp_path: Path
) -> None:
    file = tmp_path / "back.png"
    Image.new("RGB", (800, 600), "white").save(file)
    browser.get(f"{address}/parts/1")
    browser.find_element(By.NAME, "photo").send_keys(str(file))
    browser.find_element(By.XPATH, "//button[.='Keep photograph']").click()
    wait(browser, lambda b: b.find_elements(By.CSS_SELECTOR, "#photos img"))
    kept = browser.find_element(By.CSS_SELECTOR, "#photos img").get_attribute("src") or ""
    number = re.findall(r"\d+", kept)[-1]
    marks = "m1=0;0&m2=40;0&m3=0;30&m4=40;30"
    browser.get(f"{address}/parts/1/card?path=dial.feet.0.radius&photo={number}&{marks}")
    # Marks at the corners of a square of paper, then the centre, then the place above it.
    places = ((-200, 150), (200, 150), (-200, -150), (200, -150), (0, 0), (0, -100))
    for count, (right, down) in enumerate(places, 1):
        browser.execute_script(CLICK, 400 + right, 300 + down)
        wait(browser, lambda b, count=count: len(b.find_elements(By.CLASS_NAME, "picked")) == count)  # type: ignore[misc]
    told = browser.find_element(By.ID, "sheet-picture").text
    assert "10.0" in told or "9.9" in told
    assert "off by 0.0" in told


def test_a_file_of_parts_shows_its_progress_and_what_it_would_do(
    browser: Chrome, address: str, tmp_path: Path
) -> None:
    rows = "".join(f"dial,Many {n},28.5,0.{40 + n % 50}\n" for n in range(3000))
    file = tmp_path / "many.csv"
    file.write_text("kind,name,diameter,thickness\n" + rows + "plate,?,1,1\n", "utf-8")
    browser.get(f"{address}/exchange")
    browser.find_element(By.ID, "parts-file").send_keys(str(file))
    browser.find_element(By.XPATH, "//button[.='Look it over']").click()
    wait(browser, lambda b: b.find_elements(By.TAG_NAME, "progress") or "/imports/" in b.current_url)
    wait(browser, lambda b: "/shelf/imports/" in b.current_url)
    assert "3000 new" in browser.find_element(By.CLASS_NAME, "sets").text
    browser.find_element(By.XPATH, "//button[contains(.,'Take 3000 parts')]").click()
    wait(browser, lambda b: "3000 parts taken" in b.find_element(By.ID, "main").text)


MOVED = """
import os, sys
from pathlib import Path
from marquetry.store import pieces_in_watch, watches
from marquetry.core.fit.model import usual_model
from marquetry.store.database import connect
told = pieces_in_watch.tell
def killed(connection, *rest):
    told(connection, *rest)
    if int(sys.argv[2]) == killed.left:
        os._exit(9)
    killed.left += 1
killed.left = 0
pieces_in_watch.tell = killed
connection = connect(Path(sys.argv[1]), usual_model())
watch = watches.watch(connection, 2)
build = watch.build
for part in ("dial", "hands", "crown"):
    build = build.without(part)
watches.save(connection, 2, watch.version, build, "killed")
"""


@pytest.mark.parametrize("step", [0, 1, 2])
def test_a_kill_in_the_middle_of_a_move_leaves_pieces_where_the_sheets_say(database: Path, step: int) -> None:
    command = [sys.executable, "-c", MOVED, str(database), str(step)]
    assert subprocess.run(command, check=False).returncode == 9
    connection = connect(database, MODEL)
    sheets = {
        number: (watch.id, slot)
        for watch in all_watches(connection)
        for number, (slot, _) in links_in(watch.build).items()
    }
    rows = connection.execute("SELECT piece_id, watch_id, slot FROM in_watch")
    assert {row["piece_id"]: (row["watch_id"], row["slot"]) for row in rows} == sheets
    assert not connection.execute("SELECT 1 FROM move WHERE what LIKE 'out of Night Ferry%'").fetchall()
    newest = json.loads(connection.execute("SELECT sheet FROM revision WHERE watch_id = 2").fetchone()[0])
    assert newest["parts"]["dial"]
    connection.close()
