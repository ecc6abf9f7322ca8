"""A date window: an upright gap in the dial through which the paper is seen."""

import numpy as np

from marquetry.core.seeing.circles import SeenCircle
from marquetry.core.seeing.found import FindMark, Placed, pair
from marquetry.core.seeing.plane import Plane

LEAST_AREA, MOST_AREA = 1.5, 16.0
"""mm²"""
FULL = 0.80
"""Share of its smallest box that a window fills at least."""


def window_of(plane: Plane, outline: SeenCircle, thickness: float) -> Placed | None:
    """The middle of the first gap that is a window's size and shape; None where none is seen."""
    import cv2  # noqa: PLC0415  # as in profiles

    rows, columns = np.indices(plane.light.shape[:2])
    places = plane.places(np.stack([columns, rows], axis=-1).astype(float))
    out = np.hypot(*np.moveaxis(places - outline.middle, -1, 0))
    body = np.median(plane.light[(out < 0.8 * outline.radius) & (out > 0.2 * outline.radius)], axis=0)
    paper = np.abs(plane.light - 1).max(axis=2) < 0.5 * np.abs(body - 1).max()
    bright = plane.light.min(axis=2) > 0.62
    mask = (paper & bright & (out < 0.93 * outline.radius) & (out > 0.25 * outline.radius)).astype(np.uint8)
    mask = cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask)
    for number in range(1, count):
        area = float(stats[number, cv2.CC_STAT_AREA]) * plane.step**2
        if not LEAST_AREA < area < MOST_AREA:
            continue
        contour = np.argwhere(labels == number)[:, ::-1].astype(np.float32)
        middle, (wide, high), turn = cv2.minAreaRect(contour)
        sides = sorted((wide * plane.step + plane.step, high * plane.step + plane.step))
        if area < FULL * sides[0] * sides[1] or sides[0] < 0.9 or sides[1] > 3 * sides[0]:
            continue
        at = plane.places(np.array(middle, float))
        # Upper edges are displaced, lower ones are not: the gap between them lies half way.
        half = plane.displaced(at, thickness) / 2
        corner = cv2.boxPoints((middle, (wide, high), turn))
        mark = FindMark(
            "box", pair(plane.places(corner[0].astype(float))), to=pair(plane.places(corner[2].astype(float)))
        )
        return Placed(at, at - half, 0.03, mark)
    return None
