"""A dimension on paper: extension lines, the line between two arrows, and its figure beside it."""

from collections.abc import Iterator

from marquetry.drawing.scene import Label, Line, Mark, Paper

ARROW = 1.6
FIGURE = 4.2
"""Height of the figure's type, mm."""


def arrows(ends: tuple[Paper, Paper], line: tuple[Paper, Paper], look: str = "dimension") -> Iterator[Mark]:
    """The dimension line beside what it measures, on extension lines, with an arrow at each end.

    `look` is what the classes of its marks begin with.
    """
    for end, at in zip(ends, line, strict=True):
        yield Line((end, at), f"{look}-extension")
    yield Line(line, f"{look}-line")
    first, second = line
    yield from (_head(first, second, look), _head(second, first, look))


def _head(tip: Paper, other: Paper, look: str) -> Line:
    """An arrow head at `tip`, pointing away from `other`."""
    (x, y), (u, v) = tip, other
    length = max(abs(u - x), abs(v - y)) or 1.0
    dx, dy = (u - x) / length * ARROW, (v - y) / length * ARROW
    corners = ((x, y), (x + dx - dy / 3, y + dy + dx / 3), (x + dx + dy / 3, y + dy - dx / 3))
    return Line(corners, f"{look}-head", closed=True)


def told_beside(line: tuple[Paper, Paper], words: str) -> Label:
    """The figure: over the middle of a level line, right of an upright one."""
    (ax, ay), (bx, by) = line
    x, y = (ax + bx) / 2, (ay + by) / 2
    if abs(bx - ax) > abs(by - ay):
        return Label((x, y + 1.2), words, "figure halo", FIGURE, "middle")
    return Label((x + 1.6, y - 1.2), words, "figure halo", FIGURE)
