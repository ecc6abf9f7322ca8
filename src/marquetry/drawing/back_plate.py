"""The dial from behind, over the movement's holes: which feet meet, which go, the turn it would take."""

from collections.abc import Iterator

from marquetry.core.fit.checks.feet import feet_of, feet_told
from marquetry.core.fit.checks.tabs import RECESSES, TABS, tab_at
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import Report
from marquetry.core.sheet.build import Build
from marquetry.core.values.figures import figure
from marquetry.drawing.margin_notes import findings_on
from marquetry.drawing.plan import Plan, fitting_scale
from marquetry.drawing.plan_spots import plan_foot, plan_spots, window_bars
from marquetry.drawing.scene import Cluster, Dot, Label, Line, Mark, Scene
from marquetry.drawing.section_plate import border
from marquetry.drawing.sheet import HEIGHT, WIDTH, Display

CLOSE_UP = 14.0
"""How much larger the close-up of a foot in its hole is drawn than life."""

CLOSE_UP_PLACE = (WIDTH - 92.0, 30.0)


def back_plate(build: Build, report: Report, display: Display) -> Scene:
    """Draw the dial's back, its findings noted in the margins."""
    p = Plausible(build, report.rules)
    reach = max(p["dial.diameter"], p["movement.diameter"]) / 2 + 1.0
    plan = Plan(fitting_scale(reach, true_size=display.true_size), hand=-1)
    finding = report.findings["dial_feet"]
    marks = (
        *border(),
        Cluster(
            (
                *_dial(p, plan),
                *_tabs(p, plan),
                *_holes(p, plan),
                *_feet(p, plan, finding),
                *window_bars(p, plan),
            ),
            "bodies",
        ),
        *_turn(p, plan, finding),
        *(() if display.true_size else _close_up(p, finding)),
        *findings_on(plan_spots(p, report, plan, ("feet", "date", "tabs")), display),
        Cluster(tuple(plan_foot(plan.scale, "Seen from the back", p.assumed())), "sheet-foot"),
    )
    words = "The dial from behind with its feet over the movement's holes, to scale."
    return Scene(WIDTH, HEIGHT, f"{build.name}: the dial's back", words, marks)


def _dial(p: Plausible, plan: Plan) -> Iterator[Mark]:
    before = len(p.missing)
    dial, movement, hole = p["dial.diameter"], p["movement.diameter"], p["dial.centre_hole"]
    dashed = " assumed" if len(p.missing) > before else ""
    yield plan.circle(dial, f"body body-face{dashed}")
    yield plan.circle(movement, f"plan-line plan-open{dashed}")
    yield plan.circle(hole, "body body-void")
    yield plan.tick(hole / 2, dial / 2, p["case.crown_angle"], "centre-line")
    x, y = plan.at(dial / 2 - 3.4, p["case.crown_angle"])
    yield Label((x, y + 1.0), "stem", "quiet halo", 3.6, "middle")


def _holes(p: Plausible, plan: Plan) -> Iterator[Mark]:
    for index in range(p.count("movement.foot_holes")):
        path = f"movement.foot_holes.{index}"
        radius, angle = p[f"{path}.radius"], p[f"{path}.angle"] + p["case.crown_angle"]
        yield plan.round_at(radius, angle, p[f"{path}.diameter"], "body body-void")
        play = 2 * _wander(
            p, p[f"{path}.diameter"], p["dial.feet.0.diameter"] if p.count("dial.feet") else 0.0
        )
        yield plan.round_at(radius, angle, play, "plan-line")


def _tabs(p: Plausible, plan: Plan) -> Iterator[Mark]:
    """The movement's recesses at its edge, and the holder's tabs in them."""
    turn, edge = p["case.crown_angle"], p["movement.diameter"] / 2
    for index in range(p.count(RECESSES)):
        path = f"{RECESSES}.{index}"
        angle, width = p[f"{path}.angle"] + turn, p[f"{path}.width"]
        yield plan.bar(p[f"{path}.reach"], edge, angle, width, "body body-void", "Recess in the movement")
    for index in range(p.count(TABS)):
        tab = tab_at(p, index)
        outer = p["holder.inner_diameter"] / 2
        words = f"Tab {index + 1} of the holder"
        yield plan.bar(tab.reach, outer, tab.angle + turn, tab.width, "body body-print", words)


def _wander(p: Plausible, hole: float, foot: float) -> float:
    """How far a foot's centre may lie from its hole's, the foot bent as far as the rules let it."""
    return max((hole - foot) / 2 + p.rule("foot_bend"), 0.0)


def _kept(finding: Finding) -> list[int]:
    told = feet_told(finding)
    return [foot for foot, _ in told.pairs] if told else []


def _feet(p: Plausible, plan: Plan, finding: Finding) -> Iterator[Mark]:
    kept = _kept(finding)
    for index in feet_of(p):
        path = f"dial.feet.{index}"
        radius, angle, diameter = p[f"{path}.radius"], p[f"{path}.angle"], p[f"{path}.diameter"]
        stays = index in kept or finding.value is None
        yield plan.round_at(radius, angle, diameter, "body body-hand" if stays else "body body-rubber")
        x, y = plan.at(radius, angle)
        if not stays:
            arm = diameter * plan.scale
            yield Line(((x - arm, y - arm), (x + arm, y + arm)), "strike")
            yield Line(((x - arm, y + arm), (x + arm, y - arm)), "strike")
        words = f"foot {index + 1}" + ("" if stays else ", take off")
        yield Label((x, y - diameter / 2 * plan.scale - 3.6), words, "quiet halo", 3.6, "middle")


def _turn(p: Plausible, plan: Plan, finding: Finding) -> Iterator[Mark]:
    """The turn that would bring the best feet over their holes."""
    told = feet_told(finding)
    turn = told.turn if told else 0.0
    if abs(turn) < 0.05 or not p.count("dial.feet"):  # noqa: PLR2004  # told as 0.0°
        return
    radius, start = p["dial.feet.0.radius"] - 1.6, p["dial.feet.0.angle"]
    yield plan.arc(radius, start, start + turn, "turn-line")
    yield Dot(plan.at(radius, start + turn), 0.8, "turn-end")
    x, y = plan.at(radius - 2.2, start + turn / 2)
    yield Label((x, y), f"{figure(turn, 1, '°', signed=True)}", "figure halo", 3.6, "middle")


def _close_up(p: Plausible, finding: Finding) -> Iterator[Mark]:
    """The first kept foot in its hole, much enlarged: hole, foot, and how far its centre may wander."""
    told = feet_told(finding)
    pairs = told.pairs if told else ()
    if not pairs:
        return
    foot, hole = (
        f"{what}.{index}" for what, index in zip(("dial.feet", "movement.foot_holes"), pairs[0], strict=True)
    )
    x, y = CLOSE_UP_PLACE
    hole_d, foot_d = p[f"{hole}.diameter"], p[f"{foot}.diameter"]
    at_hole = Plan(CLOSE_UP, hand=-1, centre=(0.0, 0.0)).at(
        p[f"{hole}.radius"], p[f"{hole}.angle"] + p["case.crown_angle"]
    )
    at_foot = Plan(CLOSE_UP, hand=-1, centre=(0.0, 0.0)).at(p[f"{foot}.radius"], p[f"{foot}.angle"])
    off = (at_foot[0] - at_hole[0], at_foot[1] - at_hole[1])
    yield Dot((x, y), hole_d / 2 * CLOSE_UP, "body body-void")
    yield Dot((x + off[0], y + off[1]), foot_d / 2 * CLOSE_UP, "body body-foot")
    yield Dot((x, y), _wander(p, hole_d, foot_d) * CLOSE_UP, "plan-line plan-open")
    yield Dot((x + off[0], y + off[1]), 0.5, "body body-hand")
    words = f"foot {pairs[0][0] + 1} in its hole, {CLOSE_UP:g} : 1"
    yield Label((x, y - hole_d / 2 * CLOSE_UP - 4.0), words, "quiet halo", 3.6, "middle")
