"""A view of a made part as marks on paper: faces from the furthest on, then the lines to work by."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.making.outline import ArcEdge, CircleEdge, Edge, StraightEdge
from marquetry.core.making.shape import PlanePoint, spot_at
from marquetry.core.making.views import MadeDrawing, MadeView
from marquetry.drawing.scene import CutFace, Dot, Label, Line, Mark, Paper, Scene

TURN = 1.5
"""An arc is drawn in steps of this many degrees: at Ø 45 within 0.002 mm of it."""
DRAWN_TWICE = {"OUTLINE", "CUT"}
"""Layers whose edges the faces show already."""
NEAREST = 2
"""Of a part's faces the two nearest are toned as its material: lugs or feet, and what they stand on."""
CLASSES = {"CENTRE": "made-centre", "MARK": "made-mark", "STEM": "centre-line", "HOLE": "made-hole"}


@dataclass(frozen=True, slots=True)
class ViewPlace:
    """Where a view's axis lies on paper, and its scale."""

    at: Paper
    scale: float = 1.0

    def of(self, point: PlanePoint) -> Paper:
        """A point of the part, mm, on paper."""
        return self.at[0] + point[0] * self.scale, self.at[1] + point[1] * self.scale


def view_marks(view: MadeView, place: ViewPlace, *, words: float = 2.8) -> Iterator[Mark]:
    """One view, nearer faces over others; `words` is the height of its words, mm, 0 for none."""
    for number, face in enumerate(view.faces):
        near = number >= len(view.faces) - NEAREST
        outlines = tuple(tuple(map(place.of, _points(loop))) for loop in face)
        if outlines:
            yield CutFace(outlines, "made-near" if near else "made-far")
    for edge in view.edges:
        if edge.layer not in DRAWN_TWICE or not any(view.faces):
            yield from _edge(edge, place)
    for at, text in view.words if words else ():
        x, y = place.of(at)
        yield Label((x + 1.2, y + 1.0), text, "quiet halo", words)


def _edge(edge: Edge, place: ViewPlace) -> Iterator[Mark]:
    classes = CLASSES.get(edge.layer, "made-edge")
    match edge:
        case CircleEdge(centre, radius):
            # A marked circle is laid by, not cut: the blank that is bought, a hole that is there.
            laid_by = f"{classes} made-laid" if edge.layer == "MARK" else classes
            yield Dot(place.of(centre), radius * place.scale, laid_by)
        case ArcEdge():
            yield Line(tuple(map(place.of, arc_points(edge))), classes)
        case StraightEdge(start, end):
            yield Line((place.of(start), place.of(end)), classes)


def _points(loop: tuple[Edge, ...]) -> list[PlanePoint]:
    """Corners round a closed way, each edge taken in the way in which it goes on from the one before."""
    points: list[PlanePoint] = []
    for edge in loop:
        match edge:
            case CircleEdge(centre, radius):
                return arc_points(ArcEdge(centre, radius, 0.0, 360.0, edge.layer))[:-1]
            case ArcEdge():
                piece = arc_points(edge)
            case StraightEdge(start, end):
                piece = [start, end]
        if _goes_back(points, piece, loop):
            piece.reverse()
        points += piece
    return points


def _goes_back(points: list[PlanePoint], piece: list[PlanePoint], loop: tuple[Edge, ...]) -> bool:
    """Whether a piece is told from its far end: an arc is told clockwise, a way round goes either way."""
    if points:
        return math.dist(points[-1], piece[-1]) < math.dist(points[-1], piece[0])
    return len(loop) > 1 and _begins_at(loop[1], piece[0])


def _begins_at(edge: Edge, point: PlanePoint) -> bool:
    ends = arc_points(edge) if isinstance(edge, ArcEdge) else _ends(edge)
    return min(math.dist(ends[0], point), math.dist(ends[-1], point)) < 0.01  # noqa: PLR2004  # a facet's sagitta


def _ends(edge: Edge) -> list[PlanePoint]:
    return [edge.start, edge.end] if isinstance(edge, StraightEdge) else [(math.inf, math.inf)]


def arc_points(arc: ArcEdge) -> list[PlanePoint]:
    """Points along an arc, mm, clockwise, its ends included."""
    steps = max(2, math.ceil(arc.sweep / TURN) + 1)
    cx, cy = arc.centre
    found = [spot_at(arc.radius, arc.start + arc.sweep * k / (steps - 1)) for k in range(steps)]
    return [(x + cx, y + cy) for x, y in found]


SMALL_SIZE = 40.0


def small_view(drawing: MadeDrawing) -> Scene:
    """The part from its dial side, small, beside words that say what it is."""
    scale = (SMALL_SIZE - 6.0) / (2 * drawing.reach)
    marks = view_marks(drawing.views[0], ViewPlace((SMALL_SIZE / 2, SMALL_SIZE / 2), scale), words=0.0)
    return Scene(SMALL_SIZE, SMALL_SIZE, "", "", tuple(marks))
