"""The whole watch in its own colours, part over part as they lie."""

from collections.abc import Iterator

from marquetry.core.face.seen import SeenFace
from marquetry.drawing.face.case_face import (
    bezel_face,
    case_face,
    collar_face,
    crystal_face,
    scale_face,
)
from marquetry.drawing.face.dial_face import dial_face
from marquetry.drawing.face.hand_face import centre_cap, hand_face
from marquetry.drawing.face.light import band, round_
from marquetry.drawing.face.strap_face import strap_face
from marquetry.drawing.hand_turns import turns_of
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Inlay, Mark

STRAP_SHOWN = 7.0
"""How much of the strap is seen beyond the lugs, mm."""


def drawn_face(
    plan: Plan, face: SeenFace, time: str, *, strap: float = STRAP_SHOWN, fine: bool = True
) -> Iterator[Mark]:
    """Every mark of the face by day, hands at `HH:MM:SS`, so many mm of the strap beyond the lugs."""
    if face.strap and face.case:
        yield from strap_face(plan, face.strap, face.case.radius * 0.86, face.reach + strap)
    yield from _outside(plan, face, fine=fine)
    yield from _inside(plan, face, fine=fine)
    turns = turns_of(time)
    for hand in face.hands:
        yield from hand_face(plan, hand, turns[hand.key])
    if face.hands:
        yield from centre_cap(plan, face.hands[-1].colour)
    if face.crystal:
        yield from crystal_face(plan, face.crystal, face.coating)


def _outside(plan: Plan, face: SeenFace, *, fine: bool) -> Iterator[Mark]:
    if face.case:
        yield from case_face(plan, face.case, face.crown)
    if face.bezel:
        yield from bezel_face(plan, face.bezel)
    if face.insert:
        yield from scale_face(plan, face.insert, fine=fine)
    yield from collar_face(plan, face)


def _inside(plan: Plan, face: SeenFace, *, fine: bool) -> Iterator[Mark]:
    if face.ring:
        yield from scale_face(plan, face.ring, fine=fine)
        yield Inlay((round_(plan, face.ring.outer), round_(plan, face.ring.inner)), "url(#li-dish)")
    if face.dial:
        yield from dial_face(plan, face.dial, fine=fine)
    if face.spacer:
        yield from band(plan, face.spacer.coat, face.spacer.inner, face.spacer.outer)
