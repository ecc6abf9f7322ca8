"""A made part as it is drawn to true size: from its dial side, from behind, and cut along two rays."""

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from marquetry.core.making.cutting import window_places, windows_alone, windows_told
from marquetry.core.making.drilling import distances_told, drilled_holes, old_holes
from marquetry.core.making.kernel import Border, Cells, cells_of, profile
from marquetry.core.making.marks import Aside, cross, stem_line
from marquetry.core.making.outline import ArcEdge, CircleEdge, Edge, StraightEdge, edges_of
from marquetry.core.making.parts import MadePart
from marquetry.core.making.shape import PlanePoint, Solid
from marquetry.core.making.sizes import Sizes
from marquetry.core.values.figures import figure

AXIS: PlanePoint = (0.0, 0.0)
Loop = tuple[Edge, ...]


@dataclass(frozen=True, slots=True)
class MadeView:
    """One side of a part, as seen from there: mirrored where it is the back.

    `faces` are outlines from the furthest to the nearest, each a face with its holes; `edges` the lines that
    are cut, drilled or marked along; `words` stand at places in mm.
    """

    title: str
    faces: tuple[tuple[Loop, ...], ...]
    edges: tuple[Edge, ...]
    words: tuple[tuple[PlanePoint, str], ...] = ()


@dataclass(frozen=True, slots=True)
class MadeCut:
    """A part cut along two rays from its axis: outlines in (r, z), mm, right and left of it."""

    right: tuple[Border, ...]
    left: tuple[Border, ...]
    title: str


@dataclass(frozen=True, slots=True)
class MadeDrawing:
    """All that is drawn of a part; `cut` is None of a sheet, `reach` how far it reaches from the axis, mm."""

    views: tuple[MadeView, ...]
    cut: MadeCut | None
    reach: float
    told: tuple[str, ...] = ()


def drawing_of(part: MadePart, cells: Cells | None = None) -> MadeDrawing:
    """Draw the part; DimensionError, naming the field, where it cannot be made."""
    solid = part.solid()
    if solid is None:
        return SHEETS[part.kind.key](part)
    cells = cells or cells_of(solid)
    front, back = _seen(solid, cells, "front"), _seen(solid, cells, "back")
    s, kind = part.sizes, part.kind
    spots = tuple(kind.spots(s))
    marks = [edge for at in (AXIS, *(at for at, _ in spots)) for edge in cross(at)]
    reach = max(_reach(edge) for view in (front, back) for edge in view.edges)
    aside = kind.aside(s)
    stem = () if aside is None else tuple(stem_line(s, reach))
    views = (
        replace(front, edges=(*front.edges, *marks, *kind.divisions(s), *stem), words=spots),
        _mirrored(replace(back, edges=(*back.edges, *cross(AXIS), *stem))),
    )
    told = tuple(windows_told(s)) if kind.part == "dial" else ()
    return MadeDrawing(views, _cut(s, cells, aside), reach, told)


def _seen(solid: Solid, cells: Cells, side: Literal["front", "back"]) -> MadeView:
    """From one side: faces far to near, and of the lines those of the nearest face and of the whole."""
    order = range(cells.inside.shape[1])
    near_first = list(order) if side == "front" else list(reversed(order))
    faces: list[tuple[Loop, ...]] = []
    seen: list[NDArray[np.bool_]] = []
    for slab in near_first:
        wanted = cells.inside[:, slab]
        if wanted.any() and not any(np.array_equal(wanted, other) for other in seen):
            seen.append(wanted)
            faces.append(tuple(edges_of(solid, cells, wanted)))
    # What a cutter follows: the nearest face, what stands on it, and the outline of all.
    whole = tuple(edges_of(solid, cells, np.asarray(cells.inside.any(axis=1))))
    near = faces[:1] if side == "front" else faces[:2]
    edges = tuple(dict.fromkeys(edge for face in (*near, whole) for loop in face for edge in loop))
    title = "From the crystal" if side == "front" else "From behind, mirrored"
    return MadeView(title, tuple(reversed(faces)), edges)


def _mirrored(view: MadeView) -> MadeView:
    """The same as it is seen from the other side."""
    faces = tuple(tuple(tuple(map(_flipped, loop)) for loop in face) for face in view.faces)
    words = tuple(((-x, y), text) for (x, y), text in view.words)
    return replace(view, faces=faces, edges=tuple(map(_flipped, view.edges)), words=words)


def _flipped(edge: Edge) -> Edge:
    match edge:
        case CircleEdge((x, y)):
            return replace(edge, centre=(-x, y))
        case ArcEdge((x, y), _, start, end):
            return replace(edge, centre=(-x, y), start=-end % 360.0, end=-start % 360.0)
        case StraightEdge((ax, ay), (bx, by)):
            return replace(edge, start=(-ax, ay), end=(-bx, by))


def _reach(edge: Edge) -> float:
    match edge:
        case StraightEdge(start, end):
            return max(_far(start), _far(end))
        case CircleEdge(centre, radius) | ArcEdge(centre, radius):
            return _far(centre) + radius


def _far(point: PlanePoint) -> float:
    return float(np.hypot(*point))


def _cut(s: Sizes, cells: Cells, aside: Aside | None) -> MadeCut:
    """Right of the axis at the stem; left of it where there is most to be seen."""
    if aside is None:
        return MadeCut(profile(cells, s.crown), profile(cells, s.crown + 180.0), "Cut through its axis")
    left, words = aside
    title = f"Cut at the stem, right, and {words}, left"
    return MadeCut(profile(cells, s.crown), profile(cells, left), title)


def _drilling(part: MadePart) -> MadeDrawing:
    """The movement from the dial side with the holes to drill, and the same from behind."""
    s = part.sizes
    holes, old = drilled_holes(s, part.rules), list(old_holes(s))
    radius = s["movement.diameter"] / 2
    edges: list[Edge] = [CircleEdge((0.0, 0.0), radius, "OUTLINE"), *cross(AXIS), *stem_line(s, radius)]
    edges += [CircleEdge(at, diameter / 2, "MARK") for at, diameter in old]
    for hole in holes:
        edges += [CircleEdge(hole.at, hole.drill / 2, "HOLE"), *cross(hole.at)]
    words = tuple(
        (hole.at, f"{hole.foot + 1}: Ø {figure(hole.drill)}, {figure(hole.depth)} deep") for hole in holes
    )
    front = MadeView("Dial side of the movement", ((),), tuple(edges), words)
    back = replace(_mirrored(front), title="The same mirrored, seen from behind")
    told = (
        *(
            f"Hole {hole.foot + 1}: drill Ø {figure(hole.drill)} mm, {figure(hole.depth)} mm deep"
            for hole in holes
        ),
        *distances_told(holes, old),
    )
    return MadeDrawing((front, back), None, radius, told)


def _windows(part: MadePart) -> MadeDrawing:
    """Only the cut-outs, for a bought blank: its outline is drawn and not cut."""
    s = part.sizes
    solid = windows_alone(s)
    cells = cells_of(solid)
    loops = edges_of(solid, cells, np.asarray(cells.inside.any(axis=1)))
    cut = [edge for loop in loops for edge in loop if edge.layer == "CUT"]
    radius = s["dial.diameter"] / 2
    blank = CircleEdge(AXIS, radius, "MARK")
    edges = (*cut, blank, *cross(AXIS), *stem_line(s, radius))
    words = tuple((at, str(number)) for number, at in window_places(s))
    front = MadeView("The face, from the crystal", (), edges, words)
    back = replace(_mirrored(front), title="The same mirrored, from behind")
    return MadeDrawing((front, back), None, radius, tuple(windows_told(s)))


SHEETS = {"drilling-sheet": _drilling, "window-sheet": _windows}
"""What is drawn of a kind that is no solid."""
