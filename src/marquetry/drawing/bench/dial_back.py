"""The dial from behind, feet numbered: which come off, where pads lie, where holes are drilled."""

from collections.abc import Collection, Iterator

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.checks.feet import feet_of
from marquetry.core.fit.plausible import Plausible
from marquetry.drawing.bench.paper import BENCH_HEIGHT, BENCH_WIDTH, EDGE, TYPE, plan_on
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Dot, Label, Line, Mark

ARM = 0.8
PAD_HALF_TURN = 14.0
PADS = (60.0, 180.0, 300.0)
"""Where pads are laid: clockwise from the stem, degrees, away from stem and date."""
PAD_WIDTH = 1.6


def back_plan(p: Plausible) -> Plan:
    """Seen from the back, as wide as dial and movement."""
    return plan_on(max(p["dial.diameter"], p["movement.diameter"]) / 2 + 0.6, hand=-1)


def back_ground(p: Plausible, plan: Plan) -> Iterator[Mark]:
    """Dial, movement and its holes, seen from the back, the stem's line over them."""
    before = len(p.missing)
    dial, movement = p["dial.diameter"], p["movement.diameter"]
    dashed = " assumed" if len(p.missing) > before else ""
    yield plan.circle(dial, f"body body-face{dashed}")
    yield plan.circle(movement, f"plan-line plan-open{dashed}")
    yield plan.circle(p["dial.centre_hole"], "body body-void")
    crown = p["case.crown_angle"]
    yield plan.tick(p["dial.centre_hole"] / 2, dial / 2 + 3.0, crown, "centre-line")
    x, y = plan.at(dial / 2 - 2.6, crown)
    yield Label((x, y + 1.2), "stem", "quiet halo", TYPE, "middle")
    yield Label((EDGE, BENCH_HEIGHT - EDGE - TYPE), "seen from the back", "quiet", TYPE)
    for index in range(p.count("movement.foot_holes")):
        path = f"movement.foot_holes.{index}"
        yield plan.round_at(
            p[f"{path}.radius"], p[f"{path}.angle"] + crown, p[f"{path}.diameter"], "body body-void"
        )


def _ground(p: Plausible, plan: Plan, s: Situation) -> Iterator[Mark]:
    yield from back_ground(p, plan)
    yield from feet_marks(p, plan, s.removed_feet)


def feet_marks(p: Plausible, plan: Plan, struck: Collection[int]) -> Iterator[Mark]:
    """The dial's feet, numbered from 1; those of these numbers, from 0, struck out."""
    for index in feet_of(p):
        path = f"dial.feet.{index}"
        radius, angle, diameter = (p[f"{path}.{key}"] for key in ("radius", "angle", "diameter"))
        off = index in struck
        yield plan.round_at(radius, angle, diameter, "body body-rubber" if off else "body body-hand")
        x, y = plan.at(radius, angle)
        if off:
            arm = ARM * plan.scale
            yield Line(((x - arm, y - arm), (x + arm, y + arm)), "strike")
            yield Line(((x - arm, y + arm), (x + arm, y - arm)), "strike")
        inner = plan.at(radius - 2.4, angle)
        words = f"{index + 1} off" if off else f"foot {index + 1}"
        yield Label((inner[0], inner[1] - TYPE / 3), words, "figure halo", TYPE, "middle")


def back_marks(p: Plausible, s: Situation) -> Iterator[Mark]:
    """Feet over holes, those that come off struck out."""
    yield from _ground(p, back_plan(p), s)


def pad_marks(p: Plausible, s: Situation) -> Iterator[Mark]:
    """Where pads lie on the movement's ring: clear of the stem, in three places."""
    plan = back_plan(p)
    yield from _ground(p, plan, s)
    middle = p["movement.diameter"] / 2 - PAD_WIDTH
    for place in PADS:
        angle = p["case.crown_angle"] + place
        for radius in (middle - PAD_WIDTH / 2, middle, middle + PAD_WIDTH / 2):
            yield plan.arc(radius, angle - PAD_HALF_TURN, angle + PAD_HALF_TURN, "pad-line")
    yield Label((BENCH_WIDTH - EDGE, BENCH_HEIGHT - EDGE - TYPE), "pads", "quiet", TYPE, "end")


def drilled_marks(p: Plausible, s: Situation) -> Iterator[Mark]:
    """Where each foot wants its hole, marked for the drill."""
    plan = back_plan(p)
    yield from _ground(p, plan, s)
    for index in feet_of(p):
        path = f"dial.feet.{index}"
        at = plan.at(p[f"{path}.radius"], p[f"{path}.angle"])
        yield Dot(at, (p[f"{path}.diameter"] / 2 + 0.5) * plan.scale, "turn-line")
        arm = 1.3 * plan.scale
        yield Line(((at[0] - arm, at[1]), (at[0] + arm, at[1])), "centre-line")
        yield Line(((at[0], at[1] - arm), (at[0], at[1] + arm)), "centre-line")
