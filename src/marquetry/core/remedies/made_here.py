"""A press support or a carrier that does not go with the watch: made otherwise."""

from collections.abc import Iterator

from marquetry.core.fit.checks.support import BESIDE, SUPPORT, is_spigot, rotor_diameter
from marquetry.core.fit.levels import rotor_proud
from marquetry.core.fit.report import Report
from marquetry.core.fit.trace import aside
from marquetry.core.remedies.idea import Idea, is_possible, with_value
from marquetry.core.sheet.build import Build
from marquetry.core.values.number import nominal

ROOM = 1.0
"""A relief is turned so much wider than the rotor, mm over the diameter."""
DEEPER = 0.5
"""And so much deeper than the rotor stands proud, mm."""
SKIRT = "dial_adapter.grip_height"


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """A relief that the rotor enters; a carrier without a skirt."""
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
