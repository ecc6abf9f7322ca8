"""Proving what was built, before it leaves the bench."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.values.figures import figure

DEPTH = "water_depth_m"


def _depth(s: Situation) -> tuple[str, str] | None:
    depth = s.build.target(DEPTH)
    return ("Wanted", figure(depth, 0, "m")) if depth else None


STEPS = (
    BenchStep(
        id="functions_all",
        title="Every function, every crown position",
        group="prove",
        proof="functions",
        why="A function that fails on the client's wrist comes back.",
        how="Wind, quick-set, set, hack, push and screw; each named in the watch's list.",
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
        how="Wound fully; face up, face down, crown four ways, half a minute each.",
        wrong="Read at once after turning: a short pause first.",
        parts=("movement",),
        after=("functions_all",),
        place="turns",
        minutes=15,
    ),
    BenchStep(
        id="pressure_dry",
        title="Dry pressure test",
        group="prove",
        proof="dry",
        why="A depth counts only for what was tested; this is not a diving certificate.",
        how="On suitable equipment, or by a licensed service; dry first, never wet after a dry failure.",
        wrong="Tested before adhesives have set: it fails, and wrongly.",
        applies=lambda s: bool(s.build.target(DEPTH)),
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
        why="Rotor, hands and rate are proved by wearing.",
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
            "close_back", "seat_crown", "tighten_back", "functions_all", "rate_positions", "pressure_dry",
            "worn_a_day", "fit_strap",
        ),
        place="front",
        tools=("loupe",),
        minutes=5,
    ),
)  # fmt: skip
