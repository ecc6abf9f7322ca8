"""One of the fourteen jobs, walked to its end: J2, one watch made out of two at a client's wish."""

from selenium.webdriver import Chrome

from tests.e2e.walking import Walker


def filled(walker: Walker, part: str, piece: str) -> None:
    """A part of the watch, exchanged for one of the shelf."""
    walker.press("Parts")
    walker.press(part, within="Parts and their dimensions")
    walker.press("From the shelf")
    walker.sees("All drawers")
    walker.press(f"Put {piece} into Two Tides")
    walker.sees("Saved, version")


def test_j2_one_watch_out_of_two_at_a_client_s_wish(browser: Chrome, address: str) -> None:
    """Wishes agreed and signed, each part from its donor, its look seen first, leftovers put away."""
    walker = Walker(browser, address)
    walker.press("Begin a watch")
    walker.press("Three hands 39")
    walker.type("Its name", "Two Tides")
    walker.press("Begin")
    walker.sees("Saved, version 1")

    walker.press("Brief")
    walker.press("open Strap or straps")
    walker.type("Which strap, and a second one?", "tan leather, and a woven one besides")
    walker.press("Propose", within="Which strap, and a second one?")
    walker.press("proposed Strap or straps")
    walker.press("The client agrees: tan leather")
    walker.sees("agreed Strap or straps")
    walker.type("Who says yes", "the museum's keeper")
    walker.press("Sign off version 1")
    walker.sees("Version 1 was signed off by the museum's keeper")

    walker.press("Shelf")
    walker.press("Donors")
    walker.press("Turnstone, from a fair")
    for piece in ("Turnstone case 39", "Fluted crown 6.0"):
        walker.choose(f"{piece} is kept for", "Two Tides")
    walker.press("Save what is kept for which build")
    walker.sees("2 kept for a build")
    walker.type("What is free goes from the tray to", "Rack W")
    walker.press("Put away")
    walker.sees("on the shelf: Rack W")

    browser.get(address)
    walker.press("Two Tides")
    filled(walker, "Case", "Turnstone case 39")
    filled(walker, "Crown", "Fluted crown 6.0")
    walker.press("Face")
    walker.sees("What it wears", "Goes together?", "In the dark")
    walker.press("By night")
    walker.sees("minutes")
    walker.press("Brief")
    walker.sees("Changed since, and what it touches")
    walker.press("Story")
    walker.sees("Strap or straps", "tan leather", "Turnstone case 39")
