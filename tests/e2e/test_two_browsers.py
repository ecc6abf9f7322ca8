"""Two builders at one workshop, each at a browser of her own: nothing is overwritten, nothing lost."""

import random
from pathlib import Path

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By

from tests.e2e.conftest import make_driver
from tests.e2e.test_night_ferry import settled, type_into, version, wait

ROUNDS = 8
FIELDS = ("tray-dial-thickness-value", "tray-case-seat_to_tube-value")


def typed(browser: Chrome, field: str, value: str) -> bool:
    """Type a value and leave the field; whether it was saved, and not told that another was first."""
    before = version(browser)
    type_into(browser, field, value)
    wait(
        browser,
        lambda b: version(b) != before or "Changed meanwhile" in b.find_element(By.ID, "notice").text,
    )
    settled(browser)
    return version(browser) != before


def test_two_browsers_at_one_watch_overwrite_nothing(browser: Chrome, address: str, tmp_path: Path) -> None:
    """Each types where the other may have been first: what was saved is there, what was not was told."""
    dice, other = random.Random(17), make_driver(tmp_path / "other")  # noqa: S311  # a test's dice
    saved: list[tuple[str, str]] = []
    told = 0
    try:
        both = (browser, other)
        for each in both:
            each.get(f"{address}/watches/2?check=stem_height")
        for count in range(ROUNDS):
            each, field = dice.choice(both), dice.choice(FIELDS)
            value = f"{0.41 + count / 100:.2f}" if "dial" in field else f"{2.91 + count / 100:.2f}"
            if typed(each, field, value):
                saved.append((field, value))
                continue
            told += 1
            each.find_element(By.LINK_TEXT, "Show the newest").click()
            wait(each, lambda b: version(b) == str(1 + len(saved)))
            assert typed(each, field, value), "as soon as she has seen what the other did"
            saved.append((field, value))
        for each in both:
            each.get(f"{address}/watches/2?check=stem_height")
            assert version(each) == str(1 + len(saved)), "a version for each save and none besides"
            for field in FIELDS:
                newest = next((value for name, value in reversed(saved) if name == field), None)
                shown = each.find_element(By.ID, field).get_attribute("value")
                assert newest is None or shown == newest
        assert told, "they did get into each other's way"
    finally:
        other.quit()
