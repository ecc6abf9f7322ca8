"""The part's own outline on the card, and whether there is one to be seen."""

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.arrays import Reals
from marquetry.core.seeing.circles import LUMA, SeenCircle, circles_about
from marquetry.core.seeing.plane import WITHIN, Plane
from marquetry.core.seeing.refusal import PictureError
from marquetry.core.seeing.settled import settle

APART = 0.10
"""Least difference of light, paper being 1, by which anything is told from the paper."""
SEEN_ROUND = 0.45
"""Least share of its round that an outline has to show."""
DARK_GROUND = 0.16
"""Linear light of the ground below which a dark part cannot be told from it."""
DARK_SHARE = 0.35
"""Share of the paper's light below which what lies within the ring line is a ground of its own."""
LEAST_RADIUS = 4.0


def part_mask(plane: Plane) -> NDArray[np.bool_]:
    """Where something other than paper lies within the ring line."""
    away = np.abs(plane.light - 1).max(axis=2) > APART
    rows, columns = np.indices(away.shape)
    places = plane.places(np.stack([columns, rows], axis=-1).astype(float))
    return np.asarray(away & (np.hypot(*np.moveaxis(places - np.array(plane.middle), -1, 0)) < WITHIN))


def middle_of_part(plane: Plane) -> Reals:
    """The middle of what lies on the card, roughly, mm. PictureError where nothing does."""
    mask = part_mask(plane)
    # Grains and dust are a few samples; a soft shadow is faint.
    import cv2  # noqa: PLC0415  # as in profiles

    kernel = np.ones((5, 5), np.uint8)
    opened = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, kernel)
    if float(opened.sum()) * plane.step**2 < 3.0:  # mm²
        raise no_part(plane)
    contours, _ = cv2.findContours(opened, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    filled = cv2.drawContours(np.zeros_like(opened), [max(contours, key=cv2.contourArea)], -1, 1, -1)
    # The middle of the largest circle within: a stem that sticks out does not draw it aside, as a box's
    # middle.
    row, column = np.unravel_index(
        int(np.argmax(cv2.distanceTransform(filled, cv2.DIST_L2, 5))), filled.shape
    )
    return plane.places(np.array([column, row], float))


def no_part(plane: Plane) -> PictureError:
    """Why nothing is seen, in words."""
    if plane.ground < DARK_GROUND or _within_ring(plane) < DARK_SHARE:
        return PictureError(
            "ground",
            "A dark part on a dark ground cannot be told from it. Lay it on white paper, the card's own, "
            "with light from two sides.",
        )
    return PictureError(
        "part",
        "Nothing is told from the card's white within the ring line. Lay the part there; a pale one needs "
        "light from the side.",
    )


def _within_ring(plane: Plane) -> float:
    """Light just within the ring line as a share of the paper's."""
    angles = np.linspace(0, 2 * np.pi, 240, endpoint=False)
    around = np.stack([np.sin(angles), np.cos(angles)], axis=1)
    places = np.array(plane.middle) + around[:, None, :] * np.arange(22.0, 24.0, 0.25)[None, :, None]
    return float(np.median(plane.light_at(places) @ LUMA))


def outline_of(plane: Plane, above: float) -> SeenCircle:
    """The part's round outline, its rim `above` the card, mm. PictureError where none is seen."""
    if _within_ring(plane) < DARK_SHARE:
        raise no_part(plane)
    middle = middle_of_part(plane)
    found = circles_about(plane, middle, LEAST_RADIUS, WITHIN, most=3)
    strongest = max((circle.strength for circle in found), default=0.0)
    likely = [c for c in found if c.support >= SEEN_ROUND and c.strength >= 0.25 * strongest]
    if not likely:
        raise no_part(plane)
    rough = max(likely, key=lambda circle: circle.radius)
    settled = settle(plane, rough, above, "outline")
    if _contrast(plane, settled) < APART * 0.6:
        raise no_part(plane)
    return settled


def _contrast(plane: Plane, circle: SeenCircle) -> float:
    """Difference of light across an outline."""
    angles = np.linspace(0, 2 * np.pi, 180, endpoint=False)
    around = np.stack([np.sin(angles), np.cos(angles)], axis=1)
    inner, outer = (
        plane.light_at((circle.middle + (circle.radius + off) * around)[None])[0] for off in (-0.6, 0.6)
    )
    return float(np.median(np.abs(outer - inner).max(axis=1))) * (
        1 if plane.ground > DARK_GROUND else plane.ground * float(LUMA.sum())
    )
