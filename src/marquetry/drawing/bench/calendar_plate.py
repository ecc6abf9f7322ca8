"""The calendar: its disc on the movement's face, and a numeral in its window as the figures put it there."""

import math
from collections.abc import Iterator

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchPoint
from marquetry.core.fit.cutouts import date_window_radius
from marquetry.core.fit.plausible import Plausible
from marquetry.core.values.figures import figure
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, EDGE, TYPE, plan_on, pointer
from marquetry.drawing.plan import Plan
from marquetry.drawing.plan_spots import WINDOW_LONG, WINDOW_WIDE
from marquetry.drawing.scene import Box, Cluster, Label, Line, Mark

DAYS = 31
DISC_HALF = 1.4
"""Half the width of the disc's ring, mm."""
JUMP = 26.0
"""Degrees of the arrow beside the disc."""
WORDS = {"off": "off", "disc": "its own disc", "jump": "jumps at midnight"}


def calendar_marks(p: Plausible, s: Situation, points: BenchPoint) -> Iterator[Mark]:
    """The movement's face with the disc that is taken off, put on, or seen to jump."""
    across = p["movement.diameter"]
    plan = plan_on(across / 2 + 2.4)
    middle, crown = p["movement.date_radius"], p["case.crown_angle"]
    angle = p["movement.date_angle"] + crown
    yield plan.circle(across, "body body-movement")
    yield Cluster(tuple(_disc(plan, middle, angle)), "taken" if points == "off" else "bodies")
    yield plan.circle(p["movement.posts.hour.diameter"], "body body-post")
    yield plan.tick(across / 2 - 2.0, across / 2 + 2.2, crown, "centre-line")
    yield from _pointed(plan, middle, angle, points)
    names = s.stripped if points == "off" else s.calendar
    what = " and ".join(names) or "calendar"
    yield Label((BENCH_WIDTH / 2, 3.0), f"{what}: {WORDS[points]}", "figure halo", TYPE, "middle")
    yield Label((EDGE, BENCH_HEIGHT - EDGE - TYPE), "seen from the dial's side", "quiet", TYPE)


def _disc(plan: Plan, middle: float, angle: float) -> Iterator[Mark]:
    yield plan.circle(2 * (middle + DISC_HALF), "body body-print")
    yield plan.circle(2 * (middle - DISC_HALF), "body body-movement")
    for day in range(DAYS):
        turn = angle + (day + 0.5) * 360 / DAYS
        yield plan.tick(middle - DISC_HALF * 0.6, middle + DISC_HALF * 0.6, turn, "plan-line")


def _pointed(plan: Plan, middle: float, angle: float, points: BenchPoint) -> Iterator[Mark]:
    if points == "off":  # nobody sees it: there is no window over it either
        reach = middle + DISC_HALF
        for turn in (45.0, 135.0):
            yield Line((plan.at(reach, turn), plan.at(reach, turn + 180.0)), "strike")
        return
    ends = middle - WINDOW_LONG / 2, middle + WINDOW_LONG / 2
    yield plan.bar(*ends, angle, WINDOW_WIDE, "window-edge", "Where the window stands")
    if points == "jump":
        radius = middle + DISC_HALF + 0.9
        yield plan.arc(radius, angle - JUMP, angle - JUMP / 3, "point-line")
        yield from pointer(plan.at(radius, angle - JUMP / 2), plan.at(radius, angle - JUMP / 6))


def window_marks(p: Plausible, s: Situation) -> Iterator[Mark]:
    """The dial's window, much enlarged, and the numeral as far from its middle as the report finds it."""
    found = s.report.findings
    out, turned = found["date_radius"].value, found["date_angle"].value
    scale = (BENCH_HEIGHT - 2 * EDGE - 5 * TYPE) / (WINDOW_WIDE + 1.0)
    x, y = BENCH_WIDTH / 2, BENCH_HEIGHT / 2 + TYPE
    wide, high = WINDOW_LONG * scale, WINDOW_WIDE * scale
    yield Box((x - wide / 2 - 8.0, y - high / 2 - 8.0), wide + 16.0, high + 16.0, "body body-face")
    yield Box((x - wide / 2, y - high / 2), wide, high, "body body-void")
    for ends in (((x - wide / 2, y), (x + wide / 2, y)), ((x, y - high / 2), (x, y + high / 2))):
        yield Line(ends, "centre-line")
    yield Label((EDGE, BENCH_HEIGHT - EDGE - TYPE), "the watch's centre is at the left", "quiet", TYPE)
    words = "where it will stand is not measured"
    if out is not None and turned is not None:
        aside = float(date_window_radius(p)) * math.radians(turned)
        is_seen = abs(out) < WINDOW_LONG / 2 and abs(aside) < WINDOW_WIDE / 2
        if is_seen:
            at = x + out * scale, y - aside * scale - high * 0.25
            yield Label(at, "28", "window-numeral", high * 0.72, "middle")
        where = "by the figures" if is_seen else "not in it"
        words = f"{where}: {_way(out, 'outwards', 'inwards')}, {_way(aside, 'clockwise', 'anticlockwise')}"
    yield Label((BENCH_WIDTH / 2, 3.0), words, "quiet", TYPE, "middle")


def _way(by: float, one: str, other: str) -> str:
    return f"{figure(abs(by))} {one if by >= 0 else other}"
