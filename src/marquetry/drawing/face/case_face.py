"""Case, crown, bezel, insert, ring, crystal in their own colours."""

from collections.abc import Iterator
from math import cos, pi, sin

from marquetry.core.face.case_shapes import body, guards, lugs
from marquetry.core.face.hand_shapes import Contour, turned
from marquetry.core.face.seen import SeenCase, SeenCrown, SeenFace, SeenRing, SeenScale
from marquetry.core.face.shade import mixed
from marquetry.drawing.face.light import DULL, PATTERNS, band, laid, round_, surface
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import DividedRing, Inlay, InlayEdge, Lettering, Mark

TEETH = {"coin": (120, 0.5, 0.5), "fluted": (60, 0.55, 0.7), "notched": (24, 0.62, 0.9)}
"""Of each edge: how many, what share is cut, how deep it is seen in mm."""
RIM = 0.35
"""How far the crown's outer edge is rounded, mm."""
ROOM_FOR_FIGURES = 2.0
"""Width of a ring, mm, from which a scale of minutes has figures: a chapter ring is narrower."""
NUMERAL = 0.5
"""Height of a scale's numerals as a share of its ring's width."""


def _ink(colour: str) -> str:
    return mixed(colour, "#000000", 0.62)


def case_face(plan: Plan, case: SeenCase, crown: SeenCrown | None) -> Iterator[Mark]:
    """Lugs, bars, crown and body."""
    line = _ink(case.coat.colour)
    if case.bar_is_seen:
        yield from _bars(plan, case)
    lug_outlines = lugs(case.lugs, case.radius, case.reach, case.between)
    yield from surface(plan, case.coat, (laid(plan, lug) for lug in lug_outlines), line)
    yield from (Inlay((laid(plan, lug),), "url(#li-sheen)") for lug in lug_outlines)
    if crown:
        if case.has_guards:
            shoulders = [turned(g, crown.angle) for g in guards(case.radius, crown.outer, crown.radius)]
            yield from surface(plan, case.coat, (laid(plan, g) for g in shoulders), line)
        yield from crown_face(plan, crown)
    whole = _body(plan, case, case.radius)
    yield from surface(plan, case.coat, (whole,), line)
    # A polished step runs round the shoulder, bright towards the lamp.
    step = _body(plan, case, case.radius - 0.55)
    yield Inlay((whole, step), "url(#li-sheen)")
    yield Inlay((step,), "none", line=line, line_width=0.04 * plan.scale)


def _bars(plan: Plan, case: SeenCase) -> Iterator[Mark]:
    """Spring bars between the lugs, where they are left to be seen."""
    half, thick = case.between, 0.75
    for way in (-1, 1):
        y = way * case.bar_axis
        bar = laid(plan, ((-half, y + thick), (half, y + thick), (half, y - thick), (-half, y - thick)))
        yield Inlay((bar,), "#b9bdbd", line="#4a4d4e", line_width=0.05 * plan.scale)
        yield Inlay((bar,), "url(#li-tube-up)")


def _body(plan: Plan, case: SeenCase, radius: float) -> InlayEdge:
    return round_(plan, radius) if case.outline == "round" else laid(plan, body(case.outline, radius))


def crown_face(plan: Plan, crown: SeenCrown) -> Iterator[Mark]:
    """The crown lying along its stem: a barrel of light across it, the flutes of its edge along it."""
    r, inner, outer = crown.radius, crown.inner, crown.outer
    neck = 0.55 * r
    collar = turned(
        ((-neck, inner - 1.2), (-neck, inner + 0.5), (neck, inner + 0.5), (neck, inner - 1.2)), crown.angle
    )
    line = _ink(crown.coat.colour)
    yield Inlay((laid(plan, collar),), _ink(crown.coat.colour))
    side = ((r, inner + 0.4), (r, outer - RIM), (r - RIM, outer))
    head = (*side, *((-x, y) for x, y in reversed(side)))
    outline = laid(plan, turned(head, crown.angle))
    yield Inlay((outline,), crown.coat.colour, line=line, line_width=0.06 * plan.scale)
    count = {"fluted": 9, "coin": 15, "notched": 6}.get(crown.edge, 0)
    flutes = [laid(plan, turned(_flute(crown, k, count), crown.angle)) for k in range(count)]
    if flutes:
        yield Inlay(tuple(flutes), "#000", 0.42)
    if pattern := PATTERNS.get(crown.coat.finish):
        yield Inlay((outline,), f"url(#li-{pattern})")
    upright = abs((crown.angle + 45.0) % 180.0 - 90.0) < 45.0  # noqa: PLR2004  # nearer to three or nine
    shine = 0.55 if crown.coat.finish in DULL else 1.0
    yield Inlay((outline,), "url(#li-tube-up)" if upright else "url(#li-tube)", shine)


def _flute(crown: SeenCrown, k: int, count: int) -> Contour:
    middle, half = crown.radius * 0.97 * _sine_step(k, count), 0.31 * crown.radius / count
    low, high = crown.inner + 0.55, crown.outer - RIM
    return ((middle - half, low), (middle - half, high), (middle + half, high), (middle + half, low))


def _sine_step(k: int, count: int) -> float:
    """Where the k-th of `count` flutes is seen across the crown, −1 to 1."""
    return sin(pi * ((k + 0.5) / count - 0.5))


def bezel_face(plan: Plan, bezel: SeenRing) -> Iterator[Mark]:
    """The bezel from above: its ring with its finish, its edge's teeth, the light on it."""
    edge = round_(plan, bezel.outer), round_(plan, bezel.inner)
    yield from band(plan, bezel.coat, bezel.inner, bezel.outer)
    yield Inlay(edge, "none", line=_ink(bezel.coat.colour), line_width=0.08 * plan.scale)
    if bezel.edge in TEETH:
        count, share, deep = TEETH[bezel.edge]
        middle = (bezel.outer - deep / 2) * plan.scale
        yield DividedRing(plan.centre, middle, deep * plan.scale, count, share, "#000", 0.0, 0.4)
    yield Inlay(edge, "url(#li-sheen)", 0.5 if bezel.coat.finish in DULL else 1.0)


def scale_face(plan: Plan, ring: SeenScale, *, fine: bool = True) -> Iterator[Mark]:
    """An insert or a chapter ring: its ground in one or two colours, its scale, its pip."""
    yield from band(plan, ring.coat, ring.inner, ring.outer, 300.0)
    if ring.coat.second and ring.coat.finish != "gradient":
        lower = (*_half_ring(ring.outer), *reversed(_half_ring(ring.inner)))
        yield Inlay((laid(plan, turned(lower, ring.turn)),), ring.coat.second)
        yield Inlay((round_(plan, ring.outer), round_(plan, ring.inner)), "url(#li-lamp)")
    yield Inlay((round_(plan, ring.outer),), "none", line="#0009", line_width=0.06 * plan.scale)
    yield Inlay((round_(plan, ring.inner),), "none", line="#0009", line_width=0.09 * plan.scale)
    ink = ring.lume.day if ring.lume and ring.scale_glows else ring.print_colour
    yield from printed_scale(plan, ring, ink, fine=fine)
    paint = ring.lume.day if ring.lume else ring.print_colour
    yield from (Inlay((outline,), paint) for outline in pip(plan, ring))


def _half_ring(radius: float) -> tuple[tuple[float, float], ...]:
    """The lower half of a circle, from three round by six to nine."""
    return tuple((radius * cos(a), -radius * sin(a)) for a in (pi * k / 40 for k in range(41)))


def printed_scale(plan: Plan, ring: SeenScale, ink: str, *, fine: bool = True) -> Iterator[Mark]:
    """The ring's scale in one ink, by day the print's, at night the paste's."""
    wide, scale = ring.outer - ring.inner, plan.scale
    middle = (ring.outer + ring.inner) / 2
    size = NUMERAL * wide * scale

    def ticks(count: int, share: float, reach: float, turn: float = 0.0) -> DividedRing:
        radius = (ring.inner + reach * wide / 2) * scale
        return DividedRing(plan.centre, radius, reach * wide * scale, count, share, ink, ring.turn + turn)

    def numerals(step: float, words: list[tuple[float, str]]) -> Iterator[Lettering]:
        for place, text in words:
            angle = place * step + ring.turn
            yield Lettering(plan.at(middle, angle), text, size, ink, "even", angle)

    if ring.scale == "minutes":
        yield ticks(60, 0.1, 0.28)
        if fine and wide > ROOM_FOR_FIGURES:
            # A bar between two figures, none under them.
            yield ticks(6, 0.0175, 0.5, turn=30.0)
            yield from numerals(6.0, [(m, str(m)) for m in (10, 20, 30, 40, 50)])
        else:
            yield ticks(12, 0.035, 0.5)
    elif ring.scale == "twelve":
        yield from numerals(30.0, [(h, str(h)) for h in range(1, 12)])
    elif ring.scale == "twenty-four":
        yield from numerals(15.0, [(h, str(h)) for h in range(2, 24, 2)])
        yield DividedRing(
            plan.centre, middle * scale, 0.42 * scale, 12, 0.0005, ink, ring.turn + 15.0, is_round=True
        )
    elif ring.scale == "dots":
        yield DividedRing(
            plan.centre, middle * scale, 0.3 * wide * scale, 12, 0.0005, ink, ring.turn, is_round=True
        )
    elif ring.scale == "hours":
        yield ticks(12, 0.03, 0.9)


def pip(plan: Plan, ring: SeenScale) -> Iterator[InlayEdge]:
    """The mark at twelve."""
    inner, outer = ring.inner + 0.45, ring.outer - 0.45
    half = 0.34 * (outer - inner)
    if ring.pip == "triangle":
        yield laid(plan, turned(((-1.3 * half, outer), (1.3 * half, outer), (0.0, inner)), ring.turn))
    elif ring.pip == "dot":
        (centre,) = turned(((0.0, (inner + outer) / 2),), ring.turn)
        yield round_(plan, half, centre)
    elif ring.pip == "bar":
        yield laid(plan, turned(((-half, outer), (half, outer), (half, inner), (-half, inner)), ring.turn))


def collar_face(plan: Plan, face: SeenFace) -> Iterator[Mark]:
    """What is seen of the case between bezel and crystal, or of a case without a bezel."""
    case, crystal = face.case, face.crystal
    if case and crystal and not face.bezel:
        outer = min(case.radius - 0.55, crystal + 2.4)
        yield from band(plan, case.coat, crystal, outer, 300.0)
        yield Inlay((round_(plan, outer), round_(plan, crystal)), "url(#li-sheen)")
        yield Inlay((round_(plan, outer),), "none", line=_ink(case.coat.colour), line_width=0.06 * plan.scale)
    if crystal:
        yield Inlay((round_(plan, crystal),), "#101214")


def crystal_face(plan: Plan, radius: float, coating: str) -> Iterator[Mark]:
    """The glass over it all: its coating's colour deeper towards the edge, a soft reflection."""
    glass = (round_(plan, radius),)
    if coating in {"blue", "violet", "green", "amber"}:
        yield Inlay(glass, f"url(#li-{coating})")
    yield Inlay(glass, "url(#li-glass)", 0.5)
    yield Inlay(glass, "none", line="#fff6", line_width=0.14 * plan.scale)
