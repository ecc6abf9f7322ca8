"""A height from a photograph taken from the side: a length that is known gives the scale, a line the floor.

Nothing but the length that is known and the clicks is used, so the picture must look along the floor; what
lies nearer or further than the known length is drawn larger or smaller, and must not be measured so.
"""

from collections.abc import Sequence

from uncertainties import ufloat

from marquetry.core.measuring.picture_scale import CLICK_PIXELS, PlanPoint
from marquetry.core.values.dimension import COVERAGE_FACTOR, Dimension, Source
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.number import Number, square_root

SHORTEST_PIXELS = 8.0
"""A known length drawn shorter tells no scale worth having."""
Pair = tuple[Number, Number]


def height_in_picture(
    known: Sequence[PlanPoint], known_mm: float, floor: Sequence[PlanPoint], point: PlanPoint
) -> Dimension:
    """Height of a point over a floor, mm; all places in pixels, y downwards as pictures have it.

    `known` are the ends of a length of `known_mm`, `floor` two points on the floor. Doubt of the first order
    from a click of one pixel each, k = 2. DimensionError where ends or floor are too near each other.
    """
    if not known_mm > 0:
        raise DimensionError("known", known_mm, "mm", "more than 0")
    (first, last), (left, right) = map(_doubtful, known), map(_doubtful, floor)
    length, across = _between(first, last), _between(left, right)
    x, y = _doubtful(point)
    # Twice the triangle's area over its base: positive above the floor, for pictures count downwards.
    (ax, ay), (bx, by) = (left, right) if left[0].nominal_value <= right[0].nominal_value else (right, left)
    doubled = (bx - ax) * (ay - y) - (ay - by) * (x - ax)
    height = doubled / across * (known_mm / length)
    return Dimension(float(height.nominal_value), COVERAGE_FACTOR * float(height.std_dev), Source.MEASURED)


def _doubtful(at: PlanPoint) -> Pair:
    return ufloat(at[0], CLICK_PIXELS), ufloat(at[1], CLICK_PIXELS)


def _between(first: Pair, last: Pair) -> Number:
    length = square_root((last[0] - first[0]) ** 2 + (last[1] - first[1]) ** 2 + 1e-12)
    if length.nominal_value < SHORTEST_PIXELS:
        words = f"two points at least {SHORTEST_PIXELS:g} pixels apart"
        raise DimensionError("points", f"{length.nominal_value:.1f}", "pixels", words)
    return length
