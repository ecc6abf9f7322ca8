"""What front and back share: where plan findings are seen, the date's window, the foot of the sheet."""

from collections import Counter
from collections.abc import Callable, Iterator
from functools import partial

from marquetry.core.face.cut_windows import seen_cuts
from marquetry.core.fit.checks.tabs import TABS
from marquetry.core.fit.cutouts import (
    cutouts,
    date_window_angle,
    date_window_radius,
    has_date_window,
    middle,
)
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import Report
from marquetry.core.making.cutting import PURPOSES
from marquetry.core.section.case_bodies import flank_radius
from marquetry.core.values.figures import figure
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.face.light import laid
from marquetry.drawing.margin_notes import Spot
from marquetry.drawing.plan import Plan
from marquetry.drawing.scene import Dot, Label, Line, Mark, Paper
from marquetry.drawing.sheet import MARGIN, WIDTH

WINDOW_LONG, WINDOW_WIDE = 2.2, 1.6
APART = 1.1
"""Watch millimetres between two findings at one place."""


def plan_spots(p: Plausible, report: Report, plan: Plan, places: tuple[str, ...]) -> list[Spot]:
    """Every finding whose check is seen at one of these places of the plan."""
    found: list[Spot] = []
    at_place: Counter[str] = Counter()
    for name, finding in report.findings.items():
        check = report.rules.model.check(name)
        place = check.plan
        if place in places and finding.verdict is not Verdict.SKIPPED:
            anchor = plan_anchor(p, plan, place, at_place[str(place)])
            at_place[str(place)] += 1
            marks = (Dot(anchor, 2.6, "gap-area"), Dot(anchor, 1.6, "gap-ring"))
            found.append(Spot(check, finding, anchor, partial(tuple, marks), p.build.anatomy.label_of))
    return found


def plan_anchor(p: Plausible, plan: Plan, place: str | None, index: int) -> Paper:
    """The point a place's findings speak of; several at one place stand a little apart."""
    return ANCHORS.get(place or "", _strap)(p, plan, index)


def _date(p: Plausible, plan: Plan, index: int) -> Paper:
    angle = p["movement.date_angle"] + p["case.crown_angle"]
    return plan.at(p["movement.date_radius"] + APART * index / 2, angle)


def _disc(p: Plausible, plan: Plan, index: int) -> Paper:
    angle = date_window_angle(p) if has_date_window(p) else p["dial.date_window_angle"]
    return plan.at(p["movement.date_radius"] - 1.4 - APART * index / 2, angle)


def _window(p: Plausible, plan: Plan, index: int) -> Paper:
    """The middle of a cut-out; what several checks say of one stands a little apart."""
    places = [middle(p, path) for path in cutouts(p)]
    if not places:
        return _track(p, plan, index)
    radius, angle = places[index % len(places)]
    return plan.at(radius - APART * (index // len(places)), angle)


def _foot(p: Plausible, plan: Plan, index: int) -> Paper:
    count = max(p.count("dial.feet"), 1)
    path = f"dial.feet.{index % count}"
    return plan.at(p[f"{path}.radius"] - APART * index * (index // count), p[f"{path}.angle"])


def _bezel(p: Plausible, plan: Plan, _: int) -> Paper:
    return plan.at(p["bezel.channel_outer_diameter"] / 2, p["bezel.index_offset"])


def _track(p: Plausible, plan: Plan, index: int) -> Paper:
    return plan.at(p["dial.track_radius"], 45.0 + 8.0 * index)


def _notch(p: Plausible, plan: Plan, _: int) -> Paper:
    return plan.at(p["crystal.diameter"] / 2 - 1.0, 0.0)


def _across(p: Plausible, plan: Plan, _: int) -> Paper:
    return plan.at(case_radius(p), 225.0)


def _lug(p: Plausible, plan: Plan, along: float, side: int) -> Paper:
    x, y = plan.centre
    return x + side * (p["case.lug_width"] / 2 + 1.0) * plan.scale, y + along * plan.scale


def _length(p: Plausible, plan: Plan, _: int) -> Paper:
    return _lug(p, plan, p["case.lug_to_lug"] / 2 - 0.4, 1)


def _bar(p: Plausible, plan: Plan, index: int) -> Paper:
    return _lug(p, plan, APART * (index % 4) / 2 - bar_axis(p), -1)


def _strap(p: Plausible, plan: Plan, index: int) -> Paper:
    x, y = plan.centre
    level = flank_radius(p) * 0.95 + APART * (index % 4)
    return x + p["case.lug_width"] / 2 * plan.scale, y - level * plan.scale


def _tab(p: Plausible, plan: Plan, index: int) -> Paper:
    count = max(p.count(TABS), 1)
    angle = p[f"{TABS}.{index % count}.angle"] + p["case.crown_angle"]
    return plan.at(p["holder.inner_diameter"] / 2 - 0.3 - 0.8 * (index // count), angle)


Anchor = Callable[[Plausible, Plan, int], Paper]
ANCHORS: dict[str, Anchor] = {
    "date": _date, "disc": _disc, "feet": _foot, "bezel": _bezel, "track": _track, "notch": _notch,
    "across": _across, "length": _length, "bars": _bar, "strap": _strap, "tabs": _tab,
    "windows": _window,
}  # fmt: skip
"""Where each place of `Check.plan` lies."""


def case_radius(p: Plausible) -> float:
    """Half the case's diameter, mm, or what its tube's end lets guess."""
    known = p.known("case.diameter")
    return float(p["case.diameter"]) / 2 if known else flank_radius(p)


def bar_axis(p: Plausible) -> float:
    """How far a spring bar's axis lies from the watch's centre, mm."""
    return case_radius(p) + float(p["case.bar_to_case"])


def window_bars(p: Plausible, plan: Plan) -> Iterator[Mark]:
    """What is cut into the dial, the date's window, and where the disc's numeral stands under it."""
    for cut in seen_cuts(p, ("", "")):
        title = f"Cut-out: {PURPOSES[cut.purpose]}"
        yield Line(laid(plan, cut.outline), "body body-void", closed=True, title=title)
    if next(cutouts(p, "date"), None) is None and has_date_window(p):
        radius, angle = date_window_radius(p), date_window_angle(p)
        ends = radius - WINDOW_LONG / 2, radius + WINDOW_LONG / 2
        yield plan.bar(*ends, angle, WINDOW_WIDE, "body body-void", "Date window")
    if p.known("movement.date_angle"):
        radius, angle = p["movement.date_radius"], p["movement.date_angle"] + p["case.crown_angle"]
        ends = radius - WINDOW_LONG / 2 + 0.4, radius + WINDOW_LONG / 2 - 0.4
        yield plan.bar(*ends, angle, WINDOW_WIDE - 0.7, "plan-numeral", "The disc's numeral")


def plan_foot(scale: float, side: str, assumed: tuple[str, ...]) -> Iterator[Mark]:
    """Scale, side, scale bar, and what is drawn although nobody measured it."""
    yield Label((MARGIN, 4.4), f"Scale {figure(scale, 1)} : 1. {side}.", "quiet", 3.6)
    bar = MARGIN + 84.0
    ends = ((bar, 5.4), (bar, 4.4), (bar + 5 * scale, 4.4), (bar + 5 * scale, 5.4))
    yield Line(ends, "frame")
    yield Label((bar + 5 * scale + 1.5, 4.4), "5 mm", "quiet", 3.6)
    if assumed:
        more = f" and {len(assumed) - 1} more" if len(assumed) > 1 else ""
        told = f"Dashed: not measured, drawn where usual ({assumed[0]}{more})"
        yield Label((WIDTH - MARGIN, 4.4), told, "quiet", 3.6, "end")
