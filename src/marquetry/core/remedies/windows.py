"""Windows that are cut into a foot, under the ledge or into the centre hole: cut elsewhere, or another dial."""

import math
from collections.abc import Callable, Iterator, Mapping

from marquetry.core.fit.checks.windows import DISC, seen_radius
from marquetry.core.fit.cutouts import cutouts, distance, furthest, nearest
from marquetry.core.fit.report import Report
from marquetry.core.fit.trace import Trace, aside
from marquetry.core.remedies.idea import Idea, is_possible, rounded, with_value
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import date_cutout
from marquetry.core.values.dimension import Source
from marquetry.core.values.number import nominal

SPARE = 0.05
"""What a moved window is clear of its limit beyond every tolerance, mm."""
CALENDAR_PLACES = {"date_angle": "angle", "date_radius": "at_radius"}
"""By which size of its cut-out the date's window comes to its numeral."""
WHERE = {
    "window_seen": "nearer the centre",
    "window_centre": "further from the centre",
    "window_feet": "turned away from the foot",
    "window_h24": "within the disc",
}
"""Where a window goes, for each check that complains of it."""
STEP = 0.05
"""To this a window is drawn, mm."""
FURTHEST_TURN = 20
"""Half degrees by which a window of no calendar is turned away from a foot, before it is another design."""
Moved = Mapping[str, float]


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """Each window that the check complains of, moved by what is lacking; all of them in one idea."""
    moves = MOVES.get(check)
    finding = report.findings.get(check)
    if check in CALENDAR_PLACES and finding is not None and finding.value is not None:
        yield from _at_the_numeral(build, check, finding.value)
    if moves is None or finding is None or finding.low is None:
        return
    r, need = aside(build, report.rules), (finding.limits.low or 0.0) + (finding.value or 0.0) - finding.low
    values: dict[str, float] = {}
    for path in cutouts(r):
        values |= moves(r, path, need + SPARE)
    values = {path: rounded(value, STEP) for path, value in values.items()}
    if values and all(is_possible(build, path, value) for path, value in values.items()):
        yield _cut(build, values, WHERE[check])


def _at_the_numeral(build: Build, check: str, off: float) -> Iterator[Idea]:
    """The date's cut-out, while it is only drawn, brought to where the numeral stands; mm or °."""
    cut = date_cutout(build)
    if cut is None or build.at(f"{cut}.shape") == "arc":
        return
    path = f"{cut}.{CALENDAR_PLACES[check]}"
    drawn = build.dimensions.get(path)
    if drawn is None or drawn.source is not Source.PLANNED:
        return
    place = round(drawn.value + off, 2) % 360.0
    told = f"at {place:.1f}°" if check == "date_angle" else f"{place:.2f} mm from the centre"
    yield Idea("moved_window", f"Cut the date window {told}", with_value(build, path, place), 2, make="dial")


def _cut(build: Build, values: Moved, where: str) -> Idea:
    """The windows at these sizes, mm and °: where they are not cut yet by drawing them so."""
    made = build
    for path, value in values.items():
        made = with_value(made, path, value)
    numbers = sorted({int(path.split(".")[2]) + 1 for path in values})
    named = " and ".join(map(str, numbers))
    which = f"window {named}" if len(numbers) == 1 else f"windows {named}"
    is_cut = any(build.dimensions[path].source is not Source.PLANNED for path in values)
    if is_cut:
        return Idea("other_dial", f"A dial with {which} cut {where}", made, 3)
    return Idea("moved_window", f"Cut {which} {where}", made, 2, make="dial")


def _inwards(r: Trace, path: str, need: float) -> Moved:
    """Its outer edge brought in under ledge or ring, mm."""
    edge = _plain(seen_radius(r)) - need
    if _plain(furthest(r, path)) <= edge:
        return {}
    shape = r.word(f"{path}.shape")
    if shape == "arc":
        return {f"{path}.outer_radius": _down(edge)}
    if shape == "rectangle":
        half = _plain(r[f"{path}.width"]) / 2
        corner = math.sqrt(max(edge**2 - half**2, 0.0))
        return {f"{path}.at_radius": _down(corner - _plain(r[f"{path}.height"]) / 2)}
    return {f"{path}.at_radius": _down(edge - _plain(r[f"{path}.diameter"]) / 2)}


def _outwards(r: Trace, path: str, need: float) -> Moved:
    """Its inner edge brought out from the centre hole, mm."""
    edge = _plain(r["dial.centre_hole"]) / 2 + need
    off = edge - _plain(nearest(r, path))
    if off <= 0:
        return {}
    key = "inner_radius" if r.word(f"{path}.shape") == "arc" else "at_radius"
    size = {"round": "diameter", "rectangle": "height"}.get(str(r.word(f"{path}.shape")))
    half = _plain(r[f"{path}.{size}"]) / 2 if size else 0.0
    return {f"{path}.{key}": _up(edge + half)}


def _off_the_feet(r: Trace, path: str, need: float) -> Moved:
    """Turned away from the foot that it comes too near to; a window of the calendar stays at its numeral."""
    if r.word(f"{path}.for") in {"date", "day"} or r.word(f"{path}.shape") == "arc":
        return {}
    place = _plain(r[f"{path}.angle"])
    feet = [f"dial.feet.{number}" for number in range(r.count("dial.feet"))]

    def room(turn: float) -> float:
        """Room at the nearest foot, mm: every foot is turned the other way, so that the window stays as read."""
        return min(
            _plain(distance(r, path, r[f"{f}.radius"], r[f"{f}.angle"] - turn))
            - _plain(r[f"{f}.diameter"]) / 2
            for f in feet
        )

    if not feet or room(0.0) >= need:
        return {}
    turns = (sign * half / 2 for half in range(1, 2 * FURTHEST_TURN + 1) for sign in (1, -1))
    turn = next((turn for turn in turns if room(turn) >= need), None)
    return {} if turn is None else {f"{path}.angle": place + turn}


def _over_the_disc(r: Trace, path: str, need: float) -> Moved:
    """Its edges brought within those of the disc, mm."""
    if r.word(f"{path}.for") != "h24" or r.word(f"{path}.shape") != "arc":
        return {}
    inner, outer = _plain(r[f"{DISC}.inner_radius"]) + need, _plain(r[f"{DISC}.outer_radius"]) - need
    moved = {}
    if _plain(r[f"{path}.inner_radius"]) < inner:
        moved[f"{path}.inner_radius"] = _up(inner)
    if _plain(r[f"{path}.outer_radius"]) > outer:
        moved[f"{path}.outer_radius"] = _down(outer)
    return moved


def _plain(number: object) -> float:
    return float(nominal(number))


def _up(value: float) -> float:
    return math.ceil(round(value / STEP, 6)) * STEP


def _down(value: float) -> float:
    return math.floor(round(value / STEP, 6)) * STEP


MOVES: Mapping[str, Callable[[Trace, str, float], Moved]] = {
    "window_seen": _inwards,
    "window_centre": _outwards,
    "window_feet": _off_the_feet,
    "window_h24": _over_the_disc,
}
"""How a window is moved for each check."""
