"""Millimetres from a photograph: an affine fit of clicked marks to their known places, with residuals.

An affine map takes up scale, turn and a picture that is stretched or slightly askew; what is left over,
the residuals, is the doubt of every further click. Three marks fix the map, a fourth shows whether it holds.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from marquetry.core.values.dimension import COVERAGE_FACTOR, Dimension, Source
from marquetry.core.values.errors import DimensionError

PlanPoint: TypeAlias = tuple[float, float]
FEWEST_MARKS = 3
CLICK_PIXELS = 1.0
"""Standard uncertainty of one click, by a steady hand on an unblurred edge."""


@dataclass(frozen=True, slots=True)
class PictureScale:
    """The map from pixels to mm; `residuals`, one for each mark, and the `doubt` of a click (k = 1) in mm."""

    matrix: NDArray[np.float64]
    residuals: tuple[float, ...]
    doubt: float

    def at(self, pixel: PlanPoint) -> PlanPoint:
        """Where a pixel lies, in the marks' millimetres."""
        x, y = np.array([pixel[0], pixel[1], 1.0]) @ self.matrix
        return float(x), float(y)


def fit(pixels: Sequence[PlanPoint], places: Sequence[PlanPoint]) -> PictureScale:
    """Fit the map by least squares.

    Raises DimensionError where there are too few marks or they stand in one line.
    """
    if len(pixels) < FEWEST_MARKS or len(pixels) != len(places):
        raise DimensionError("marks", len(pixels), "", f"at least {FEWEST_MARKS} marks with their places")
    design = np.column_stack([np.array(pixels, dtype=float), np.ones(len(pixels))])
    spread = design[:, :2] - design[:, :2].mean(axis=0)
    widths = np.linalg.svd(spread, compute_uv=False)
    if widths[1] < 1e-3 * max(widths[0], 1.0):
        raise DimensionError("marks", "in one line", "", "marks that span an area")
    matrix, *_ = np.linalg.lstsq(design, np.array(places, dtype=float), rcond=None)
    off = design @ matrix - np.array(places, dtype=float)
    residuals = np.hypot(off[:, 0], off[:, 1])
    mm_per_pixel = math.sqrt(abs(float(np.linalg.det(matrix[:2]))))
    free = 2 * len(pixels) - 6
    left = math.sqrt(float((off**2).sum()) / free) if free > 0 else 0.0
    return PictureScale(matrix, tuple(map(float, residuals)), math.hypot(left, CLICK_PIXELS * mm_per_pixel))


def polar(
    scale: PictureScale, centre: PlanPoint, pixel: PlanPoint, *, from_back: bool = False
) -> tuple[Dimension, Dimension]:
    """Radius and angle of a clicked point about a clicked centre, clockwise from 12 seen from the crystal.

    The marks' y runs up towards 12 o'clock. `from_back`: the picture shows the back, so sides are swapped.
    """
    (cx, cy), (x, y) = scale.at(centre), scale.at(pixel)
    dx, dy = (cx - x if from_back else x - cx), y - cy
    radius = math.hypot(dx, dy)
    if radius <= 0:
        raise DimensionError("place", "the centre itself", "", "a point away from the centre")
    tol = COVERAGE_FACTOR * math.sqrt(2.0) * scale.doubt
    angle = round(math.degrees(math.atan2(dx, dy)), 6) % 360.0
    return (
        Dimension(radius, tol, Source.MEASURED),
        Dimension(angle, math.degrees(tol / radius), Source.MEASURED),
    )
