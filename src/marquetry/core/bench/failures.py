"""What a no to a question of the bench may mean: each failure with what to look at, ways back, and its finding."""

from collections.abc import Callable

from marquetry.core.bench.mishap import CHECKS, GO_ON, MishapKind, WayBack, first_of, hand_at, here
from marquetry.core.bench.situation import Situation

ONE_BY_ONE = tuple(step for step in CHECKS if step != "hands_round")
TRY_AGAIN = WayBack("again", "Off again, and once more", 5, "None, where what was wrong is known.", "", here)
OTHER_DIAL = WayBack(
    "other", "Another dial", 40, "Feet and window have to meet again.", "scrapped", first_of("clean_dial")
)
PRESS_AGAIN = WayBack(
    "lift",
    "Lift it with levers over foil, press again on its shim",
    8,
    "Its grip is worn once more.",
    "refitted",
    hand_at,
)
OTHER_HANDS = WayBack(
    "other",
    "Another hand set",
    15,
    "Height and looks of the new one have to be looked at.",
    "scrapped",
    hand_at,
)
OTHER_RING = WayBack("ring", "Another ring", 15, "Its height moves the dial.", "", first_of("seat_ring"))
PRESS_OUT = WayBack(
    "out",
    "Press it out from inside, clean, once more",
    15,
    "A gasket goes in once: take another.",
    "",
    first_of("press_crystal"),
)
OTHER_GASKET = WayBack(
    "gasket",
    "Press it out, another gasket",
    20,
    "Its wall decides the squeeze.",
    "",
    first_of("press_crystal"),
)
OTHER_CRYSTAL = WayBack(
    "other",
    "Another crystal and another gasket",
    20,
    "Its diameter has to be measured before.",
    "scrapped",
    first_of("press_crystal"),
)
BEZEL_OFF = WayBack(
    "off",
    "Lift it off, bend its spring or clean its seat, on again",
    12,
    "A spring bends a few times.",
    "",
    first_of("fit_bezel", "look_over_case"),
)
OTHER_BEZEL = WayBack(
    "other",
    "Another bezel",
    15,
    "Seat and insert have to fit again.",
    "scrapped",
    first_of("grease_click", "look_over_case"),
)
READ_GAP = WayBack(
    "gap",
    "Stem and crown home, read the gap again, file",
    10,
    "Filed too far it is scrap.",
    "",
    first_of("measure_gap"),
)
DIAL_OFF = WayBack(
    "dial",
    "Hands and dial off, set right under the dial",
    40,
    "Hands are fitted once more.",
    "",
    first_of("washer_seated", "calendar_works", "fix_dial"),
)
OTHER_MOVEMENT = WayBack(
    "other", "Another movement", 60, "All that is on it comes off.", "scrapped", first_of("check_movement")
)
OPEN_BACK = WayBack(
    "back",
    "Open the back, look, close it again",
    25,
    "What was proved since it was closed lapses.",
    "",
    first_of("last_dust"),
)


def _does(name: str) -> Callable[[Situation], bool]:
    return lambda s: name in s.names("movement.functions")


def _fails(
    key: str, label: str, look: str, applies: Callable[[Situation], bool], *ways: WayBack
) -> MishapKind:
    return MishapKind(
        key, label, look, (*ways, OTHER_MOVEMENT), "Tried in every place of the crown before a dial goes on.", "movement",
        of=("functions_all",), checks=("functions",), applies=applies,
    )  # fmt: skip


FAILURES: tuple[MishapKind, ...] = (
    MishapKind(
        "window_off", "Window off the date",
        "By how much, which way? A disc that leans with the crown's place shows between two numerals.",
        (
            TRY_AGAIN,
            WayBack("turn", "Off its feet, turned to the date, held by pads", 30, "Its print turns with it.", "", first_of("trial_dial")),
            OTHER_DIAL,
        ),
        "The crown's place is part of a dial: three o'clock is not four.", "dial", of=("trial_dial",), checks=("date_angle", "date_radius"),
    ),
    MishapKind(
        "dial_not_flat", "Does not lie flat",
        "Light along its edge: which side is up? A foot that is off, a screw head, the disc's guard under it.",
        (
            WayBack("bend", "Straighten the foot at its root, with flat pliers over paper", 10, "A foot bends once; the second time it breaks.", "", here),
            WayBack("washer", "Look under it: washer, screw heads, guard; then again", 10, "None.", "", here),
            OTHER_DIAL,
        ),
        "Look for light under the edge before anything is pressed down.", "dial", of=("trial_dial",), checks=("dial_feet", "foot_bottoming"),
    ),
    MishapKind(
        "ring_lifts", "The ring lifts it",
        "Does the dial's edge go under the ring all round? Paint thickens an edge.",
        (
            WayBack("edge", "Thin the edge, face down on paper, or turn it down", 40, "Dust; the paint chips.", "scratched", first_of("clean_dial")),
            OTHER_RING,
            OTHER_DIAL,
        ),
        "Edge and middle of a dial are two thicknesses: read both.", "dial", of=("trial_dial",), checks=("dial_cover", "dial_bore_clearance"),
    ),
    MishapKind(
        "hole_touches", "Centre hole touches a post",
        "From the side and from above: which side of the hole? Is the dial centred at all?",
        (
            TRY_AGAIN,
            WayBack("broach", "Broach the hole by a hundredth at a time, dust kept out", 15, "Print chips at its edge.", "scratched", here),
            OTHER_DIAL,
        ),
        "A hole is read with pin gauges, not with jaws.", "dial", of=("trial_dial",), checks=("dial_centre_hole",),
    ),
    MishapKind(
        "bezel_tight", "Bezel turns too hard",
        "Without its spring, does it still? Look for grit, a burr, film left under it.",
        (
            BEZEL_OFF,
            WayBack("lap", "Ease its bore on fine paper, a trace at a time", 25, "What is off stays off.", "scratched", first_of("fit_bezel")),
            OTHER_BEZEL,
        ),
        "Turned by hand on its seat before the spring goes in.", "bezel", of=("bezel_turns", "look_over_case"), checks=("bezel_on_case",),
    ),
    MishapKind(
        "bezel_loose", "Bezel is loose",
        "Does it lift, or only turn too lightly? Pull it between two nails.",
        (BEZEL_OFF, OTHER_BEZEL), "Seat and bore are read before a bezel is bought.", "bezel", of=("bezel_turns", "look_over_case"),
        checks=("bezel_on_case",),
    ),
    MishapKind(
        "bezel_silent", "Bezel does not click",
        "Is the spring there, the right way up? Does its tip reach the teeth?",
        (BEZEL_OFF, OTHER_BEZEL), "Case and bezel click only by the same kind of spring.", "bezel", of=("bezel_turns", "bezel_at_click", "look_over_case"),
        checks=("bezel_click",),
    ),
    MishapKind(
        "crystal_proud", "Crystal stands proud",
        "All round, or on one side? Depth rod from its edge to the seat, four ways.",
        (
            WayBack("press", "Under the press once more, die and support square", 8, "Forced, it chips at its edge.", "", first_of("press_crystal")),
            PRESS_OUT,
            OTHER_CRYSTAL,
        ),
        "It lies on before the press is let go.", "crystal", of=("crystal_seated",), checks=("crystal_proud", "crystal_squeeze"),
    ),
    MishapKind(
        "crystal_leans", "Crystal leans",
        "Straight edge across, four ways: where is light?",
        (PRESS_OUT, OTHER_GASKET), "Crooked at the start means out again, at once.", "crystal", of=("crystal_seated", "look_over_case"), checks=("crystal_squeeze",),
    ),
    MishapKind(
        "gasket_folded", "Gasket folded or cut",
        "From inside with the loupe: a bright line, a lip that stands out.",
        (WayBack("other", "Press it out, another gasket", 20, "Its wall decides the squeeze.", "scrapped", first_of("press_crystal")),), "A trace of grease, and the gasket flat all round before the die touches.", "crystal_gasket", of=("crystal_seated", "look_over_case"),
        checks=("crystal_squeeze",),
    ),
    MishapKind(
        "crystal_cracked", "Crystal cracked",
        "Every splinter out of the case, with putty: count the pieces.",
        (OTHER_CRYSTAL,), "Square, and slowly.", "crystal", of=("crystal_seated", "look_over_case"),
        caution="Glass splinters: eye protection, and a wet cloth rather than a brush.", checks=("crystal_squeeze",),
    ),
    MishapKind(
        "side_unknown", "Cannot tell which face is inside",
        "Three ways. A lamp's reflection: the coated face gives it a colour, the bare one gives it back white. A "
        "drop of water: it stands up as a bead on a coating that sheds it. The edge under the loupe: a bevel, or a "
        "dome, goes outside.",
        (
            GO_ON,
            WayBack("ask", "Ask its seller, and press it later", 5, "Days.", "", here),
        ),
        "Mark the outside with tape the day it comes.", "crystal", of=("crystal_side",),
    ),
    MishapKind(
        "washer_missing", "Washer is missing",
        "On the dial that came off, in its bag, on the floor: thin as foil, dished.",
        (
            WayBack("found", "Found: dished side to the dial, seated", 3, "None."),
            WayBack("other", "One of the same size from stock or a donor", 10, "Too thick, the hour hand drags.", "", here),
            GO_ON,
        ),
        "Look at the back of every dial that comes off.", "movement", of=("washer_seated",),
    ),
    MishapKind(
        "washer_over", "Washer is upside down",
        "Its hollow side faces the dial: light under its rim tells.",
        (WayBack("turn", "Lift it with putty on a stick, turn it, lay it back", 4, "It flies: a cover over it."),),
        "Dished side to the dial.", "movement", of=("washer_seated",),
    ),
    MishapKind(
        "half_numeral", "Half a numeral",
        "The same at every date, or only at some? By quick-set over ten days.",
        (
            WayBack("shift", "Loosen the dial, shift it by that much, hold it by pads", 25, "It can shift in the heat.", "", first_of("fix_dial")),
            OTHER_DIAL,
        ),
        "Try the window over the disc before the dial is fixed.", "dial", of=("date_in_window", "look_over_dial"), checks=("date_angle", "date_radius"),
    ),
    MishapKind(
        "wrong_numeral", "Another day's numeral",
        "How many numerals on? Then the crown stands elsewhere than this disc expects.",
        (
            WayBack("leave", "Accept it as it is: it is set by as many days more", 0, "None; the disc is the same all round."),
            WayBack("disc", "A disc printed for this crown's place", 30, "It is bought, or made.", "", first_of("swap_disc", "calendar_works")),
        ),
        "A disc belongs to one place of the crown.", "calendar_disc", of=("date_in_window",), checks=("date_angle",),
    ),
    MishapKind(
        "numeral_askew", "Numeral stands askew",
        "By how much does it lean against the window's edge?",
        (
            WayBack("turn", "Turn the dial to it, where it has no foot that forbids it", 20, "Twelve turns with it.", "", first_of("fix_dial")),
            WayBack("disc", "A disc printed for this crown's place", 30, "It is bought, or made.", "", first_of("swap_disc", "calendar_works")),
        ),
        "The disc is printed for one place of the window.", "calendar_disc", of=("date_in_window",), checks=("date_angle", "disc_upright"),
    ),
    MishapKind(
        "dial_turned", "Dial is turned",
        "By how many minutes, which way? By the movement's edge, never by the dial.",
        (
            WayBack("turn", "Loosen it, turn movement and dial together to the tube", 8, "None, before the holder is in.", "", first_of("turn_to_tube")),
            WayBack("feet", "Off again: dial on pads, lined up by the stem", 40, "Hands are fitted once more.", "", first_of("fix_dial")),
        ),
        "Lined up with the stem in, before anything is stuck.", "dial", of=("dial_square",), checks=("dial_feet",),
    ),
    MishapKind(
        "ring_turned", "Ring and dial are not in line",
        "Which of the two stands with the lugs? The one that does not is turned.",
        (WayBack("ring", "Crystal out, ring turned, crystal in again", 40, "A gasket goes in once.", "", first_of("seat_ring")),),
        "A ring without notch is held by tape before the crystal locks it.", "chapter_ring", of=("dial_square",), checks=("ring_notch",),
    ),
    MishapKind(
        "rotor_loose", "Rotor scrapes its own bridge",
        "Screw firm? Bearing seated? Pull it up and down a little: play is heard.",
        (
            WayBack("screw", "Its screw firm, nothing under its bearing", 10, "None.", "", here),
            WayBack("other", "Another rotor", 15, "Its bore has to fit the bearing.", "", first_of("swap_rotor", "rotor_free")),
        ),
        "A rotor is tried on its bearing before anything is over it.", "rotor", of=("rotor_free",), checks=("rotor_on_bearing",),
    ),
    MishapKind(
        "crown_proud", "Crown does not screw home",
        "Does its thread take hold at all? With the stem out, does the crown screw home alone?",
        (
            READ_GAP,
            WayBack("thread", "Clean tube and crown, two turns back, then on", 6, "A crossed thread is scrap.", "", here),
        ),
        "Read the gap after every cut.", "stem", of=("crown_works", "look_over_case"), checks=("stem_cut", "stem_height"),
    ),
    MishapKind(
        "crown_comes_out", "Crown pulls out",
        "Only the crown, or the stem with it? The stem: the setting lever does not hold. The crown: its thread.",
        (
            WayBack("home", "Stem pushed home until it clicks, pulled to feel", 3, "None.", "", here),
            WayBack("lever", "Turn the setting screw in by quarters, pushing the stem", 8, "Turned out, the yoke falls aside.", "", first_of("trial_stem")),
            WayBack("short", "The stem is too short: another one", 25, "None, but its price.", "scrapped", first_of("trial_stem")),
        ),
        "Pull to feel before the thread is locked.", "stem", of=("crown_works",), checks=("stem_cut",),
    ),
    MishapKind(
        "date_unset", "Date does not set",
        "In which place of the crown? Between nine and three no quick-set is tried.",
        (
            WayBack("place", "Draw the crown to its middle place, not its last; try at six", 3, "None.", "", here),
            DIAL_OFF,
        ),
        "Quick-set over a whole month before a dial goes on.", "movement", of=("crown_works", "calendar_works"),
    ),
    MishapKind(
        "crown_wobbles", "Crown wobbles",
        "On its stem, or the stem in its tube? Look along both.",
        (
            WayBack("tube", "Is the stem at the tube's height? Look at the section", 5, "None.", "", here),
            WayBack("bent", "Stem bent: another one", 25, "None, but its price.", "scrapped", first_of("trial_stem")),
        ),
        "A stem that has to be bent to enter is at the wrong height.", "stem", of=("crown_works",), checks=("stem_height",),
    ),
    MishapKind(
        "hand_touches", "Hand touches",
        "What does it touch: dial, a marker, the blade below, the ring, the crystal? At one place or all round?",
        (
            PRESS_AGAIN,
            WayBack("file", "Take the marker or the tip down, off the watch", 20, "Lume and paint chip.", "scratched", hand_at),
            OTHER_HANDS,
        ),
        "Two whole turns, over every raised marker, light behind.", "hands", of=(*ONE_BY_ONE, "hands_round", "look_over_dial"),
        checks=("hand_stack", "hand_reach"),
    ),
    MishapKind(
        "hand_low", "Hand sits too low",
        "From the side: how much air is under its blade and its pipe?",
        (PRESS_AGAIN, OTHER_HANDS), "Shim beside the post before the press is let down.", "hands", of=ONE_BY_ONE, checks=("hand_stack",),
    ),
    MishapKind(
        "hand_high", "Hand sits too high",
        "Does it grip over its whole length? The next one wants room above it.",
        (
            WayBack("press", "Press it down to its shim", 4, "Pressed at an angle it leans.", "", here),
            OTHER_HANDS,
        ),
        "Down onto the shim, no further, no less.", "hands", of=ONE_BY_ONE, checks=("hand_stack", "hand_grip"),
    ),
    _fails("no_winding", "Does not wind", "Turned at rest: is a ratchet heard, does the seconds hand start?", lambda s: s.drive != "battery", OPEN_BACK),
    _fails("no_setting", "Does not set", "Drawn to its last place, do both hands follow? Does the stem click?", lambda _: True, OPEN_BACK, DIAL_OFF),
    _fails("no_step", "Seconds do not step", "Battery the right way up, its insulation whole, the contact clean?", lambda s: s.drive == "battery", OPEN_BACK),
    _fails("no_date", "Date does not jump", "Once round by hand: does it hang half way, or not move at all?", _does("date"), DIAL_OFF),
    _fails("no_day", "Day does not jump", "By quick-set too? Half way, or not at all?", _does("day"), DIAL_OFF),
    _fails("no_hacking", "Seconds do not stop", "Crown drawn to its last place, stem clicked home before?", _does("hacking"), OPEN_BACK),
    _fails("h24_drifts", "24-hour hand drifts", "Loose on its wheel, or its quick-set slips?", _does("h24"), DIAL_OFF),
)  # fmt: skip
"""In the order in which a question shows them."""
