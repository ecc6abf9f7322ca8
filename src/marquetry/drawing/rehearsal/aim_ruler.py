"""A figure of a result on a ruler without words, beside the band in which it was to lie."""

from collections.abc import Iterator

from marquetry.core.rehearsal.exercise import Aimed
from marquetry.drawing.scene import Box, Cluster, Line, Mark, Scene

RULER_WIDTH, RULER_HEIGHT, EDGE = 60.0, 9.0, 6.0
LEVEL, BAND = 4.5, 2.4
OPEN = 0.6
"""How much past its value or its limit an open end is shown, as a share of what lies between them."""


def aim_ruler(one: Aimed) -> Scene:
    """Band and value to scale; the words stand beside it."""
    verdict = "clear" if one.is_reached else "clash"
    return Scene(
        RULER_WIDTH, RULER_HEIGHT, "", "", (Cluster(tuple(_marks(one)), f"ruler verdict-{verdict}"),)
    )


def _marks(one: Aimed) -> Iterator[Mark]:
    low, high = one.band.low, one.band.high
    ends = [end for end in (low, high) if end is not None]
    least, most = min([one.value, *ends]), max([one.value, *ends])
    air = (most - least) * OPEN or 1.0
    least, most = least - (air if low is None else air / 6), most + (air if high is None else air / 6)

    def x(at: float) -> float:
        return EDGE + (at - least) / (most - least) * (RULER_WIDTH - 2 * EDGE)

    left, right = 0.0 if low is None else x(low), RULER_WIDTH if high is None else x(high)
    yield Box((left, LEVEL - BAND), right - left, 2 * BAND, "ruler-band")
    yield Line(((0.0, LEVEL), (RULER_WIDTH, LEVEL)), "frame")
    for end in ends:
        yield Line(((x(end), LEVEL - BAND - 0.8), (x(end), LEVEL + BAND + 0.8)), "ruler-limit")
    yield Line(((x(one.value), LEVEL - BAND - 1.4), (x(one.value), LEVEL + BAND + 1.4)), "ruler-value")
