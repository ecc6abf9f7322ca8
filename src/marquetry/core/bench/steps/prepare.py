"""Before anything is altered: parts laid out, the movement proved, what comes from a donor taken out of it."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.bench.steps.wording import OLD_LUME, donor, guard, handling, release, release_caution


def _from_donor(s: Situation) -> bool:
    return bool(s.from_donors)


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
        how="Wind it, set it both ways, let it run. Take the date over midnight by the hands, then by "
        "quick-set.",
        wrong="Only winding is tried. A date that drags or a quick-set that slips shows in two minutes more.",
        parts=("movement",),
        question="Does it wind, set, run, and does the date jump both ways?",
        after=("lay_out_parts",),
        place="positions",
        shows=("movement",),
        tools=("loupe", "movement_rest"),
        caution="Keep away from loudspeakers and magnetic trays: a magnetised movement gains.",
        minutes=8,
    ),
    BenchStep(
        id="open_donor",
        title="Open the donor",
        group="prepare",
        why="Its parts are wanted whole; so is it, where it shall go together again.",
        how=lambda s: f"Open {donor(s)}: note how back and gasket lay, photograph it before anything moves.",
        wrong="The wrench slips over the back: press down first, then turn.",
        applies=_from_donor,
        after=("lay_out_parts",),
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
)
