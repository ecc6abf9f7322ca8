"""The paper that the bench's plates share, and how something of the watch comes to lie on it."""

import math
from collections.abc import Iterator

from marquetry.core.section.body import Point
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Line, Mark, Paper
from marquetry.drawing.sheet import Sheet, Window

BENCH_WIDTH, BENCH_HEIGHT = 170.0, 144.0
EDGE = 5.0
TYPE = 5.8
"""Height of the type, mm: readable from where the hands are."""


def plan_on(reach: float, hand: int = 1) -> Plan:
    """A plan reaching that far from the axis, mm, filling the paper's height; `hand` −1 seen from the back."""
    scale = (BENCH_HEIGHT - 2 * EDGE - 2 * TYPE) / (2 * reach)
    return Plan(scale, hand, (BENCH_WIDTH / 2, BENCH_HEIGHT / 2 + TYPE / 2))


def sheet_on(window: Window, stretch: float = 1.0) -> Sheet:
    """The largest scale at which the window lies on the paper."""
    wide, high = BENCH_WIDTH - 2 * EDGE, BENCH_HEIGHT - 2 * EDGE - TYPE
    across, up = window.right - window.left, (window.high - window.low) * stretch
    scale = min(wide / across, high / up)
    left = (BENCH_WIDTH - across * scale) / 2
    bottom = EDGE + TYPE + (high - up * scale) / 2
    return Sheet(scale, stretch, (left - window.left * scale, bottom - window.low * scale * stretch))


def window_round(points: list[Point], around: float) -> Window:
    """The points with so much air round them, in mm, widened to the paper's own shape."""
    left, right = min(r for r, _ in points) - around, max(r for r, _ in points) + around
    low, high = min(z for _, z in points) - around, max(z for _, z in points) + around
    shape = (BENCH_WIDTH - 2 * EDGE) / (BENCH_HEIGHT - 2 * EDGE - TYPE)
    lacking = (right - left) / shape - (high - low)
    grow = max(lacking / 2, 0.0)
    return Window(left, right, low - grow, high + grow)


POINTER_HEAD = 3.6
"""Length of a pointer's head on paper, mm."""


def pointer(tail: Paper, tip: Paper) -> Iterator[Mark]:
    """An arrow to what a hand is to do something at, or the way it is to move it."""
    (x, y), (u, v) = tail, tip
    long = math.hypot(u - x, v - y) or 1.0
    dx, dy = (u - x) / long * POINTER_HEAD, (v - y) / long * POINTER_HEAD
    yield Line((tail, (u - dx, v - dy)), "point-line")
    wings = (u - dx - dy / 2.4, v - dy + dx / 2.4), (u - dx + dy / 2.4, v - dy - dx / 2.4)
    yield Line((tip, *wings), "point-head", closed=True)
