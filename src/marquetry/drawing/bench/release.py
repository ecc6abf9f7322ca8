"""What lets the stem go, beside the stem: a lever, a button, or a screw with the turns it may be given."""

from collections.abc import Iterator

from marquetry.core.fit.plausible import Plausible
from marquetry.drawing.bench.paper import BENCH_HEIGHT, EDGE, TYPE, plan_on
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Dot, Label, Line, Mark

BESIDE = 24.0
"""Degrees from the stem at which it is drawn: where it lies differs from movement to movement."""
HELD = {
    "lever": "setting lever: press down",
    "button": "button: press down",
    "screw": "screw: back ½ turn, then ¼ by ¼",
}


def release_marks(p: Plausible, kind: str) -> Iterator[Mark]:
    """The movement from the back, its stem, and what is pressed or turned."""
    across = p["movement.diameter"]
    plan = plan_on(across / 2 + 2.4, hand=-1)
    crown = p["case.crown_angle"]
    yield plan.circle(across, "body body-movement")
    yield plan.circle(across * 0.86, "plan-line plan-open")
    yield plan.bar(p["movement.centre_to_stem_tip"], across / 2 + 2.2, crown, 0.9, "body body-steel", "Stem")
    stem = plan.at(across / 2 + 0.4, crown)
    yield Label((stem[0], stem[1] + 4.6), "stem", "figure halo", TYPE, "middle")
    spot = plan.at(across * 0.36, crown + BESIDE)
    yield from _spot(plan, spot, kind)
    away = 1.0 if spot[0] < plan.centre[0] else -1.0
    anchor, x = ("start", spot[0] + 5.0) if away > 0 else ("end", spot[0] - 5.0)
    words = HELD.get(kind, "lever, button or screw: look here")
    yield Label((x, spot[1] - TYPE / 3), words, "figure halo", TYPE, "start" if anchor == "start" else "end")
    yield Label((EDGE, BENCH_HEIGHT - EDGE - TYPE), "seen from the back; the place differs", "quiet", TYPE)


def _spot(plan: Plan, at: tuple[float, float], kind: str) -> Iterator[Mark]:
    size = 0.9 * plan.scale
    x, y = at
    if kind == "lever":
        yield Line(
            ((x - size, y - 0.5), (x + size, y - 0.5), (x + size, y + 0.5), (x - size, y + 0.5)),
            "body body-brass",
            closed=True,
        )
        yield Dot((x + size * 0.5, y), 0.7, "body body-hand")
        return
    yield Dot(at, size * 0.7, "body body-brass" if kind else "turn-line")
    if kind == "screw":
        yield Line(((x - size * 0.6, y), (x + size * 0.6, y)), "strike")
    elif kind == "button":
        yield Dot(at, 0.6, "body body-hand")
