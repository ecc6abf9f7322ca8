"""A made part's drawing as DXF: millimetres, a layer for each thing done along an edge, true circles."""

from io import StringIO

from marquetry.core.making.outline import ArcEdge, CircleEdge, Edge, StraightEdge
from marquetry.core.making.shape import PlanePoint
from marquetry.core.making.views import MadeDrawing

BESIDE = 10.0
"""Room between two views, mm."""
COLOURS = {"OUTLINE": 7, "CUT": 1, "HOLE": 5, "CENTRE": 3, "MARK": 8, "STEM": 6, "TEXT": 2}
MILLIMETRES = 4
DASHED = "DASHED"
"""A circle that is laid by and not cut: 1.6 drawn, 1.0 left out, mm."""
TYPE = 1.6
"""Height of the type, mm."""


def dxf_text(drawing: MadeDrawing) -> str:
    """The drawing's views side by side, the first with its axis at the origin."""
    from ezdxf.filemanagement import new  # noqa: PLC0415  # most of a second to import; only makers need it

    document = new("R2010", setup=False)
    document.header["$INSUNITS"] = MILLIMETRES
    document.header["$MEASUREMENT"] = 1
    document.linetypes.add(DASHED, [2.6, 1.6, -1.0])
    for name, colour in COLOURS.items():
        document.layers.add(name, color=colour)
    space = document.modelspace()
    for number, view in enumerate(drawing.views):
        aside = number * (2 * drawing.reach + 2 * BESIDE)
        for edge in view.edges:
            _draw(space, edge, aside)
        for (x, y), words in (*view.words, ((-drawing.reach, -drawing.reach - 4.0), view.title)):
            place = {"layer": "TEXT", "height": TYPE, "insert": (x + aside + 1.0, y + 1.0)}
            space.add_text(words, dxfattribs=place)
    written = StringIO()
    document.write(written)
    return written.getvalue()


def _draw(space: "object", edge: Edge, aside: float) -> None:
    layer = {"layer": edge.layer}
    match edge:
        case CircleEdge(centre, radius):
            laid_by = {**layer, "linetype": DASHED} if edge.layer == "MARK" else layer
            space.add_circle(_moved(centre, aside), radius, dxfattribs=laid_by)  # type: ignore[attr-defined]  # untyped
        case ArcEdge(centre, radius, start, end):
            # DXF counts anticlockwise from three, a watch clockwise from twelve.
            space.add_arc(_moved(centre, aside), radius, 90.0 - end, 90.0 - start, dxfattribs=layer)  # type: ignore[attr-defined]  # untyped
        case StraightEdge(start, end):
            space.add_line(_moved(start, aside), _moved(end, aside), dxfattribs=layer)  # type: ignore[attr-defined]  # untyped


def _moved(point: PlanePoint, aside: float) -> PlanePoint:
    return point[0] + aside, point[1]
