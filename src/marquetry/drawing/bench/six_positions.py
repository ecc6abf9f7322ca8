"""The six positions in which a watch is timed, in the order in which it is turned: this watch's own crown and twelve."""

import math
from collections.abc import Iterator

from marquetry.core.fit.plausible import Plausible
from marquetry.core.proving.positions import POSITIONS, Position
from marquetry.drawing.bench.paper import BENCH_WIDTH, EDGE, TYPE
from marquetry.drawing.proving.turned import on_ring
from marquetry.drawing.scene import Box, Dot, Label, Line, Mark, Paper

COLUMNS, RADIUS, HIGH = 3, 17.0, 66.0
FLAT, CROWN = 9.0, (5.0, 7.0)
"""How high a lying watch is drawn; the crown's length and width; mm of paper."""
TURNS = {"crown_up": 0.0, "crown_right": 90.0, "crown_down": 180.0, "crown_left": 270.0}
"""Where the crown points, degrees clockwise from above."""


def six_position_marks(p: Plausible) -> Iterator[Mark]:
    """Six small watches, lying ones from the side, hanging ones from the front."""
    wide = (BENCH_WIDTH - 2 * EDGE) / COLUMNS
    for number, position in enumerate(POSITIONS):
        row, column = divmod(number, COLUMNS)
        centre = EDGE + wide * (column + 0.5), HIGH * (1 - row) + HIGH * 0.62
        yield from (
            _lying(centre, position)
            if position.is_lying
            else _hanging(centre, TURNS[position.key], p["case.crown_angle"])
        )
        words = f"{number + 1} {position.label.lower()}"
        yield Label((centre[0], centre[1] - RADIUS - 13.0), words, "figure", TYPE, "middle")


def _hanging(centre: Paper, crown: float, crown_angle: float) -> Iterator[Mark]:
    """The watch seen from the front, its crown pointing so many degrees from above."""
    out = on_ring(centre, RADIUS + CROWN[0] / 2, crown)
    sideways = abs(math.sin(math.radians(crown))) > 0.5  # noqa: PLR2004  # level or upright
    long, across = CROWN if sideways else CROWN[::-1]
    yield Box((out[0] - long / 2, out[1] - across / 2), long, across, "body body-steel")
    yield Dot(centre, RADIUS, "body body-steel")
    yield Dot(centre, RADIUS * 0.8, "body body-face")
    twelve = crown - crown_angle
    yield Line((on_ring(centre, RADIUS * 0.5, twelve), on_ring(centre, RADIUS * 0.78, twelve)), "twelve")
    yield Dot(centre, 0.9, "body body-hand")


def _lying(centre: Paper, position: Position) -> Iterator[Mark]:
    """The watch from the side, on a table: its crystal above or below."""
    x, y = centre
    up = position.key == "dial_up"
    low = y - FLAT / 2
    yield Box((x + RADIUS, low + FLAT * 0.25), CROWN[0], FLAT * 0.5, "body body-steel")
    yield Box((x - RADIUS, low), 2 * RADIUS, FLAT, "body body-steel")
    glass = low + FLAT if up else low - 2.4
    yield Box((x - RADIUS * 0.8, glass), RADIUS * 1.6, 2.4, "body body-glass")
    table = low - (0.2 if up else 2.6)
    yield Line(((x - RADIUS - 6.0, table), (x + RADIUS + 6.0, table)), "table-line")
