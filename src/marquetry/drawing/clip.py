"""A closed outline cut off at a rectangle's edges, after Sutherland and Hodgman (1974)."""

from collections.abc import Callable

from marquetry.core.section.body import Point

Outline = tuple[Point, ...]


def clip(outline: Outline, low: Point, high: Point) -> Outline:
    """What of the outline lies between the corners `low` and `high`; empty where nothing does."""
    (left, bottom), (right, top) = low, high
    if all(left <= x <= right and bottom <= y <= top for x, y in outline):
        return outline  # most bodies of most views lie within
    for axis in (0, 1):
        for edge, sign in ((low[axis], 1.0), (high[axis], -1.0)):
            outline = _cut(outline, lambda p, axis=axis, edge=edge, sign=sign: sign * (p[axis] - edge))  # type: ignore[misc]  # bound at once
    return outline


def _cut(outline: Outline, inside: Callable[[Point], float]) -> Outline:
    """The part of the outline where `inside` is not negative."""
    kept: list[Point] = []
    for index, point in enumerate(outline):
        before = outline[index - 1]
        a, b = inside(before), inside(point)
        if a * b < 0:
            share = a / (a - b)
            kept.append(
                (before[0] + share * (point[0] - before[0]), before[1] + share * (point[1] - before[1]))
            )
        if b >= 0:
            kept.append(point)
    return tuple(kept)
