"""The hands over the dial, much enlarged: each with its shim, the one at hand marked, and what was read."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from marquetry.core.section.lay_out import Section
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure
from marquetry.drawing.bench.paper import EDGE, TYPE, sheet_on
from marquetry.drawing.dimension_line import arrows
from marquetry.drawing.scene import Cluster, Label, Line, Mark
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import Sheet, window_of

REACH = 4.8
STRETCH = 1.8
"""How much taller heights are drawn: a few hundredths decide."""
SHIM_AT, SHIM_WIDE = -2.6, 0.5


def pressing_marks(section: Section, hand: str, read: Mapping[str, float]) -> Iterator[Mark]:
    """The posts with their hands; `hand` is the one at hand, `read` the heights found so far, mm."""
    window = replace(window_of(section, "hands"), left=-REACH, right=REACH)
    sheet = sheet_on(window, STRETCH)
    about = tuple(b for b in section.bodies if not hand or b.part == f"hands.{hand}" or b.kind == "dial")
    beside = tuple(b for b in section.bodies if b not in about)
    yield Cluster(tuple(draw_faces(beside, sheet, window)), "beside")
    yield Cluster(tuple(draw_faces(about, sheet, window)), "about")
    yield Line((sheet.at((0.0, window.low)), sheet.at((0.0, window.high))), "centre-line")
    yield Label((EDGE, 2.4), f"heights drawn {STRETCH:g} times taller", "quiet", TYPE)
    face = max((z for b in section.bodies if b.part == "dial" for _, z in b.outline), default=0.0)
    for name, height in section.heights.items():
        if name == hand:
            yield from _shim(sheet, face, height, name)
    if hand in read:
        yield from _read(sheet, face + read[hand], read[hand])


def _shim(sheet: Sheet, face: float, height: float, hand: str) -> Iterator[Mark]:
    left, right = SHIM_AT - SHIM_WIDE, SHIM_AT
    corners = ((left, face), (right, face), (right, height), (left, height))
    yield Line(
        tuple(map(sheet.at, corners)),
        "body body-print",
        closed=True,
        title=f"Shim for the {HAND_LABELS[hand]} hand",
    )
    yield Line((sheet.at((left, height)), sheet.at((REACH, height))), "press-line")
    ends = sheet.at((left, face)), sheet.at((left, height))
    out = sheet.at((left - 0.5, face)), sheet.at((left - 0.5, height))
    yield from arrows(ends, out)
    x, y = sheet.at((-REACH, height))
    yield Label((x, y + 1.6), f"shim {figure(height - face)}", "figure halo", TYPE * 1.3)


def _read(sheet: Sheet, z: float, height: float) -> Iterator[Mark]:
    yield Line((sheet.at((SHIM_AT + 0.2, z)), sheet.at((0.0, z))), "turn-line")
    x, y = sheet.at((SHIM_AT + 0.3, z))
    yield Label((x, y - TYPE), f"read {figure(height)}", "figure halo", TYPE)
