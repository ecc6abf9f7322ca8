"""The drilling sheet: new foot holes in the movement's ring, where the feet of the dial that is kept fall."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations

from marquetry.core.evidence.seat import behind_dial
from marquetry.core.fit.checks.feet import kept_feet
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import aside
from marquetry.core.making.dial import FEET
from marquetry.core.making.shape import PlanePoint, spot_at
from marquetry.core.making.sizes import Sizes
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

DRILL_PLAY = 0.1
"""A drill is so much larger than the foot, mm over the diameter."""
BELOW = 0.10
"""A hole goes so much deeper than its foot, mm."""
HOLES = "movement.foot_holes"


@dataclass(frozen=True, slots=True)
class DrilledHole:
    """A hole to drill: the foot's number, its place in mm, the drill's Ø and the depth below the face, mm."""

    foot: int
    at: PlanePoint
    drill: float
    depth: float
    to_edge: float
    """From the hole's edge to the movement's, mm."""


def drilled_holes(s: Sizes, rules: Rules) -> tuple[DrilledHole, ...]:
    """The holes for the feet that pair, or for all where none does; DimensionError where there is no foot."""
    feet = kept_feet(aside(s.build, rules))
    if not feet:
        raise DimensionError(FEET, "nothing", "", "a dial with feet, for which holes can be drilled")
    behind = float(nominal(behind_dial(aside(s.build, rules))))
    if math.isnan(behind):
        raise DimensionError(
            "spacers.0.thickness", "nothing", "", "a thickness: it says how deep a foot reaches"
        )
    edge = s["movement.diameter"] / 2
    return tuple(_hole(s, foot, behind, edge) for foot in feet)


def _hole(s: Sizes, foot: int, behind: float, edge: float) -> DrilledHole:
    path = f"{FEET}.{foot}"
    radius, drill = s[f"{path}.radius"], s[f"{path}.diameter"] + DRILL_PLAY
    depth = max(s[f"{path}.length"] - behind, 0.0) + BELOW
    return DrilledHole(foot, spot_at(radius, s[f"{path}.angle"]), drill, depth, edge - radius - drill / 2)


def old_holes(s: Sizes) -> Iterator[tuple[PlanePoint, float]]:
    """Places and Ø, mm, of the holes that the movement has, in the case: turned by the crown's place."""
    for index in range(s.count(HOLES)):
        hole = f"{HOLES}.{index}"
        if all(s.known(f"{hole}.{key}") for key in ("radius", "angle", "diameter")):
            yield spot_at(s[f"{hole}.radius"], s[f"{hole}.angle"] + s.crown), s[f"{hole}.diameter"]


def distances_told(holes: tuple[DrilledHole, ...], old: list[tuple[PlanePoint, float]]) -> Iterator[str]:
    """Each hole's place to the others, to what is there, and to the edge, in words; mm."""
    for a, b in combinations(holes, 2):
        apart = figure(math.dist(a.at, b.at), 2, "mm")
        yield f"Hole {a.foot + 1} to hole {b.foot + 1}: {apart} between centres"
    for hole in holes:
        yield f"Hole {hole.foot + 1}: {figure(hole.to_edge, 2, 'mm')} of metal left to the movement's edge"
        near = min(((math.dist(hole.at, at), k) for k, (at, _) in enumerate(old)), default=None)
        if near is not None:
            web = near[0] - hole.drill / 2 - old[near[1]][1] / 2
            told = (
                f"{figure(web, 2, 'mm')} of metal between"
                if web > 0
                else "they meet: fill the old one, or leave it"
            )
            yield f"Hole {hole.foot + 1} and the movement's hole {near[1] + 1}: {told}"
