"""Every kind of mishap, and what is looked up among them; failures of questions are `failures`' own."""

from collections.abc import Iterable, Sequence

from marquetry.core.bench.failures import FAILURES
from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.mishap import (
    AGAIN,
    CHECKS,
    PRESSES,
    MishapKind,
    WayBack,
    first_of,
    hand_at,
    here,
)
from marquetry.core.bench.procedure import Procedure

MISHAPS: tuple[MishapKind, ...] = (
    MishapKind(
        "hand_too_deep", "Hand too deep",
        "From the side, light behind: does it touch the dial, a marker, or the blade below?",
        (
            WayBack("lift", "Lift it with levers over foil, press again on its shim", 8, "Its grip is worn once more; three times is the end of most.", "refitted", hand_at),
            WayBack("other", "Another hand set", 15, "Height and looks of the new one have to be looked at.", "scrapped", hand_at),
            WayBack("leave", "Accept it as it is: it clears, only less than wanted", 0, "It may touch once the watch is knocked."),
        ),
        "Shim beside the post before the press is let down; look from the side halfway.", "hands", (*PRESSES, *CHECKS),
    ),
    MishapKind(
        "hand_scratched", "Hand scratched",
        "Under the loupe: through the lacquer, or on it? Seen at arm's length?",
        (
            WayBack("leave", "Accept it as it is, at the end that the next hand covers", 0, "The client sees it under the loupe.", "scratched"),
            WayBack("other", "Another hand set", 15, "Grips and lengths have to be looked at again.", "scrapped", hand_at),
        ),
        "Foil between tool and hand, every time.", "hands", (*PRESSES, "hands_off_donor", "clean_dial_and_hands"),
    ),
    MishapKind(
        "dial_scratched", "Dial scratched",
        "Does a hand, the ring or a marker cover it? Dust looks like a scratch: putty first.",
        (
            WayBack("leave", "Accept it as it is where it is covered", 0, "It shows when the hand moves on.", "scratched"),
            WayBack("repaint", "Take it out and have it repainted", 240, "Another tone; thicker at its edge.", "scratched", first_of("fix_dial")),
            WayBack("other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", first_of("clean_dial")),
        ),
        "Paper over the dial whenever a tool is over it.", "dial", (*PRESSES, "trial_dial", "fix_dial", "dial_off_donor"),
    ),
    MishapKind(
        "paint_dissolved", "Paint dissolved",
        "Do not rub: let it dry flat, face up.",
        (
            WayBack("repaint", "Strip and repaint it", 300, "The print is lost with it.", "scratched", first_of("clean_dial")),
            WayBack("other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", first_of("clean_dial")),
        ),
        "Solvent is tried on the back first, and never on a face.", "dial", ("clean_dial", "clean_after_filing", "set_adapter"),
        "Fumes: air the room.",
    ),
    MishapKind(
        "foot_broken", "Foot broken",
        "Is its stub flat? Do the others still hold the dial without it?",
        (
            WayBack("pads", "Take the others off too, hold it by pads", 30, "It can shift in the heat.", "scratched", first_of("trial_dial")),
            WayBack("solder", "A new foot by a licensed or skilled workshop", 0, "Heat marks the face; days away.", "scratched", first_of("trial_dial")),
            WayBack("other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", first_of("clean_dial")),
        ),
        "Down evenly with two fingers; a foot that is off is bent before, not pressed home.", "dial", ("remove_feet", "trial_dial", "fix_dial", "dial_off_donor"),
    ),
    MishapKind(
        "stem_short", "Stem too short",
        "Push it home and read the gap again before it is given up.",
        (
            WayBack("other", "Another stem, begun from its full length", 25, "None, but its price.", "scrapped", first_of("trial_stem")),
            WayBack("extender", "A stem extender of the same thread", 20, "It may be seen, and comes loose where it is not locked.", "scratched", first_of("trial_stem")),
        ),
        "Cut with the ledger's reserve; the rest is filed.", "stem", ("cut_stem", "dress_stem_end", "crown_works", "measure_gap"),
    ),
    MishapKind(
        "stem_thread_crossed", "Stem's thread crossed",
        "Does the crown's thread still take a new stem? Look into its bore.",
        (
            WayBack("recut", "Cut the damaged turns off, where enough is left", 10, "It may become too short.", "", first_of("measure_gap")),
            WayBack("other", "Another stem", 25, "None, but its price.", "scrapped", first_of("trial_stem")),
        ),
        "End flat, burr off, two turns back before the first turn on.", "stem", ("trial_stem", "dress_stem_end", "crown_works"),
    ),
    MishapKind(
        "crystal_chipped", "Crystal chipped",
        "Every splinter out of the case, with putty: count the chip's pieces.",
        (
            WayBack("other", "Another crystal and another gasket", 20, "Its diameter has to be measured before.", "scrapped", first_of("press_crystal")),
            WayBack("leave", "Accept it as it is where the bezel covers it", 0, "It may run; no depth may be promised.", "scratched"),
        ),
        "Crooked at the start means out again, at once.", "crystal", ("press_crystal", "crystal_seated", "crystal_side"),
        "Glass splinters: eye protection, and a wet cloth rather than a brush.",
    ),
    MishapKind(
        "dust_under_crystal", "Dust under the crystal",
        "Turn it under a low light: on the dial, on a hand, or on the glass?",
        (
            WayBack("open", "Open it again and take it off with putty", 25, "Each opening lets more in.", "", first_of("dust_case")),
            WayBack("leave", "Accept it as it is: not seen at arm's length", 0, "Once seen, always seen."),
        ),
        "Nothing between dusting and casing up.", "", ("case_up", "dial_square", "last_dust", "hand_over_ready"),
    ),
    MishapKind(
        "lume_flaked", "Lume flaked",
        "Every flake out before it gets into the works. Old paint: stop, and have it assessed.",
        (
            WayBack("fill", "Fill it again, off the watch", 60, "Another glow than its neighbours.", "scratched", hand_at),
            WayBack("other", "Another part", 30, "Its looks have to match.", "scrapped", hand_at),
        ),
        "Hands are held at the boss, never at the lume.", "hands", (*PRESSES, "clean_dial_and_hands", "hands_off_donor"),
        "Old luminous paint may be radioactive: do not scrape, file or sand it; have it assessed.",
    ),
    MishapKind(
        "post_pulled_up", "Centre post pulled up",
        "Do hands still turn when the crown is turned? Do the wheels grind?",
        (
            WayBack("press", "Dial off, press the post down on its rest", 40, "Pressed too far, the wheels bind.", "", first_of("check_movement")),
            WayBack("other", "Another movement", 60, "All that is on it comes off.", "scrapped", first_of("check_movement")),
        ),
        "Levers level on both sides, lifted together.", "movement", ("hands_off_donor", *PRESSES, *CHECKS),
    ),
    MishapKind(
        "wheels_grind", "Wheels grind when set",
        "Stop turning. Is the washer in, is the post down, is there a chip?",
        (
            WayBack("open", "Dial off again, look at washer, wheel and post", 40, "Hands are fitted once more.", "refitted", first_of("washer_seated")),
            WayBack("other", "Another movement", 60, "All that is on it comes off.", "scrapped", first_of("check_movement")),
        ),
        "Set it once by hand before the dial goes on: grinding is felt.", "movement", ("calendar_works", "hands_round", "crown_works", "functions_all"), of=("calendar_works",),
    ),
    MishapKind(
        "screw_lost", "Screw lost",
        "Nobody moves. Light low along the bench, then a magnet under a sheet of paper, then your lap.",
        (
            WayBack("found", "Found: clean it and go on", 5, "None."),
            WayBack("other", "One from the donors' tin", 10, "Another length goes through the plate."),
            WayBack("inside", "Not found: it may be inside. Open and shake over paper", 30, "A screw inside stops the train.", "", here),
        ),
        "Screws are turned over a tray, with a lid.", "", ("rotor_off", "swap_rotor", "strip_calendar", "fix_dial", "stem_out"),
    ),
    MishapKind(
        "gasket_cut", "Gasket cut",
        "Where? A cut gasket leaks, however small.",
        (
            WayBack("other", "Another gasket, greased", 5, "None, where its size is right.", "scrapped", first_of("grease_back_gasket")),
        ),
        "Greased, untwisted, the groove clean.", "back_gasket", ("close_back", "tighten_back", "grease_back_gasket"), of=("grease_back_gasket",), checks=("back_gasket_squeeze", "back_gasket_stretch"),
    ),
    MishapKind(
        "insert_crooked", "Insert crooked",
        "How far? Past half a click it is seen.",
        (
            WayBack("again", "Warm it, lift it, clean, new adhesive", 25, "A bent insert never lies flat again.", "refitted", first_of("stick_insert")),
            WayBack("leave", "Accept it as it is: within half a click", 0, "Once seen, always seen."),
        ),
        "The bezel at its click first, then the insert in one go.", "bezel_insert", ("stick_insert", "insert_straight"), of=("insert_straight", "look_over_case"),
    ),
    MishapKind(
        "rotor_rubs", "Rotor rubs",
        "Face up or face down? Against the back, the holder, or its own bridge?",
        (
            WayBack("screw", "Its screw firm, nothing under its bearing", 10, "None.", "", first_of("rotor_free")),
            WayBack("holder", "The holder off: a tab or the rim stands proud", 20, "Filed too far it holds nothing.", "", first_of("fit_holder", "rotor_free")),
            WayBack("back", "A deeper back, or one spacer less", 30, "The height changes: run the report again.", "", first_of("rotor_free")),
        ),
        "In every position, by ear, before the back goes on.", "", ("rotor_free", "close_back", "tighten_back", "swap_rotor"), of=("rotor_free",), checks=("rotor_clearance", "holder_rotor", "holder_rotor_rim"),
    ),
    MishapKind(
        "movement_faulty", "Movement faulty",
        "Wound, demagnetised, and a minute left alone: does it still stop, skip, or not set?",
        (
            WayBack("other", "Another movement from stock", 20, "Crown's place, feet and posts may differ: the report says so.", "returned", first_of("check_movement")),
            WayBack("service", "To its seller, or to a watchmaker, and wait", 10, "All else lies open meanwhile: cover it.", "", first_of("check_movement")),
            WayBack("well", "It was magnetised or run down: well again", 5, "It comes back where magnets are near.", "", first_of("check_movement")),
        ),
        "Try it in every position of the crown before a screw is turned.", "movement", ("check_movement", "functions_all"), of=("check_movement", "calendar_works"), is_sellers=True,
    ),
    MishapKind(
        "feet_miss", "Feet miss their holes",
        "Which ones, by how much, which way? Bent, or made for another movement?",
        (
            WayBack("bend", "Straighten the feet at their roots, with flat pliers over paper", 10, "A foot bends once; the second time it breaks.", "", first_of("trial_dial")),
            WayBack("off", "Take off those that miss, the dial on pads", 30, "It can shift in the heat; nothing puts a foot back.", "", first_of("trial_dial")),
            WayBack("holes", "New holes in the movement's ring", 60, "Chips; the rotor comes off.", "", first_of("trial_dial")),
            WayBack("other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", first_of("clean_dial")),
        ),
        "Lay the dial on before anything is cut.", "dial", ("trial_dial", "fix_dial"), of=("trial_dial",), checks=("dial_feet",),
    ),
    MishapKind(
        "hand_leans", "Hand leans",
        "Along the dial, from two sides: which way? Is its pipe split, its post bent?",
        (
            WayBack("lift", "Lift it with levers over foil, press again upright", 8, "Its grip is worn once more.", "refitted", hand_at),
            WayBack("other", "Another hand set", 15, "Height and looks of the new one have to be looked at.", "scrapped", hand_at),
        ),
        "Look along the dial before it is home.", "hands", (*PRESSES, *CHECKS), of=(*CHECKS, "look_over_dial"), checks=("hand_grip",),
    ),
    MishapKind(
        "hand_loose", "Hand is loose",
        "Does it slip on its post when set? How often was it fitted before? Three times is the end of most.",
        (
            WayBack("close", "Close its pipe by a trace in a collet, off the watch", 12, "It splits; or grips too hard.", "refitted", hand_at),
            WayBack("other", "Another hand set", 15, "Height and looks of the new one have to be looked at.", "scrapped", hand_at),
        ),
        "A hand is pressed once; every lifting costs grip.", "hands", (*PRESSES, *CHECKS), of=CHECKS, checks=("hand_grip",),
    ),
    MishapKind(
        "click_spring_lost", "Click spring lost",
        "Nobody moves. Light low along the bench, a magnet under paper, then your lap.",
        (
            WayBack("found", "Found: wipe it, a trace of grease, in again", 5, "Bent, it clicks weakly.", "", first_of("grease_click")),
            WayBack("other", "One of the same kind", 10, "Another height lifts the bezel.", "", first_of("grease_click")),
            WayBack("donor", "One out of a donor's bezel", 15, "The donor's bezel no longer clicks.", "", first_of("grease_click")),
        ),
        "Over a tray, a cloth round the bezel while it comes off.", "bezel", ("grease_click", "fit_bezel", "bezel_turns"), "Springs fly: eye protection.",
        of=("bezel_turns",),
    ),
    MishapKind(
        "bezel_stuck", "Bezel does not turn",
        "Grit, film under it, or the insert's adhesive at its edge? Do not turn it by the insert.",
        (
            WayBack("off", "Lift it off with a taped blade, clean, on again", 12, "A blade marks the case.", "", first_of("fit_bezel", "stick_insert")),
            WayBack("adhesive", "Cut the adhesive at its edge with a thread", 15, "The insert lifts.", "", first_of("stick_insert", "fit_bezel")),
        ),
        "Adhesive a millimetre inside the edge that turns.", "bezel", ("fit_bezel", "bezel_turns", "stick_insert"), of=("bezel_turns", "bezel_at_click"),
        checks=("bezel_on_case", "adhesive_width"),
    ),
    MishapKind(
        "movement_fell", "Movement fell",
        "Do not wind it. Under the loupe: balance, stem, posts, feet, a bent rim; then let it run, and hear it.",
        (
            WayBack("well", "It runs, sets and swings as before", 10, "What is bent a little shows in a week.", "", first_of("check_movement")),
            WayBack("service", "To a watchmaker, and wait", 10, "All else lies open meanwhile: cover it.", "", first_of("check_movement")),
            WayBack("other", "Another movement", 60, "All that is on it comes off.", "scrapped", first_of("check_movement")),
        ),
        "Over a soft mat, in its holder, never in two fingers.", "movement", ("check_movement", "movement_on_rest", "case_up"),
    ),
    MishapKind(
        "case_fell", "Case or bezel fell",
        "Corner, lug, tube, crystal's edge: turn it under a low light. Does the crown still screw home?",
        (
            WayBack("brush", "Brush the mark out, along its grain", 30, "A corner never comes back.", "scratched", first_of("finish_case")),
            WayBack("other", "Another case", 60, "Crown place and heights may differ: the report says so.", "scrapped", first_of("open_case")),
        ),
        "A mat under the hands, tape on what is polished.", "case", ("open_case", "finish_case", "press_crystal", "fit_bezel"),
    ),
    MishapKind(
        "chips_in_works", "Chips in the works",
        "Stop: do not turn the crown. Face down, tap and blow; then the loupe, wheel by wheel.",
        (
            WayBack("clean", "Clear every chip with putty and blower", 25, "One that is left stops the train.", "", first_of("clear_chips", "check_movement")),
            WayBack("service", "To a watchmaker, to be cleaned", 10, "Days away; dearer than some movements.", "", first_of("check_movement")),
            WayBack("other", "Another movement", 60, "All that is on it comes off.", "scrapped", first_of("check_movement")),
        ),
        "Putty all round before the drill is set.", "movement", ("drill_feet_holes", "clear_chips", "clean_after_filing", "functions_all"),
        "Compressed air drives chips in: a hand blower, from inside outwards.",
    ),
    MishapKind(
        "hole_off_place", "Hole drilled off its place",
        "How far, on which side? Does the plate still bear all round it? A foot may be bent by as much.",
        (
            WayBack("bend", "Bend the foot to the hole, at its root", 10, "A foot bends once; the second time it breaks.", "", first_of("trial_dial")),
            WayBack("widen", "Open the hole by a tenth, chips kept out", 20, "The dial can shift in it.", "", first_of("clear_chips")),
            WayBack("pads", "Feet off, hold the dial by pads", 30, "It can shift in the heat.", "", first_of("trial_dial")),
        ),
        "Drill through the template, pinned; a dimple first.", "movement", ("drill_feet_holes",),
        "Eye protection; chips kept out of the works.",
    ),
    MishapKind(
        "lever_released", "Setting lever released too far",
        "The stem no longer holds, or does not set: the yoke fell aside under the dial. Do not force it.",
        (
            WayBack("screw", "Hold the movement stem up, turn the setting screw in while pushing the stem", 10, "Works once in two times.", "", first_of("stem_out", "trial_stem")),
            WayBack("open", "Hands and dial off, lever and yoke laid back under their cover", 60, "Hands are fitted once more.", "refitted", first_of("fix_dial")),
        ),
        "A screw: half a turn, then quarters. A button: only until the stem comes.", "hands", ("stem_out", "stem_out_of_donor", "trial_stem"),
    ),
    MishapKind(
        "window_too_wide", "Window too wide",
        "How much wider than the numeral's field? A frame, or a ring of lume round it, may cover it.",
        (
            WayBack("frame", "A frame over the window", 30, "It stands proud: under the hour hand there must be air.", "", first_of("trial_dial")),
            WayBack("other", "Another blank", 60, "The cut has to be right this time: cut a sample first.", "scrapped", first_of("clean_dial")),
        ),
        "Cut a paper dial first, and lay it over the disc.", "dial", ("trial_dial", "date_in_window", "clean_dial"), checks=("date_angle", "date_radius"),
    ),
    MishapKind(
        "insert_faded", "Insert faded, or of another tone",
        "By daylight, beside what was promised. Heat and solvent change it; so did the seller's lamp.",
        (
            WayBack("other", "Another insert", 25, "The bezel's channel is cleaned before.", "scrapped", first_of("stick_insert")),
        ),
        "Tones are chosen by daylight, part beside part.", "bezel_insert", ("stick_insert", "insert_straight", "hand_over_ready"),
    ),
    MishapKind(
        "magnetised", "Magnetised",
        "It gains minutes a day, or a compass needle turns when it is brought near.",
        (
            WayBack("field", "Draw it through the demagnetiser, slowly, well away before it is let go", 5, "Not with a battery movement's coil near the field.", "", here),
            WayBack("service", "To a watchmaker", 10, "Minutes of work, days away.", "", here),
        ),
        "No magnets on the bench: loudspeaker, bag clasp, screwdriver, lid.", "movement", ("check_movement", "rate_positions", "worn_a_day", "functions_all"), of=("check_movement",),
    ),
    MishapKind(
        "not_as_sold", "Not as it was sold",
        "Hold it against its listing, line by line: size, finish, what was to be in the box. Photograph both.",
        (
            WayBack("return", "Back to its seller, another one ordered", 15, "Days; opened, altered or scratched it is yours.", "returned", here),
            WayBack("price", "Keep it, and ask for a part of its price", 10, "Once built in, nobody pays."),
        ),
        "Every part against its listing on the day it comes.", "", ("lay_out_parts", "check_movement", "open_case", "look_over_case", "look_over_dial"),
        of=("check_movement", "look_over_case", "look_over_dial"), is_sellers=True,
    ),
    MishapKind(
        "wrong_part", "Wrong part",
        "Hold it against its line in the list: name, size, side.",
        (
            WayBack("swap", "Out with it, the right one in", 20, "What was done to it stays done.", "", here),
        ),
        "Each part against its line before it goes in.", "", ("lay_out_parts", "seat_ring", "crystal_side"),
    ),
    MishapKind(
        "other", "Something else",
        "Put everything down. What is loose, cover; what is wet, let dry.",
        (
            WayBack("again", AGAIN, 10, "What went wrong once goes wrong again: change something.", "", here),
            WayBack("go_on", "Note it and go on", 0, "None known."),
        ),
        "",
    ),
)  # fmt: skip
"""In the order in which the sheet shows them."""
MISHAP_BY_KEY = {kind.key: kind for kind in (*FAILURES, *MISHAPS)}
"""Failures of questions among them."""


def failures_of(found: Procedure, step: str) -> tuple[MishapKind, ...]:
    """What may be meant by a no to that step's question, on this watch."""
    every = (*FAILURES, *MISHAPS)
    return tuple(kind for kind in every if step in kind.of and kind.applies(found.situation))


def likely_first(step: str) -> Sequence[MishapKind]:
    """Every kind of mishap, those that happen at this step first."""
    return sorted(MISHAPS, key=lambda kind: (step not in kind.likely, MISHAPS.index(kind)))


def minutes_booked(entries: Iterable[LogEntry]) -> int:
    """Minutes that were booked with the mishaps among these entries, by their ways back.

    Where no rate was set nothing was booked, and the clock still counts them.
    """
    found = 0
    for entry in entries:
        kind = (
            MISHAP_BY_KEY.get(str(entry.detail.get("kind")))
            if entry.what == "mishap" and "hours" in entry.detail
            else None
        )
        ways = kind.ways_back if kind else ()
        found += sum(way.minutes for way in ways if way.key == entry.detail.get("way"))
    return found


def opens(found: Procedure, way: WayBack, at: str) -> tuple[str, ...]:
    """Steps that open again on this way back: the one it undoes, and what came after and depends on it."""
    undone = way.undoes(found, at)
    return (undone, *found.depending_on(undone)) if undone else ()
