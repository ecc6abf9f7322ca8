"""Hands in their own colours, each throwing its shadow as far as it stands over the dial."""

from collections.abc import Iterator

from marquetry.core.face.hand_shapes import Contour, HandShape, counterweight_ring, shifted, turned
from marquetry.core.face.seen import SeenHand
from marquetry.core.face.shade import mixed
from marquetry.drawing.face.light import facing, laid, round_, shadow_of
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Inlay, Mark

SHADE = 0.32
RIDGE = 0.62
CAP = 0.75
"""Radius of the cap on the topmost hand, mm."""


def hand_face(plan: Plan, hand: SeenHand, turn: float) -> Iterator[Mark]:
    """One hand turned to an angle, degrees clockwise from twelve."""
    shape = hand.shape
    line = hand.edge or mixed(hand.colour, "#000000", 0.6)
    width = (0.1 if hand.edge else 0.055) * plan.scale
    body = [turned(shape.outline, turn), *(turned(opening, turn) for opening in shape.openings)]
    away = shadow_of(hand.height)
    yield Inlay(
        (*(laid(plan, shifted(part, away)) for part in body), round_(plan, shape.boss, away)), "#000", SHADE
    )
    yield from _weight(plan, hand, turn, line)
    outlines = tuple(laid(plan, part) for part in body)
    if shape.is_ridged and hand.finish not in {"matt", "blasted"} and not shape.openings:
        for half, side in ((_half(shape, 1), 90.0), (_half(shape, -1), -90.0)):
            yield Inlay((laid(plan, turned(half, turn)),), facing(hand.colour, turn + side, RIDGE))
        yield Inlay(outlines, "none", line=line, line_width=width)
    else:
        yield Inlay(outlines, hand.colour, line=line, line_width=width)
        if hand.finish not in {"matt", "blasted", "coated"}:
            yield Inlay(outlines, "url(#li-sheen)", 0.8)
    if hand.lume and shape.lume:
        edge = mixed(hand.lume.day, "#000000", 0.35)
        yield Inlay(
            (laid(plan, turned(shape.lume, turn)),), hand.lume.day, line=edge, line_width=0.04 * plan.scale
        )
    yield Inlay((round_(plan, shape.boss),), hand.colour, line=line, line_width=width)
    yield Inlay((round_(plan, shape.boss),), "url(#li-sheen)")


def _weight(plan: Plan, hand: SeenHand, turn: float, line: str) -> Iterator[Mark]:
    if hand.counterweight not in {"disc", "ring"}:
        return
    centre, radius = counterweight_ring(hand.length, hand.width / 2)
    (x, y), *_ = turned((centre,), turn)
    circles = [round_(plan, radius, (x, y))]
    if hand.counterweight == "ring":
        circles.append(round_(plan, radius * 0.6, (x, y)))
    yield Inlay(tuple(circles), hand.colour, line=line, line_width=0.05 * plan.scale)


def _half(shape: HandShape, side: int) -> Contour:
    """The right (1) or left (−1) half of a hand that is the same on both sides of its axis."""
    up = max(y for _, y in shape.outline)
    down = min(y for _, y in shape.outline)
    right = [point for point in shape.outline if point[0] >= 0]
    profile = [point for point in right if point[1] >= 0 and right.index(point) <= _tip(right)]
    tail = [point for point in right if point[1] < 0 or right.index(point) > _tip(right)]
    half = (*profile, (0.0, up), (0.0, down), *tail)
    return tuple((side * x, y) for x, y in half)


def _tip(points: list[tuple[float, float]]) -> int:
    return max(range(len(points)), key=lambda index: points[index][1])


def centre_cap(plan: Plan, colour: str) -> Iterator[Mark]:
    """What the topmost hand is held by."""
    cap = round_(plan, CAP)
    yield Inlay((cap,), colour, line=mixed(colour, "#000000", 0.6), line_width=0.05 * plan.scale)
    yield Inlay((cap,), "url(#li-sheen)")
