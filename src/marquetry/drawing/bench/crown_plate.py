"""The crown cut open, much enlarged: its seal, and where a drop goes in, is wiped away, or the crown is pulled."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.bench.step import BenchPoint
from marquetry.core.fit.plausible import Plausible
from marquetry.core.values.figures import figure
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, EDGE, TYPE, pointer
from marquetry.drawing.bench.stem_plate import CROWN_LONG, STEM_WIDE, THREAD_WIDE
from marquetry.drawing.scene import Dot, Label, Line, Mark, Paper

SKIRT, CAP = 1.2, 0.6
"""How far the crown reaches over the tube, and what closes its bore, mm."""
INSIDE = 3.2
"""How much of tube and stem is shown inside the tube's end, mm."""
APART = 2.0
"""How far the crown is drawn off its tube, mm."""
CLEARANCE = 0.3
ABOVE = 17.0
"""Room over the crown for words and their arrow, mm of paper."""
AXIS = BENCH_HEIGHT * 0.5
DROP = 0.3


@dataclass(frozen=True)
class CutCrown:
    """The crown's measures, mm, its place along its axis on paper, and how far its face stands off the tube's end."""

    outer: float
    bore: float
    depth: float
    cord: float
    tube: float
    off: float
    scale: float
    zero: float

    def at(self, along: float, out: float) -> Paper:
        """A point on paper: mm outwards from the tube's end, mm from the axis."""
        return self.zero + along * self.scale, AXIS + out * self.scale

    def face(self, left: float, right: float, low: float, high: float, classes: str) -> Line:
        """A rectangle of the section."""
        corners = ((left, low), (right, low), (right, high), (left, high))
        return Line(tuple(self.at(*corner) for corner in corners), classes, closed=True)

    @property
    def end(self) -> float:
        """Where the crown ends, mm outwards from the tube's end."""
        return self.off + _long(self.depth)

    @property
    def bottom(self) -> float:
        """Where its threaded bore ends."""
        return self.off + self.depth


def _long(depth: float) -> float:
    return max(CROWN_LONG, depth + CAP)


def crown_marks(p: Plausible, points: BenchPoint) -> Iterator[Mark]:
    """The crown as the step has it: alone, before its stem, off its tube, or home."""
    cut = _laid(p, APART if points in {"wipe", "drop"} else 0.0, with_tube=points != "seal")
    if points in {"wipe", "pull"}:
        yield from _tube(cut)
    yield from _stem(cut, points)
    yield _body(cut)
    yield from _seal(cut, squeezed=points == "pull")
    yield Line(((EDGE, AXIS), cut.at(cut.end + 0.8, 0.0)), "centre-line")
    yield from POINTS[points](cut)
    yield Label((EDGE, 3.0), f"Scale {figure(cut.scale, 0)} : 1, cut through its axis", "quiet", TYPE)


def _laid(p: Plausible, off: float, *, with_tube: bool) -> CutCrown:
    outer, depth = p["crown.diameter"] / 2, p["crown.seat_to_bottom"]
    left = -INSIDE if with_tube else -SKIRT - 1.0
    long = off + _long(depth) + 1.6 - left
    wide, high = BENCH_WIDTH - 2 * EDGE, BENCH_HEIGHT - 2 * ABOVE
    scale = min(wide / long, high / (2 * outer))
    return CutCrown(
        outer,
        min(p["crown.gasket_bore"] / 2, outer - 0.2),
        depth,
        p["crown.gasket_cord"],
        p["case.tube_outer_diameter"] / 2,
        off,
        scale,
        (BENCH_WIDTH - long * scale) / 2 - left * scale,
    )


def _body(cut: CutCrown) -> Line:
    skirt, thread = cut.off - SKIRT, THREAD_WIDE / 2
    half = (
        (skirt, cut.bore), (skirt, cut.outer), (cut.end - 0.4, cut.outer), (cut.end, cut.outer - 0.5),
    )  # fmt: skip
    inside = ((cut.off, -cut.bore), (cut.off, -thread), (cut.bottom, -thread))
    outline = (
        *half, *((x, -y) for x, y in reversed(half)), *inside, *((x, -y) for x, y in reversed(inside)),
    )  # fmt: skip
    return Line(tuple(cut.at(*point) for point in outline), "body body-steel", closed=True, title="Crown")


def _seal(cut: CutCrown, *, squeezed: bool) -> Iterator[Mark]:
    inner = cut.tube if squeezed else cut.bore - cut.cord
    for side in (-1, 1):
        low, high = sorted((side * max(inner, 0.0), side * cut.bore))
        yield cut.face(cut.off - cut.cord - 0.1, cut.off - 0.1, low, high, "body body-rubber")


def _tube(cut: CutCrown) -> Iterator[Mark]:
    hole = (STEM_WIDE + CLEARANCE) / 2
    for side in (-1, 1):
        low, high = sorted((side * hole, side * max(cut.tube, hole + 0.1)))
        yield cut.face(-INSIDE, 0.0, low, high, "body body-brass")


def _stem(cut: CutCrown, points: BenchPoint) -> Iterator[Mark]:
    if points == "seal":
        return
    end = cut.off - SKIRT - 0.6 if points == "drop" else cut.bottom
    yield cut.face(-INSIDE, end, -THREAD_WIDE / 2, THREAD_WIDE / 2, "body body-post")


def _beside(cut: CutCrown, words: str, at: Paper) -> Iterator[Mark]:
    """Words over the crown, with an arrow down to a place."""
    top = AXIS + cut.outer * cut.scale + 6.0
    yield from pointer((at[0], top), at)
    half = len(words) * TYPE * 0.3
    x = min(max(at[0], EDGE + half), BENCH_WIDTH - EDGE - half)
    yield Label((x, top + 1.6), words, "figure halo", TYPE, "middle")


def _seal_here(cut: CutCrown) -> Iterator[Mark]:
    middle = cut.off - cut.cord / 2 - 0.1
    yield from _beside(cut, f"seal, cord {figure(cut.cord)}", cut.at(middle, cut.bore - cut.cord / 2))
    x, y = cut.at(cut.off - SKIRT, -cut.outer)
    yield Label((x, y - TYPE - 2.4), f"bore {figure(2 * cut.bore)}", "figure halo", TYPE)


def _drop_here(cut: CutCrown) -> Iterator[Mark]:
    place = cut.off + cut.depth * 0.6
    yield Dot(cut.at(place, 0.0), DROP * cut.scale, "drop")
    yield from _beside(cut, "one drop, in here", cut.at(place, DROP))
    x, y = cut.at(cut.off - SKIRT - 0.6, 0.0)
    yield from pointer((x - 16.0, y - 9.0), (x, y - 9.0))


def _wipe_here(cut: CutCrown) -> Iterator[Mark]:
    for side in (-1, 1):
        yield Dot(cut.at(cut.off - 0.1, side * THREAD_WIDE / 2), DROP / 2 * cut.scale, "drop")
    yield from _beside(cut, "wipe here, away from the tube", cut.at(cut.off - 0.1, THREAD_WIDE / 2 + 0.1))
    x, y = cut.at(cut.off - SKIRT, -THREAD_WIDE / 2)
    yield from pointer((x - 16.0, y - 7.0), (x, y - 7.0))


def _pull_here(cut: CutCrown) -> Iterator[Mark]:
    x, y = cut.at(cut.end, 0.0)
    yield from pointer((x + 2.0, y), (x + 16.0, y))
    yield from _beside(cut, "no gap, pull: it holds", cut.at(0.0, cut.bore))


POINTS = {"seal": _seal_here, "drop": _drop_here, "wipe": _wipe_here, "pull": _pull_here}
"""What each step points at."""
