"""Every page at the four sizes people have: nothing sideways, one line of head, letters that can be read."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium.webdriver import Chrome

from tests.conftest import copy_of
from tests.e2e.conftest import told
from tests.e2e.pages import FOUND, PAGES
from tests.nursery import serve

LEAST_PX = 12.0
HEAD_PX = 50
BENCH_HEAD_PX = 80
AT_ARMS_LENGTH = {"build_step", "rehearsal", "sure_hand"}
"""On the bench view, and in a play, what is tapped is 64 px high, in its head too."""
SMALLEST = """
const told = (element) =>
  (element.className.baseVal ?? element.className) + ": " + element.textContent.trim().slice(0, 40);
let least = [Infinity, ""];
for (const element of document.querySelectorAll("body *")) {
  const box = element.getBoundingClientRect();
  const spoken = [...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.data.trim());
  // Letters printed on a dial are a part's own, as large as they are on it.
  const unread = element.closest("title, desc, script, noscript, [class^=letters-]");
  if (!spoken || !box.width || !box.height || unread) continue;
  const sheet = element.closest("svg");
  const wide = sheet?.viewBox.baseVal.width;
  const scale = wide ? sheet.getBoundingClientRect().width / wide : 1;
  const size = parseFloat(getComputedStyle(element).fontSize) * scale;
  if (size < least[0]) least = [size, told(element)];
}
return least;
"""
"""Height of the smallest letters that are seen, in px on the screen, drawings' own scale included."""


SIZES = ((1280, 800), (1024, 768), (820, 1180), (390, 844))


def resized(browser: Chrome, width: int, height: int) -> None:
    size = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)


@pytest.mark.parametrize("route", [route for route, pages in PAGES.items() if FOUND not in pages])
def test_every_page_fits_the_screen_and_can_be_read(sized: tuple[Chrome, str], route: str) -> None:
    browser, address = sized
    for page in PAGES[route]:
        browser.get(address + page)
        for width, height in SIZES:
            resized(browser, width, height)
            sideways = browser.execute_script("return document.documentElement.scrollWidth - innerWidth")
            assert sideways <= 0, (page, width)
            smallest, words = browser.execute_script(SMALLEST)
            assert smallest > LEAST_PX - 0.05, (page, width, words)
            if width >= 1024:
                head = browser.execute_script("return document.querySelector('.head').offsetHeight")
                assert head < (BENCH_HEAD_PX if route in AT_ARMS_LENGTH else HEAD_PX), (page, width)
    resized(browser, *SIZES[0])


@pytest.fixture(scope="module")
def sized(
    driver: Chrome, tmp_path_factory: pytest.TempPathFactory, demo_file: Path
) -> Iterator[tuple[Chrome, str]]:
    """The driver and one workshop that is only looked at; afterwards the screen is as others expect it."""
    process, address = serve(copy_of(demo_file, tmp_path_factory.mktemp("sized") / "demo.sqlite3"))
    told(driver)
    yield driver, address
    assert told(driver) == []
    resized(driver, *SIZES[0])
    driver.get("about:blank")
    process.terminate()
    process.wait(10)
