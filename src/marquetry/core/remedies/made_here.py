"""A press support or a carrier that does not go with the watch: made otherwise."""

from collections.abc import Iterator

from marquetry.core.evidence.seat import HOLDER_RING
from marquetry.core.fit.checks.support import BESIDE, SUPPORT, is_spigot, rotor_diameter
from marquetry.core.fit.levels import rotor_proud
from marquetry.core.fit.report import Report
from marquetry.core.fit.trace import aside
from marquetry.core.remedies.idea import Idea, is_possible, rounded, with_value
from marquetry.core.remedies.spacers import LAYER, THINNEST
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Source
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

RING_OVERLAP = 1.2
"""By how much a ring in one piece lies over the movement's edge, over the diameter, mm."""
ROOM = 1.0
"""A relief is turned so much wider than the rotor, mm over the diameter."""
DEEPER = 0.5
"""And so much deeper than the rotor stands proud, mm."""
SKIRT = "dial_adapter.grip_height"


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """A relief that the rotor enters; a carrier without a skirt; a holder with its ring in one piece."""
    if check == "stem_height":
        yield from _ring_in_one(build, report)
    if check == "support_rotor":
        yield from _relief(build, report)
    if check == "adapter_holder":
        made = with_value(build, SKIRT, 0.0)
        yield Idea(
            "no_skirt",
            "A carrier without a skirt: its pegs or the glue centre it",
            made,
            2,
            make="dial adapter",
        )


def _ring_in_one(build: Build, report: Report) -> Iterator[Idea]:
    """What the stem misses, printed on the holder: offered where the holder is made here anyway."""
    missing = report.findings["stem_height"].value
    sizes = (path for path in build.dimensions if path.startswith("holder."))
    is_planned = any(build.dimensions[path].source is Source.PLANNED for path in sizes)
    movement = build.dimensions.get("movement.diameter")
    if missing is None or movement is None or not is_planned or build.at(HOLDER_RING) is not None:
        return
    thick = rounded(missing, LAYER)
    if thick >= THINNEST:
        made = with_value(build, f"{HOLDER_RING}.thickness", thick)
        made = with_value(made, f"{HOLDER_RING}.inner_diameter", movement.value - RING_OVERLAP)
        title = f"A holder with its dial ring in one piece, {figure(thick, 2, 'mm')}"
        yield Idea("ring_in_one", title, made, 2, make="holder")


def _relief(build: Build, report: Report) -> Iterator[Idea]:
    r = aside(build, report.rules)
    rotor, proud = float(nominal(rotor_diameter(r))), float(nominal(rotor_proud(r)))
    wide, deep = f"{SUPPORT}.relief_diameter", f"{SUPPORT}.relief_depth"
    known = build.dimensions
    if r.missing or wide not in known or known[wide].value - rotor >= BESIDE:
        return
    around = f"{SUPPORT}.spigot_diameter" if is_spigot(r) else f"{SUPPORT}.seat_diameter"
    wanted = min(rotor + ROOM, known[around].value - 2 * BESIDE) if around in known else rotor + ROOM
    if wanted - rotor >= BESIDE and is_possible(build, wide, wanted):
        made = with_value(build, wide, wanted)
        made = with_value(made, deep, max(proud + DEEPER, DEEPER))
        yield Idea(
            "wider_relief",
            f"A press support whose relief is {wanted:.2f} mm wide: the rotor enters it",
            made,
            2,
            make="press support",
        )
