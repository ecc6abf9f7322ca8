"""A dimension on paper: extension lines, the line between two arrows, and its figure beside it."""

from collections.abc import Iterator
from typing import NamedTuple

from marquetry.drawing.scene import Label, Line, Mark, Paper

ARROW = 1.6
FIGURE = 4.2
"""Height of the figure's type, mm."""


class DimensionClasses(NamedTuple):
    """The classes of a dimension's marks; one class for both its lines draws them as one."""

    line: str
    extension: str
    head: str


DIMENSION = DimensionClasses("dimension-line", "dimension-extension", "dimension-head")
OVERALL = DimensionClasses("overall-line", "overall-line", "overall-head")


def arrows(
    ends: tuple[Paper, Paper], line: tuple[Paper, Paper], classes: DimensionClasses = DIMENSION
) -> Iterator[Mark]:
    """The dimension line beside what it measures, on extension lines, with an arrow at each end."""
    for end, at in zip(ends, line, strict=True):
        yield Line((end, at), classes.extension)
    yield Line(line, classes.line)
    first, second = line
    yield from (_head(first, second, classes), _head(second, first, classes))


def _head(tip: Paper, other: Paper, classes: DimensionClasses) -> Line:
    """An arrow head at `tip`, pointing away from `other`."""
    (x, y), (u, v) = tip, other
    length = max(abs(u - x), abs(v - y)) or 1.0
    dx, dy = (u - x) / length * ARROW, (v - y) / length * ARROW
    corners = ((x, y), (x + dx - dy / 3, y + dy + dx / 3), (x + dx + dy / 3, y + dy - dx / 3))
    return Line(corners, classes.head, closed=True)


def told_beside(line: tuple[Paper, Paper], words: str) -> Label:
    """The figure: over the middle of a level line, right of an upright one."""
    (ax, ay), (bx, by) = line
    x, y = (ax + bx) / 2, (ay + by) / 2
    if abs(bx - ax) > abs(by - ay):
        return Label((x, y + 1.2), words, "figure halo", FIGURE, "middle")
    return Label((x + 1.6, y - 1.2), words, "figure halo", FIGURE)
