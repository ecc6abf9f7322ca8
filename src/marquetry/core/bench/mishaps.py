"""Mishaps: what to look at first, the ways back with what each costs, which steps open again, what to note.

Each kind is described once; what it costs and which steps open again is worked out from the watch.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.procedure import Procedure

PieceFate = Literal["", "scratched", "scrapped", "refitted"]
"""What becomes of the part's piece on a way back."""
StepOf = Callable[[Procedure, str], str]
"""The step that a way back undoes, of this watch, seen from the step at hand; empty for none."""


@dataclass(frozen=True, slots=True)
class WayBack:
    """One way back: how long it takes, what becomes of the piece, the step it undoes, what it risks."""

    key: str
    words: str
    minutes: int
    risk: str
    fate: PieceFate = ""
    undoes: StepOf = lambda _p, _at: ""

    @property
    def wants_another(self) -> bool:
        """Whether another piece of the part is needed."""
        return self.fate == "scrapped"


@dataclass(frozen=True, slots=True)
class MishapKind:
    """One kind of mishap. `part` is the slot its piece lies in, `likely` the steps it happens at."""

    key: str
    label: str
    look: str
    ways: tuple[WayBack, ...]
    lesson: str
    part: str = ""
    likely: tuple[str, ...] = ()
    caution: str = ""


def _step(*names: str) -> StepOf:
    """The first of these that stands in the watch."""
    return lambda p, _at: next((name for name in names if name in p.by_id), "")


def _hand(p: Procedure, at: str) -> str:
    """The press of the hand at hand; else the last one pressed."""
    hand = at.partition("_")[2]
    if f"press_{hand}" in p.by_id:
        return f"press_{hand}"
    pressed = [step.id for step in p.steps if step.id.startswith("press_") and step.step.hand]
    return pressed[-1] if pressed else ""


def _here(p: Procedure, at: str) -> str:
    return at if at in p.by_id else ""


AGAIN = "Do it again"
PRESSES = ("press_h24", "press_hour", "press_minute", "press_seconds")
CHECKS = ("check_h24", "check_hour", "check_minute", "check_seconds", "hands_round")

MISHAPS: tuple[MishapKind, ...] = (
    MishapKind(
        "hand_too_deep", "Hand too deep",
        "From the side, light behind: does it touch the dial, a marker, or the blade below?",
        (
            WayBack("lift", "Lift it with levers over foil, press again on its shim", 8, "Its grip is worn once more; three times is the end of most.", "refitted", _hand),
            WayBack("other", "Another hand set", 15, "Height and looks of the new one have to be looked at.", "scrapped", _hand),
            WayBack("leave", "Leave it: it clears, only less than wanted", 0, "It may touch once the watch is knocked."),
        ),
        "Shim beside the post before the press is let down; look from the side halfway.", "hands", (*PRESSES, *CHECKS),
    ),
    MishapKind(
        "hand_scratched", "Hand scratched",
        "Under the loupe: through the lacquer, or on it? Seen at arm's length?",
        (
            WayBack("leave", "Leave it, at the end that the next hand covers", 0, "The client sees it under the loupe.", "scratched"),
            WayBack("other", "Another hand set", 15, "Grips and lengths have to be looked at again.", "scrapped", _hand),
        ),
        "Foil between tool and hand, every time.", "hands", (*PRESSES, "hands_off_donor", "clean_dial_and_hands"),
    ),
    MishapKind(
        "dial_scratched", "Dial scratched",
        "Does a hand, the ring or a marker cover it? Dust looks like a scratch: putty first.",
        (
            WayBack("leave", "Leave it where it is covered", 0, "It shows when the hand moves on.", "scratched"),
            WayBack("repaint", "Take it out and have it repainted", 240, "Another tone; thicker at its edge.", "scratched", _step("fix_dial")),
            WayBack("other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", _step("clean_dial")),
        ),
        "Paper over the dial whenever a tool is over it.", "dial", (*PRESSES, "trial_dial", "fix_dial", "dial_off_donor"),
    ),
    MishapKind(
        "paint_dissolved", "Paint dissolved",
        "Do not rub: let it dry flat, face up.",
        (
            WayBack("repaint", "Strip and repaint it", 300, "The print is lost with it.", "scratched", _step("clean_dial")),
            WayBack("other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", _step("clean_dial")),
        ),
        "Solvent is tried on the back first, and never on a face.", "dial", ("clean_dial", "clean_after_filing", "set_adapter"),
        "Fumes: air the room.",
    ),
    MishapKind(
        "foot_broken", "Foot broken",
        "Is its stub flat? Do the others still hold the dial without it?",
        (
            WayBack("pads", "Take the others off too, hold it by pads", 30, "It can shift in the heat.", "scratched", _step("trial_dial")),
            WayBack("solder", "A new foot by a licensed or skilled workshop", 0, "Heat marks the face; days away.", "scratched", _step("trial_dial")),
            WayBack("other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", _step("clean_dial")),
        ),
        "Down evenly with two fingers; a foot that is off is bent before, not pressed home.", "dial", ("remove_feet", "trial_dial", "fix_dial", "dial_off_donor"),
    ),
    MishapKind(
        "stem_short", "Stem too short",
        "Push it home and read the gap again before it is given up.",
        (
            WayBack("other", "Another stem, begun from its full length", 25, "None, but its price.", "scrapped", _step("trial_stem")),
            WayBack("extender", "A stem extender of the same thread", 20, "It may be seen, and comes loose where it is not locked.", "scratched", _step("trial_stem")),
        ),
        "Cut with the ledger's reserve; the rest is filed.", "stem", ("cut_stem", "dress_stem_end", "crown_works", "measure_gap"),
    ),
    MishapKind(
        "stem_thread_crossed", "Stem's thread crossed",
        "Does the crown's thread still take a new stem? Look into its bore.",
        (
            WayBack("recut", "Cut the damaged turns off, where enough is left", 10, "It may become too short.", "", _step("measure_gap")),
            WayBack("other", "Another stem", 25, "None, but its price.", "scrapped", _step("trial_stem")),
        ),
        "End flat, burr off, two turns back before the first turn on.", "stem", ("trial_stem", "dress_stem_end", "crown_works"),
    ),
    MishapKind(
        "crystal_chipped", "Crystal chipped",
        "Every splinter out of the case, with putty: count the chip's pieces.",
        (
            WayBack("other", "Another crystal and another gasket", 20, "Its diameter has to be measured before.", "scrapped", _step("press_crystal")),
            WayBack("leave", "Leave it where the bezel covers it", 0, "It may run; no depth may be promised.", "scratched"),
        ),
        "Crooked at the start means out again, at once.", "crystal", ("press_crystal", "crystal_seated", "crystal_side"),
        "Glass splinters: eye protection, and a wet cloth rather than a brush.",
    ),
    MishapKind(
        "dust_under_crystal", "Dust under the crystal",
        "Turn it under a low light: on the dial, on a hand, or on the glass?",
        (
            WayBack("open", "Open it again and take it off with putty", 25, "Each opening lets more in.", "", _step("dust_case")),
            WayBack("leave", "Leave it: not seen at arm's length", 0, "Once seen, always seen."),
        ),
        "Nothing between dusting and casing up.", "", ("case_up", "dial_square", "last_dust", "hand_over_ready"),
    ),
    MishapKind(
        "lume_flaked", "Lume flaked",
        "Every flake out before it gets into the works. Old paint: stop, and have it assessed.",
        (
            WayBack("fill", "Fill it again, off the watch", 60, "Another glow than its neighbours.", "scratched", _hand),
            WayBack("other", "Another part", 30, "Its looks have to match.", "scrapped", _hand),
        ),
        "Hands are held at the boss, never at the lume.", "hands", (*PRESSES, "clean_dial_and_hands", "hands_off_donor"),
        "Old luminous paint may be radioactive: do not scrape, file or sand it; have it assessed.",
    ),
    MishapKind(
        "post_pulled_up", "Centre post pulled up",
        "Do hands still turn when the crown is turned? Do the wheels grind?",
        (
            WayBack("press", "Dial off, press the post down on its rest", 40, "Pressed too far, the wheels bind.", "", _step("check_movement")),
            WayBack("other", "Another movement", 60, "All that is on it comes off.", "scrapped", _step("check_movement")),
        ),
        "Levers level on both sides, lifted together.", "movement", ("hands_off_donor", *PRESSES, *CHECKS),
    ),
    MishapKind(
        "wheels_grind", "Wheels grind when set",
        "Stop turning. Is the washer in, is the post down, is there a chip?",
        (
            WayBack("open", "Dial off again, look at washer, wheel and post", 40, "Hands are fitted once more.", "refitted", _step("washer_seated")),
            WayBack("other", "Another movement", 60, "All that is on it comes off.", "scrapped", _step("check_movement")),
        ),
        "Set it once by hand before the dial goes on: grinding is felt.", "movement", ("calendar_works", "hands_round", "crown_works", "functions_all"),
    ),
    MishapKind(
        "screw_lost", "Screw lost",
        "Nobody moves. Light low along the bench, then a magnet under a sheet of paper, then your lap.",
        (
            WayBack("found", "Found: clean it and go on", 5, "None."),
            WayBack("other", "One from the donors' tin", 10, "Another length goes through the plate."),
            WayBack("inside", "Not found: it may be inside. Open and shake over paper", 30, "A screw inside stops the train.", "", _here),
        ),
        "Screws are turned over a tray, with a lid.", "", ("rotor_off", "swap_rotor", "strip_calendar", "fix_dial", "stem_out"),
    ),
    MishapKind(
        "gasket_cut", "Gasket cut",
        "Where? A cut gasket leaks, however small.",
        (
            WayBack("other", "Another gasket, greased", 5, "None, where its size is right.", "scrapped", _step("grease_back_gasket")),
        ),
        "Greased, untwisted, the groove clean.", "back_gasket", ("close_back", "tighten_back", "grease_back_gasket"),
    ),
    MishapKind(
        "insert_crooked", "Insert crooked",
        "How far? Past half a click it is seen.",
        (
            WayBack("again", "Warm it, lift it, clean, new adhesive", 25, "A bent insert never lies flat again.", "refitted", _step("stick_insert")),
            WayBack("leave", "Leave it: within half a click", 0, "Once seen, always seen."),
        ),
        "The bezel at its click first, then the insert in one go.", "bezel_insert", ("stick_insert", "insert_straight"),
    ),
    MishapKind(
        "rotor_rubs", "Rotor rubs",
        "Face up or face down? Against the back, the holder, or its own bridge?",
        (
            WayBack("screw", "Its screw firm, nothing under its bearing", 10, "None.", "", _step("rotor_free")),
            WayBack("holder", "The holder off: a tab or the rim stands proud", 20, "Filed too far it holds nothing.", "", _step("fit_holder", "rotor_free")),
            WayBack("back", "A deeper back, or one spacer less", 30, "The height changes: run the report again.", "", _step("rotor_free")),
        ),
        "In every position, by ear, before the back goes on.", "", ("rotor_free", "close_back", "tighten_back", "swap_rotor"),
    ),
    MishapKind(
        "movement_faulty", "Movement faulty",
        "Wound, demagnetised, and a minute left alone: does it still stop, skip, or not set?",
        (
            WayBack("other", "Another movement from stock", 20, "Crown's place, feet and posts may differ: the report says so.", "scrapped", _step("check_movement")),
            WayBack("service", "To its seller, or to a watchmaker, and wait", 10, "All else lies open meanwhile: cover it.", "", _step("check_movement")),
            WayBack("well", "It was magnetised or run down: well again", 5, "It comes back where magnets are near.", "", _step("check_movement")),
        ),
        "Try it in every position of the crown before a screw is turned.", "movement", ("check_movement", "functions_all"),
    ),
    MishapKind(
        "wrong_part", "Wrong part",
        "Hold it against its line in the list: name, size, side.",
        (
            WayBack("swap", "Out with it, the right one in", 20, "What was done to it stays done.", "", _here),
        ),
        "Each part against its line before it goes in.", "", ("lay_out_parts", "seat_ring", "crystal_side"),
    ),
    MishapKind(
        "other", "Something else",
        "Put everything down. What is loose, cover; what is wet, let dry.",
        (
            WayBack("again", AGAIN, 10, "What went wrong once goes wrong again: change something.", "", _here),
            WayBack("go_on", "Note it and go on", 0, "None known."),
        ),
        "",
    ),
)  # fmt: skip
"""In the order in which the sheet shows them."""
MISHAP_BY_KEY = {kind.key: kind for kind in MISHAPS}


def likely_first(step: str) -> Sequence[MishapKind]:
    """Every kind, those that happen at this step first."""
    return sorted(MISHAPS, key=lambda kind: (step not in kind.likely, MISHAPS.index(kind)))


def minutes_booked(entries: Iterable[LogEntry]) -> int:
    """Minutes that were booked with the mishaps among these entries, by their ways back."""
    found = 0
    for entry in entries:
        kind = MISHAP_BY_KEY.get(str(entry.detail.get("kind"))) if entry.what == "mishap" else None
        ways = kind.ways if kind else ()
        found += sum(way.minutes for way in ways if way.key == entry.detail.get("way"))
    return found


def opens(found: Procedure, way: WayBack, at: str) -> tuple[str, ...]:
    """Steps that open again on this way back: the one it undoes, and what came after and depends on it."""
    undone = way.undoes(found, at)
    return (undone, *found.depending_on(undone)) if undone else ()
