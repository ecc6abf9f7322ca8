"""The other half of the pages, in a file of its own: two workers look at the same time."""

import pytest
from selenium.webdriver import Chrome

from tests.e2e.test_accessible import HALF, look_at


@pytest.mark.parametrize("part", range(HALF, 2 * HALF))
def test_no_other_page_has_a_serious_accessibility_fault(browser: Chrome, looked_at: str, part: int) -> None:
    look_at(browser, looked_at, part)
