"""Outside: the bezel's insert, bracelet and strap."""

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep, Curing
from marquetry.core.bench.steps.wording import SPRINGS
from marquetry.core.fit.figures import LINKS_OUT
from marquetry.core.values.figures import figure

INSERT_MINUTES = 30


def _has_links(s: Situation) -> bool:
    return isinstance(s.build.at("strap.links"), int | float)


def _links(s: Situation) -> tuple[str, str] | None:
    told = s.report.figures.get(LINKS_OUT)
    return None if told is None or told.value is None else ("Links out", figure(told.value, 0))


def _adhesive(s: Situation) -> tuple[str, str] | None:
    found = s.report.findings["adhesive_width"].value
    return None if found is None else ("Adhesive", f"{figure(found, 2, 'mm')} wide")


def _sticks(s: Situation) -> bool:
    return s.to_fit("bezel_insert")


def _stick_waits(s: Situation) -> tuple[str, ...]:
    turns = "bezel_turns" if s.to_fit("bezel") else "look_over_case"
    return (turns, "bezel_at_click")


STEPS = (
    BenchStep(
        id="bezel_at_click",
        title="Bezel standing at a click",
        group="outside",
        why="The insert is set by it, and stays so.",
        how="Turn it to a click, the crown's axis and twelve in one line; hold it there.",
        wrong="It stands between two clicks and springs on: let go, look again.",
        parts=("bezel", "bezel_insert"),
        applies=_sticks,
        after=("bezel_turns", "look_over_case"),
        question="Does it stand at a click, and stay?",
        place="insert",
        minutes=2,
    ),
    BenchStep(
        id="stick_insert",
        title="Stick the insert",
        group="outside",
        why="Its mark is what the wearer reads.",
        how="Adhesive laid in one go where the bezel turns with it; insert's mark at twelve, down in one go.",
        wrong="Corrected after it touched, the adhesive rolls: off, clean, anew.",
        parts=("bezel_insert",),
        applies=_sticks,
        after=("fit_bezel",),
        gates=_stick_waits,
        place="insert",
        figure=_adhesive,
        tools=("tweezers", "loupe"),
        consumables=("insert_adhesive",),
        minutes=6,
        curing=Curing("Insert's adhesive takes hold", lambda _: INSERT_MINUTES, ("pressure_dry",)),
    ),
    BenchStep(
        id="insert_straight",
        title="Insert straight and flat",
        group="outside",
        why="For a minute it can still be lifted.",
        how="Mark over twelve, from above; straight edge across, four ways.",
        wrong="Seen from the crown's side it always seems right: from twelve and from six.",
        parts=("bezel_insert",),
        applies=_sticks,
        after=("stick_insert",),
        question="Mark at twelve, flat all round?",
        place="insert",
        tools=("loupe",),
        tells=("insert_outer_gap",),
        minutes=2,
    ),
    BenchStep(
        id="size_bracelet",
        title="Size the bracelet",
        group="outside",
        why="The same number from both sides, so that the clasp lies under the wrist.",
        how="Links out from either side in turn, pins the way the arrows point.",
        wrong="A pin driven against its arrow splits the link.",
        parts=("strap",),
        applies=_has_links,
        place="front",
        figure=_links,
        tools=("bar_tool",),
        minutes=10,
    ),
    BenchStep(
        id="fit_strap",
        title="Fit the strap",
        group="outside",
        why="The last thing, so that nothing scratches the lugs before.",
        how="Tape on the lugs; bar's far tip in first, near tip down, let go into its hole; pull.",
        wrong="A bar that is not in its hole clicks too: pull at both ends.",
        parts=("strap",),
        after=("size_bracelet", "tighten_back"),
        place="front",
        tools=("bar_tool",),
        caution=SPRINGS,
        minutes=5,
    ),
)
