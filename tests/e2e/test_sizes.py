"""Every page at the four sizes people have: nothing sideways, one line of head, letters that can be read."""

import pytest
from selenium.webdriver import Chrome

from tests.e2e.pages import FOUND, PAGES

LEAST_PX = 12.0
HEAD_PX = 50
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


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (1024, 768), (820, 1180), (390, 844)])
def test_every_page_fits_the_screen_and_can_be_read(
    browser: Chrome, address: str, width: int, height: int
) -> None:
    size = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    try:
        for page in (shown for pages in PAGES.values() for shown in pages if shown != FOUND):
            browser.get(address + page)
            sideways = browser.execute_script("return document.documentElement.scrollWidth - innerWidth")
            assert sideways <= 0, page
            smallest, words = browser.execute_script(SMALLEST)
            assert smallest > LEAST_PX - 0.05, (page, words)
            if width >= 1024:
                head = browser.execute_script("return document.querySelector('.head').offsetHeight")
                assert head < HEAD_PX, page
    finally:
        usual = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
        browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", usual)
