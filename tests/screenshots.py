"""Takes the pictures in docs/screenshots from a fresh demo workshop: `make screenshots`."""

import json
from pathlib import Path
from tempfile import TemporaryDirectory
from urllib.parse import urlencode

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.expected_conditions import url_contains
from selenium.webdriver.support.wait import WebDriverWait

from tests.e2e.conftest import make_driver
from tests.nursery import serve

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"
SPACER = '[["spacers",[{"side":"dial","thickness":{"value":0.74,"source":"measured"}}]]]'
BEHIND = SPACER.replace('"dial"', '"movement"')
WITH_ALL = [
    ["holder.face_to_rim", 5.92], ["holder.step", 2.4],
    ["holder.slot", {"width": 2.9, "height": 2.9, "open": "back"}],
    ["holder.lugs", {"count": 4, "width": 2.0, "height": 0.3, "angle": 45}],
]  # fmt: skip
"""A holder with everything that one may have, as it is tried on Night Ferry."""
VIEWS = {
    "bench": ("/", "day"),
    "night-ferry-half-section": ("/watches/2", "day"),
    "skerry-light-face": ("/watches/1/face", "day"),
    "skerry-light-brief": ("/watches/1/brief", "day"),
    "bench-step": ("/watches/4/build/at/press_minute", "day"),
    "made-holder": (f"/watches/2/make/part/holder?{urlencode({'try': json.dumps(WITH_ALL)})}", "day"),
    "workshop-years": ("/workshop/years", "day"),
    "orchard-next": ("/watches/3/next", "day"),
    "tide-table-proofs": ("/watches/4/prove", "day"),
    "sellers-text": ("/shelf/listing", "day"),
    "shelf-dials": ("/shelf?kind=dial&for=2", "day"),
    "orders": ("/orders", "day"),
    "tide-table-card": ("/watches/4/story/card", "day"),
    "tide-table-story": ("/watches/4/story", "day"),
    "night-ferry-remedies": ("/watches/2/remedies?now=true", "day"),
    "finder": ("/watches/2/finder", "day"),
    "begin": ("/begin", "day"),
    "handbook": ("/handbook/section", "day"),
    "rehearsed-hands": ("/rehearsal/12", "day"),
}


def take(driver: Chrome, address: str, name: str, theme: str) -> None:
    driver.get(address)
    driver.execute_script("localStorage.setItem('theme', arguments[0])", theme)
    driver.refresh()
    driver.execute_async_script("const done = arguments[0]; document.fonts.ready.then(() => done())")
    if driver.find_elements(By.ID, "turning"):
        WebDriverWait(driver, 10).until(
            lambda d: d.find_element(By.ID, "turning").get_attribute("data-shown")
        )
    driver.save_screenshot(str(FOLDER / f"{name}.png"))
    print(f"docs/screenshots/{name}.png")


def main() -> None:
    with TemporaryDirectory() as folder:
        process, address = serve(Path(folder) / "demo.sqlite3")
        driver = make_driver(Path(folder) / "profile")
        try:
            for name, trial in (("Dial-side spacer", SPACER), ("Behind the dial", BEHIND)):
                driver.get(f"{address}/watches/2?try={trial}")
                driver.find_element(By.ID, "variant-name").send_keys(name + Keys.ENTER)
                WebDriverWait(driver, 10).until(url_contains("/compare"))
            for name, (path, theme) in VIEWS.items():
                take(driver, address + path, name, theme)
        finally:
            driver.quit()
            process.terminate()
            process.wait(10)


if __name__ == "__main__":
    main()
