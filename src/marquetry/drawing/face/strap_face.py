"""Strap or bracelet in its own colours, as it leaves the case on both sides."""

from collections.abc import Iterator

from marquetry.core.face.seen import SeenStrap
from marquetry.core.face.shade import mixed
from marquetry.drawing.face.light import laid
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Inlay, Mark, Paper

SURFACES = {"suede": "blast", "textile": "weave", "mesh": "engine", "leather": "texture"}
TAPER = 0.018
"""How much narrower a strap is for each mm of its length, either side."""
STITCH, GAP = 1.5, 0.9
FROM_EDGE = 1.15
RIB, SELVEDGE = 0.55, 0.7
"""Width of one rib of a woven strap, and of its turned edge, mm."""
LINK = 3.4
"""Length of one row of links, mm."""


def strap_face(plan: Plan, strap: SeenStrap, start: float, end: float) -> Iterator[Mark]:
    """Both halves, from a distance off the watch's axis to another, mm, darkening as they bend away."""
    for way in (1, -1):
        yield from strap_half(plan, strap, start, end, way)
        outline = _outline(plan, strap, start, end, way)
        yield Inlay((outline,), "url(#li-away)" if way > 0 else "url(#li-near)")


def strap_half(plan: Plan, strap: SeenStrap, start: float, end: float, way: int) -> Iterator[Mark]:
    """One half lying flat: upwards (1) or downwards (−1)."""
    outline = _outline(plan, strap, start, end, way)
    ink = mixed(strap.coat.colour, "#000000", 0.6)
    yield Inlay((outline,), strap.coat.colour, line=ink, line_width=0.08 * plan.scale)
    if strap.surface == "textile":
        yield from _ribs(plan, strap, start, end, way)
    elif strap.surface in SURFACES:
        yield Inlay((outline,), f"url(#li-{SURFACES[strap.surface]})", 0.8)
    if strap.surface == "links":
        yield from _links(plan, strap, start, end, way)
        return
    if strap.coat.second:
        yield Inlay((_strip(plan, (0.0, 0.3 * strap.half), (start, end), way),), strap.coat.second)
    yield Inlay((outline,), "url(#li-tube)", 0.55)
    if strap.stitching == "along the edges":
        yield from _seams(plan, strap, start, end, way)
    elif strap.stitching == "at the lugs":
        row = start + 3.4
        yield Inlay(tuple(_across(plan, strap, row, way)), strap.stitch_colour)


def _ribs(plan: Plan, strap: SeenStrap, start: float, end: float, way: int) -> Iterator[Mark]:
    """Fabric: a weave, every second rib a shade darker, and a turned edge on both sides."""
    count = max(round((end - start) / RIB), 1)
    rows = [start + (end - start) * k / count for k in range(0, count, 2)]
    ribs = tuple(
        _strip(plan, (0.0, _half_at(strap, start, row)), (row, min(row + RIB, end)), way) for row in rows
    )
    yield Inlay(ribs, mixed(strap.coat.colour, "#000000", 0.32), 0.5)
    yield Inlay((_outline(plan, strap, start, end, way),), "url(#li-weave)", 0.9)
    edges = tuple(
        _strip(plan, (side * (strap.half - SELVEDGE), SELVEDGE / 2), (start, end), way) for side in (-1, 1)
    )
    yield Inlay(edges, mixed(strap.coat.colour, "#ffffff", 0.25), 0.45)


def _half_at(strap: SeenStrap, start: float, along: float) -> float:
    return strap.half - TAPER * max(along - start - 4.0, 0.0)


def _outline(plan: Plan, strap: SeenStrap, start: float, end: float, way: int) -> tuple[Paper, ...]:
    near, far = strap.half, _half_at(strap, start, end)
    return laid(plan, ((-near, way * start), (near, way * start), (far, way * end), (-far, way * end)))


def _strip(
    plan: Plan, across: tuple[float, float], along: tuple[float, float], way: int
) -> tuple[Paper, ...]:
    middle, half = across
    (a, b) = along
    return laid(
        plan,
        (
            (middle - half, way * a),
            (middle + half, way * a),
            (middle + half, way * b),
            (middle - half, way * b),
        ),
    )


def _seams(plan: Plan, strap: SeenStrap, start: float, end: float, way: int) -> Iterator[Mark]:
    stitches: list[tuple[Paper, ...]] = []
    along = start + 1.2
    while along + STITCH < end:
        edge = _half_at(strap, start, along) - FROM_EDGE
        stitches.extend(_strip(plan, (side * edge, 0.14), (along, along + STITCH), way) for side in (-1, 1))
        along += STITCH + GAP
    if stitches:
        yield Inlay(tuple(stitches), strap.stitch_colour)


def _across(plan: Plan, strap: SeenStrap, along: float, way: int) -> Iterator[tuple[Paper, ...]]:
    at = -strap.half + 1.4
    while at + STITCH < strap.half - 1.0:
        yield _strip(plan, (at + STITCH / 2, STITCH / 2), (along, along + 0.28), way)
        at += STITCH + GAP


def _links(plan: Plan, strap: SeenStrap, start: float, end: float, way: int) -> Iterator[Mark]:
    """Rows of links, each rounded towards the light; the middle ones polished where rows are odd."""
    rows = min(max(strap.rows, 1), 9)
    wide = 2 * strap.half / rows
    ink = mixed(strap.coat.colour, "#000000", 0.7)
    ends = start + strap.end_link
    cells: list[tuple[Paper, ...]] = []
    along = start
    while along < end:
        step = (ends - start if along < ends else LINK) or LINK
        long = min(along + step, end)
        for row in range(rows):
            middle = -strap.half + (row + 0.5) * wide
            cells.append(_strip(plan, (middle, wide / 2 - 0.06), (along, long - 0.12), way))
        along += step
    yield Inlay(tuple(cells), strap.coat.colour, line=ink, line_width=0.06 * plan.scale)
    yield Inlay(tuple(cells), "url(#li-brush)")
    yield Inlay(tuple(cells), "url(#li-tube-up)", 0.6)
