"""A made part's edges as a draughtsman draws them: whole circles, arcs and straight lines with exact radii.

The kernel's corners only say where an edge begins and ends; what it lies on is read from the shapes.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from marquetry.core.making.kernel import FACETS, FAR, GRID, Cells, Corner, border_of
from marquetry.core.making.shape import Annulus, Bar, BentBand, Layer, PlanePoint, RoundSpot, Solid, spot_at

NEAR = 3 * GRID


@dataclass(frozen=True, slots=True)
class CircleEdge:
    """A circle that nothing breaks: centre and radius in mm."""

    centre: PlanePoint
    radius: float
    layer: Layer


@dataclass(frozen=True, slots=True)
class ArcEdge:
    """A piece of a circle, clockwise from `start` to `end`, degrees from 12 as seen from its centre; mm."""

    centre: PlanePoint
    radius: float
    start: float
    end: float
    layer: Layer

    @property
    def sweep(self) -> float:
        """How far it reaches round, degrees."""
        return (self.end - self.start) % 360.0 or 360.0


@dataclass(frozen=True, slots=True)
class StraightEdge:
    """A straight line between two points, mm."""

    start: PlanePoint
    end: PlanePoint
    layer: Layer


Edge: TypeAlias = CircleEdge | ArcEdge | StraightEdge


@dataclass(frozen=True, slots=True)
class _Round:
    centre: PlanePoint
    radius: float
    layer: Layer

    def has(self, start: PlanePoint, end: PlanePoint) -> bool:
        """Whether the piece between two points, mm, is one of its facets, or a part of one."""
        sagitta = self.radius * (1 - math.cos(math.pi / FACETS)) + NEAR
        facet = 2 * self.radius * math.sin(math.pi / FACETS) + NEAR
        return self.off(start, end) <= sagitta and math.dist(start, end) <= facet

    def off(self, start: PlanePoint, end: PlanePoint) -> float:
        """How far the further of two points lies beside it, mm."""
        return max(abs(math.dist(point, self.centre) - self.radius) for point in (start, end))


@dataclass(frozen=True, slots=True)
class _Straight:
    start: PlanePoint
    end: PlanePoint
    layer: Layer

    def has(self, start: PlanePoint, end: PlanePoint) -> bool:
        """Whether both points, mm, lie on it: off its ends too, a tangent would swallow facets."""
        (ax, ay), (bx, by) = self.start, self.end
        length = math.hypot(bx - ax, by - ay) or 1.0
        ux, uy = (bx - ax) / length, (by - ay) / length
        onward = [ux * (x - ax) + uy * (y - ay) for x, y in (start, end)]
        near_ends = min(onward) >= -NEAR and max(onward) <= length + NEAR
        return near_ends and self.off(start, end) <= NEAR

    def off(self, start: PlanePoint, end: PlanePoint) -> float:
        """How far the further of two points lies beside its line, mm."""
        (ax, ay), (bx, by) = self.start, self.end
        length = math.hypot(bx - ax, by - ay) or 1.0
        ux, uy = (bx - ax) / length, (by - ay) / length
        return max(abs(ux * (y - ay) - uy * (x - ax)) for x, y in (start, end))


_Curve: TypeAlias = _Round | _Straight


def edges_of(solid: Solid, cells: Cells, wanted: NDArray[np.bool_]) -> list[tuple[Edge, ...]]:
    """The edges round the wanted cells, one tuple a closed way round; what lies in them is on their left."""
    curves = tuple(_curves(solid))
    return [tuple(_told(loop, curves)) for loop in border_of(cells, wanted)]


def _curves(solid: Solid) -> Iterator[_Curve]:
    """Straight ones first: a line's end may lie on a circle, but no facet lies along a strip."""
    rounds: list[_Curve] = []
    for step in solid.steps:
        shape, layer = step.shape, step.layer
        match shape:
            case Annulus(inner, outer):
                rounds += [_Round((0.0, 0.0), radius, layer) for radius in (inner, outer) if radius > 0]
            case RoundSpot(at_radius, angle, radius, outer):
                rounds.append(_Round(spot_at(at_radius, angle), radius, layer))
                rounds += [] if math.isinf(outer) else [_Round((0.0, 0.0), outer, layer)]
            case Bar(_, _, _, _, inner, outer):
                found = [radius for radius in (inner, outer) if radius > 0 and not math.isinf(radius)]
                rounds += [_Round((0.0, 0.0), radius, layer) for radius in found]
                yield from _sides(shape, layer)
            case BentBand(inner, outer, start, end):
                rounds += [_Round((0.0, 0.0), radius, layer) for radius in (inner, outer) if radius > 0]
                for turn in (start, end):
                    yield _Straight(spot_at(inner, turn), spot_at(outer, turn), layer)
    yield from rounds


def _sides(bar: Bar, layer: Layer) -> Iterator[_Straight]:
    sx, sy = spot_at(bar.width / 2, bar.angle + 90.0)
    (ax, ay), (bx, by) = spot_at(bar.start, bar.angle), spot_at(min(bar.end, FAR), bar.angle)
    for side in (-1, 1):
        yield _Straight((ax + side * sx, ay + side * sy), (bx + side * sx, by + side * sy), layer)
    for end in (bar.start, bar.end):
        if not math.isinf(end):
            x, y = spot_at(end, bar.angle)
            yield _Straight((x - sx, y - sy), (x + sx, y + sy), layer)


def _told(loop: Sequence[Corner], curves: Sequence[_Curve]) -> Iterator[Edge]:
    """One way round, its pieces that lie on one curve joined."""
    points = [(x * GRID, y * GRID) for x, y in loop]
    pairs = list(zip(points, (*points[1:], points[0]), strict=True))
    rounds = (curve for curve in curves if isinstance(curve, _Round))
    whole = next((curve for curve in rounds if all(curve.has(*pair) for pair in pairs)), None)
    if whole is not None:
        # Asked of all its pieces first: a large circle that passes through a small foot has some of them too.
        yield CircleEdge(whole.centre, whole.radius, whole.layer)
        return
    on = [_curve_of(start, end, curves) for start, end in pairs]
    breaks = [k for k in range(len(on)) if on[k] != on[k - 1]] or [0]
    for first, after in zip(breaks, (*breaks[1:], breaks[0] + len(on)), strict=True):
        yield _edge(on[first], pairs[first], pairs[(after - 1) % len(on)][1])


def _curve_of(start: PlanePoint, end: PlanePoint, curves: Sequence[_Curve]) -> _Curve:
    """The curve that the piece lies on; of several the one that it lies nearest to, the first of equals."""
    having = [curve for curve in curves if curve.has(start, end)]
    return min(having, key=lambda c: c.off(start, end), default=_Straight(start, end, "OUTLINE"))


def _edge(curve: _Curve, first: tuple[PlanePoint, PlanePoint], end: PlanePoint) -> Edge:
    """The piece of a curve that begins with that facet and runs to `end`."""
    if isinstance(curve, _Straight):
        return StraightEdge(first[0], end, curve.layer)
    (cx, cy), (a, b) = curve.centre, first
    turns = [math.degrees(math.atan2(x - cx, y - cy)) % 360.0 for x, y in (a, end)]
    # What is inside lies on the left, so the way round may run anticlockwise: an arc is told clockwise.
    anticlockwise = (a[0] - cx) * (b[1] - cy) - (a[1] - cy) * (b[0] - cx) > 0
    before, after = reversed(turns) if anticlockwise else turns
    return ArcEdge(curve.centre, curve.radius, before, after, curve.layer)
