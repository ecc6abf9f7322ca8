"""The hands over the dial, much enlarged: each with its shim, the one at hand marked, and what was read.

Before any hand is on, the posts alone: the washer under the hour pipe, a post that comes out, the rest below.
"""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from marquetry.core.bench.step import BenchPoint
from marquetry.core.section.lay_out import Section
from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.figures import figure
from marquetry.drawing.bench.paper import EDGE, TYPE, pointer, sheet_on
from marquetry.drawing.dimension_line import arrows
from marquetry.drawing.scene import Cluster, Label, Line, Mark
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import Sheet, Window, window_of

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


WASHER_OUT, WASHER_HIGH, WASHER_THICK = 1.1, 0.22, 0.09
"""How far the washer reaches past its post, how high its rim stands, how thick it is drawn; mm."""
STUD = 0.7


def post_marks(section: Section, points: BenchPoint) -> Iterator[Mark]:
    """The posts before any hand is on, and what is looked for, taken out or put under them."""
    window = replace(window_of(section, "hands"), left=-REACH, right=REACH)
    sheet = sheet_on(window, STRETCH)
    kinds = {"movement", "dial"} if points == "rest" else {"movement"}
    bodies = tuple(body for body in section.bodies if body.kind in kinds)
    yield Cluster(tuple(draw_faces(bodies, sheet, window)), "bodies")
    yield Line((sheet.at((0.0, window.low)), sheet.at((0.0, window.high))), "centre-line")
    posts = {body.part.rpartition(".")[2]: _reach(body.outline) for body in bodies if ".posts." in body.part}
    yield from POSTS_POINTED[points](sheet, window, posts)


Posts = Mapping[str, tuple[float, float, float]]
"""Of each post its radius, its foot and its top, mm."""


def _reach(outline: tuple[tuple[float, float], ...]) -> tuple[float, float, float]:
    return max(r for r, _ in outline), min(z for _, z in outline), max(z for _, z in outline)


def _washer(sheet: Sheet, window: Window, posts: Posts) -> Iterator[Mark]:
    del window
    outermost = next((hand for hand in HANDS if hand in posts), "")
    if not outermost:
        return
    radius, face, _ = posts[outermost]
    for side in (-1, 1):
        near, far = side * (radius + 0.06), side * (radius + WASHER_OUT)
        top = face + WASHER_HIGH
        corners = ((near, face), (near, face + WASHER_THICK), (far, top + WASHER_THICK), (far, top))
        yield Line(tuple(map(sheet.at, corners)), "body body-brass", closed=True, title="Washer")
    tip = sheet.at((radius + WASHER_OUT * 0.7, face + WASHER_HIGH + WASHER_THICK))
    yield from pointer((tip[0] + 14.0, tip[1] + 22.0), tip)
    yield Label((tip[0] + 14.0, tip[1] + 24.0), "washer or wheel", "figure halo", TYPE, "middle")


def _post_out(sheet: Sheet, window: Window, posts: Posts) -> Iterator[Mark]:
    del window
    if "seconds" not in posts:
        return
    _, _, top = posts["seconds"]
    x, y = sheet.at((0.0, top))
    yield Line(((x - 6.0, y - 8.0), (x + 6.0, y + 2.0)), "strike")
    yield Line(((x - 6.0, y + 2.0), (x + 6.0, y - 8.0)), "strike")
    yield Label((x + 9.0, y - 4.0), "seconds post out", "figure halo", TYPE)


def _rest(sheet: Sheet, window: Window, posts: Posts) -> Iterator[Mark]:
    del posts
    x, y = sheet.at((0.0, window.low))
    half = STUD * sheet.scale
    yield Line(
        ((x - half, 0.0), (x + half, 0.0), (x + half * 0.6, y), (x - half * 0.6, y)),
        "body body-steel",
        closed=True,
    )
    yield Label((x + half + 4.0, y - TYPE - 1.0), "stud under here", "figure halo", TYPE)


POSTS_POINTED = {"washer": _washer, "post": _post_out, "rest": _rest}
"""What each step before the hands points at."""
