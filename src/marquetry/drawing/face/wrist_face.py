"""The watch on the wrist: from above at true scale, and from the end with its height and the strap's gap."""

import math
from collections.abc import Iterator
from dataclasses import replace

from marquetry.core.face.hand_shapes import Contour
from marquetry.core.face.on_wrist import BAR_UP, Worn
from marquetry.core.face.seen import SeenFace
from marquetry.core.face.shade import mixed
from marquetry.drawing.face.face_drawing import drawn_face
from marquetry.drawing.face.strap_face import strap_face
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Cluster, Inlay, Line, Mark, Paper, Scene

WIDTH, HEIGHT, FOOT = 154.0, 88.0, 3.0
ARM_LONG = 78.0
"""How much of the forearm is drawn, mm."""
SKIN, SKIN_LINE = "#e3c6a8", "#8d6b4d"
END_AT = 116.0
INK = "#00000099"


def on_wrist(face: SeenFace, worn: Worn, time: str, name: str) -> Scene:
    """Both looks side by side on one sheet, true to scale: a millimetre of paper is one of the watch."""
    marks = (
        Cluster(tuple(_from_above(face, worn, time)), "face"),
        Cluster(tuple(_from_the_end(face, worn)), "face"),
        *_height(worn),
    )
    return Scene(
        WIDTH, HEIGHT, f"{name}: on the wrist", "The watch on a wrist, from above and from the end.", marks
    )


def _from_above(face: SeenFace, worn: Worn, time: str) -> Iterator[Mark]:
    plan = Plan(1.0, centre=(ARM_LONG / 2 + 2.0, (HEIGHT + FOOT) / 2))
    x, y = plan.centre
    half, long = worn.wide / 2, ARM_LONG / 2
    # The arm lies across, the hand to the left, a little wider towards the elbow.
    arm = (
        (x - long, y + 0.96 * half),
        (x + long, y + 1.05 * half),
        (x + long, y - 1.05 * half),
        (x - long, y - 0.96 * half),
    )
    yield Inlay((arm,), SKIN, line=SKIN_LINE, line_width=0.25)
    yield Inlay((arm,), "url(#li-tube-up)", 0.35)
    if face.strap and face.case:
        yield from strap_face(plan, face.strap, face.case.radius * 0.86, half + 0.4)
    yield from drawn_face(plan, _without_strap(face), time, fine=False)


def _without_strap(face: SeenFace) -> SeenFace:
    return replace(face, strap=None)


def _from_the_end(face: SeenFace, worn: Worn) -> Iterator[Mark]:
    """Along the arm: the wrist's ellipse, the strap round it, the watch on top."""
    a, b = worn.wide / 2, worn.high / 2
    x, y = END_AT, FOOT + 4.0 + worn.thickness + b
    top = y + b
    if face.strap:
        outer = _ellipse((x, y), a + worn.thickness, b + worn.thickness)
        yield Inlay((outer,), face.strap.coat.colour, line=INK, line_width=0.2)
    yield Inlay((_ellipse((x, y), a, b),), SKIN, line=SKIN_LINE, line_width=0.25)
    if face.case:
        yield from _standing(face, worn, (x, top))


def _standing(face: SeenFace, worn: Worn, foot: Paper) -> Iterator[Mark]:
    """The watch seen along the arm, its back on the wrist: back, lugs, body, bezel, glass."""
    if not face.case:
        return
    colour, r, reach, h = face.case.coat.colour, face.case.radius, worn.reach, worn.height
    glass = face.crystal or 0.78 * r
    rim = face.bezel.outer if face.bezel else glass + 1.0
    end = BAR_UP
    lug = (
        (0.6 * r, 0.62 * h), (r, 0.6 * h), (reach, end + 0.7), (reach, end - 1.2), (reach - 2.2, end - 1.4),
        (0.86 * r, 0.2 * h), (0.6 * r, 0.2 * h),
    )  # fmt: skip
    shapes = (
        (_both(((0.72 * r, 0.0), (0.8 * r, 0.16 * h))), mixed(colour, "#000000", 0.25)),
        (lug, mixed(colour, "#000000", 0.1)),
        (tuple((-across, up) for across, up in lug), mixed(colour, "#000000", 0.1)),
        (_both(((r, 0.16 * h), (r, 0.7 * h))), colour),
        (_both(((rim, 0.7 * h), (rim - 0.8, 0.9 * h))), face.bezel.coat.colour if face.bezel else colour),
        (tuple((glass * t, h * (1.0 - 0.1 * t * t)) for t in (k / 5 - 1 for k in range(11))), "#dfe9ec"),
    )
    for outline, paint in shapes:
        on_paper = tuple((foot[0] + across, foot[1] + up) for across, up in outline)
        yield Inlay((on_paper,), paint, line=INK, line_width=0.2)
        if paint == colour:
            yield Inlay((on_paper,), "url(#li-tube)", 0.6)


def _both(right: Contour) -> Contour:
    """An outline that is the same on both sides of the axis, from its right side."""
    return (*right, *((-x, y) for x, y in reversed(right)))


def _ellipse(centre: Paper, a: float, b: float) -> tuple[Paper, ...]:
    x, y = centre
    turns = (2 * math.pi * k / 44 for k in range(44))
    return tuple((x + a * math.cos(t), y + b * math.sin(t)) for t in turns)


def _height(worn: Worn) -> Iterator[Mark]:
    """The height over the wrist as a dimension line beside the watch."""
    x, top = END_AT, FOOT + 4.0 + worn.thickness + worn.high
    side = x + worn.reach + 4.0
    yield Line(((side, top), (side, top + worn.height)), "overall-line")
    for level in (top, top + worn.height):
        yield Line(((side - 1.2, level), (side + 1.2, level)), "overall-line")
