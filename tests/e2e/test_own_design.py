"""A design of one's own from an empty workshop: a window for a bought blank, blanks by number, a support."""

import pytest
from selenium.webdriver import ActionChains, Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.e2e.walking import Walker

MAIL = """Hello, here is your order.

Case 40 mm
Diameter: 40.0 mm
Lug width: 20 mm
Crystal bore: 31.0 mm

Dial blank, brass
Diameter: 28.5 mm
Thickness: 0.4 mm

Automatic movement
Diameter: 25.6 mm
Date at 3

Flat sapphire crystal
Diameter: 30.0 mm
Thickness: 2.0 mm

Kind regards
"""


@pytest.fixture
def walker(browser: Chrome, own: str) -> Walker:
    """A builder whose mail was read into a watch of three hands."""
    walker = Walker(browser, own)
    walker.press("Three hands 39")
    walker.type("Sellers' texts, pasted", MAIL)
    walker.press("Begin")
    walker.press("Use all sure values")
    walker.sees("doubt then")
    walker.press("Make")
    return walker


def value(walker: Walker, path: str) -> str:
    """What stands in the field of a size, once the page has settled."""
    walker.settles()
    field = walker.browser.find_element(By.ID, f"ledger-{path.replace('.', '-')}-value")
    return str(field.get_attribute("value"))


def typed(walker: Walker, path: str, text: str) -> None:
    """A size typed over what stands there, and Enter."""
    walker.settles()
    script = "const f = document.getElementById(arguments[0]); f.focus(); f.select()"
    walker.browser.execute_script(script, f"ledger-{path.replace('.', '-')}-value")
    ActionChains(walker.browser).send_keys(text, Keys.ENTER).perform()


def test_a_window_is_one_place_and_its_sheet_goes_to_the_cutter(walker: Walker) -> None:
    walker.press("Dial")
    walker.press("Window")
    walker.sees("Cut-outs seen whole", "Window 1, date: 2.00 across by 2.60")
    typed(walker, "dial.cutouts.0.at_radius", "10.60")
    walker.sees("its middle 10.60 mm from the centre")
    walker.waits(lambda _: value(walker, "dial.date_window_radius") == "10.60", "the date window follows")
    typed(walker, "dial.date_window_angle", "88")
    walker.sees("from the centre at 88.0")
    walker.press("Cut-outs only")
    walker.sees("Cut only this into a bought blank", "Window 1, date")
    walker.press("Face")
    walker.sees("What it wears")


def test_blanks_are_chosen_by_number_and_no_form_takes_away_what_another_holds(walker: Walker) -> None:
    walker.type("New batch", "Brass blanks 28.5")
    walker.type("Bought so far", "3")
    walker.press("Begin it")
    walker.sees("3 bought: 3 in work")
    walker.type("What", "white enamel", within="Trials: paint")
    walker.tick("Blank 1,")
    walker.tick("Blank 2,")
    walker.type("Stage of the chosen ones", "cut")
    walker.type("Cost each", "2 EUR")
    walker.press("They went through it")
    walker.sees("4.00 EUR")
    kept = walker.browser.find_element(By.CSS_SELECTOR, "#trials input[name=what]")
    assert kept.get_attribute("value") == "white enamel"
    walker.tick("Blank 1,")
    walker.type("Stage of the chosen ones", "print")
    walker.type("Why, if spoilt", "lint")
    walker.press("Spoilt at that stage")
    walker.sees("spoilt at print: lint", "1 × print: lint", "2 in work")
    walker.tick("Blank 2,")
    walker.press("Good", within="Stage of the chosen ones")
    walker.sees("Nothing more to order")
    walker.choose("On which blank", "blank 2 of Brass")
    walker.press("Note it", within="On which blank")
    walker.sees("on blank 2 of Brass blanks 28.5", "trial: white enamel")


def test_a_spigot_says_what_is_in_its_way_and_the_gasket_what_it_has_to_measure(walker: Walker) -> None:
    walker.press("Press support")
    walker.press("Keep")
    walker.choose("Form", "spigot")
    walker.sees("In the way of the spigot", "movement", "Spigot Ø")
    walker.press("Take the recess")
    walker.sees("Seat Ø for the case", "Case in its support")
    walker.enter("Bar at hand", "1 5/8 in")
    walker.sees("Ø 1 5/8 in = 41.28 mm: no")
    walker.press("Which gasket goes round the crystal")
    walker.sees(
        "What it has to measure", "only assumed: Case, crystal bore", "Crystal × gasket for this bore"
    )
    walker.type("Gasket tried", "wall 0.55")
    walker.press("Note it")
    walker.sees("gasket: wall 0.55")
