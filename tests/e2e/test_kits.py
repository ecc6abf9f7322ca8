"""A seller's text in the browser, from an empty workshop: by clicks and keys alone, and at every width."""

from pathlib import Path

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By

from tests.e2e.walking import Walker

MOST_ACTIONS = 6
MAIL = """Order confirmation 7741 - Tidewrack Watch Parts

1. Case - Rowan 40, brushed steel, 40 mm diameter, lug width 20 mm, crown at 3, takes 28.5 mm dials, height 13.5 mm, 100 m - $61.00
2. Case back - screw-in, sapphire window - $14.00
3. Crystal - double domed sapphire, 30.5 mm, edge thickness 2.5 mm - $17.50
4. Dial - Heron moss green, 28.5 x 0.4 mm, no date, for Tern 27 movements - $22.00
5. Hands - sword, hole 1.50/0.90/0.20, length 8/12/12.5 mm, for Tern 27 - $9.40
6. Movement - Tern 27, automatic, hacking, 27.0 mm diameter, height 5.3 mm, stem height 2.2 mm - $52.00
7. Crown - 6.0 mm, thread 0.90, for Tern 27 - $4.00
8. Stem - thread 0.90, length 25 mm, for Tern 27 - $2.00
9. Strap - canvas, grey, 20/18 mm, quick-release - $15.00
10. Spring bars - 22 mm, 1.5 mm - $1.50
11. Case back gasket - 30.2 x 0.8 mm - $1.00
12. Tweezers, brass - $5.50

Shipping $6.90
Total $211.80
"""


class CountingWalker(Walker):
    """Counts what a builder does."""

    actions = 0

    def press(self, words: str, within: str = "") -> None:
        """A click."""
        self.actions += 1
        super().press(words, within)

    def type(self, label: str, value: str, within: str = "", end: str = "") -> None:
        """Something typed or pasted."""
        self.actions += 1
        super().type(label, value, within, end)


def names(browser: Chrome) -> list[str]:
    fields = browser.find_elements(By.CSS_SELECTOR, ".kit-tile input[name^=name-]")
    return [str(field.get_attribute("value")) for field in fields]


def test_a_mail_of_eleven_parts_is_a_drawn_watch_with_prices_in_six_actions(
    browser: Chrome, own: str
) -> None:
    walker = CountingWalker(browser, own)
    walker.type("Sellers' texts, pasted", MAIL)
    walker.press("Begin")
    walker.sees("11 parts", "With this text")
    assert len(browser.find_elements(By.CSS_SELECTOR, ".kit-watch figure svg")) == 2
    walker.type("The seller", "Tidewrack")
    walker.type("1 USD is", "0.92")
    walker.press("Use all sure values")
    walker.sees("doubt then")
    assert walker.actions <= MOST_ACTIONS
    browser.get(f"{own}/watches/1/order")
    walker.sees("Rowan 40, brushed steel", "189.80 EUR")
    assert "Tweezers, brass" not in browser.find_element(By.CSS_SELECTOR, ".plan").text
    browser.get(f"{own}/watches/1/money")
    walker.sees("183.45 EUR still open")


def test_parts_are_joined_split_and_left_out_by_keys(browser: Chrome, own: str) -> None:
    walker = Walker(browser, own)
    walker.type("Sellers' texts, pasted", MAIL)
    walker.press("Begin")
    walker.sees("11 parts")
    line = browser.find_element(By.CSS_SELECTOR, ".kit-line input[value='4']")
    browser.execute_script("arguments[0].click(); arguments[0].focus()", line)
    walker.key("x")
    walker.waits(lambda b: len(names(b)) == 10, "the crystal is left out")
    line = browser.find_element(By.CSS_SELECTOR, ".kit-line input[value='5']")
    browser.execute_script("arguments[0].click(); arguments[0].focus()", line)
    walker.key("j")
    walker.waits(lambda b: len(names(b)) == 9, "the dial's line goes on with what stands before it")
    walker.type("Name of part 1", "My case")
    walker.choose("Kind of part 2", "Crystal")
    walker.waits(lambda b: "My case" in names(b), "what was typed is kept with the choice")
    assert [e for e in browser.get_log("browser") if e["level"] == "SEVERE"] == []  # type: ignore[no-untyped-call]


DROPPED = """
const carried = new DataTransfer();
carried.items.add(new File([arguments[0]], 'order.html'));
document.body.dispatchEvent(new DragEvent('drop', {dataTransfer: carried, bubbles: true, cancelable: true}));
"""
WIDTHS = (390, 820, 1280)


@pytest.mark.parametrize("width", WIDTHS)
def test_a_page_of_a_text_scrolls_no_sideways_and_takes_a_file(
    browser: Chrome, own: str, width: int, tmp_path: Path
) -> None:
    walker = Walker(browser, own)
    walker.type("Its name", "Filed")
    walker.press("Begin")
    walker.sees(
        "Filed", "Saved, version 1"
    )  # a page asked for while the form is under way is overtaken by it
    browser.get(f"{own}/watches/1/listing")
    file = tmp_path / "order.html"
    file.write_text(
        f"<p>{'<br>'.join(MAIL.splitlines())}</p><script>document.title = 'run'</script>", "utf-8"
    )
    browser.set_window_size(width, 900)
    if width == max(WIDTHS):
        browser.execute_script(DROPPED, file.read_text("utf-8"))
    else:
        walker.type("Or drop", str(file))
        walker.press("Read the file")
    walker.sees("11 parts")
    assert browser.title != "run"
    assert browser.execute_script("return document.documentElement.scrollWidth <= innerWidth")
    browser.set_window_size(1280, 900)
