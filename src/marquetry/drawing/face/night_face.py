"""The face in the dark: only what glows, as bright as the eye has it so many minutes after light."""

from collections.abc import Iterator
from dataclasses import replace
from typing import TypeAlias

from marquetry.core.face.cut_windows import SeenCut
from marquetry.core.face.dress import Lume
from marquetry.core.face.hand_shapes import turned
from marquetry.core.face.seen import SeenFace, SeenMarker, SeenScale
from marquetry.core.face.shade import mixed
from marquetry.drawing.face.case_face import pip, printed_scale
from marquetry.drawing.face.dial_face import flat_marker, narrowed
from marquetry.drawing.face.light import laid, round_
from marquetry.drawing.hand_turns import turns_of
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Inlay, InlayEdge, Lettering, Mark

BLACK, FAINT, HOLLOW = "#0a0b0d", "#1a1d21", "#050607"
Spills: TypeAlias = tuple[tuple[float, float], ...]
SPILLS: Spills = ((2.0, 0.08), (1.2, 0.1), (0.6, 0.16))
"""How light spills over: times the halo, and how strongly, outermost first."""
HALO = 0.5
"""How far light spills over the edge of what glows, mm."""


def night_face(plan: Plan, face: SeenFace, time: str, minutes: float, *, fine: bool = True) -> Iterator[Mark]:
    """Every mark of the face in the dark, hands at a time, so many minutes after light."""
    spills = SPILLS if fine else SPILLS[1:2]
    yield from _outlines(plan, face)
    for ring in (face.ring, face.insert):
        if ring and ring.lume:
            yield from _scale(plan, ring, ring.lume, minutes, spills)
    if face.dial:
        yield from _markers(plan, face.dial.markers, minutes, spills)
        yield from _openings(plan, face.dial.cuts)
    yield from _hands(plan, face, time, minutes, spills)


def _outlines(plan: Plan, face: SeenFace) -> Iterator[Mark]:
    """What a rested eye makes out of the rest: edges, hardly lighter than the dark."""
    circles = [face.bezel.outer] if face.bezel else []
    if face.case and face.case.outline == "round":
        circles.append(face.case.radius)
    if face.crystal:
        circles.append(face.crystal)
    if face.dial:
        circles.append(face.dial.radius)
    if circles:
        edges = tuple(round_(plan, radius) for radius in circles)
        yield Inlay(edges, "none", line=FAINT, line_width=0.12 * plan.scale)


def _openings(plan: Plan, cuts: tuple[SeenCut, ...]) -> Iterator[Mark]:
    """What is cut into the dial: no disc glows, and no marker where the dial is gone."""
    outlines = tuple(laid(plan, cut.outline) for cut in cuts)
    if outlines:
        yield Inlay(outlines, HOLLOW, line=FAINT, line_width=0.12 * plan.scale)


def _lit(lume: Lume, minutes: float) -> tuple[str, float]:
    """The colour on black, and how much of it is left as spill."""
    seen = lume.paste.seen(minutes)
    return mixed(BLACK, lume.paste.colour, 0.1 + 0.9 * seen if seen > 0 else 0.0), seen


def _glowing(
    plan: Plan, outlines: tuple[InlayEdge, ...], lume: Lume, minutes: float, spills: Spills
) -> Iterator[Mark]:
    colour, seen = _lit(lume, minutes)
    if outlines and seen > 0:
        spill = lume.paste.colour
        yield from (
            Inlay(outlines, "none", share * seen, spill, 2 * HALO * wide * plan.scale)
            for wide, share in spills
        )
        yield Inlay(outlines, colour)


def _markers(plan: Plan, markers: tuple[SeenMarker, ...], minutes: float, spills: Spills) -> Iterator[Mark]:
    by_lume: dict[Lume, list[InlayEdge]] = {}
    for marker in markers:
        if marker.lume and not marker.words:
            by_lume.setdefault(marker.lume, []).append(_field(plan, marker))
    for lume, outlines in by_lume.items():
        yield from _glowing(plan, tuple(outlines), lume, minutes, spills)
    for marker in markers:
        if marker.lume and marker.words:
            colour, seen = _lit(marker.lume, minutes)
            if seen > 0:
                turn = marker.angle if marker.shape == "roman" else 0.0
                at = plan.at((marker.inner + marker.outer) / 2, marker.angle)
                size = (marker.outer - marker.inner) * plan.scale
                yield Lettering(at, marker.words, size, colour, marker.letters, turn)


def _field(plan: Plan, marker: SeenMarker) -> InlayEdge:
    """Of an applied marker the field within its frame, of a printed one all of it."""
    if not marker.height:
        return flat_marker(plan, marker)
    if marker.shape == "dot":
        return flat_marker(plan, replace(marker, width=0.74 * marker.width))
    return laid(plan, narrowed(marker))


def _hands(plan: Plan, face: SeenFace, time: str, minutes: float, spills: Spills) -> Iterator[Mark]:
    turns = turns_of(time)
    for hand in face.hands:
        turn = turns[hand.key]
        # A hand hides what glows beneath it.
        dark = (laid(plan, turned(hand.shape.outline, turn)), round_(plan, hand.shape.boss))
        yield Inlay(dark, HOLLOW)
        if hand.lume and hand.shape.lume:
            yield from _glowing(
                plan, (laid(plan, turned(hand.shape.lume, turn)),), hand.lume, minutes, spills
            )


def _scale(plan: Plan, ring: SeenScale, lume: Lume, minutes: float, spills: Spills) -> Iterator[Mark]:
    colour, seen = _lit(lume, minutes)
    if seen > 0 and ring.scale_glows:
        yield from printed_scale(plan, ring, colour)
    yield from _glowing(plan, tuple(pip(plan, ring)), lume, minutes, spills)
