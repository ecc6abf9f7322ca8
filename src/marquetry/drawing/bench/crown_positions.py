"""The crown's places from pressed in to drawn out, and what it does in each, of this movement's own functions."""

from collections.abc import Iterator

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.plausible import Plausible
from marquetry.core.proving.rounds import CROWN_PLACES, crown_places
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, EDGE, TYPE
from marquetry.drawing.bench.stem_plate import CROWN_LONG
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark

AXIS = BENCH_HEIGHT * 0.72
WALL, STEP = 3.0, 2.2
"""How much of the case's flank is shown, how far the crown comes out each time as drawn; mm."""
ROW = 1.6 * TYPE


def position_marks(p: Plausible, s: Situation) -> Iterator[Mark]:
    """The flank with its tube, the crown in every place that does something, each numbered as its words are."""
    places = crown_places(s)
    outer, tube = p["crown.diameter"] / 2, p["case.tube_outer_diameter"] / 2
    long = WALL + STEP * (len(places) - 1) + CROWN_LONG + 0.6
    scale = min((BENCH_WIDTH - 2 * EDGE) / long, 2 * (BENCH_HEIGHT - AXIS - EDGE) / (2 * outer))
    zero = EDGE + WALL * scale
    yield Box((EDGE, AXIS - outer * scale), (WALL - 1.2) * scale, 2 * outer * scale, "body body-steel")
    yield Box((EDGE, AXIS - tube * scale), WALL * scale, 2 * tube * scale, "body body-brass")
    for number, (place, words) in reversed(list(enumerate(places.items()))):
        left = zero + number * STEP * scale
        crown = Box((left, AXIS - outer * scale), CROWN_LONG * scale, 2 * outer * scale, "body body-steel")
        yield crown if number == 0 else Cluster((crown,), "taken")
        level = AXIS - outer * scale - ROW * (number + 1.6)
        x = left + (CROWN_LONG - STEP / 2 if number else CROWN_LONG / 2) * scale
        yield Label((x, AXIS + 2.0), str(number), "figure halo", 1.6 * TYPE, "middle")
        yield from _row(level, f"{number}  {CROWN_PLACES[place]}", "; ".join(words))
    yield Line(((EDGE, AXIS), (BENCH_WIDTH - EDGE, AXIS)), "centre-line")


def _row(level: float, place: str, words: str) -> Iterator[Mark]:
    yield Label((EDGE, level), place, "quiet", TYPE)
    yield Label((EDGE + 42.0, level), words, "figure", TYPE)
