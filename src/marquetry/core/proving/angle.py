"""Angles from a photograph: how far a hand, an index, a dial or a bezel stands turned from its marker.

Pictures count downwards, so that angles here grow clockwise, as on a watch. A picture that was not taken
straight is squared up first, by four points whose true places are known.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from marquetry.core.measuring.picture_scale import CLICK_PIXELS, PlanPoint
from marquetry.core.values.errors import DimensionError

SHORTEST_ARM = 10.0
"""Pixels: a nearer click tells no angle worth having."""
QUARTERS = ("12", "3", "6", "9")
SQUARE: Sequence[PlanPoint] = ((0.0, -1.0), (1.0, 0.0), (0.0, 1.0), (-1.0, 0.0))
"""Where the marks at twelve, three, six and nine lie, of the dial's radius, y downwards."""
THINNEST = 1e-3


@dataclass(frozen=True, slots=True)
class PictureAngle:
    """An angle in degrees, clockwise from the marker, within ±180, and its standard uncertainty `u`."""

    degrees: float
    u: float


def picture_angle(
    centre: PlanPoint, marker: PlanPoint, tip: PlanPoint, u_px: float = CLICK_PIXELS
) -> PictureAngle:
    """The angle of tip − that of marker about the centre; `u_px` is the standard uncertainty of a click.

    A click on the centre turns both arms, by as much as they point apart: opposite ones add, like ones take
    away. DimensionError where an arm is too short.
    """
    first = _arm("marker", centre, marker)
    second = _arm("tip", centre, tip)
    d1, d2 = math.hypot(*first), math.hypot(*second)
    turned = math.atan2(*reversed(second)) - math.atan2(*reversed(first))
    ends = 1.0 / d1**2 + 1.0 / d2**2
    of_centre = max(0.0, ends - 2.0 * math.cos(turned) / (d1 * d2))
    u = u_px * math.sqrt(ends + of_centre)
    return PictureAngle(math.degrees(math.remainder(turned, math.tau)), math.degrees(u))


def _arm(name: str, centre: PlanPoint, end: PlanPoint) -> PlanPoint:
    arm = (end[0] - centre[0], end[1] - centre[1])
    if math.hypot(*arm) < SHORTEST_ARM:
        raise DimensionError(
            name, f"{math.hypot(*arm):.0f}", "pixels", f"a point {SHORTEST_ARM:g} pixels from the centre"
        )
    return arm


def squared_up(corners: Sequence[PlanPoint], points: Sequence[PlanPoint]) -> list[PlanPoint]:
    """Points as they would lie in a picture taken straight, at the picture's own size.

    `corners` are the dial's marks at twelve, three, six and nine as they were clicked: a projective map
    takes them to a true cross. DimensionError where they do not span a dial.
    """
    if len(corners) != len(SQUARE):
        raise DimensionError("corners", len(corners), "", "the marks at twelve, three, six and nine")
    across = math.dist(corners[0], corners[2])
    other = math.dist(corners[1], corners[3])
    radius = (across + other) / 4.0
    if min(across, other) < 2.0 * SHORTEST_ARM or _thin(corners):
        raise DimensionError("corners", "in one line", "", "four marks that span the dial")
    rows, sought = [], []
    for (x, y), (u, v) in zip(corners, SQUARE, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        sought += [u, v]
    try:
        solved = np.linalg.solve(np.array(rows, dtype=float), np.array(sought, dtype=float))
    except np.linalg.LinAlgError:
        raise DimensionError("corners", "in one line", "", "four marks that span the dial") from None
    matrix = np.append(solved, 1.0).reshape(3, 3)
    mapped = [matrix @ np.array([x, y, 1.0]) for x, y in points]
    if any(abs(float(w)) < THINNEST for *_, w in mapped):
        raise DimensionError("points", "at the horizon", "", "points on the dial")
    return [(float(x / w) * radius, float(y / w) * radius) for x, y, w in mapped]


def _thin(corners: Sequence[PlanPoint]) -> bool:
    """Whether the marks do not go round, clockwise in the picture, as those of a dial do."""
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = corners
    area = (cx - ax) * (dy - by) - (cy - ay) * (dx - bx)
    return not abs(area) > THINNEST * (math.dist(corners[0], corners[2]) * math.dist(corners[1], corners[3]))
