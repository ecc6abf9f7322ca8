"""A made part cut through its axis, with its diameters below it and its heights beside it."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.making.measures import Measure
from marquetry.core.making.views import MadeCut
from marquetry.core.values.figures import figure
from marquetry.drawing.dimension_line import arrows
from marquetry.drawing.scene import CutFace, Label, Line, Mark, Paper

LEVEL, ASIDE = 6.4, 20.0
"""From one dimension line to the next, mm of paper: below each other, and beside each other."""
FIRST, BEYOND = 5.0, 3.0
SMALL = 1e-6


@dataclass(frozen=True, slots=True)
class CutPlace:
    """Where the axis meets the part's dial-side face on paper; heights are stretched where they are thin."""

    at: Paper
    scale: float = 1.0
    stretch: float = 1.0
    size: float = 3.2
    """Height of the figures, mm."""

    def of(self, r: float, z: float) -> Paper:
        """A point (r, z) in mm on paper."""
        return self.at[0] + r * self.scale, self.at[1] + z * self.scale * self.stretch


def cut_marks(cut: MadeCut, measures: tuple[Measure, ...], place: CutPlace, material: str) -> Iterator[Mark]:
    """The cut faces, the axis, and every size that is measured."""
    for outlines, side in ((cut.right, 1), (cut.left, -1)):
        for outline in outlines:
            yield CutFace((tuple(place.of(side * r, z) for r, z in outline),), f"body body-{material}")
    low, high, reach = extent(cut)
    (x, top), (_, bottom) = place.of(0.0, high), place.of(0.0, low)
    yield Line(((x, top + BEYOND), (x, bottom - BEYOND)), "centre-line")
    yield from _diameters(measures, place, low)
    yield from _heights(measures, place, reach)


def extent(cut: MadeCut) -> tuple[float, float, float]:
    """Lowest and highest z and the greatest r of the cut, mm."""
    points = [point for outline in (*cut.right, *cut.left) for point in outline] or [(0.0, 0.0)]
    return min(z for _, z in points), max(z for _, z in points), max(r for r, _ in points)


def _diameters(measures: tuple[Measure, ...], place: CutPlace, low: float) -> Iterator[Mark]:
    """One below the other, the smallest nearest to the part."""
    across = sorted((m for m in measures if m.is_diameter), key=lambda m: m.value)
    base = place.of(0.0, low)[1] - FIRST
    for number, measure in enumerate(across):
        y = base - number * LEVEL
        ends = tuple(place.of(side * measure.value / 2, -measure.start) for side in (-1, 1))
        line = ((ends[0][0], y), (ends[1][0], y))
        yield from arrows((ends[0], ends[1]), line)
        words = f"{measure.label.removesuffix(' Ø')} Ø {figure(measure.value)}"
        yield Label(((line[0][0] + line[1][0]) / 2, y + 0.8), words, "figure halo", place.size, "middle")


def _heights(measures: tuple[Measure, ...], place: CutPlace, reach: float) -> Iterator[Mark]:
    """Beside it, the shortest nearest to the part; their words stand at the line's end."""
    upright = sorted((m for m in measures if not m.is_diameter), key=lambda m: m.end - m.start)
    for number, measure in enumerate(upright):
        x = place.of(reach, 0.0)[0] + FIRST + number * ASIDE
        ends = tuple(place.of(measure.radius, -depth) for depth in (measure.start, measure.end))
        line = ((x, ends[0][1]), (x, ends[1][1]))
        if abs(line[0][1] - line[1][1]) < SMALL:
            continue
        yield from arrows((ends[0], ends[1]), line)
        middle = (line[0][1] + line[1][1]) / 2
        yield Label((x + 1.0, middle), figure(measure.value), "figure halo", place.size)
        yield Label((x + 1.0, middle - place.size), measure.short, "quiet halo", place.size)
