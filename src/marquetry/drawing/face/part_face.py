"""A part alone and small, as it looks from the front: what a builder chooses it by."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from marquetry.core.face.face import seen_part
from marquetry.core.face.hand_shapes import Outline
from marquetry.core.face.seen import SeenFace
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.part import Part
from marquetry.drawing.face.case_face import bezel_face, case_face, scale_face
from marquetry.drawing.face.dial_face import dial_face
from marquetry.drawing.face.hand_face import hand_face
from marquetry.drawing.face.light import round_
from marquetry.drawing.face.strap_face import strap_half
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Cluster, Inlay, Mark, Scene
from marquetry.drawing.svg import FACE

WIDTH, HEIGHT, EDGE = 40.0, 36.0, 0.8
MIDDLE = (WIDTH / 2, HEIGHT / 2)
STRAP_SCALE = 0.8
LIFTED = 0.3
"""How high a hand lies over the drawer's paper, mm."""
LYING = 90.0
"""Hands lie side by side, their tips to the right."""
VOID = "#0d0f10"


def part_face(part: Part, rules: Rules) -> Scene | None:
    """The part from the front; None for a kind that is known better by its section."""
    drawer = DRAWERS.get(part.kind.key)
    if drawer is None:
        return None
    marks = tuple(drawer(seen_part(part.build, rules)))
    return Scene(WIDTH, HEIGHT, "", "", (Cluster(marks, FACE),)) if marks else None


def _plan(radius: float) -> Plan:
    return Plan((HEIGHT / 2 - EDGE) / radius, centre=MIDDLE)


def _dial(face: SeenFace) -> Iterator[Mark]:
    if face.dial:
        plan = _plan(face.dial.radius)
        yield from dial_face(plan, face.dial, fine=False)
        yield Inlay((round_(plan, 1.0),), VOID)


def _hands(face: SeenFace) -> Iterator[Mark]:
    if not face.hands:
        return
    tails = max(-min(y for _, y in _whole(hand.shape.outline)) for hand in face.hands)
    reach = max(hand.length for hand in face.hands) + max(tails, 1.5)
    scale = (WIDTH - 2 * EDGE) / reach
    row = (HEIGHT - 2 * EDGE) / len(face.hands)
    for index, hand in enumerate(face.hands):
        y = HEIGHT - EDGE - (index + 0.5) * row
        at = (EDGE + max(tails, 1.5) * scale, y)
        yield from hand_face(Plan(scale, centre=at), replace(hand, height=LIFTED), LYING)


def _whole(outline: Outline) -> Outline:
    return (*outline, (0.0, 0.0))


def _insert(face: SeenFace) -> Iterator[Mark]:
    if face.insert:
        yield from scale_face(_plan(face.insert.outer), face.insert, fine=False)


def _ring(face: SeenFace) -> Iterator[Mark]:
    if face.ring:
        yield from scale_face(_plan(face.ring.outer), face.ring, fine=False)


def _bezel(face: SeenFace) -> Iterator[Mark]:
    if face.bezel:
        yield from bezel_face(_plan(face.bezel.outer), face.bezel)


def _case(face: SeenFace) -> Iterator[Mark]:
    if face.case:
        plan = _plan(face.case.reach)
        yield from case_face(plan, face.case, None)
        yield Inlay((round_(plan, face.opening),), VOID, line="#fff8", line_width=0.3)


def _strap(face: SeenFace) -> Iterator[Mark]:
    if face.strap:
        long = (HEIGHT + 2.0) / STRAP_SCALE
        plan = Plan(STRAP_SCALE, centre=(WIDTH / 2, -1.0))
        yield from strap_half(plan, face.strap, 0.0, long, 1)


DRAWERS: dict[str, Callable[[SeenFace], Iterator[Mark]]] = {
    "dial": _dial, "hands": _hands, "bezel_insert": _insert, "chapter_ring": _ring, "bezel": _bezel,
    "case": _case, "strap": _strap,
}  # fmt: skip
"""Kinds of part that are chosen by their looks; all others are drawn in section."""
