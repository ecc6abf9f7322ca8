"""Stem, crown and tube to scale, with the ledger's marks: what is off, what remains, the next cut, the window."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.bench.stem import COVERAGE, StemLedger, StemOf
from marquetry.core.bench.step import BenchPoint
from marquetry.core.fit.plausible import Plausible
from marquetry.core.values.figures import figure, is_told_as_nothing
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, EDGE, TYPE, pointer
from marquetry.drawing.dimension_line import arrows
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark

STEM_WIDE, THREAD_WIDE = 1.2, 0.9
INSIDE, BEYOND = 5.0, 2.0
"""How much of the watch is shown inside the tube's end, and beyond the stem's, mm."""
AXIS = BENCH_HEIGHT * 0.52
CROWN_LONG = 3.0


@dataclass(frozen=True, slots=True)
class StemPlaces:
    """Where things lie along the stem, mm from the watch's centre."""

    tube_end: float
    target: float
    end: float
    full: float
    thread: float


def stem_places(p: Plausible, of: StemOf, ledger: StemLedger) -> StemPlaces:
    """From the sheet, and where a reading told more, from the ledger: the end is the target and what remains."""
    tube, tip = p["case.centre_to_tube_end"], p["movement.centre_to_stem_tip"]
    target = tip + (of.target.r if of.target else tube + p["crown.seat_to_bottom"] - tip)
    remaining = ledger.now.r if ledger.now else 0.0
    end = target + remaining
    thread = ledger.thread_left if ledger.thread_left is not None else p["stem.thread_length"] - ledger.off
    return StemPlaces(tube, target, end, end + ledger.off, max(thread, 0.0))


@dataclass(frozen=True, slots=True)
class Along:
    """The stem's axis on paper."""

    scale: float
    zero: float

    def x(self, r: float) -> float:
        """A place along the stem, mm from the centre, on paper."""
        return self.zero + r * self.scale

    def bar(self, start: float, end: float, wide: float, classes: str, up: float = 0.0) -> Box:
        """Something round the axis, mm wide, its middle so many mm over the axis."""
        half = wide * self.scale / 2
        low = AXIS + up * self.scale - half
        return Box((self.x(start), low), (end - start) * self.scale, 2 * half, classes)


def stem_marks(
    p: Plausible, of: StemOf, ledger: StemLedger, points: BenchPoint = "", height: float | None = None
) -> Iterator[Mark]:
    """Tube and crown, the stem as long as it is now, what is off dashed, and what comes next.

    `axis` looks along the tube instead, the stem `height` mm over its middle; `gap` marks what is read.
    """
    at = stem_places(p, of, ledger)
    left, right = at.tube_end - INSIDE, max(at.full, at.tube_end + CROWN_LONG) + BEYOND
    scale = (BENCH_WIDTH - 2 * EDGE) / (right - left)
    along = Along(scale, EDGE - left * scale)
    if points == "axis":
        yield from _through(p, along, at, height)
        return
    yield Cluster(tuple(stem_bodies(p, along, at)), "bodies")
    yield Line(((along.x(left), AXIS), (along.x(right), AXIS)), "centre-line")
    yield from _remaining(along, at, ledger)
    yield from _gap(p, along, at) if points == "gap" else _next(along, at, ledger)
    thread = figure(at.thread, 1, "mm")
    yield Label(
        (EDGE, 3.0), f"Scale {figure(scale, 1)} : 1, along the stem; thread left {thread}", "quiet", TYPE
    )


def _tube(p: Plausible, along: Along, at: StemPlaces) -> Iterator[Mark]:
    tube = p["case.tube_outer_diameter"]
    yield along.bar(at.tube_end - INSIDE, at.tube_end, tube, "body body-steel")
    yield along.bar(at.tube_end - INSIDE, at.tube_end, STEM_WIDE + 0.3, "body body-void")
    y = AXIS + tube * along.scale / 2 + 1.5
    yield Label((along.x(at.tube_end - INSIDE) + 1, y), "tube", "quiet halo", TYPE)


def _stem(along: Along, at: StemPlaces, up: float = 0.0) -> Iterator[Mark]:
    """The stem, its thread in another tone, so many mm over the tube's middle."""
    left = at.tube_end - INSIDE
    begins = min(max(at.end - at.thread, left), at.end)
    if begins > left:
        yield along.bar(left, begins, STEM_WIDE, "body body-post", up)
    if at.end > begins:
        yield along.bar(begins, at.end, THREAD_WIDE, "body body-brass", up)


def _through(p: Plausible, along: Along, at: StemPlaces, height: float | None) -> Iterator[Mark]:
    """The stem straight through the tube, as far over its middle as the heights say."""
    yield Cluster((*_tube(p, along, at), *_stem(along, at, height or 0.0)), "bodies")
    left, right = along.x(at.tube_end - INSIDE), BENCH_WIDTH - EDGE
    yield Line(((left, AXIS), (right, AXIS)), "centre-line")
    yield from pointer((right, AXIS - 24.0), (along.x(at.tube_end) + 6.0, AXIS - 24.0))
    yield Label((right, AXIS - 22.0), "look in here", "figure halo", TYPE, "end")
    if height is not None:
        yield Label((EDGE, 3.0), _aside(height), "quiet", TYPE)


def _aside(height: float) -> str:
    """How far the stem lies from the tube's middle, in words."""
    if is_told_as_nothing(height):
        return "by the figures: in the tube's middle"
    side = "dial" if height > 0 else "back"
    return f"by the figures: {figure(abs(height), 2, 'mm')} off its middle, towards the {side}"


def _gap(p: Plausible, along: Along, at: StemPlaces) -> Iterator[Mark]:
    """What is read: from the tube's end to the face of the crown on the stem as it is now."""
    seat, high = along.x(at.end - p["crown.seat_to_bottom"]), AXIS + 40.0
    end = along.x(at.tube_end)
    if seat - end > 1.0:
        yield from arrows(((end, AXIS + 3), (seat, AXIS + 3)), ((end, high), (seat, high)))
    middle = min(max((seat + end) / 2, 44.0), BENCH_WIDTH - 44.0)
    yield Label((middle, high + 2.0), "read this gap", "figure halo", TYPE, "middle")
    # Two turns short of home stood as half a millimetre too much in a builder's ledger, and in the next cut.
    home = "crown screwed home, stem at the bottom of its bore"
    yield Label((BENCH_WIDTH - EDGE, 3.0 + 2 * TYPE), home, "quiet halo", TYPE, "end")


def stem_bodies(p: Plausible, along: Along, at: StemPlaces) -> Iterator[Mark]:
    """Tube, stem, what was taken off it dashed, and the crown on it."""
    yield from _tube(p, along, at)
    yield from _stem(along, at)
    if at.full > at.end:
        yield Cluster((along.bar(at.end, at.full, THREAD_WIDE, "body"),), "taken")
    seat = at.end - p["crown.seat_to_bottom"]
    crown = p["crown.diameter"] if p.has("crown") else 6.0
    outline = along.bar(seat, seat + CROWN_LONG, crown, "body")
    bore = along.bar(seat, at.end, THREAD_WIDE, "body")
    yield Cluster((outline, bore), "taken")
    x = along.x(seat + CROWN_LONG / 2)
    yield Label((x, AXIS + crown * along.scale / 2 + 1.5), "crown", "quiet halo", TYPE, "middle")


def _remaining(along: Along, at: StemPlaces, ledger: StemLedger) -> Iterator[Mark]:
    """What must still come off, with its doubt as a band round the place where the stem should end."""
    if ledger.now is None:
        return
    level = AXIS - 40.0
    target = along.x(at.target)
    band = COVERAGE * ledger.now.u * along.scale
    yield Box((target - band, level - 4), 2 * max(band, 0.15), AXIS - level + 10, "stem-doubt")
    yield Line(((target, level - 6), (target, AXIS + 12)), "stem-target")
    if abs(at.end - at.target) * along.scale > 1.0:
        ends = (target, AXIS), (along.x(at.end), AXIS)
        yield from arrows(ends, ((target, level), (along.x(at.end), level)))
    words = f"remains {figure(ledger.now.r)} ±{figure(COVERAGE * ledger.now.u)}"
    middle = min(max((target + along.x(at.end)) / 2, 40.0), BENCH_WIDTH - 40.0)
    yield Label((middle, level - TYPE - 3), words, "figure halo", TYPE, "middle")


def _next(along: Along, at: StemPlaces, ledger: StemLedger) -> Iterator[Mark]:
    """The next cut as a mark at so many millimetres from the end, or the stretch to be filed."""
    if ledger.advice not in {"cut", "file"} or not ledger.amount:
        return
    x, high = along.x(at.end - ledger.amount), AXIS + 40.0
    word = "cut here" if ledger.advice == "cut" else "file to here"
    yield Line(((x, AXIS - 9), (x, high + 1.5)), "strike")
    yield from arrows(((x, AXIS + 3), (along.x(at.end), AXIS + 3)), ((x, high), (along.x(at.end), high)))
    words = f"{word}: {figure(ledger.amount)} from the end"
    middle = min(max((x + along.x(at.end)) / 2, 44.0), BENCH_WIDTH - 44.0)
    yield Label((middle, high + 2.0), words, "figure halo", TYPE, "middle")
