"""Deviations on a rule: each one a lozenge, their mean with its doubt, the tolerance that is claimed."""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.values.figures import figure
from marquetry.drawing.scene import Box, Label, Line, Mark, Scene

WIDTH, HEIGHT = 120.0, 19.0
LEFT, RIGHT, BASE = 4.0, 116.0, 6.0
ROOM, LARGEST = 11.0, 2.4
"""Height over the rule, and a lozenge's height where few stand on each other, mm."""
SIZE = 3.3


@dataclass(frozen=True, slots=True)
class Strokes:
    """Deviations in one unit: each, the band that holds the mean with 95 %, the half width that covers them.

    `reach` is what is proposed, `claimed` what was claimed; either may be None.
    """

    values: Sequence[float]
    mean: tuple[float, float] | None
    reach: float | None = None
    claimed: float | None = None


def off_strips(strokes: Strokes, unit: str, furthest: float) -> Scene:
    """The rule from −furthest to +furthest with everything on it."""
    marks: list[Mark] = []
    if strokes.reach is not None:
        marks += _band(-strokes.reach, strokes.reach, furthest, (ROOM, "off-reach"))
    if strokes.mean is not None:
        marks += _band(*strokes.mean, furthest, (2.2, "off-mean"))
    marks += _rule(unit, furthest)
    if strokes.claimed is not None:
        for end in (-strokes.claimed, strokes.claimed):
            x = _x(end, furthest)
            marks.append(Line(((x, BASE - 1.0), (x, BASE + ROOM)), "off-claimed"))
    marks += _lozenges(strokes.values, furthest)
    return Scene(WIDTH, HEIGHT, f"{len(strokes.values)} deviations", "", tuple(marks))


def _rule(unit: str, furthest: float) -> Iterator[Mark]:
    yield Line(((LEFT, BASE), (RIGHT, BASE)), "frame")
    for share in (-1.0, -0.5, 0.0, 0.5, 1.0):
        x = _x(share * furthest, furthest)
        yield Line(((x, BASE), (x, BASE - 1.2)), "frame")
        told = figure(share * furthest, 2, unit if share == 1.0 else "", signed=True)
        anchor = "end" if share == 1.0 else "start" if share == -1.0 else "middle"
        yield Label((x, BASE - 4.9), told, "figure quiet", SIZE, anchor)  # type: ignore[arg-type]  # one of the three


def _lozenges(values: Sequence[float], furthest: float) -> Iterator[Mark]:
    """One for each value; those of one hundredth of the rule stand on each other."""
    step = furthest / 50.0
    columns = Counter(round(value / step) if step else 0 for value in values)
    high = min(LARGEST, (ROOM - 0.6) / max(columns.values(), default=1))
    half = min(high, 1.9) / 2
    for column, count in sorted(columns.items()):
        x = _x(column * step, furthest)
        for place in range(count):
            y = BASE + 0.3 + high * (place + 0.5)
            yield Line(
                ((x - half, y), (x, y + high / 2), (x + half, y), (x, y - high / 2)),
                "off-stroke",
                closed=True,
            )


def _x(value: float, furthest: float) -> float:
    share = max(-1.0, min(value / furthest, 1.0)) if furthest else 0.0
    return (LEFT + RIGHT) / 2 + share * (RIGHT - LEFT) / 2


def _band(low: float, high: float, furthest: float, looks: tuple[float, str]) -> Iterator[Mark]:
    left, right = _x(low, furthest), _x(high, furthest)
    yield Box((left, BASE), right - left, looks[0], looks[1])
