"""Before anything is altered: parts laid out, the movement proved, what comes from a donor taken out of it."""

from collections.abc import Callable

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.bench.steps.wording import OLD_LUME, donor, guard, handling, release, release_caution


def _from_donor(s: Situation) -> bool:
    return bool(s.from_donors)


def _comes_off(part: str) -> Callable[[Situation], bool]:
    return lambda s: part in s.arrived and not s.arrived_stays


def _checked(s: Situation) -> str:
    date = " Take the date over midnight by the hands, then by quick-set." if s.calendar else ""
    return f"{WOUND.get(s.drive, WOUND['automatic'])}{date}"


def _checked_question(s: Situation) -> str:
    does = RUNS.get(s.drive, RUNS["automatic"])
    return f"{does}, and does the date jump both ways?" if s.calendar else f"{does}?"


WOUND = {
    "automatic": "Wind it by its crown or its rotor, set it both ways, let it run.",
    "hand-wound": "Wind it by its crown until it stops by itself, set it both ways, let it run.",
    "battery": "Battery in: its seconds step, or its hands move within a minute; set it both ways.",
}
RUNS = {
    "automatic": "Does it wind, set, run",
    "hand-wound": "Does it wind, set, run",
    "battery": "Does it step and set",
}
DONOR_STEPS = ("open_donor", "stem_out_of_donor", "hands_off_donor", "dial_off_donor", "keep_donor_gaskets")


STEPS = (
    BenchStep(
        id="lay_out_parts",
        title="Lay out every part",
        group="prepare",
        why="What is missing or damaged shows now, while nothing is open.",
        how=lambda s: (
            f"Each part in its own tray, in the order of the work, under a dust cover. {handling(s)}"
        ),
        wrong="A part is taken for its neighbour: hold each against its line in this list.",
        tools=("tray", "dust_cover", "loupe"),
        consumables=guard,
        minutes=10,
    ),
    BenchStep(
        id="check_movement",
        title="Check the movement before it is touched",
        group="prepare",
        why="A fault found now is the seller's; found later it is yours.",
        how=_checked,
        wrong="Only winding is tried. A date that drags or a quick-set that slips shows in two minutes more.",
        parts=("movement",),
        question=_checked_question,
        after=("lay_out_parts",),
        place="positions",
        shows=("movement",),
        tools=("loupe", "movement_rest", "demagnetiser"),
        caution="Keep away from loudspeakers and magnetic trays: a magnetised movement gains. A compass beside "
        "it must stand still; else demagnetise it, and your caliper and tweezers, first.",
        minutes=8,
    ),
    BenchStep(
        id="insulate_battery",
        title="Battery out, or the stem pulled",
        group="prepare",
        why="A tool across live contacts ruins the coil; a running movement wears its hands against the work.",
        how="Battery out with plastic tweezers and kept dry in its bag; where it stays in, the crown pulled to "
        "its last position while you work.",
        wrong="Metal tweezers bridge the cell: it is flat, or hot. Plastic or wood only.",
        parts=("movement",),
        applies=lambda s: s.drive == "battery",
        after=("check_movement",),
        shows=("movement",),
        tools=("pegwood",),
        caution="Button cells: away from children, never swallowed, never shorted, never warmed.",
        minutes=2,
    ),
    BenchStep(
        id="open_donor",
        title="Open the donor",
        group="prepare",
        why="Its parts are wanted whole; so is it, where it shall go together again.",
        how=lambda s: f"Open {donor(s)}: note how back and gasket lay, photograph it before anything moves.",
        wrong="The wrench slips over the back: press down first, then turn.",
        applies=_from_donor,
        after=("lay_out_parts", "insulate_battery"),
        tools=("back_wrench", "tray"),
        caution=OLD_LUME,
        shows=("case_back", "back_gasket"),
        minutes=4,
    ),
    BenchStep(
        id="stem_out_of_donor",
        title="Take the donor's stem out",
        group="prepare",
        why="The movement leaves its case only without its stem.",
        how=release,
        caution=release_caution,
        wrong="Pulled at an angle, the stem scores its hole: draw it straight.",
        applies=_from_donor,
        after=("open_donor",),
        place="release",
        tools=("screwdrivers", "loupe"),
        minutes=3,
    ),
    BenchStep(
        id="hands_off_donor",
        title="Take the donor's hands off",
        group="prepare",
        why="The dial comes off only below them.",
        how=lambda s: (
            f"Foil over the dial, levers level on both sides, all hands at one place. {handling(s)}"
        ),
        wrong="One lever higher than the other bends a post: watch both tips.",
        caution=OLD_LUME,
        applies=_from_donor,
        after=("stem_out_of_donor",),
        place="hands",
        tools=("hand_lever", "loupe"),
        consumables=lambda s: tuple(dict.fromkeys((*guard(s), "foil"))),
        minutes=5,
    ),
    BenchStep(
        id="dial_off_donor",
        title="Take the donor's dial off",
        group="prepare",
        why="Dial and movement go different ways from here.",
        how="Loosen foot screws by a turn, turn clamps aside, or lift pressed feet evenly from two sides.",
        wrong="Lifted on one side, a foot bends or breaks: a little here, a little across.",
        applies=_from_donor,
        after=("hands_off_donor",),
        place="back",
        tools=("screwdrivers", "loupe"),
        minutes=5,
    ),
    BenchStep(
        id="keep_donor_gaskets",
        title="Keep the donor's gaskets",
        group="prepare",
        why="The tiny seal in its crown, and its back's: sizes that are hard to buy.",
        how="Lift each out with a blunt point, wipe it, lay it in a named bag. A hard or flat one is only a "
        "pattern.",
        wrong="The crown's seal is left in the old crown: look into its bore.",
        applies=_from_donor,
        after=("dial_off_donor",),
        shows=("back_gasket", "crown", "crystal_gasket"),
        tools=("tweezers", "loupe"),
        minutes=3,
    ),
    BenchStep(
        id="hands_off_movement",
        title="Take the hands off the movement",
        group="prepare",
        why="It came with hands that are not this watch's.",
        how=lambda s: (
            f"Foil over the dial, levers level on both sides, all hands at one place. {handling(s)}"
        ),
        wrong="One lever higher than the other bends a post: watch both tips.",
        parts=("movement",),
        applies=_comes_off("hands"),
        after=("check_movement", "insulate_battery", *DONOR_STEPS),
        place="hands",
        tools=("hand_lever", "loupe"),
        consumables=lambda s: tuple(dict.fromkeys((*guard(s), "foil"))),
        minutes=4,
    ),
    BenchStep(
        id="dial_off_movement",
        title="Take the dial off the movement",
        group="prepare",
        why="It came with a dial that is not this watch's.",
        how="Loosen foot screws by a turn, turn clamps aside, or lift pressed feet evenly from two sides. Look "
        "at its back: the washer under the hour wheel may stick to it.",
        wrong="Lifted on one side, a foot bends or breaks: a little here, a little across.",
        parts=("movement",),
        applies=_comes_off("dial"),
        after=("check_movement", "insulate_battery", *DONOR_STEPS, "hands_off_movement"),
        place="back",
        tools=("screwdrivers", "loupe"),
        minutes=4,
    ),
)
