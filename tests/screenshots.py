"""Takes the pictures in docs/screenshots from a fresh demo workshop: `make screenshots`."""

from pathlib import Path
from tempfile import TemporaryDirectory

from selenium.webdriver import Chrome

from tests.e2e.conftest import make_driver, serve

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"
VIEWS = {
    "bench": ("/", "day"),
    "night-ferry-half-section": ("/watches/2", "day"),
    "night-ferry-hands": ("/watches/2?view=hands&stretch=1&check=hand_stack", "day"),
    "orchard-unmeasured": ("/watches/3?check=rotor_clearance", "day"),
    "skerry-light-whole-night": ("/watches/1?view=whole&stretch=2", "night"),
    "patterns": ("/patterns", "day"),
}


def take(driver: Chrome, address: str, name: str, theme: str) -> None:
    driver.get(address)
    driver.execute_script("localStorage.setItem('theme', arguments[0])", theme)
    driver.refresh()
    driver.execute_async_script("const done = arguments[0]; document.fonts.ready.then(() => done())")
    driver.save_screenshot(str(FOLDER / f"{name}.png"))
    print(f"docs/screenshots/{name}.png")


def main() -> None:
    with TemporaryDirectory() as folder:
        process, address = serve(Path(folder) / "demo.sqlite3")
        driver = make_driver(Path(folder) / "profile")
        try:
            for name, (path, theme) in VIEWS.items():
                take(driver, address + path, name, theme)
        finally:
            driver.quit()
            process.terminate()
            process.wait(10)


if __name__ == "__main__":
    main()
