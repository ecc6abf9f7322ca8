"""The stem in its tube as it truly is, the nippers at its end, the mark, the file."""

from collections.abc import Iterator

from marquetry.core.fit.checks.stem import stem_target
from marquetry.core.rehearsal.actions.stem_cut import StemAt, jaws
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal
from marquetry.drawing.bench.paper import BENCH_WIDTH, EDGE, TYPE
from marquetry.drawing.bench.stem_plate import AXIS, CROWN_LONG, INSIDE, Along, StemPlaces, stem_bodies
from marquetry.drawing.dimension_line import arrows
from marquetry.drawing.rehearsal.shown import Motion, moving
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark

BEYOND = 1.4
"""How much is shown past the stem's end, mm."""
JAW_HIGH, JAW_WIDE = 26.0, 4.2


def stem_shown(at: StemAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """Tube, stem and crown to scale; what was taken off is gone."""
    p = at.twin.reader
    tip = p["movement.centre_to_stem_tip"]
    target = tip + float(nominal(stem_target(at.twin.formulas)))
    end, tube = target + at.left, p["case.centre_to_tube_end"]
    thread = max(p["stem.thread_length"] - at.off, 0.0)
    places = StemPlaces(tube, target, end, end, thread)
    left, right = tube - INSIDE, max(end, tube + CROWN_LONG) + BEYOND
    scale = (BENCH_WIDTH - 2 * EDGE) / (right - left)
    along = Along(scale, EDGE - left * scale)
    marks = (
        Cluster(tuple(stem_bodies(p, along, places)), "bodies"),
        Line(((along.x(left), AXIS), (along.x(right), AXIS)), "centre-line"),
        *_mark(along, end, at.mark),
        moving("cut", *_jaws(along.x(end - jaws(at.mark)(0.0)))),
        moving("file", *_file(along.x(end))),
        Label((EDGE, 3.0), f"Scale {figure(scale, 1)} : 1, along the stem", "quiet", TYPE),
    )
    return marks, {"cut": Motion(-scale, 0.0), "file": Motion(-scale, 0.0)}


def _mark(along: Along, end: float, mark: float) -> Iterator[Mark]:
    if mark <= 0:
        return
    x, high = along.x(end - mark), AXIS + 42.0
    yield Line(((x, AXIS - 10), (x, high + 1.5)), "strike")
    if (end - mark) * along.scale < along.x(end) - 1.0:
        yield from arrows(((x, AXIS + 3), (along.x(end), AXIS + 3)), ((x, high), (along.x(end), high)))
    middle = min(max((x + along.x(end)) / 2, 30.0), BENCH_WIDTH - 30.0)
    yield Label((middle, high + 2.0), f"mark {figure(mark)}", "figure halo", TYPE, "middle")


def _jaws(x: float) -> Iterator[Mark]:
    for way in (1, -1):
        tip, back = AXIS + way * 6.5, AXIS + way * JAW_HIGH
        yield Line(
            ((x, tip), (x + JAW_WIDE, back), (x - JAW_WIDE, back)),
            "body body-steel",
            closed=True,
            title="Nippers",
        )


def _file(x: float) -> Iterator[Mark]:
    yield Box((x + 0.4, AXIS - 34.0), 3.0, 12.0, "body body-insert")
    yield Label((x + 5.0, AXIS - 30.0), "file", "quiet halo", TYPE)
