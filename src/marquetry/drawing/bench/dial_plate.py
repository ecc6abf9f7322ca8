"""The dial by itself, from the front: as it lies on the bench, or with its hands on."""

from collections.abc import Iterator

from marquetry.core.bench.step import BenchPoint
from marquetry.core.fit.plausible import Plausible
from marquetry.drawing.bench.paper import plan_on
from marquetry.drawing.bench.top import cross
from marquetry.drawing.front_plate import dial_marks, hand_marks
from marquetry.drawing.scene import Cluster, Mark
from marquetry.drawing.sheet import USUAL_TIME


def dial_alone(p: Plausible, points: BenchPoint) -> Iterator[Mark]:
    """What is printed and raised on it, its window, the hole in its middle; `hands`: with them."""
    across = p["dial.diameter"]
    plan = plan_on(across / 2 + 1.2)
    assumed = "" if p.known("dial.diameter") else " assumed"
    yield plan.circle(across, f"body body-face{assumed}")
    yield Cluster(tuple(dial_marks(p, plan)), "bodies")
    if points == "hands":
        yield Cluster(tuple(hand_marks(p, plan, USUAL_TIME)), "bodies")
    else:
        yield plan.circle(p["dial.centre_hole"], "body body-void")
    yield from cross(plan, across / 2 + 0.4, p["case.crown_angle"])
