"""A QR code as a drawing: its dark modules in runs, to be printed on labels."""

from marquetry.drawing.scene import Box, CutFace, Paper, Scene

MODULE = 1.0
QUIET = 2


ANY_MASK = 2
"""One of the eight patterns that a code may be laid under: a reader is told which.

To try all of them and take the best takes five times as long, and a sheet has 40 labels."""


def label_code(address: str, words: str) -> Scene:
    """The code of an address, a millimetre a module on paper; it scales with the label."""
    import segno  # noqa: PLC0415  # labels alone need it

    rows = [list(row) for row in segno.make(address, error="m", micro=False, mask=ANY_MASK).matrix]
    side = (len(rows) + 2 * QUIET) * MODULE
    runs: list[tuple[Paper, ...]] = []
    for number, row in enumerate(rows):
        y = side - (number + 1 + QUIET) * MODULE
        start = None
        for place, dark in enumerate([*row, 0]):
            if dark and start is None:
                start = place
            elif not dark and start is not None:
                left, right = (start + QUIET) * MODULE, (place + QUIET) * MODULE
                runs.append(((left, y), (right, y), (right, y + MODULE), (left, y + MODULE)))
                start = None
    light = Box((0.0, 0.0), side, side, "code-light")
    return Scene(side, side, f"Code of {words}", address, (light, CutFace(tuple(runs), "code-dark")))
