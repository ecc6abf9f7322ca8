"""What is cut into the dial as it is seen: each outline, and what of the movement shows in it.

A date window told by a seller is a place and a usual size; what is cut here is its own outline, and may show
another thing altogether: the day, a 24-hour disc, or the plain movement.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.face.hand_shapes import Contour, FacePoint, turned
from marquetry.core.fit.checks.windows import DISC
from marquetry.core.fit.cutouts import cutouts, furthest, middle, nearest
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.described.colours import PALETTE
from marquetry.core.values.number import nominal

WORKS = "#a89a72"
"""The plain movement beneath an open window: a gilt plate in the shade."""
ARC_STEP = 4.0
"""An arc is drawn by straight pieces of so many degrees at most: no eye sees them at a face's size."""
HOURS = 24
USUAL_HOUR = 10
"""The hour that a 24-hour disc shows in the middle of its window, as the hands do."""


@dataclass(frozen=True, slots=True)
class SeenNumeral:
    """Letters in a window: at a radius, mm, and an angle, ° from 12; `size` is their height, mm."""

    words: str
    radius: float
    angle: float
    size: float


@dataclass(frozen=True, slots=True)
class SeenCut:
    """A cut-out: its outline in the watch, mm; the colour beneath, and the letters that show in it."""

    purpose: str
    outline: Contour
    radius: float
    angle: float
    long: float
    half_angle: float
    beneath: str
    """What lies there: `disc`, `24-hour disc` or `movement`."""
    ground: str
    print_colour: str
    numerals: tuple[SeenNumeral, ...] = ()

    @property
    def shown(self) -> tuple[SeenNumeral, ...]:
        """The letters whose middle lies in the window: what misses it is hidden by the dial."""
        return tuple(n for n in self.numerals if is_within(self.outline, _at(n.radius, n.angle)))


def seen_cuts(p: Plausible, disc: tuple[str, str]) -> Iterator[SeenCut]:
    """Every cut-out whose outline is known; `disc` is the calendar disc's ground and print."""
    for path in cutouts(p):
        shape = p.word(f"{path}.shape")
        if shape is None:
            continue
        purpose = p.word(f"{path}.for") or "open"
        radius, angle = (float(nominal(number)) for number in middle(p, path))
        outline, half_angle = _outline(p, path, shape)
        long = float(nominal(furthest(p, path))) - float(nominal(nearest(p, path)))
        beneath, numerals = _beneath(p, purpose, (radius, angle, long, half_angle))
        ground, ink = (WORKS, PALETTE["black"]) if beneath == "movement" else disc
        yield SeenCut(purpose, outline, radius, angle, long, half_angle, beneath, ground, ink, numerals)


def _outline(p: Plausible, path: str, shape: str) -> tuple[Contour, float]:
    """The outline in the watch, mm, and half the angle that it takes up on the dial, °."""
    if shape == "arc":
        inner, outer = float(p[f"{path}.inner_radius"]), float(p[f"{path}.outer_radius"])
        begin = float(p[f"{path}.from"])
        sweep = (float(p[f"{path}.to"]) - begin) % 360.0
        count = max(math.ceil(sweep / ARC_STEP), 1)
        angles = [begin + sweep * k / count for k in range(count + 1)]
        return (
            *(_at(outer, a) for a in angles),
            *(_at(inner, a) for a in reversed(angles)),
        ), sweep / 2
    radius, angle = float(p[f"{path}.at_radius"]), float(p[f"{path}.angle"])
    if shape == "round":
        half = float(p[f"{path}.diameter"]) / 2
        x, y = _at(radius, angle)
        ring = (_at(half, k * ARC_STEP * 3) for k in range(round(360 / (ARC_STEP * 3))))
        return tuple((x + a, y + b) for a, b in ring), _half_angle(half, radius)
    wide, high = float(p[f"{path}.width"]) / 2, float(p[f"{path}.height"]) / 2
    corners = ((-wide, radius - high), (wide, radius - high), (wide, radius + high), (-wide, radius + high))
    return turned(corners, angle), _half_angle(wide, radius)


def _half_angle(half: float, radius: float) -> float:
    return math.degrees(math.atan2(half, max(radius, 0.1)))


def _at(radius: float, angle: float) -> FacePoint:
    around = math.radians(angle)
    return radius * math.sin(around), radius * math.cos(around)


def _beneath(
    p: Plausible, purpose: str, place: tuple[float, float, float, float]
) -> tuple[str, tuple[SeenNumeral, ...]]:
    """What lies under a window at (radius, angle, length, half its angle), mm and °."""
    radius, angle, long, half = place
    functions = p.names("movement.functions")
    if purpose == "date" and (not functions or "date" in functions):
        return "disc", (_date_numeral(p, radius, angle, long),)
    if purpose == "day" and (not functions or "day" in functions):
        return "disc", (SeenNumeral("FRI", radius, angle, min(1.0, 0.6 * long)),)
    if purpose == "h24" and p.has(DISC):
        return "24-hour disc", tuple(_hours(p, radius, angle, half))
    return "movement", ()


def _date_numeral(p: Plausible, radius: float, angle: float, long: float) -> SeenNumeral:
    """Where the movement brings its numeral, in the window or beside it; in its middle where nobody knows."""
    if p.known("movement.date_radius"):
        radius = float(p["movement.date_radius"])
    if p.known("movement.date_angle") and p.known("case.crown_angle"):
        angle = float(p["movement.date_angle"]) + float(p["case.crown_angle"])
    return SeenNumeral("28", radius, angle, min(1.15, 0.8 * long))


def is_within(outline: Contour, point: FacePoint) -> bool:
    """Whether a point, mm, lies inside: a ray from it crosses the outline an odd number of times."""
    x, y = point
    inside = False
    for (a, b), (c, d) in zip(outline, (*outline[1:], outline[0]), strict=True):
        if (b > y) != (d > y) and x < a + (y - b) * (c - a) / (d - b):
            inside = not inside
    return inside


def _hours(p: Plausible, radius: float, angle: float, half: float) -> Iterator[SeenNumeral]:
    """The disc's hours that show, the usual hour in the middle of the window."""
    if p.known(f"{DISC}.inner_radius") and p.known(f"{DISC}.outer_radius"):
        radius = (float(p[f"{DISC}.inner_radius"]) + float(p[f"{DISC}.outer_radius"])) / 2
    pitch = 360.0 / HOURS
    for off in range(-(HOURS // 2) + 1, HOURS // 2 + 1):
        if abs(off * pitch) <= half:
            hour = (USUAL_HOUR + off - 1) % HOURS + 1
            yield SeenNumeral(str(hour), radius, angle + off * pitch, 0.9)
