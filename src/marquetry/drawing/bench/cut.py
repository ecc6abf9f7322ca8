"""A step in section: the parts it is about as they are cut, the others pale, at the largest scale that holds them."""

import math
from collections.abc import Iterator
from dataclasses import replace

from marquetry.core.bench.step import BenchPoint
from marquetry.core.section.body import Body
from marquetry.core.section.lay_out import Section
from marquetry.drawing.bench.paper import BENCH_WIDTH, EDGE, TYPE, pointer, sheet_on, window_round
from marquetry.drawing.scene import Cluster, Label, Line, Mark
from marquetry.drawing.section_plate import draw_faces
from marquetry.drawing.sheet import Sheet, Window

AROUND = 1.2
"""Millimetres of the watch shown round the parts that a step is about."""
LEFT = -1.2
"""How far past the axis a half-section shows, mm."""


def cut_marks(section: Section, parts: tuple[str, ...], points_at: BenchPoint = "") -> Iterator[Mark]:
    """The half-section round these parts; all of it where none of them is drawn."""
    about = [body for body in section.bodies if _is_of(body, parts)]
    is_all = not about
    about = about or list(section.bodies)
    points = [point for body in about for point in body.outline] or [(0.0, -6.0), (20.0, 4.0)]
    window = window_round(points, AROUND)
    window = replace(window, left=max(window.left, LEFT))
    sheet = sheet_on(window)
    beside = tuple(body for body in section.bodies if body not in about)
    yield Cluster(tuple(draw_faces(beside, sheet, window)), "beside")
    yield Cluster(tuple(draw_faces(tuple(about), sheet, window)), "about")
    if window.left <= 0:
        yield Line((sheet.at((0.0, window.low)), sheet.at((0.0, window.high))), "centre-line")
    if not is_all:
        yield from _names(about, sheet, window)
    for body in about:
        if body.part == "crystal" and points_at in POINTED:
            yield from POINTED[points_at](about, body, sheet)


def _pressed(about: list[Body], crystal: Body, sheet: Sheet) -> Iterator[Mark]:
    """The die on the crystal's edge, the support under the case."""
    edge = max(r for r, _ in crystal.outline) - 0.8
    x, y = sheet.at((edge, max(z for r, z in crystal.outline if r >= edge - 1.0)))
    yield from pointer((x, y + 17.0), (x, y + 1.0))
    yield Label((x + 3.0, y + 9.0), "die", "figure halo", TYPE)
    case = [point for body in about if body.part == "case" for point in body.outline]
    if case:
        low = min(z for _, z in case)
        x, y = sheet.at((sum(r for r, z in case if z == low) / sum(z == low for _, z in case), low))
        yield from pointer((x, y - 16.0), (x, y - 1.0))
        yield Label((x - 3.0, y - 12.0), "support", "figure halo", TYPE, "end")


def _inside(about: list[Body], crystal: Body, sheet: Sheet) -> Iterator[Mark]:
    del about
    low = min(z for _, z in crystal.outline)
    place = max(r for r, _ in crystal.outline) * 0.45
    x, y = sheet.at((place, low))
    yield from pointer((x, y - 18.0), (x, y - 1.0))
    yield Label((x, y - 19.0 - TYPE), "this face inside, coated", "figure halo", TYPE, "middle")


POINTED = {"press": _pressed, "inside": _inside}
"""What is pointed at beside the crystal."""


def _is_of(body: Body, parts: tuple[str, ...]) -> bool:
    if body.part == "movement.rotor":
        return "rotor" in parts or ("movement" in parts and len(parts) == 1)
    return body.kind in parts


def _names(about: list[Body], sheet: Sheet, window: Window) -> Iterator[Mark]:
    """Each part's name once, along the foot, with a line up to it."""
    named: dict[str, Body] = {}
    for body in about:
        is_whole = body.part in {body.kind, "movement.rotor", "spacers.0"}
        if is_whole and body.material != "void" and window.clip(body.outline):
            named.setdefault(body.label, body)
    first = list(named.items())[:MOST_NAMES]
    places = sorted(first, key=lambda item: _middle(item[1], sheet, window)[0])
    for number, (label, body) in enumerate(places):
        x = EDGE + (BENCH_WIDTH - 2 * EDGE) * (number + 0.5) / len(places)
        yield Line(((x, TYPE + 2.0), _middle(body, sheet, window)), "leader-plain")
        yield Label((x, 2.4), label, "display part-name halo", TYPE, "middle")


MOST_NAMES = 3


def _middle(body: Body, sheet: Sheet, window: Window) -> tuple[float, float]:
    """A point on the body's outline on paper: the middle of its longest edge, which is a point of no other."""
    shown = window.clip(body.outline)
    edges = zip(shown, (*shown[1:], shown[0]), strict=True)
    (r1, z1), (r2, z2) = max(edges, key=lambda edge: math.dist(*edge))
    return sheet.at(((r1 + r2) / 2, (z1 + z2) / 2))
