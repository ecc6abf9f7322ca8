"""The card for measuring from a picture, on a sheet of A6, a millimetre as a millimetre."""

from marquetry.core.seeing.card import (
    CHECK_AT,
    CHECK_LENGTH,
    HEIGHT,
    MARKER_MIDDLES,
    RING_DIAMETER,
    WIDTH,
    black_cells,
)
from marquetry.drawing.scene import CutFace, Dot, Label, Line, Mark, Paper, Scene

MIDDLE: Paper = (WIDTH / 2, HEIGHT / 2)
TICK = 2.0


def picture_card() -> Scene:
    """Four markers, the ring line, and the line that a caliper is held to."""
    x, y = MIDDLE
    marks: list[Mark] = []
    for number in range(len(MARKER_MIDDLES)):
        cells = [_square(x + left, y + low, side) for left, low, side in black_cells(number)]
        marks += [CutFace((cell,), "card-black") for cell in cells]
    marks.append(Dot(MIDDLE, RING_DIAMETER / 2, "card-ring"))
    half, line = CHECK_LENGTH / 2, y + CHECK_AT
    marks.append(Line(((x - half, line), (x + half, line)), "card-line"))
    marks += [Line(((end, line - TICK), (end, line + TICK)), "card-line") for end in (x - half, x + half)]
    words = (
        (y + 60, "The part lies in the ring, its 12 up. All of the card in the picture.", 2.6),
        (y + 55.5, "Light from two sides, camera 25 to 33 cm above, nothing on the corners.", 2.6),
        (line - 6, f"Hold a caliper to this line: {CHECK_LENGTH:.2f} mm where it is printed at 100 %.", 2.6),
        (line - 10.5, "What you read is entered once for this print. Keep the card flat.", 2.6),
    )
    marks += [Label((x, at), text, "card-words quiet", size, "middle") for at, text, size in words]
    return Scene(
        WIDTH, HEIGHT, "Card for measuring from a picture", "Four markers and a ring line", tuple(marks)
    )


def _square(left: float, low: float, side: float) -> tuple[Paper, ...]:
    return (left, low), (left + side, low), (left + side, low + side), (left, low + side)
