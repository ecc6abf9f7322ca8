"""A figure of a result on a ruler without words, beside the band in which it was to lie."""

from marquetry.core.rehearsal.exercise import Aimed
from marquetry.drawing.limit_ruler import RulerLine
from marquetry.drawing.scene import Cluster, Scene

RULER_WIDTH, RULER_HEIGHT, EDGE = 60.0, 9.0, 6.0
AIM_LINE = RulerLine(0.0, RULER_WIDTH, RULER_HEIGHT / 2, 2.4, EDGE, air=0.6)


def aim_ruler(one: Aimed) -> Scene:
    """Band and value to scale; the words stand beside it."""
    verdict = "clear" if one.is_reached else "clash"
    marks = tuple(AIM_LINE.marks(one.band, one.value, one.value, one.value))
    return Scene(RULER_WIDTH, RULER_HEIGHT, "", "", (Cluster(marks, f"ruler verdict-{verdict}"),))
