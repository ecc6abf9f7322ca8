"""The watch from above: what a step is about picked out, and the insert with its adhesive and its mark."""

from collections.abc import Iterator

from marquetry.core.fit.plausible import Plausible
from marquetry.core.section.case_bodies import flank_radius
from marquetry.core.values.figures import figure
from marquetry.drawing.bench.paper import BENCH_HEIGHT, EDGE, TYPE, plan_on
from marquetry.drawing.front_plate import front_bodies
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Cluster, Label, Line, Mark

CROWN_REACH = 3.6


def front_marks(p: Plausible, parts: tuple[str, ...]) -> Iterator[Mark]:
    """Case, bezel and dial from the front, upright lines through twelve and the crown."""
    del parts
    reach = max(p["case.lug_to_lug"] / 2, flank_radius(p) + CROWN_REACH)
    plan = plan_on(reach)
    yield Cluster(front_bodies(p, plan), "bodies")
    yield from cross(plan, reach, p["case.crown_angle"])


def cross(plan: Plan, reach: float, crown: float) -> Iterator[Mark]:
    """The lines through twelve and through the crown, twelve named; `reach` in mm from the axis."""
    yield Line((plan.at(reach, 0.0), plan.at(reach, 180.0)), "centre-line")
    yield Line((plan.at(reach, crown), plan.at(reach, crown + 180.0)), "centre-line")
    yield _twelve(plan, reach)


def _twelve(plan: Plan, reach: float) -> Label:
    """Twelve o'clock, over what is drawn."""
    x, y = plan.at(reach, 0.0)
    return Label((x, y + 1.0), "12", "figure halo", TYPE, "middle")


def insert_marks(p: Plausible, parts: tuple[str, ...]) -> Iterator[Mark]:
    """The bezel from above: the adhesive's ring, the mark at twelve, its clicks."""
    outer = p["bezel.channel_outer_diameter"] / 2
    plan = plan_on(outer + 1.4)
    yield plan.circle(2 * outer + 1.6, "body body-brass")
    rim, inner = p["bezel_insert.outer_diameter"] / 2, p["bezel_insert.inner_diameter"] / 2
    yield plan.circle(2 * rim, "body body-insert")
    yield plan.circle(2 * inner, "body body-glass")
    clicks = p.whole("bezel.clicks") or 0
    for click in range(clicks if clicks <= 240 else 0):  # noqa: PLR2004  # finer ticks would run together
        yield plan.tick(outer + 0.3, outer + 0.8, 360 * click / clicks, "plan-line")
    turning = p["bezel.turning_inner_diameter"] / 2 if p.known("bezel.turning_inner_diameter") else 0.0
    begins = max(inner, turning)
    if "bezel_insert" in parts:
        for part in range(5):
            radius = begins + (rim - begins) * (part + 0.5) / 5
            yield plan.arc(radius, 0.0, 360.0, "pad-line thin")
        words = f"adhesive {figure(rim - begins)} wide"
        yield Label((EDGE, BENCH_HEIGHT - EDGE - TYPE), words, "figure halo", TYPE)
    yield plan.bar(begins + 0.3, rim - 0.3, p["bezel.index_offset"], 1.6, "body body-hand")
    yield Line((plan.at(outer + 1.2, 0.0), plan.at(outer + 1.2, 180.0)), "centre-line")
    yield _twelve(plan, outer + 1.2)
    yield Label(
        (plan.centre[0], plan.centre[1] - TYPE / 2),
        f"{clicks} clicks" if clicks else "bezel",
        "quiet halo",
        TYPE,
        "middle",
    )
