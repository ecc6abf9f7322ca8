"""The printed card: what is printed where on it, in mm about its middle, x to the right and y up."""

import numpy as np

from marquetry.core.seeing.arrays import PlanPlaces

WIDTH, HEIGHT = 105.0, 148.0
"""A6, upright."""
MARKER_SIDE = 12.0
MARKER_MIDDLES = ((-34.0, 34.0), (34.0, 34.0), (34.0, -34.0), (-34.0, -34.0))
"""By the marker's number: top left, top right, bottom right, bottom left."""
MARKER_BITS = (
    ("1011", "0101", "0011", "0010"),
    ("0000", "1111", "1001", "1010"),
    ("0011", "0011", "0010", "1101"),
    ("1001", "1001", "0100", "0110"),
)
"""White cells (1) of numbers 0 to 3 of DICT_4X4_50, row by row; a black cell runs all round."""
CELLS = 6
RING_DIAMETER, RING_LINE = 50.0, 0.25
CHECK_LENGTH = 60.0
"""The line that a caliper is held to."""
CHECK_AT = -57.0
PRINT_LEAST, PRINT_MOST = 57.0, 63.0
"""Lengths of that line, mm, beyond which no printer has shrunk or stretched it: a slip or another line."""


def corners(printed: float = CHECK_LENGTH) -> PlanPlaces:
    """The sixteen corners of the markers, mm, each marker's from top left clockwise.

    `printed` is the length read on the check line, mm.
    """
    half = MARKER_SIDE / 2
    round_it = ((-half, half), (half, half), (half, -half), (-half, -half))
    places = [(x + dx, y + dy) for x, y in MARKER_MIDDLES for dx, dy in round_it]
    return np.array(places) * (printed / CHECK_LENGTH)


def black_cells(number: int) -> list[tuple[float, float, float]]:
    """Left edge, lower edge and side of each black cell of a marker, mm."""
    x, y = MARKER_MIDDLES[number]
    side = MARKER_SIDE / CELLS
    rows = ["0" * CELLS, *(f"0{row}0" for row in MARKER_BITS[number]), "0" * CELLS]
    left, top = x - MARKER_SIDE / 2, y + MARKER_SIDE / 2
    return [
        (left + column * side, top - (line + 1) * side, side)
        for line, row in enumerate(rows)
        for column, bit in enumerate(row)
        if bit == "0"
    ]
