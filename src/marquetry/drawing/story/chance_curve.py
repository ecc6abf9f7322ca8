"""Whether chances come true: of each band the share that held, against the line where all is true.

Both rules are of log odds, so that the last per cents before certainty have room: most chances lie there.
"""

import math
from collections.abc import Iterator, Sequence

from marquetry.core.story.calibration import ChanceBand
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark, Scene

WIDTH, HEIGHT = 120.0, 108.0
LEFT, BASE, SIDE = 17.0, 14.0, 86.0
SIZE = 3.4
WIDE = 3.4
TICKS = (0.01, 0.1, 0.5, 0.9, 0.99, 0.999)
LEAST, MOST = 0.004, 0.9996
"""Nearer to nought and one nothing is drawn: no count of watches tells such chances apart."""


def chance_curve(bands: Sequence[ChanceBand]) -> Scene:
    """The bands as upright lozenges: their middle where the share lies, as high as it may lie with 95 %."""
    marks: list[Mark] = [*_axes()]
    marks.extend(_band(band, place) for place, band in enumerate(bands))
    told = "; ".join(f"of {band.count} at {band.mean:.0%} {band.held} held" for band in bands)
    return Scene(
        WIDTH, HEIGHT, "Chances and what came of them", told or "Nothing foretold yet.", tuple(marks)
    )


def _at(share: float) -> float:
    """Where a share from 0 to 1 stands on a rule of log odds, mm from its beginning."""
    low, high = (math.log(end / (1.0 - end)) for end in (LEAST, MOST))
    held = min(max(share, LEAST), MOST)
    return (math.log(held / (1.0 - held)) - low) / (high - low) * SIDE


def _axes() -> Iterator[Mark]:
    yield Box((LEFT, BASE), SIDE, SIDE, "curve-paper")
    for tick in TICKS:
        at, told = _at(tick), f"{100 * tick:g}"
        yield Line(((LEFT + at, BASE), (LEFT + at, BASE + SIDE)), "curve-grid")
        yield Line(((LEFT, BASE + at), (LEFT + SIDE, BASE + at)), "curve-grid")
        yield Label((LEFT + at, BASE - 4.8), told, "figure quiet", SIZE, "middle")
        yield Label((LEFT - 1.6, BASE + at - 1.2), told, "figure quiet", SIZE, "end")
    yield Line(((LEFT, BASE), (LEFT + SIDE, BASE + SIDE)), "curve-true")
    yield Label((LEFT + SIDE / 2, 3.2), "chance that the report gave, %", "quiet", SIZE, "middle")
    yield Label((3.0, BASE + SIDE + 3.2), "held, %", "quiet", SIZE)


def _band(band: ChanceBand, place: int) -> Cluster:
    x, y = LEFT + _at(band.mean), BASE + _at(band.share)
    low, high = BASE + _at(band.least), BASE + _at(band.most)
    looks = "curve-band" if band.is_true else "curve-band curve-off"
    body = Line(((x, low), (x + WIDE / 2, y), (x, high), (x - WIDE / 2, y)), looks, closed=True)
    middle = Line(((x - WIDE, y), (x + WIDE, y)), "curve-middle")
    under = BASE + 4.0 + 4.6 * (place % 2)
    leader = Line(((x, low), (x, under + 3.0)), "curve-leader")
    told = Label((x, under), f"{band.held} of {band.count}", "figure halo", SIZE, "middle")
    return Cluster((leader, body, middle, told), "", label=f"{band.held} of {band.count} held")
