"""The mark of each verdict: one lozenge of veneer, told apart by shape as well as by colour.

clear: an open lozenge · tight: its lower half filled · clash: filled and barred · unmeasured: dashed ·
assumed: dashed, with its middle told
"""

from collections.abc import Iterator

from marquetry.core.values.verdict import Verdict
from marquetry.drawing.scene import Cluster, Dot, Line, Mark, Paper, Scene

RADIUS = 1.5


def verdict_mark(verdict: Verdict, centre: Paper, radius: float = RADIUS) -> Cluster:
    """The verdict's lozenge around a point."""
    return Cluster(tuple(_strokes(verdict, centre, radius)), f"mark verdict-{verdict.value}")


def _strokes(verdict: Verdict, centre: Paper, radius: float) -> Iterator[Mark]:
    x, y = centre
    left, right, top, foot = (x - radius, y), (x + radius, y), (x, y + radius), (x, y - radius)
    outline = (left, top, right, foot)
    match verdict:
        case Verdict.CLASH:
            yield Line(outline, "mark-fill", closed=True)
            yield Line(((x - radius * 0.5, y), (x + radius * 0.5, y)), "mark-bar")
        case Verdict.TIGHT:
            yield Line(outline, "mark-line", closed=True)
            yield Line((left, right, foot), "mark-fill", closed=True)
        case Verdict.ASSUMED:
            yield Line(outline, "mark-line mark-dashed", closed=True)
            yield Dot(centre, radius * 0.3, "mark-fill")
        case Verdict.UNMEASURED:
            yield Line(outline, "mark-line mark-dashed", closed=True)
        case Verdict.CLEAR:
            yield Line(outline, "mark-line", closed=True)
        case Verdict.SKIPPED:
            yield Line((left, right), "mark-line")


def mark_scene(verdict: Verdict) -> Scene:
    """The mark alone, for use beside words in a page."""
    side = 2 * RADIUS + 0.6
    mark = verdict_mark(verdict, (side / 2, side / 2))
    return Scene(side, side, "", "", (mark,))
