"""Solids as closed meshes and as outlines: the only file of the core that needs the geometry libraries.

All edges of all shapes are laid over one another once, on a grid finer than any file's rounding, and make
cells: pieces of the plane that no edge crosses. A solid is a set of cells times slabs, one slab between each
two depths at which something changes; its mesh is the border of that set, closed by construction. Booleans
of solids were tried first: 0.1 to 0.9 s for a holder, and slivers that a 32-bit file pinches shut. Circles
are polygons with corners on the circle: at FACETS corners a part of Ø 45 lies within 0.002 mm of it.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import pairwise
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from marquetry.core.making.shape import (
    Annulus,
    Bar,
    BentBand,
    FlatShape,
    PlanePoint,
    RoundSpot,
    Solid,
    spot_at,
)
from marquetry.core.values.errors import DimensionError

if TYPE_CHECKING:
    from shapely import Polygon

FACETS = 240
FAR = 150.0
"""Where a strip without an end ends, mm: outside every part."""
GRID = 1e-4
"""Corners lie on this grid, mm: fifty times what a 32-bit number tells apart at Ø 45."""
THIN = 1e-3
"""Two depths closer than this are one, mm: a file of 32-bit numbers could not keep them apart."""
Corner = tuple[int, int]
"""A corner on the grid, in steps of GRID."""
Border = tuple[PlanePoint, ...]


@dataclass(frozen=True, slots=True)
class Mesh:
    """A closed mesh facing outwards: corners n × 3 in mm in the made frame, triangles m × 3 by number."""

    corners: NDArray[np.float64]
    triangles: NDArray[np.int64]

    @property
    def volume(self) -> float:
        """What it holds, cubic mm, by the tetrahedra between its triangles and the origin."""
        a, b, c = (self.corners[self.triangles[:, k]] for k in range(3))
        return float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6.0)

    @property
    def bounds(self) -> tuple[list[float], list[float]]:
        """Its least and greatest x, y, z, mm."""
        return self.corners.min(axis=0).tolist(), self.corners.max(axis=0).tolist()

    @property
    def is_closed(self) -> bool:
        """Whether every edge is shared by two triangles that run along it in opposite ways."""
        edges = self.triangles[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2)
        ways, counts = np.unique(edges, axis=0, return_counts=True)
        back = np.unique(edges[:, ::-1], axis=0)
        return bool((counts == 1).all() and np.array_equal(ways, back))


@dataclass(frozen=True)
class Cells:
    """The plane cut up by all edges of a solid, and which cell is in which slab."""

    faces: "tuple[Polygon, ...]"
    slabs: tuple[tuple[float, float], ...]
    inside: NDArray[np.bool_]
    """One row a cell, one column a slab."""

    @cached_property
    def borders(self) -> tuple[tuple[tuple[Corner, ...], ...], ...]:
        """Each cell's closed ways round, outer anticlockwise and holes clockwise, as corners on the grid."""
        found = []
        for face in self.faces:
            turned = face.normalize().reverse()
            rings = [turned.exterior, *turned.interiors]
            found.append(tuple(_on_grid(ring.coords, hole=k > 0) for k, ring in enumerate(rings)))
        return tuple(found)


def _on_grid(coords: object, *, hole: bool) -> tuple[Corner, ...]:
    points = np.rint(np.asarray(coords, dtype=np.float64)[:-1] / GRID).astype(np.int64)
    x, y = points[:, 0].astype(float), points[:, 1].astype(float)
    area = float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))
    if (area < 0) != hole:
        points = points[::-1]
    return tuple((int(a), int(b)) for a, b in points)


def cells_of(solid: Solid) -> Cells:
    """Cut the plane up; DimensionError where nothing of the solid is left."""
    from shapely import LineString, MultiLineString, polygonize, unary_union  # noqa: PLC0415  # makers only

    lines = [LineString(border) for step in solid.steps for border in borders_of(step.shape)]
    noded = unary_union(MultiLineString(lines), grid_size=GRID)
    faces = tuple(polygonize([noded]).geoms)
    slabs = tuple(pairwise(_apart(solid.depths)))
    middles = [face.representative_point() for face in faces]
    inside = np.array(
        [[solid.holds(p.x, p.y, -(a + b) / 2) for a, b in slabs] for p in middles], dtype=bool
    ).reshape(len(faces), len(slabs))
    used = np.flatnonzero(inside.any(axis=0))
    if not used.size:
        raise DimensionError("part", "nothing", "", "sizes at which something of it is left")
    first, last = int(used[0]), int(used[-1]) + 1
    return Cells(faces, slabs[first:last], inside[:, first:last])


def _apart(depths: tuple[float, ...]) -> list[float]:
    """The depths, mm, those too near to the one before left out."""
    kept: list[float] = []
    for depth in depths:
        if not kept or depth - kept[-1] >= THIN:
            kept.append(depth)
    return kept


def border_of(cells: Cells, wanted: NDArray[np.bool_]) -> list[list[Corner]]:
    """Closed ways round the cells that are wanted, those on their left, as corners on the grid."""
    onward: dict[Corner, list[Corner]] = {}
    owned = {
        (start, end)
        for cell in np.nonzero(wanted)[0]
        for ring in cells.borders[int(cell)]
        for start, end in zip(ring, (*ring[1:], ring[0]), strict=True)
    }
    for start, end in owned:
        if (end, start) not in owned:
            onward.setdefault(start, []).append(end)
    loops = []
    while onward:
        start = min(onward)
        loop, here = [start], onward[start].pop()
        while here != start:
            loop.append(here)
            here = onward[here].pop()
        onward = {corner: ends for corner, ends in onward.items() if ends}
        loops.append(loop)
    return loops


def profile(cells: Cells, angle: float) -> tuple[Border, ...]:
    """The solid cut along the ray at an angle, °: outlines in (r, z), mm, what touches being one piece."""
    from shapely import LineString, box, unary_union  # noqa: PLC0415  # makers only

    ray = LineString([(0.0, 0.0), spot_at(FAR, angle)])
    pieces = []
    for cell in np.nonzero(cells.inside.any(axis=1))[0]:
        for part in getattr(
            cells.faces[cell].intersection(ray), "geoms", [cells.faces[cell].intersection(ray)]
        ):
            if part.length > GRID:
                ends = sorted(math.hypot(x, y) for x, y in part.coords)
                pieces += [
                    box(ends[0], -cells.slabs[slab][1], ends[-1], -cells.slabs[slab][0])
                    for slab in np.nonzero(cells.inside[cell])[0]
                ]
    whole = unary_union(pieces, grid_size=GRID).simplify(GRID)
    # A cut through a ring leaves pieces without holes: whatever is inside one is bored from its axis.
    return tuple(
        tuple(piece.exterior.coords)[:-1] for piece in getattr(whole, "geoms", [whole]) if piece.area > 0
    )


def mesh_of(cells: Cells) -> Mesh:
    """The border of the solid as one mesh in the made frame, mm."""
    corners: dict[tuple[Corner, int], int] = {}
    triangles: list[tuple[int, int, int]] = []
    depths = [cells.slabs[0][0], *(bottom for _, bottom in cells.slabs)]

    def number(corner: Corner, level: int) -> int:
        return corners.setdefault((corner, level), len(corners))

    for cell, level, faces_up in _caps(cells):
        for a, b, c in _triangulated(cells.borders[cell]):
            order = (a, b, c) if faces_up else (a, c, b)
            triangles.append((number(order[0], level), number(order[1], level), number(order[2], level)))
    for start, end, slab in _walls(cells):
        low_a, low_b = number(start, slab + 1), number(end, slab + 1)
        high_a, high_b = number(start, slab), number(end, slab)
        triangles += [(low_a, low_b, high_b), (low_a, high_b, high_a)]
    found = np.array([(x * GRID, y * GRID, -depths[level]) for (x, y), level in corners], dtype=np.float64)
    return _plain(found, np.array(triangles, dtype=np.int64))


def _caps(cells: Cells) -> Iterator[tuple[int, int, bool]]:
    """Where a cell ends at a depth: cell, number of the depth, and whether its face looks to the crystal."""
    padded = np.pad(cells.inside, ((0, 0), (1, 1)))
    for cell, level in zip(*np.nonzero(padded[:, 1:] != padded[:, :-1]), strict=True):
        yield int(cell), int(level), bool(padded[cell, level + 1])


def _walls(cells: Cells) -> Iterator[tuple[Corner, Corner, int]]:
    """Edges between a cell that is in a slab and one that is not, the solid on their left, with the slab."""
    left: dict[tuple[Corner, Corner], int] = {}
    for cell, rings in enumerate(cells.borders):
        for ring in rings:
            for start, end in zip(ring, (*ring[1:], ring[0]), strict=True):
                left[start, end] = cell
    nothing = np.zeros(len(cells.slabs), dtype=bool)
    for (start, end), cell in left.items():
        other = left.get((end, start))
        beyond = nothing if other is None else cells.inside[other]
        for slab in np.nonzero(cells.inside[cell] & ~beyond)[0]:
            yield start, end, int(slab)


def _triangulated(rings: tuple[tuple[Corner, ...], ...]) -> list[tuple[Corner, Corner, Corner]]:
    from manifold3d import triangulate  # noqa: PLC0415  # as above

    flat = [corner for ring in rings for corner in ring]
    found = triangulate([np.array(ring, dtype=np.float64) * GRID for ring in rings])
    return [(flat[a], flat[b], flat[c]) for a, b, c in np.asarray(found).tolist()]


def _plain(corners: NDArray[np.float64], triangles: NDArray[np.int64]) -> Mesh:
    """The same body with fewer corners: those on a straight edge or a flat face are not needed."""
    from manifold3d import Error, Manifold, Mesh64  # noqa: PLC0415  # as above

    body = Manifold(Mesh64(vert_properties=corners, tri_verts=triangles.astype(np.uint64)))
    if body.status() != Error.NoError:
        return Mesh(corners, triangles)
    made = body.as_original().simplify(GRID / 2).to_mesh64()
    return Mesh(
        np.asarray(made.vert_properties, dtype=np.float64)[:, :3], np.asarray(made.tri_verts, dtype=np.int64)
    )


def borders_of(shape: FlatShape, facets: int = FACETS) -> Iterator[Border]:
    """The lines that bound a shape, mm; together with those of the others they cut the plane into cells."""
    match shape:
        case Annulus(inner, outer):
            yield from (_circle(radius, facets) for radius in (inner, outer) if radius > 0)
        case RoundSpot(at_radius, angle, radius, outer):
            cx, cy = spot_at(at_radius, angle)
            yield tuple((x + cx, y + cy) for x, y in _circle(radius, facets))
            if not math.isinf(outer):
                yield _circle(outer, facets)
        case Bar(angle, width, start, end, inner, outer):
            yield _strip(angle, width, start, min(end, FAR))
            yield from (_circle(r, facets) for r in (inner, outer) if r > 0 and not math.isinf(r))
        case BentBand(inner, outer, start, end):
            yield from (_circle(radius, facets) for radius in (inner, outer) if radius > 0)
            # A facet lies inside its circle: an end that stopped at the circle would leave the piece open.
            within = max(inner * math.cos(math.pi / facets) - 2 * GRID, 0.0)
            for turn in (start, end) if shape.sweep < 360.0 else ():  # noqa: PLR2004  # all round has no ends
                yield spot_at(within, turn), spot_at(outer + 2 * GRID, turn)


@lru_cache(maxsize=64)
def _circle(radius: float, facets: int) -> Border:
    """Corners on a circle about the axis, closed; mirrored to the last bit about both axes."""
    return tuple(spot_at(radius, 360.0 * k / facets) for k in range(facets + 1))


def _strip(angle: float, width: float, start: float, end: float) -> Border:
    (ax, ay), (bx, by) = spot_at(start, angle), spot_at(end, angle)
    # Square to the ray, clockwise: the direction of a ray 90° further on.
    sx, sy = spot_at(width / 2, angle + 90.0)
    return (ax - sx, ay - sy), (ax + sx, ay + sy), (bx + sx, by + sy), (bx - sx, by - sy), (ax - sx, ay - sy)
