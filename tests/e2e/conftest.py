"""A real server on a free port with a demo workshop of its own, and headless Chromium."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException, WebDriverException
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

from tests.conftest import copy_of
from tests.nursery import serve

FLAGS = (
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
    "--disable-dev-shm-usage", "--hide-scrollbars", "--force-device-scale-factor=1",
    "--enable-unsafe-swiftshader",
)  # fmt: skip
OF_THE_DRIVER = "GL Driver Message"
"""What drawing without a graphics card says of its own slowness at each picture: no fault of a page."""
EXCHANGED = "Node with given id does not belong to the document"
WIDTH, HEIGHT = 1280, 800
LONGEST_WAIT_S = 60
"""How long a page is waited for: a bound for one that never comes, no test of how soon it does."""


class Chromium(webdriver.Chrome):
    """Chrome's driver, which tells of a page exchanged under a question in two ways: here it is one.

    Mostly it answers “stale element”. Where the exchange falls between its own two looks, it hands on
    the inspector's fault as an unknown one, and a wait that asks again after the first would end.
    """

    def execute(self, driver_command: Any, params: dict[str, Any] | None = None) -> Any:
        try:
            return super().execute(driver_command, params)
        except WebDriverException as fault:
            if EXCHANGED in str(fault.msg):
                raise StaleElementReferenceException(fault.msg) from fault
            raise


def make_driver(profile: Path, height: int = HEIGHT, more: tuple[str, ...] = ()) -> webdriver.Chrome:
    options = Options()
    options.binary_location = "/usr/bin/chromium"
    for flag in (*FLAGS, *more, f"--user-data-dir={profile}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = Chromium(options=options, service=Service("/usr/bin/chromedriver"))
    # `--window-size` counts the window's frame; this does not.
    size = {"width": WIDTH, "height": height, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    return driver


@pytest.fixture(scope="session")
def driver(tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    made = make_driver(tmp_path_factory.mktemp("profile"))
    yield made
    made.quit()


@pytest.fixture
def address(tmp_path: Path, driver: webdriver.Chrome, demo_file: Path) -> Iterator[str]:
    process, at = serve(copy_of(demo_file, tmp_path / "demo.sqlite3"))
    yield at
    driver.get("about:blank")  # a page that listens to its program would tell the log that it went away
    process.terminate()
    process.wait(10)


@pytest.fixture(scope="session")
def looked_at(
    tmp_path_factory: pytest.TempPathFactory, driver: webdriver.Chrome, demo_file: Path
) -> Iterator[str]:
    """One demo workshop for all tests that only look."""
    process, at = serve(copy_of(demo_file, tmp_path_factory.mktemp("looked-at") / "demo.sqlite3"))
    yield at
    driver.get("about:blank")
    process.terminate()
    process.wait(10)


@pytest.fixture
def own(tmp_path: Path, driver: webdriver.Chrome) -> Iterator[str]:
    """An empty workshop of one's own."""
    process, at = serve(tmp_path / "own.sqlite3", "serve")
    yield at
    driver.get("about:blank")
    process.terminate()
    process.wait(10)


@pytest.fixture
def browser(driver: webdriver.Chrome) -> Iterator[webdriver.Chrome]:
    """The driver, with an empty browser log before and after every test."""
    told(driver)
    yield driver
    assert told(driver) == []


def told(driver: webdriver.Chrome) -> list[dict[str, object]]:
    """What the page told the browser's log since it was last asked."""
    entries = driver.get_log("browser")  # type: ignore[no-untyped-call]  # selenium's own
    return [entry for entry in entries if OF_THE_DRIVER not in str(entry["message"])]
