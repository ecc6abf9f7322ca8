"""The dial over the movement, the date in its window, doubts on their rulers, steps in their order."""

from collections.abc import Iterator

from marquetry.core.bench.step import GROUP_LABELS
from marquetry.core.fit.finding import Finding
from marquetry.core.rehearsal.exercises.feet import FeetAt
from marquetry.core.rehearsal.exercises.measure import MeasureAt
from marquetry.core.rehearsal.exercises.midnight import MidnightAt
from marquetry.core.rehearsal.exercises.order import SHOWN, OrderAt
from marquetry.core.values.figures import figure
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.bench.dial_back import back_ground, back_plan, feet_marks
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, EDGE, TYPE
from marquetry.drawing.limit_ruler import RulerLine
from marquetry.drawing.rehearsal.shown import Motion, moving
from marquetry.drawing.scene import Box, Cluster, Dot, Label, Line, Mark


def feet_shown(at: FeetAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """Feet over holes as they truly lie; those that came off are struck out."""
    p, plan = at.twin.reader, back_plan(at.twin.reader)
    # A foot hides the hole under it: the holes' rims are drawn over the feet.
    rims = [
        Dot(plan.at(h.radius, h.angle), (h.diameter / 2 + RIM) * plan.scale, "turn-line") for h in at.holes
    ]
    return (*back_ground(p, plan), *feet_marks(p, plan, at.off), *rims), {}


RIM = 0.25
DAY_HIGH, WINDOW_WIDE = 58.0, 78.0
"""Height of a day's step on the disc, and width of the window, mm on paper."""
AHEAD, WINDOW_AT = 9, 62.0


def midnight_shown(at: MidnightAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """The window, much enlarged, the disc's numerals behind it; hands at twelve once they are on."""
    x, y = WINDOW_AT, BENCH_HEIGHT / 2
    numerals = [
        Label(
            (x, y - 14.0 - (k - at.disc) * DAY_HIGH),
            str((at.day - 1 + k) % 31 + 1),
            "window-numeral",
            40.0,
            "middle",
        )
        for k in range(-1, AHEAD)
    ]
    half = DAY_HIGH / 2 - 1.0
    left, right = x - WINDOW_WIDE / 2, x + WINDOW_WIDE / 2
    marks: tuple[Mark, ...] = (
        Box((left, y - half), WINDOW_WIDE, 2 * half, "body body-void"),
        moving("turn creep", *numerals),
        Box((left - 30.0, y + half), WINDOW_WIDE + 60.0, BENCH_HEIGHT - y - half, "cover"),
        Box((left - 30.0, 0.0), WINDOW_WIDE + 60.0, y - half, "cover"),
        Box((left - 14.0, y - half - 10.0), WINDOW_WIDE + 28.0, 10.0, "body body-face"),
        Box((left - 14.0, y + half), WINDOW_WIDE + 28.0, 10.0, "body body-face"),
        Box((left - 14.0, y - half), 14.0, 2 * half, "body body-face"),
        Box((right, y - half), 14.0, 2 * half, "body body-face"),
        *_crown(at),
        Label((EDGE, 3.0), _told(at), "quiet", TYPE),
    )
    step = Motion(0.0, DAY_HIGH)
    return marks, {"turn": step, "creep": step, "back": step}


def _told(at: MidnightAt) -> str:
    if at.off is not None:
        return "hands set at twelve"
    return "the disc creeps" if at.disc else "the disc stands"


def _crown(at: MidnightAt) -> Iterator[Mark]:
    """The crown beside the window, fluted; twelve and the hands on it once they are set."""
    x, y, wide = BENCH_WIDTH - 30.0, BENCH_HEIGHT / 2, 22.0
    yield Box((x - 12.0, y - 3.0), 12.0, 6.0, "body body-post")
    yield Box((x, y - 17.0), wide, 34.0, "body body-steel")
    for k in range(9):
        z = y - 15.0 + k * 3.75
        yield Line(((x, z), (x + wide, z)), "plan-line")
    if at.off is not None:
        middle = WINDOW_AT
        yield Line(((middle, BENCH_HEIGHT - 30.0), (middle, BENCH_HEIGHT - 4.0)), "turn-line")
        yield Label((middle + 3.0, BENCH_HEIGHT - 12.0), "12", "figure halo", TYPE)


ROW_HIGH, MOST_ROWS = 21.0, 6


def measure_shown(at: MeasureAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """Every finding in doubt on a ruler: its band, how far it may be off, where it stands."""
    doubtful = [
        f for f in at.report.ranked() if f.verdict in {Verdict.TIGHT, Verdict.CLASH} and f.low is not None
    ]
    marks: list[Mark] = []
    for row, finding in enumerate(doubtful[:MOST_ROWS]):
        marks += _ruler(at, finding, BENCH_HEIGHT - EDGE - (row + 1) * ROW_HIGH)
    more = len(doubtful) - MOST_ROWS
    waiting = at.report.count(Verdict.UNMEASURED)
    told = [f"{more} more in doubt"] if more > 0 else []
    told += [f"{waiting} wait for a figure"] if waiting else []
    words = "; ".join(told) or (
        "nothing is in doubt any more"
        if not doubtful
        else "bar: how far it may be off; band: where it should lie"
    )
    marks.append(Label((EDGE, 3.0), words, "quiet", TYPE))
    return tuple(marks), {}


def _ruler(at: MeasureAt, finding: Finding, y: float) -> Iterator[Mark]:
    value, low, high = finding.value or 0.0, finding.low or 0.0, finding.high or 0.0
    title = at.twin.rules.model.title(finding.check)
    line = RulerLine(EDGE, BENCH_WIDTH - EDGE, y + 5.2, 3.2, 12.0)
    inner = (
        Label((EDGE, y + 11.2), title, "quiet halo", TYPE),
        *line.marks(finding.limits, low, value, high),
        Label((BENCH_WIDTH - EDGE, y + 11.2), figure(value), "figure word halo", TYPE, "end"),
    )
    yield Cluster(inner, f"ruler verdict-{finding.verdict.value}")


PLANK_HIGH = 20.4


def order_shown(at: OrderAt) -> tuple[tuple[Mark, ...], dict[str, Motion]]:
    """The steps placed so far as planks, the first at the top; places that are still empty dashed."""
    marks: list[Mark] = []
    titles = {step.id: (step.title, GROUP_LABELS[step.group]) for step in at.steps}
    for place in range(SHOWN):
        y = BENCH_HEIGHT - EDGE - (place + 1) * (PLANK_HIGH + 2.4) + 2.4
        is_laid = place < len(at.placed)
        marks.append(
            Box((EDGE, y), BENCH_WIDTH - 2 * EDGE, PLANK_HIGH, "body body-print" if is_laid else "plank-open")
        )
        marks.append(Label((EDGE + 4.0, y + 7.4), str(place + 1), "figure", TYPE))
        if is_laid:
            title, group = titles[at.placed[place]]
            marks.append(Label((EDGE + 14.0, y + 11.4), title, "plank-title", TYPE))
            marks.append(Label((BENCH_WIDTH - EDGE - 3.0, y + 1.8), group.lower(), "quiet", TYPE, "end"))
    return tuple(marks), {}
