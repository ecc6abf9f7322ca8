"""A ring or a round pane lying flat: outer and inner edge."""

import numpy as np

from marquetry.core.seeing.circles import SeenCircle, circles_about
from marquetry.core.seeing.dial import rim_of
from marquetry.core.seeing.found import Findings, circle_mark
from marquetry.core.seeing.outline import outline_of
from marquetry.core.seeing.plane import Plane
from marquetry.core.seeing.settled import settle

LIKE_PAPER = 0.16
LEAST_WIDTH = 0.3


def ring(found: Findings, *, thickness: float) -> None:
    """Read a ring `thickness` high; without an inner edge it is a pane, and its size `diameter`."""
    plane = found.plane
    outline = outline_of(plane, thickness)
    inner = _inner(plane, outline, thickness)
    rim_of(found, "diameter" if inner is None else "outer_diameter", outline, thickness)
    if inner is None:
        return
    size = 2 * inner.radius
    found.length(
        "inner_diameter",
        size,
        size * (1 - plane.shrunk(thickness)),
        2 * inner.doubt,
        circle_mark(inner.middle, inner.radius),
    )


def _inner(plane: Plane, outline: SeenCircle, thickness: float) -> SeenCircle | None:
    """The ring's inner edge: within it the paper is seen again."""
    found = circles_about(plane, outline.middle, 2.0, outline.radius - LEAST_WIDTH)
    strong = [c for c in found if c.support > 0.45]  # of its round
    for circle in sorted(strong, key=lambda circle: -circle.strength):
        settled = settle(plane, circle, thickness, "hole")
        around = np.linspace(0, 2 * np.pi, 120, endpoint=False)
        at = settled.middle + (settled.radius - 0.6) * np.stack([np.sin(around), np.cos(around)], axis=1)
        if float(np.median(np.abs(plane.light_at(at[None])[0] - 1).max(axis=1))) < LIKE_PAPER:
            return settled
    return None
