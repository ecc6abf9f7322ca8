"""Two of the fourteen jobs, walked to their end: J5, a foreign movement; J10, a support for the press."""

from pathlib import Path

from selenium.webdriver import Chrome

from marquetry.cli import main
from tests.e2e.walking import Walker


def tried(walker: Walker, side: str, name: str) -> None:
    """A spacer of what is missing, tried on one side of the dial and kept as a variant."""
    walker.press("Section")
    walker.press("What if")
    walker.sees("Trying; nothing is stored")
    walker.choose("Side of the dial", side)
    walker.enter("Add a spacer", "0.74")
    walker.sees("Stem against tube: CLASH → CLEAR")
    walker.enter("Name of the variant", name)
    walker.sees("compared with its variants", name)


def test_j5_a_movement_that_was_never_meant_for_the_case(browser: Chrome, address: str) -> None:
    """Both sides compared, a holder by two prints with what each measured, the good one in the watch."""
    walker = Walker(browser, address)
    walker.press("Night Ferry")
    walker.sees("Stem against tube", "0.74 mm", "CLASH")
    tried(walker, "dial side", "Before the dial")
    tried(walker, "movement side", "Behind the dial")
    walker.sees("0 CLASH", "1 CLASH")  # the hands run out of post behind the dial
    walker.press("Make it the watch", within="Before the dial")
    walker.press("Make")
    walker.sees("Made here, for this watch", "over half a millimetre too low")
    walker.press("Holder")
    walker.press("All sizes as the watch proposes")
    walker.sees("Saved, version 3")
    for height, felt, state in (("5.26", "too tight", "spoilt"), ("5.18", "clamps well", "good")):
        walker.press("Make a version")
        walker.sees("not tried yet")
        walker.type("Movement face to back rim, measured", height)
        walker.type("Outer Ø, measured", "29.14")
        walker.type("Inner Ø, measured", "27.10")
        walker.press("Keep what it measures")
        walker.choose("It came out", state)
        walker.type("How it felt", felt)
        walker.press("Note it")
        walker.sees(felt)
    walker.sees("3 made, 2 spoilt")
    walker.press("It goes into the watch")
    walker.sees("in the watch")
    walker.press("All")
    walker.sees("What the printers really make", "PETG")
    walker.press("Fit")
    walker.sees("Fit TIGHT")


def test_j10_a_support_for_the_press_and_the_right_gasket(
    browser: Chrome, address: str, tmp_path: Path
) -> None:
    """Every diameter with its sign, a tapping drill, gaskets by squeeze; then tight as was wished."""
    walker = Walker(browser, address)
    walker.press("Skerry Light")
    walker.press("Make")
    walker.press("Press support")
    walker.press("All sizes as the watch proposes")
    walker.sees("Trying; nothing is stored", "a diameter, not a radius")
    walker.press("Bore for the press")
    walker.sees("Thread of the press", "Tapping drill Ø 5.00", "Eyes protected")
    walker.press("Keep")
    walker.sees("Saved, version", "Rotor in press support 0.80 mm")
    walker.press("Words for a turner")
    walker.sees("Seat: Ø", "that is its diameter", "Thread for the press: M6")
    walker.press("Remedies")
    walker.sees("Crystal and gasket for this bore")
    walker.press("Finder")
    walker.press("Crystal × case")
    walker.sees("All as CSV")
    file = tmp_path / "chamber.csv"
    assert main(["chamber", "--case", "sound", "--bar", "10", "--out", str(file)]) == 0
    walker.press("Prove")
    walker.press("Water, dry test")
    walker.sees("10.0 bar is the pressure of the depth that is wanted", "not a diving certificate")
    walker.type("Or the chamber's file", str(file))
    walker.type("by", "Kittiwake Bench")
    walker.press("Keep this test")
    walker.sees("Tight: the case kept its give", "Tight at 10.0")
