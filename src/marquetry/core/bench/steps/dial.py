"""The dial: its feet, what holds it, tried on and fixed."""

from collections.abc import Callable

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep, Curing
from marquetry.core.bench.steps.wording import EYES, FUMES, guard, handling
from marquetry.core.values.figures import figure

FIXINGS = {
    "pressed": "Both feet over their holes, then down evenly with two fingers until the edge lies flat.",
    "screws": "Feet in, then the two foot screws: turn in until they touch, half a turn more, no further.",
    "clamps": "Feet in, then turn each clamp until its lip lies over its foot; press the dial down meanwhile.",
}
FIXING_UNKNOWN = "Feet in, dial flat all round; then what holds them: press, foot screws or clamps."
PADS = "Lower it onto the pads in one go, lined up by the stem, then press all round for as long as told."
ADAPTER = "Snap the adapter's carrier onto the movement, dial upright, until it lies flat all round."
PAD_MINUTES, GLUE_MINUTES = 20, 60
BEFORE_TRIAL = (
    "clean_dial", "remove_feet", "dress_stubs", "clean_after_filing", "rotor_off", "drill_feet_holes", "clear_chips",
    "rotor_on", "set_spacer_movement", "set_adapter", "calendar_works",
)  # fmt: skip


def named_feet(numbers: tuple[int, ...]) -> str:
    """Feet by their numbers from 1, in words."""
    names = [str(number + 1) for number in numbers]
    return ("foot " if len(names) == 1 else "feet ") + " and ".join(names)


def _aligned(s: Situation) -> str:
    """The minute at which the stem points on the dial: what a dial without feet is turned by."""
    crown = s.build.dimensions.get("case.crown_angle")
    if crown is None or not crown.source.is_known:
        at = "the dial's mark for the crown's place"
    else:
        at = f"minute {figure((crown.value / DEGREES_A_MINUTE) % 60.0, 1).removesuffix('.0')}"
    return (
        f"Stem in as a guide: it points at {at}, seen from the front; stem, centre and the mark opposite are one "
        "line, before the liner comes off."
    )


DEGREES_A_MINUTE = 6.0


def _held(s: Situation) -> str:
    if s.on_pads:
        return PADS
    if s.has("dial_adapter"):
        return ADAPTER
    return FIXINGS.get(s.word("movement.dial_fixing"), FIXING_UNKNOWN)


def _cut_feet(s: Situation) -> str:
    return (
        f"Take {named_feet(s.removed_feet)} off close to the back with side cutters, the stub held in the "
        "jaws, the dial's face on soft paper."
    )


def _drilled(s: Situation) -> str:
    return (
        "Pin the drilling template to the movement's ring, drill by hand, slowly; stop as soon as it gives. "
        f"The holes wait for {named_feet(tuple(range(s.feet_counted)))}."
    )


def _spacer(s: Situation) -> tuple[str, str] | None:
    path = next((f"spacers.{k}.thickness" for k in s.spacers("movement")), "")
    found = s.build.dimensions.get(path)
    return ("Spacer", figure(found.value, 2, "mm")) if found else None


def _feet_figure(s: Situation) -> tuple[str, str] | None:
    if not s.removed_feet:
        return None
    return ("Off", " + ".join(str(foot + 1) for foot in s.removed_feet))


def _fits(applies: Callable[[Situation], bool] = lambda _: True) -> Callable[[Situation], bool]:
    """Whether it applies, and the dial is fitted here rather than come on the movement."""
    return lambda s: not s.stays("dial") and applies(s)


def _looked_over(s: Situation) -> str:
    return (
        f"Loupe and low light: {_arrived(s)}. Set it twice round the clock, looking from the side where hands "
        "meet."
    )


def _arrived(s: Situation) -> str:
    hands = ", hands level and clear of each other" if s.stays("hands") else ""
    date = ", date in its window" if s.shows_calendar else ""
    return f"dial level and clean{hands}{date}"


STEPS = (
    BenchStep(
        id="look_over_dial",
        title=lambda s: f"Look over dial{' and hands' if s.stays('hands') else ''} as they came",
        group="dial",
        why="They stay as they arrived: what is wrong with them shows now, and is the seller's.",
        how=_looked_over,
        wrong="Only the face is looked at: from the side a hand that leans is seen at once.",
        parts=("movement",),
        applies=lambda s: s.arrived_stays,
        after=("check_movement", "insulate_battery", "calendar_works"),
        question=lambda s: f"{_arrived(s)}?".capitalize(),
        place="dial",
        shows=("dial",),
        tools=("loupe",),
        consumables=guard,
        minutes=4,
    ),
    BenchStep(
        id="clean_dial",
        title="Clean the dial",
        group="dial",
        applies=_fits(),
        why="What lies on it now lies under the crystal for good.",
        how=lambda s: f"Blower, then cleaning putty, dabbed and never rubbed. {handling(s)}",
        wrong="A wet cloth takes thin print along: nothing wet on a painted face.",
        parts=("dial",),
        after=("lay_out_parts",),
        place="dial",
        shows=("dial",),
        tools=("blower", "loupe"),
        consumables=lambda s: ("cleaning_putty", *guard(s)),
        caution="A can of compressed air spits its liquid: use a hand blower.",
        minutes=4,
    ),
    BenchStep(
        id="remove_feet",
        title=lambda s: f"Take {named_feet(s.removed_feet)} off",
        group="dial",
        why="No hole waits for them: the dial would not lie flat.",
        how=_cut_feet,
        wrong="The wrong feet come off. Mark those that go, and count again, seen from the back.",
        parts=("dial",),
        applies=_fits(lambda s: bool(s.removed_feet)),
        after=("clean_dial",),
        gates=("check_movement",),
        place="back",
        figure=_feet_figure,
        tools=("feet_cutter", "loupe"),
        caution=f"{EYES} What is cut off flies.",
        minutes=5,
    ),
    BenchStep(
        id="dress_stubs",
        title="Dress the stubs flat",
        group="dial",
        why="A stub left standing tilts the dial.",
        how="File flat with a fine file, toward the edge; check against a straight edge.",
        wrong="The file slips onto the edge: rest the dial on the bench's rim and file outwards.",
        parts=("dial",),
        applies=_fits(lambda s: bool(s.removed_feet)),
        after=("remove_feet",),
        gates=("check_movement",),
        place="back",
        tools=("fine_file", "loupe"),
        caution="Brass dust: not over the movement, and wiped up wet. Never file luminous paint.",
        minutes=6,
    ),
    BenchStep(
        id="clean_after_filing",
        title="Clean after filing",
        group="dial",
        why="Filings travel into the movement.",
        how="Away from the movement: blower, putty, the back wiped; new paper on the bench.",
        wrong="Filings cling to fingers and come back: change what you wear on them.",
        parts=("dial",),
        applies=_fits(lambda s: bool(s.removed_feet)),
        after=("dress_stubs",),
        place="back",
        tools=("blower",),
        consumables=("cleaning_putty",),
        minutes=3,
    ),
    BenchStep(
        id="rotor_off",
        title="Rotor off",
        group="dial",
        why="Chips must not get under it, and the ring is drilled from the face.",
        how="Hold the rotor, loosen its screw, lift it straight; bag both.",
        wrong="Its screw drops: over a tray.",
        parts=("dial", "movement"),
        applies=_fits(lambda s: s.drills and s.has_rotor),
        after=("clean_dial",),
        shows=("rotor", "movement"),
        tools=("screwdrivers", "tray"),
        minutes=3,
    ),
    BenchStep(
        id="drill_feet_holes",
        title="Drill holes for the feet",
        group="dial",
        why="The dial is worth more than the ring: its feet get holes of their own.",
        how=_drilled,
        wrong="The drill breaks through into the works: a stop on it, set to the depth told by Make.",
        parts=("dial", "movement"),
        applies=_fits(lambda s: s.drills),
        after=("rotor_off",),
        gates=("check_movement",),
        place="drill",
        tools=("hand_drill", "loupe"),
        consumables=("cleaning_putty",),
        caution=f"{EYES} Chips are kept out of the works with putty all round.",
        minutes=25,
    ),
    BenchStep(
        id="clear_chips",
        title="Clear every chip",
        group="dial",
        why="One chip stops the train.",
        how="Putty off with its chips, blower, loupe; turn the movement over and look again.",
        wrong="Blown inwards: hold it face down.",
        parts=("dial", "movement"),
        applies=_fits(lambda s: s.drills),
        after=("drill_feet_holes",),
        place="drill",
        tools=("blower", "loupe"),
        consumables=("cleaning_putty",),
        minutes=5,
    ),
    BenchStep(
        id="rotor_on",
        title="Rotor on again",
        group="dial",
        why="The movement is whole again before the dial is tried.",
        how="On its bearing, screw firm; it turns by itself.",
        wrong="A chip under the bearing grinds: listen while it turns.",
        parts=("dial", "movement"),
        applies=_fits(lambda s: s.drills and s.has_rotor),
        after=("clear_chips",),
        shows=("rotor", "movement"),
        tools=("screwdrivers",),
        minutes=3,
    ),
    BenchStep(
        id="set_spacer_movement",
        title="Set the spacer behind the dial",
        group="dial",
        why="It brings the stem to its tube; hidden, but posts stand lower for it.",
        how="Flat on the movement's face, round its edge, nothing under it.",
        wrong="It rides on a screw head: it must not rock.",
        applies=_fits(lambda s: bool(s.spacers("movement"))),
        shows=("spacers",),
        figure=_spacer,
        tools=("tweezers",),
        minutes=2,
    ),
    BenchStep(
        id="set_adapter",
        title="Set the adapter under the dial",
        group="dial",
        applies=_fits(),
        why="It carries the dial where feet cannot.",
        how="Line it up by its slits with the marks on the dial's back, a thin bead of adhesive, pressed flat.",
        wrong="Adhesive creeps through the centre hole: keep the bead near the edge.",
        parts=("dial", "dial_adapter"),
        after=("clean_dial", "clean_after_filing"),
        place="pads",
        tools=("tweezers",),
        consumables=("adapter_glue",),
        caution=FUMES,
        minutes=8,
        curing=Curing("Adapter's adhesive sets", lambda _: GLUE_MINUTES, ("trial_dial",)),
    ),
    BenchStep(
        id="trial_dial",
        title="Try the dial on",
        group="dial",
        applies=_fits(),
        why="Height, flatness and window show now; later there is glue.",
        how="Dial on without adhesive. Flat all round? Centre hole clear of every post? Numeral in its window?",
        wrong="A foot that is a little off is pressed home: look for light under the edge instead. A bent one is "
        "straightened at its root, with flat pliers over paper, once.",
        parts=("dial", "movement"),
        after=BEFORE_TRIAL,
        question="Does it lie flat, centred, the posts free?",
        place="back",
        tools=("loupe",),
        consumables=guard,
        tells=("dial_centre_hole", "dial_bore_clearance", "dial_feet"),
        minutes=4,
    ),
    BenchStep(
        id="place_pads",
        title="Place the pads",
        group="dial",
        why="No foot holds this dial: the pads do.",
        how="On the movement's ring, clear of everything that turns, screws and calendar left free. Liner stays "
        "on.",
        wrong="A pad reaches over the disc and stops it: turn the date once before the dial goes on.",
        parts=("dial",),
        applies=_fits(lambda s: s.on_pads),
        after=("trial_dial",),
        place="pads",
        entry="pads",
        tools=("tweezers",),
        consumables=("adhesive_pads",),
        minutes=4,
    ),
    BenchStep(
        id="align_dial_to_stem",
        title="Line the dial up with the stem",
        group="dial",
        why="Pads hold it as it is laid, not as it should be.",
        how=_aligned,
        wrong="Judged from one side: turn the whole watch half round and look again.",
        parts=("dial",),
        applies=_fits(lambda s: s.on_pads),
        after=("place_pads",),
        place="pads",
        tools=("loupe",),
        minutes=4,
    ),
    BenchStep(
        id="fix_dial",
        title="Fix the dial",
        group="dial",
        applies=_fits(),
        why="Hands are pressed against it: it must not move any more.",
        how=_held,
        wrong="It springs back on one side: it was never flat. Off again, and look.",
        parts=("dial", "movement"),
        after=("trial_dial", "place_pads", "align_dial_to_stem"),
        gates=("trial_dial",),
        place="back",
        tools=("screwdrivers", "loupe"),
        consumables=guard,
        minutes=5,
        curing=Curing("Pads take hold", lambda s: PAD_MINUTES if s.on_pads else 0, ("movement_on_rest",)),
    ),
    BenchStep(
        id="date_in_window",
        title="Numeral in its window",
        group="dial",
        why="It can still be set right; under hands it cannot.",
        how="Quick-set through the month, looking straight down: each numeral in the middle, none cut off.",
        wrong="Looked at askance, every window seems right: eye above the window.",
        parts=("dial", "movement"),
        applies=_fits(lambda s: s.shows_calendar),
        after=("fix_dial",),
        question="Does every numeral stand in the middle?",
        place="window",
        tools=("loupe",),
        tells=("date_angle", "date_radius"),
        minutes=3,
    ),
)  # fmt: skip
