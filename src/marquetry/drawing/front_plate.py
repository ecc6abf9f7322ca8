"""The watch from the crystal side, to scale: case, bezel, dial with its windows, hands at a time."""

from collections.abc import Iterator

from marquetry.core.face.face import seen_face
from marquetry.core.fit import levels
from marquetry.core.fit.checks.ring import CASE as DETENT
from marquetry.core.fit.checks.ring import RING as NOTCH
from marquetry.core.fit.checks.wishes import DIAMETER, SPAN
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import Report
from marquetry.core.section.case_bodies import flank_radius
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import HANDS
from marquetry.drawing.face.face_drawing import drawn_face
from marquetry.drawing.hand_turns import turns_of
from marquetry.drawing.margin_notes import findings_on
from marquetry.drawing.plan import Plan, fitting_scale
from marquetry.drawing.plan_spots import bar_axis, case_radius, plan_foot, plan_spots, window_bars
from marquetry.drawing.scene import Cluster, Dot, Line, Mark, Scene
from marquetry.drawing.section_plate import border
from marquetry.drawing.sheet import HEIGHT, WIDTH, Display
from marquetry.drawing.svg import FACE

FRONT = ("date", "disc", "windows", "track", "notch", "bezel", "strap", "bars", "across", "length")
"""Places of the plan that are seen from the front."""
NOTCH_DEEP, NOTCH_WIDE = 0.9, 1.2
LUG_WIDTH, CROWN_WIDTH, CROWN_LENGTH = 2.4, 5.8, 3.0
HAND_WIDTHS = {"h24": 0.7, "hour": 1.2, "minute": 0.9, "seconds": 0.3}
MARKER_LENGTH = 0.9
STUB = 1.2
"""How much of the strap the plate has room for beyond the lugs, mm."""


def front_plate(build: Build, report: Report, display: Display) -> Scene:
    """Draw the front, its findings noted in the margins."""
    p = Plausible(build, report.rules)
    reach = max(p["case.lug_to_lug"] / 2, case_radius(p) + CROWN_LENGTH) + 0.5
    plan = Plan(fitting_scale(reach, true_size=display.true_size))
    marks = (
        *border(),
        *(_as_measured(p, plan, display) if display.measured else _as_it_looks(build, report, plan, display)),
        *_wished(p, plan),
        *findings_on(plan_spots(p, report, plan, FRONT), display),
        Cluster(tuple(plan_foot(plan.scale, "Seen from the crystal side", p.assumed())), "sheet-foot"),
    )
    return Scene(WIDTH, HEIGHT, f"{build.name}: front", "The watch from the crystal side, to scale.", marks)


def _as_measured(p: Plausible, plan: Plan, display: Display) -> Iterator[Mark]:
    yield Cluster((*front_bodies(p, plan), *hand_marks(p, plan, display.time)), "bodies")


def _as_it_looks(build: Build, report: Report, plan: Plan, display: Display) -> Iterator[Mark]:
    face = seen_face(build, report)
    yield Cluster(tuple(drawn_face(plan, face, display.time, strap=STUB)), FACE)


def front_bodies(p: Plausible, plan: Plan) -> tuple[Mark, ...]:
    """Case, bezel and dial, without the hands."""
    return (*_case(p, plan), *_bezel(p, plan), *_dial(p, plan))


def _classes(p: Plausible, material: str, before: int) -> str:
    """A body's classes: dashed if something had to be assumed since `before` dimensions were missing."""
    return f"body body-{material}" + (" assumed" if len(p.missing) > before else "")


def _case(p: Plausible, plan: Plan) -> Iterator[Mark]:
    if not p.has("case"):
        return
    before = len(p.missing)
    flank, ends = case_radius(p), p["case.lug_to_lug"] / 2
    apart = p["case.lug_width"] / 2
    crown = p["case.crown_angle"]
    classes = _classes(p, "steel", before)
    x, y = plan.centre
    for side in (-1, 1):
        for way in (-1, 1):
            left, right = (x + side * r * plan.scale for r in (apart, apart + LUG_WIDTH))
            far, near = (y + way * r * plan.scale for r in (ends, flank * 0.6))
            outline = ((left, near), (right, near), (right, far), (left, far))
            yield Line(outline, classes, closed=True, title="Lug")
    if p.has("strap"):
        half, long = p["strap.width"] / 2 * plan.scale, ends * plan.scale
        for way in (-1, 1):
            near, far = y + way * flank * 0.7 * plan.scale, y + way * long
            outline = ((x - half, near), (x + half, near), (x + half, far), (x - half, far))
            yield Line(outline, "body body-strap", closed=True, title="Strap")
    yield from _bars(p, plan)
    if p.has("crown"):
        flank = flank_radius(p)
        yield plan.bar(flank - 0.5, flank + CROWN_LENGTH, crown, CROWN_WIDTH, classes, "Crown")
    yield plan.circle(2 * case_radius(p), classes)


def _bars(p: Plausible, plan: Plan) -> Iterator[Mark]:
    """The spring bars between the lugs, their tips in the lugs' holes."""
    if not p.has("spring_bars"):
        return
    before = len(p.missing)
    half, axis = p["case.lug_width"] / 2, bar_axis(p)
    thick, tip = p["spring_bars.diameter"] / 2, p["spring_bars.tip_diameter"] / 2
    classes = _classes(p, "steel", before)
    x, y = plan.centre
    for way in (-1, 1):
        middle = y + way * axis * plan.scale
        for reach, radius in ((half + 1.0, tip), (half, thick)):
            left, right = x - reach * plan.scale, x + reach * plan.scale
            low, high = middle - radius * plan.scale, middle + radius * plan.scale
            corners = ((left, low), (right, low), (right, high), (left, high))
            yield Line(corners, classes, closed=True, title="Spring bar")


def _wished(p: Plausible, plan: Plan) -> Iterator[Mark]:
    """The most that was wished, dashed: a circle for the diameter, a line beyond the lugs for the length."""
    wide, long = p.target(DIAMETER), p.target(SPAN)
    if wide is not None:
        yield plan.circle(wide, "plan-line plan-open plan-wish")
    if long is not None:
        x, y = plan.centre
        half = (p["case.lug_width"] / 2 + LUG_WIDTH) * plan.scale
        for way in (-1, 1):
            level = y + way * long / 2 * plan.scale
            yield Line(((x - half, level), (x + half, level)), "plan-line plan-wish")


def _bezel(p: Plausible, plan: Plan) -> Iterator[Mark]:
    if not p.has("bezel"):
        return
    before = len(p.missing)
    outer = p["bezel.channel_outer_diameter"] / 2
    yield plan.circle(2 * outer + 1.6, _classes(p, "brass", before))
    clicks = p.whole("bezel.clicks") or 0
    for click in range(clicks if clicks <= 240 else 0):  # noqa: PLR2004  # finer ticks would run together
        yield plan.tick(outer + 0.5, outer + 0.8, 360 * click / clicks, "plan-line")
    if p.has("bezel_insert"):
        before = len(p.missing)
        rim, inner = p["bezel_insert.outer_diameter"] / 2, p["bezel_insert.inner_diameter"] / 2
        yield plan.circle(2 * rim, _classes(p, "insert", before))
        offset = p["bezel.index_offset"]
        for mark in range(12):
            yield plan.tick(inner + 0.8, rim - 0.8, 30 * mark + offset, "plan-line")
        yield plan.bar(inner + 0.7, rim - 0.5, offset, 1.6, "body body-hand")


def _dial(p: Plausible, plan: Plan) -> Iterator[Mark]:
    if p.has("crystal"):
        yield plan.circle(p["crystal.diameter"], "body body-glass")
    if p.has("chapter_ring"):
        yield plan.circle(p["crystal.diameter"] - 1.2, "body body-brass")
    yield from _notch(p, plan)
    before = len(p.missing)
    yield plan.circle(levels.opening(p), _classes(p, "face", before))
    yield from dial_marks(p, plan)


def dial_marks(p: Plausible, plan: Plan) -> Iterator[Mark]:
    """What is printed and raised on the dial, and its window."""
    if p.known("dial.track_radius"):
        track = p["dial.track_radius"]
        yield plan.circle(2 * track, "plan-line plan-open")
        for minute in range(60):
            yield plan.tick(track - (0.9 if minute % 5 == 0 else 0.5), track, 6.0 * minute, "plan-line")
    for index in range(p.count("dial.features")):
        inner = p[f"dial.features.{index}.inner_radius"]
        for mark in range(12):
            yield plan.bar(
                inner, inner + MARKER_LENGTH, 30 * mark, 0.5, "body body-steel", "Raised on the dial"
            )
    yield from window_bars(p, plan)


def _notch(p: Plausible, plan: Plan) -> Iterator[Mark]:
    """The ring's notch at 12 o'clock, and the case's detent that it is to sit on."""
    edge = p["crystal.diameter"] / 2 - 0.6
    if p.flag(NOTCH):
        yield plan.bar(edge - NOTCH_DEEP, edge, 0.0, NOTCH_WIDE, "body body-void", "The ring's notch")
    if p.flag(DETENT):
        outer = edge - NOTCH_DEEP / 3
        yield plan.bar(outer - NOTCH_DEEP / 3, edge, 0.0, NOTCH_WIDE / 2, "body body-steel", "Detent")


def hand_marks(p: Plausible, plan: Plan, time: str) -> Iterator[Mark]:
    """The hands at a time, each as long as it was measured."""
    turns = turns_of(time)
    for hand in HANDS:
        path = f"hands.{hand}"
        if p.has(path):
            before = len(p.missing)
            length = p[f"{path}.length"]
            classes = _classes(p, "plan-hand", before)
            yield plan.bar(
                -2.0, length, turns[hand], HAND_WIDTHS[hand], classes, p.build.anatomy.label_of(path)
            )
    yield Dot(plan.centre, 0.9 * plan.scale, "body body-hand")
