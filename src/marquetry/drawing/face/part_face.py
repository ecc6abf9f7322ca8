"""A part alone and small, as it looks from the front: what a builder chooses it by."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from marquetry.core.face.face import seen_part
from marquetry.core.face.hand_shapes import Contour
from marquetry.core.face.outer import CROWN_LENGTH
from marquetry.core.face.seen import SeenFace
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.part import Part
from marquetry.drawing.face.buckle_face import buckle_face
from marquetry.drawing.face.case_face import bezel_face, case_face, crown_face, crystal_face, scale_face
from marquetry.drawing.face.dial_face import dial_face
from marquetry.drawing.face.hand_face import hand_face
from marquetry.drawing.face.light import band, round_
from marquetry.drawing.face.strap_face import strap_half
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Cluster, Inlay, Lettering, Mark, Scene
from marquetry.drawing.svg import FACE

WIDTH, HEIGHT, EDGE = 40.0, 36.0, 0.8
MIDDLE = (WIDTH / 2, HEIGHT / 2)
STRAP_SCALE = 0.8
LIFTED = 0.3
"""How high a hand lies over the drawer's paper, mm."""
LYING = 90.0
"""Hands lie side by side, their tips to the right."""
VOID, GROUND = "#0d0f10", "#31393f"


def part_face(part: Part, rules: Rules, *, all_kinds: bool = False) -> Scene | None:
    """The part from the front; None for a kind that is known better by its section, unless all are wanted."""
    drawer = (ALL_SEEN if all_kinds else DRAWERS).get(part.kind.key)
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


def _whole(outline: Contour) -> Contour:
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
        yield from buckle_face(Plan(STRAP_SCALE * 0.8, centre=(WIDTH * 0.78, HEIGHT * 0.32)), face.strap)


def _crown(face: SeenFace) -> Iterator[Mark]:
    """A crown alone is drawn standing on its end, as it comes."""
    if face.crown:
        crown = replace(face.crown, inner=0.0, outer=CROWN_LENGTH, angle=0.0)
        scale = min((WIDTH - 4.0) / (2 * crown.radius), HEIGHT / 2 / CROWN_LENGTH)
        yield from crown_face(Plan(scale, centre=(WIDTH / 2, HEIGHT / 3)), crown)


def _crystal(face: SeenFace) -> Iterator[Mark]:
    """A crystal over dark ground, so that its coating shows."""
    if face.crystal:
        plan = _plan(face.crystal)
        yield Inlay((round_(plan, face.crystal),), GROUND)
        yield from crystal_face(plan, face.crystal, face.coating)


def _disc(face: SeenFace) -> Iterator[Mark]:
    """A calendar disc: its ring and a few of its figures."""
    plan = _plan(12.0)
    yield Inlay((round_(plan, 12.0), round_(plan, 8.6)), face.disc[0], line="#0008", line_width=0.3)
    for day in range(1, 31, 3):
        turn = 12.0 * day
        yield Lettering(plan.at(10.3, turn), str(day), 1.6 * plan.scale, face.disc[1], "plain", turn)


def _spacer(face: SeenFace) -> Iterator[Mark]:
    """A spacer on the dial's side: what of its ring is seen."""
    if face.spacer:
        yield from band(_plan(face.spacer.outer), face.spacer.coat, face.spacer.inner, face.spacer.outer)


DRAWERS: dict[str, Callable[[SeenFace], Iterator[Mark]]] = {
    "dial": _dial, "hands": _hands, "bezel_insert": _insert, "chapter_ring": _ring, "bezel": _bezel,
    "case": _case, "strap": _strap,
}  # fmt: skip
"""Kinds of part that are chosen by their looks; all others are drawn in section."""
ALL_SEEN = {**DRAWERS, "crown": _crown, "crystal": _crystal, "calendar_disc": _disc, "spacers": _spacer}
"""Every kind that is seen from the front: what a face is dressed in."""
