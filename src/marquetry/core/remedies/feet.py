"""Feet that miss their holes: pads, new holes, an adapter, a turn, another dial; feet too long or too short."""

import math
from collections.abc import Iterator
from itertools import combinations

from marquetry.core.fit.checks.feet import feet_told
from marquetry.core.fit.footing import Place, places
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import aside
from marquetry.core.remedies.fits import CHIPS
from marquetry.core.remedies.idea import MADE_TOL, Idea, with_value
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import cutouts_of
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

PAD = 0.10
ADAPTER = 0.60
DRILL_STEP = 0.05
DRILL_PLAY = 0.10
WALL = 0.30
"""Least material between two holes, and between a hole and the movement's edge."""
BOTTOM = 0.10


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """What can be done about feet."""
    if check == "foot_bottoming":
        yield from _shortened(build, report)
    if check != "dial_feet":
        return
    yield _on_pads(build)
    yield from _new_holes(build, report.rules)
    yield _on_adapter(build)
    yield from _turned(build, report)
    yield from _other_dial(build, report.rules)


def left_over(build: Build, report: Report) -> Iterator[Idea]:
    """Feet that no hole waits for, where two others hold the dial: they come off, and no check judges it."""
    told = feet_told(report.findings["dial_feet"])
    if told is None or not told.pairs or not told.remove:
        return
    feet = build.at("dial.feet") or []
    kept = [foot for number, foot in enumerate(feet) if number not in told.remove]
    names = " and ".join(str(number + 1) for number in told.remove)
    feet_named, them = ("feet", "them") if len(told.remove) > 1 else ("foot", "it")
    title = f"Take {feet_named} {names} off: no hole waits for {them}"
    caution = "Feet are cut, not twisted: blade away from the hand."
    yield Idea("feet_off", title, build.with_entry("dial.feet", kept), 1, undo=False, caution=caution)


def _planned(thickness: float) -> Json:
    return dimension_as_json(Dimension(thickness, MADE_TOL, Source.PLANNED))


def _on_pads(build: Build) -> Idea:
    title = f"Take the feet off and use adhesive pads of {figure(PAD, 2, 'mm')}, the dial aligned to the stem"
    return Idea(
        "pads",
        title,
        build.with_entry("dial.feet", []).with_entry(
            "dial.fastening", {"kind": "pads", "thickness": _planned(PAD)}
        ),
        1,
        undo=False,
        school="pads",
        caution="Feet are cut, not twisted: blade away from the hand.",
    )


def _on_adapter(build: Build) -> Idea:
    title = f"A printed adapter of {figure(ADAPTER, 2, 'mm')} between dial and movement takes the feet"
    carried = build.with_entry("dial_adapter", {"name": "Printed carrier", "thickness": _planned(ADAPTER)})
    return Idea("adapter", title, carried, 2, school="adapter", make="adapter")


def _places(build: Build, rules: Rules) -> tuple[tuple[Place, ...], tuple[Place, ...]]:
    """Feet, and holes as they lie in the movement, its own angles."""
    trace = aside(build, rules)
    return places(trace, "dial.feet"), places(trace, "movement.foot_holes")


def _new_holes(build: Build, rules: Rules) -> Iterator[Idea]:
    """Two holes under two feet, where the movement's ring has room for them."""
    feet, holes = _places(build, rules)
    trace = aside(build, rules)
    turn = float(nominal(trace["case.crown_angle"]))
    edge = float(nominal(trace["movement.diameter"])) / 2
    if trace.missing or trace.absent:
        return
    new = {index: _hole(foot, turn) for index, foot in enumerate(feet)}
    free = [index for index, hole in new.items() if _has_room(hole, holes, edge)]
    pairs = sorted(combinations(free, 2), key=lambda p: -abs(feet[p[0]].at() - feet[p[1]].at()))
    for first, second in pairs[:1]:
        made = build
        for index in (first, second):
            made = made.with_entry("movement.foot_holes.-", _as_json(new[index]))
        told = " and ".join(
            f"{figure(new[i].radius, 2, 'mm')} from the centre at {figure(new[i].angle, 1)}° from the stem"
            for i in (first, second)
        )
        title = f"Drill two holes of {figure(new[first].diameter, 2, 'mm')} into the movement's ring: {told}"
        caution = f"Rotor off, the movement covered. {CHIPS}"
        yield Idea(
            "new_holes",
            title,
            made,
            3,
            undo=False,
            school="new_holes",
            make="drilling template",
            caution=caution,
        )


def drilled(build: Build, rules: Rules) -> Json:
    """The movement's holes once two are drilled for the feet, as a list; None where there is no room."""
    made = next(_new_holes(build, rules), None)
    return None if made is None else made.build.at("movement.foot_holes")


def _hole(foot: Place, crown_angle: float) -> Place:
    drill = math.ceil((foot.diameter + DRILL_PLAY) / DRILL_STEP - 1e-9) * DRILL_STEP
    return Place(foot.radius, (foot.angle - crown_angle) % 360.0, round(drill, 4), 0.05, 0.3, MADE_TOL)


def _has_room(hole: Place, others: tuple[Place, ...], edge: float) -> bool:
    inside = hole.radius + hole.diameter / 2 + WALL <= edge
    apart = (abs(hole.at() - other.at()) - (hole.diameter + other.diameter) / 2 >= WALL for other in others)
    return inside and all(apart)


def _as_json(place: Place) -> Json:
    return {
        "radius": dimension_as_json(Dimension(place.radius, place.radius_tol, Source.PLANNED)),
        "angle": dimension_as_json(Dimension(round(place.angle, 3), place.angle_tol, Source.PLANNED)),
        "diameter": dimension_as_json(Dimension(place.diameter, place.diameter_tol, Source.PLANNED)),
    }


def _turned(build: Build, report: Report) -> Iterator[Idea]:
    """The whole dial turned until its feet meet: for a dial whose print allows it."""
    told = feet_told(report.findings["dial_feet"])
    turn = told.turn if told else 0.0
    if abs(turn) < 0.5:  # noqa: PLR2004  # within what nobody sees, it is turned already
        return
    paths = [f"dial.feet.{index}.angle" for index in range(build.count("dial.feet"))]
    paths.append("dial.date_window_angle")
    # What is cut into the dial turns with it: an arc by both its ends.
    paths += [f"{cut}.{key}" for cut in cutouts_of(build) for key in ("angle", "from", "to")]
    made = build
    for path in paths:
        if path in build.dimensions:
            made = with_value(made, path, round((build.dimensions[path].value + turn) % 360.0, 2))
    way = "clockwise" if turn > 0 else "anticlockwise"
    title = (
        f"Turn the dial by {figure(abs(turn), 1)}° {way}: only for a dial without numerals, or with its own"
    )
    yield Idea("dial_turn", title, made, 1)


def _other_dial(build: Build, rules: Rules) -> Iterator[Idea]:
    """A dial whose feet stand over two of the movement's holes, the two furthest apart."""
    _, holes = _places(build, rules)
    turn = float(nominal(aside(build, rules)["case.crown_angle"]))
    feet = build.at("dial.feet")
    if len(holes) < 2 or not feet or math.isnan(turn):  # noqa: PLR2004  # two feet hold a dial
        return
    pair = max(combinations(holes, 2), key=lambda p: abs(p[0].at() - p[1].at()))
    made = [
        {**feet[0], "radius": _listed(hole.radius), "angle": _listed(round((hole.angle + turn) % 360.0, 2))}
        for hole in pair
    ]
    told = " and ".join(
        f"{figure(hole.radius)} mm at {figure((hole.angle + turn) % 360.0, 1)}°" for hole in pair
    )
    title = f"A dial made for this movement and crown, its feet at {told}"
    yield Idea("other_dial", title, build.with_entry("dial.feet", made), 3, school="other_dial")


def _listed(value: float) -> Json:
    return dimension_as_json(Dimension(value, 0.05, Source.LISTED))


def _shortened(build: Build, report: Report) -> Iterator[Idea]:
    finding = report.findings["foot_bottoming"]
    if finding.value is None or finding.low is None:
        return
    less = (finding.limits.low or 0.0) - finding.low + BOTTOM
    made = build
    for index in range(build.count("dial.feet")):
        old = build.dimensions.get(f"dial.feet.{index}.length")
        if old is not None and old.value - less > 0:
            made = with_value(made, f"dial.feet.{index}.length", old.value - less)
    title = f"Shorten the feet by {figure(less, 2, 'mm')} with a fine file"
    yield Idea("shorter_feet", title, made, 1, undo=False, caution=CHIPS)
