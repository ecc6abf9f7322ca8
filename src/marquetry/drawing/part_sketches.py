"""Sketches of what no section shows, with the places where its dimensions are taken: not to scale.

Each part is drawn once, on a sheet of 110 by 56 mm; a dimension is a span on it. A dimension without a span
is drawn by `plain_sketch` after its nature.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Dot, Line, Mark, Paper

STEEL, DIAL, VOID, SEAL, BRASS = (f"body body-{name}" for name in ("steel", "dial", "void", "print", "brass"))


@dataclass(frozen=True, slots=True)
class MeasuredAt:
    """Where a dimension is taken: its two ends, and how far up or to the right of them its line runs, mm."""

    start: Paper
    end: Paper
    aside: float = 0.0

    @property
    def line(self) -> tuple[Paper, Paper]:
        """Where the dimension line runs: level above its ends, or upright right of the first."""
        (ax, ay), (bx, by) = self.start, self.end
        if abs(bx - ax) > abs(by - ay):
            y = max(ay, by) + self.aside if self.aside >= 0 else min(ay, by) + self.aside
            return (ax, y), (bx, y)
        x = max(ax, bx) + self.aside if self.aside >= 0 else min(ax, bx) + self.aside
        return (x, ay), (x, by)


@dataclass(frozen=True, slots=True)
class PartSketch:
    """A part as it is held and measured; `spans` by the path within the part, or by its last word."""

    marks: tuple[Mark, ...]
    spans: Mapping[str, MeasuredAt]

    def span(self, below: str) -> MeasuredAt | None:
        """The place of a dimension, by its path within the part."""
        return self.spans.get(below) or self.spans.get(below.rpartition(".")[2])


def _box(left: float, low: float, right: float, high: float, classes: str = STEEL) -> Line:
    return Line(((left, low), (right, low), (right, high), (left, high)), classes, closed=True)


def _lug(side: int, up: int) -> Line:
    x, y = FRONT
    corners = ((6.0, 8.0), (6.0, 18.0), (9.0, 18.0), (11.0, 4.0))
    return Line(tuple((x + side * a, y + up * b) for a, b in corners), STEEL, closed=True)


FRONT: Paper = (42.0, 29.0)
CASE = PartSketch(
    (
        *(_lug(side, up) for side in (-1, 1) for up in (-1, 1)),
        *(_box(36, 29 + up * 15.5 - 0.5, 48, 29 + up * 15.5 + 0.5) for up in (-1, 1)),
        Dot(FRONT, 12.0, STEEL),
        Dot(FRONT, 8.5, VOID),
        Line(((76, 40), (90, 40), (99, 31), (98, 24), (93, 25), (85, 32), (76, 32)), STEEL, closed=True),
        Dot((93, 30.5), 2.2, VOID),
    ),
    {
        "diameter": MeasuredAt((30, 29), (54, 29)),
        "lug_width": MeasuredAt((36, 47), (48, 47), 3.0),
        "lug_to_lug": MeasuredAt((33, 11), (33, 47), -9.0),
        "bar_to_case": MeasuredAt((50, 41), (50, 44.5), 8.0),
        "lug_hole_diameter": MeasuredAt((90.8, 30.5), (95.2, 30.5), -12.0),
    },
)
PLAN = Plan(1.0, centre=(55.0, 29.0))
DIAL_FRONT = PartSketch(
    (
        PLAN.circle(42.0, DIAL),
        *(PLAN.tick(16.5, 18.0, angle, "frame") for angle in range(0, 360, 6)),
        PLAN.bar(10.0, 14.0, 90.0, 3.0, VOID),
        PLAN.circle(2.4, VOID),
    ),
    {
        "track_radius": MeasuredAt((55, 29), (55, 47)),
        "date_window_radius": MeasuredAt((55, 29), (67, 29), 4.0),
    },
)
TURNED = Plan(1.0, centre=(34.0, 32.0))
ROTOR = PartSketch(
    (
        Line((*TURNED.arc(18.0, 90.0, 270.0, STEEL).points, (16.0, 32.0)), STEEL, closed=True),
        TURNED.circle(10.0, STEEL),
        TURNED.circle(5.0, VOID),
        _box(66, 28.5, 96, 32.5, BRASS),
        _box(89, 25, 96, 36, BRASS),
    ),
    {
        "diameter": MeasuredAt((16, 32), (52, 32), 12.0),
        "bore": MeasuredAt((31.5, 32), (36.5, 32), 6.5),
        "rim_thickness": MeasuredAt((96, 25), (96, 36), 4.0),
        "web_thickness": MeasuredAt((66, 28.5), (66, 32.5), -4.0),
    },
)
DISC_FRONT = Plan(1.0, centre=(40.0, 29.0))
DISC = PartSketch(
    (
        DISC_FRONT.circle(40.0, DIAL),
        *(DISC_FRONT.round_at(16.0, angle, 1.6, "frame") for angle in range(0, 360, 30)),
        DISC_FRONT.circle(24.0, VOID),
        _box(78, 27, 98, 31, DIAL),
    ),
    {
        "outer_diameter": MeasuredAt((20, 29), (60, 29), 21.0),
        "inner_diameter": MeasuredAt((28, 29), (52, 29)),
        "numeral_radius": MeasuredAt((40, 29), (40, 45)),
        "thickness": MeasuredAt((98, 27), (98, 31), 3.0),
    },
)
CORDS = PartSketch(
    (
        *(Line(((33, y), (77, y)), "dimension-extension") for y in (24.0, 36.0)),
        Dot((33, 30), 6.0, SEAL),
        Dot((77, 30), 6.0, SEAL),
    ),
    {"inner_diameter": MeasuredAt((39, 30), (71, 30)), "cord": MeasuredAt((71, 30), (83, 30), 13.0)},
)
COLLAR = PartSketch(
    (
        Line(((28, 44), (33, 44), (33, 21), (42, 21), (42, 16), (28, 16)), SEAL, closed=True),
        Line(((82, 44), (77, 44), (77, 21), (68, 21), (68, 16), (82, 16)), SEAL, closed=True),
    ),
    {"wall": MeasuredAt((77, 44), (82, 44), 4.0), "flange": MeasuredAt((68, 16), (68, 21), -6.0)},
)
RING_UNDER_LEDGE = PartSketch(
    (_box(60, 32, 88, 46), Line(((34, 42), (60, 46), (60, 22), (40, 22)), BRASS, closed=True)),
    {"drop": MeasuredAt((60, 22), (60, 32), 8.0)},
)
MOVEMENT_SIDE = PartSketch(
    (_box(28, 22, 80, 42, BRASS), _box(50, 18, 58, 22), _box(32, 15, 76, 18)),
    {"face_to_back": MeasuredAt((76, 15), (80, 42), 10.0)},
)
POST = PartSketch(
    (_box(46, 10, 60, 28), _box(49, 28, 57, 47)),
    {"grip": MeasuredAt((57, 28), (57, 47), 10.0)},
)
CROWN = PartSketch(
    (
        Line(
            ((36, 46), (36, 40), (54, 40), (54, 35), (42, 35), (42, 23), (54, 23), (54, 18), (36, 18),
             (36, 12), (72, 12), (72, 46)), STEEL, closed=True,
        ),
        _box(42, 26.5, 62, 31.5, VOID),
        Dot((46, 38.4), 1.6, SEAL),
    ),
    {
        "diameter": MeasuredAt((72, 12), (72, 46), 8.0),
        "seat_to_bottom": MeasuredAt((54, 35), (62, 31.5), 14.0),
        "gasket_cord": MeasuredAt((44.4, 38.4), (47.6, 38.4), 12.0),
    },
)  # fmt: skip
STEM = PartSketch(
    (
        _box(20, 26, 95, 31),
        _box(14, 27.2, 20, 29.8),
        *(Line(((x, 26), (x + 1.6, 31)), "frame") for x in range(70, 94, 2)),
    ),
    {"length": MeasuredAt((14, 29.8), (95, 31), 9.0), "thread_length": MeasuredAt((70, 26), (95, 26), -9.0)},
)
STRAP = PartSketch(
    (
        Line(((16, 22), (16, 38), (84, 36.5), (84, 23.5)), SEAL, closed=True),
        _box(84, 22, 96, 38),
        *(Line(((x, 23), (x, 37)), "frame") for x in (36, 44)),
        _box(16, 10, 84, 14.5, SEAL),
    ),
    {
        "width": MeasuredAt((16, 22), (16, 38), -7.0),
        "clasp_width": MeasuredAt((84, 23.5), (84, 36.5), 15.0),
        "length": MeasuredAt((16, 38), (84, 38), 7.0),
        "link_length": MeasuredAt((36, 38), (44, 38), 4.0),
        "clasp_length": MeasuredAt((84, 38), (96, 38), 7.0),
        "thickness": MeasuredAt((84, 10), (84, 14.5), 4.0),
    },
)
BAR = PartSketch(
    (_box(18, 27, 92, 31), _box(25, 24, 85, 34)),
    {
        "length": MeasuredAt((18, 31), (92, 31), 12.0),
        "diameter": MeasuredAt((55, 24), (55, 34)),
        "tip_diameter": MeasuredAt((92, 27), (92, 31), 4.0),
    },
)
SKETCHES: dict[str, PartSketch] = {
    "case": CASE, "dial": DIAL_FRONT, "rotor": ROTOR, "calendar_disc": DISC, "back_gasket": CORDS,
    "crown_gasket": CORDS, "crystal_gasket": COLLAR, "chapter_ring": RING_UNDER_LEDGE, "crown": CROWN,
    "stem": STEM, "strap": STRAP, "spring_bars": BAR,
}  # fmt: skip


def sketch_of(kind: str, below: str) -> tuple[PartSketch, MeasuredAt] | None:
    """A part's sketch and the place of its dimension, by the path within the part, where there is one."""
    key = below.rpartition(".")[2]
    held = (
        {"grip": POST, "face_to_back": MOVEMENT_SIDE}.get(key) if kind == "movement" else SKETCHES.get(kind)
    )
    span = held.span(below) if held else None
    return (held, span) if held and span else None
