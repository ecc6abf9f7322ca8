"""How light falls on a face: from the upper left, on facets, turned metal, brushed and grained surfaces."""

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import TypeAlias

from marquetry.core.face.dress import Coat
from marquetry.core.face.hand_shapes import Contour, FacePoint
from marquetry.core.face.shade import lit
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Circle, DividedRing, Inlay, InlayEdge, Mark, Paper

LIGHT_FROM = 318.0
"""Where the lamp stands, degrees clockwise from twelve: over the left shoulder, as draughtsmen have it."""
THROW = 0.85
"""How far a shadow falls for each mm of height: a lamp at about 50 degrees."""
Lobes: TypeAlias = tuple[float, ...]
LOBES: Lobes = (0.38, 0.26, 0.15, 0.07)
RING_LOBES: Lobes = (0.36, 0.2, 0.08)
"""Nested sectors either side of the axis that add up to the bow of light on turned metal; fewer on a ring."""
PATTERNS = {
    "brushed along": "brush", "blasted": "blast", "textured": "texture", "woven": "weave",
    "grained wood": "grain", "stone": "stone", "engine-turned": "engine", "hammered": "hammer",
}  # fmt: skip
"""Finishes that are drawn by a pattern of lines over the colour."""
BOWS = {"sunray": 0.5, "brushed round": 0.42, "polished": 0.5, "coated": 0.2, "enamel": 0.0}
"""How strong the bow of light is on each finish; 0 where there is none."""
DULL = frozenset({"matt", "blasted", "textured", "coated"})
"""Finishes that throw back no sharp light."""
FADE_STEPS = 9


def laid(plan: Plan, outline: Contour) -> tuple[Paper, ...]:
    """An outline of the watch on paper."""
    x, y = plan.centre
    return tuple((x + a * plan.scale, y + b * plan.scale) for a, b in outline)


def round_(plan: Plan, radius: float, centre: FacePoint = (0.0, 0.0)) -> Circle:
    """A circle of the watch on paper; radius and centre in mm."""
    x, y = plan.centre
    return Circle((x + centre[0] * plan.scale, y + centre[1] * plan.scale), radius * plan.scale)


def shadow_of(height: float) -> FacePoint:
    """How far (across, up) the shadow of something at this height over the ground falls, mm."""
    away = math.radians(LIGHT_FROM + 180.0)
    return THROW * height * math.sin(away), THROW * height * math.cos(away)


def facing(colour: str, azimuth: float, slope: float) -> str:
    """The colour of a facet that leans towards an azimuth, `slope` 0 (flat) to 1 (upright)."""
    return lit(colour, slope * math.cos(math.radians(azimuth - LIGHT_FROM)))


@dataclass
class Facets:
    """Facets gathered by their shade, so that all of one shade are one path."""

    by_shade: dict[str, list[InlayEdge]] = field(default_factory=dict)

    def add(self, shade: str, outline: InlayEdge) -> None:
        """One facet more."""
        self.by_shade.setdefault(shade, []).append(outline)

    def marks(self) -> Iterator[Inlay]:
        """One inlay a shade."""
        for shade, outlines in self.by_shade.items():
            yield Inlay(tuple(outlines), shade)


def bow(  # noqa: PLR0913, PLR0917  # a ring, how strong, which way, how finely
    plan: Plan, inner: float, outer: float, strength: float, turn: float = LIGHT_FROM, lobes: Lobes = LOBES
) -> Iterator[Mark]:
    """The bow of light on a disc or ring between two radii (mm): bright towards the lamp, dark across it."""
    radius, width = (inner + outer) / 2 * plan.scale, (outer - inner) * plan.scale
    each = strength / len(lobes)
    for share in lobes:
        yield DividedRing(plan.centre, radius, width, 2, share, "#fff", turn, round(each, 2))
    for share in lobes[: len(lobes) // 2]:
        yield DividedRing(plan.centre, radius, width, 2, share, "#000", turn + 90.0, round(each * 0.8, 2))


def disc(plan: Plan, coat: Coat, radius: float) -> Iterator[Mark]:
    """A round surface such as a dial, with its finish."""
    yield Inlay((round_(plan, radius),), coat.colour)
    if coat.finish == "gradient":
        yield from _fade(plan, coat, radius)
    yield from _finish(plan, coat, (round_(plan, radius),))
    if strength := BOWS.get(coat.finish, 0.0):
        yield from bow(plan, 0.0, radius, strength)


def band(plan: Plan, coat: Coat, inner: float, outer: float, turn: float = LIGHT_FROM) -> Iterator[Mark]:
    """A ring with its finish; of metal, it catches light in a bow."""
    outlines = (round_(plan, outer), round_(plan, inner))
    yield Inlay(outlines, coat.colour)
    yield from _finish(plan, coat, outlines)
    if strength := BOWS.get(coat.finish, 0.28 if coat.finish == "brushed along" else 0.0):
        yield from bow(plan, inner, outer, strength, turn, RING_LOBES)


def surface(plan: Plan, coat: Coat, outlines: Iterable[InlayEdge], line: str) -> Iterator[Mark]:
    """Any other surface, with an edge of its own."""
    held = tuple(outlines)
    yield Inlay(held, coat.colour, line=line, line_width=0.05 * plan.scale)
    yield from _finish(plan, coat, held)


def _finish(_: Plan, coat: Coat, outlines: tuple[InlayEdge, ...]) -> Iterator[Mark]:
    if pattern := PATTERNS.get(coat.finish):
        yield Inlay(outlines, f"url(#li-{pattern})")
    shining = coat.finish in {"enamel", "stone", "polished"}
    yield Inlay(outlines, "url(#li-lamp)", 1.0 if shining else 0.6)


def _fade(plan: Plan, coat: Coat, radius: float) -> Iterator[Mark]:
    """From the colour in the middle to the second one, or to black, at the edge."""
    for step in range(FADE_STEPS):
        inner = radius * (0.3 + 0.66 * step / (FADE_STEPS - 1))
        yield Inlay((round_(plan, radius), round_(plan, inner)), coat.second or "#000000", 0.16)
