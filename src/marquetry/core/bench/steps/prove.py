"""Proving what was built, before it leaves the bench."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.values.figures import figure

DEPTH = "water_depth_m"


def _depth(s: Situation) -> tuple[str, str] | None:
    depth = s.claimed_depth
    if not depth:
        return None
    return ("Wanted" if s.build.target(DEPTH) else "Claimed", figure(depth, 0, "m"))


POSITIONS = {"hand-wound": "Wound fully by the crown"}


def _functions(s: Situation) -> str:
    winds = "" if s.drive == "battery" else "Wind, "
    told = f"{winds}quick-set, set, hack, push and screw; each named in the watch's list."
    return told[:1].upper() + told[1:]


STEPS = (
    BenchStep(
        id="functions_all",
        title="Every function, every crown position",
        group="prove",
        proof="functions",
        why="A function that fails on the client's wrist comes back.",
        how=_functions,
        wrong="Quick-set is tried in its forbidden hours: not between nine and three.",
        parts=("movement",),
        after=("seat_crown", "tighten_back"),
        place="positions",
        minutes=6,
    ),
    BenchStep(
        id="rate_positions",
        title="Rate in six positions",
        group="prove",
        proof="sound",
        why="A rate far off in one position tells of a fault inside.",
        how=lambda s: (
            f"{POSITIONS.get(s.drive, 'Wound fully')}; face up, face down, crown four ways, half a minute each."
        ),
        wrong="Read at once after turning: a short pause first.",
        parts=("movement",),
        applies=lambda s: s.drive != "battery",
        after=("functions_all",),
        place="turns",
        minutes=15,
    ),
    BenchStep(
        id="rate_worn",
        title="Rate against a clock, over days",
        group="prove",
        proof="wrist",
        why="A battery movement has no beat to listen to: a clock tells what it gains.",
        how="Set it to the second by a clock that is known good; write down what it shows after some days, "
        "worn and lying.",
        wrong="Read after an hour: a second a day shows only after days.",
        parts=("movement",),
        applies=lambda s: s.drive == "battery",
        after=("functions_all",),
        place="front",
        minutes=3,
    ),
    BenchStep(
        id="pressure_dry",
        title="Dry pressure test",
        group="prove",
        proof="dry",
        why="A depth counts only for what was tested; this is not a diving certificate.",
        how="On suitable equipment, or by a licensed service; dry first, never wet after a dry failure.",
        wrong="Tested before adhesives have set: it fails, and wrongly.",
        applies=lambda s: s.claimed_depth is not None,
        after=("tighten_back", "seat_crown", "insert_straight"),
        shows=("back_gasket", "crystal_gasket", "crown"),
        caution="Pressure equipment: local rules and licensed practice come first.",
        figure=_depth,
        minutes=15,
    ),
    BenchStep(
        id="worn_a_day",
        title="Worn for a day",
        group="prove",
        proof="wrist",
        why="What runs on the bench is proved by wearing.",
        how="A day on a wrist, a night on a table; date at midnight, time in the morning.",
        wrong="It is worn while adhesives set: wait for them.",
        after=("tighten_back", "seat_crown", "fit_strap"),
        place="front",
        minutes=2,
    ),
    BenchStep(
        id="hand_over_ready",
        title="Ready to hand over",
        group="prove",
        proof="all",
        why="All that was promised, looked at once more.",
        how="Film off last; loupe over crystal, lugs and back; the brief beside it, line by line.",
        wrong="Handed over with a step open: look at the list, not at the watch alone.",
        after=(
            "close_back", "seat_crown", "tighten_back", "functions_all", "rate_positions", "rate_worn", "pressure_dry",
            "worn_a_day", "fit_strap",
        ),
        place="front",
        tools=("loupe",),
        minutes=5,
    ),
)  # fmt: skip
