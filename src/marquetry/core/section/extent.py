"""Where a dimension is seen in the section: found by moving it a little and watching which edges follow.

Nothing declares where a dimension stands in a drawing: the model draws the part from its dimensions, so the
edge that moves with one is its end. A diameter moves its edge half as far, and reaches across the axis.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import product
from typing import Literal

from marquetry.core.fit.rules import Rules
from marquetry.core.section.body import Body, Drawn, Point
from marquetry.core.section.inner_bodies import hand_heights
from marquetry.core.section.lay_out import bodies_of
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.values.dimension import Dimension, Source

STEP = 1e-4
NEAR = 0.02
"""How far a movement may be off the whole or the half of the step and still count as it."""


@dataclass(frozen=True, slots=True)
class Extent:
    """A dimension in the section: from `start` to `end`, along r or z; `across` reaches over the axis."""

    axis: Literal["r", "z"]
    start: Point
    end: Point
    across: bool = False


@dataclass(frozen=True, slots=True)
class _Edge:
    """A point that moved: where it is, along which axis, by how much of the step, and on which body.

    `own` where that body is the very thing the dimension belongs to, not something within it.
    """

    point: Point
    axis: int
    slope: float
    own: bool


def part_bodies(
    build: Build, rules: Rules, part: str, heights: Mapping[str, float] | None = None
) -> tuple[Body, ...]:
    """The cut bodies of one part of the build, whatever else is in it."""
    plausible = Drawn(build, rules)
    bodies = bodies_of(plausible, hand_heights(plausible) if heights is None else heights)
    return tuple(body for body in bodies if body.kind == part)


def extent_of(build: Build, rules: Rules, path: str) -> Extent | None:
    """Where the dimension at `path` is seen, or None where the section does not show it.

    A missing dimension is taken at its usual place.
    """
    if build.anatomy.quantity_at(path).unit != "mm":
        return None
    plausible = Drawn(build, rules)
    heights, value = hand_heights(plausible), float(plausible[path])
    part = path.partition(".")[0]
    before, after = (
        part_bodies(_with(build, path, value + step), rules, part, heights) for step in (0.0, STEP)
    )
    edges = list(_moved(before, after, path.rpartition(".")[0]))
    steepest = max((abs(edge.slope) for edge in edges), default=0.0)
    leading = [edge for edge in edges if abs(edge.slope) > steepest - NEAR]
    if abs(steepest - 0.5) < NEAR:
        return _halved(leading, value)
    if abs(steepest - 1.0) > NEAR:
        return None
    return _whole(leading, value, (before, bodies_of(plausible, heights)))


def _with(build: Build, path: str, value: float) -> Build:
    return build.with_entry(path, dimension_as_json(Dimension(value, 0.0, Source.EXACT)))


def _moved(before: tuple[Body, ...], after: tuple[Body, ...], owner: str) -> Iterator[_Edge]:
    """The points that moved; only the owner's where it is a thing of a list, such as one of the feet."""
    for body, other in zip(before, after, strict=False):
        if owner[-1].isdigit() and body.part != owner:
            continue
        for a, b in zip(body.outline, other.outline, strict=False):
            for axis in (0, 1):
                if abs(b[axis] - a[axis]) > STEP * NEAR:
                    yield _Edge(a, axis, (b[axis] - a[axis]) / STEP, body.part == owner)


def _halved(edges: list[_Edge], value: float) -> Extent | None:
    """A diameter or a width: across the axis, or from one edge to the other where both sides are drawn."""
    axis = edges[0].axis
    same = sorted((edge for edge in edges if edge.axis == axis), key=lambda edge: edge.point[axis])
    if {edge.slope > 0 for edge in same} == {True, False}:
        apart = (same[-1], same[0])
        for high, low in product(reversed(same), same):
            if abs(high.point[axis] - low.point[axis] - value) < STEP:
                apart = (high, low)
                break
        return _between(axis, apart[0].point, apart[1].point[axis])
    at_half = [edge for edge in same if abs(edge.point[axis] - value / 2) < STEP]
    end = max(at_half or same, key=lambda edge: edge.point[1]).point
    return Extent("r", (-end[0], end[1]), end, across=True) if axis == 0 else None


def _whole(edges: list[_Edge], value: float, bodies: tuple[tuple[Body, ...], ...]) -> Extent:
    """A length from a face that stands to the one that moves.

    Standing on the datum is best, then on a face of the same part, then of any; the outermost edge first.
    """
    axis, outwards = edges[0].axis, 1.0 if edges[0].slope > 0 else -1.0
    same = [edge for edge in edges if edge.axis == axis]
    same.sort(key=lambda edge: (not edge.own, -outwards * edge.point[axis]))
    places, others = [edge.point[axis] for edge in same], [edge.point[1 - axis] for edge in same]
    # Without an edge of its own it ends in the middle of something, such as a tube's axis or a foot's centre;
    # what stands on a face of its own part, such as a stem's axis, is told where that comes out of the part.
    centre, other = (min(places) + max(places)) / 2, others[0]
    middle, outer = (
        _Edge((centre, at) if axis == 0 else (at, centre), axis, outwards, own=False)
        for at in (other, max(others))
    )
    own, everything = (_coordinates(group, axis) for group in bodies)
    for standing, ends in (({0.0}, [*same, middle]), (own, [*same, outer]), (everything, same)):
        for edge in ends:
            base = edge.point[axis] - outwards * value
            if round(base, 6) + 0.0 in standing:
                return _between(axis, edge.point, base)
    start = 0.0 if axis == 0 else centre - outwards * value
    end = start + outwards * value
    return _between(axis, (end, other) if axis == 0 else (other, end), start)


def _coordinates(bodies: tuple[Body, ...], axis: int) -> set[float]:
    return {round(point[axis], 6) + 0.0 for body in bodies for point in body.outline}


def _between(axis: int, end: Point, base: float) -> Extent:
    start = (base, end[1]) if axis == 0 else (end[0], base)
    return Extent("r" if axis == 0 else "z", start, end)
