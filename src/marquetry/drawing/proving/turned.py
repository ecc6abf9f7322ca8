"""Points and arcs on a ring of the paper, clockwise from the top: what rings of beats and dials share."""

import math
from collections.abc import Sequence

from marquetry.drawing.scene import Paper


def on_ring(centre: Paper, radius: float, degrees: float) -> Paper:
    """A point of the paper so many degrees clockwise from the top."""
    angle = math.radians(degrees)
    return centre[0] + radius * math.sin(angle), centre[1] + radius * math.cos(angle)


def arc(centre: Paper, radius: float, start: float, stop: float, step: float = 2.0) -> tuple[Paper, ...]:
    """Points along an arc from one angle to another, ends included."""
    count = max(2, math.ceil(abs(stop - start) / step))
    return tuple(on_ring(centre, radius, start + (stop - start) * k / count) for k in range(count + 1))


def round_step(span: float, steps: Sequence[float]) -> float:
    """The first of the steps that a span holds at most four times; the last where none is wide enough."""
    return next((step for step in steps if span / step <= 4.0), steps[-1])  # noqa: PLR2004  # as many as stand apart
