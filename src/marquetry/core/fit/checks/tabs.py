"""Checks of the holder's tabs: in the movement's recesses, free of the rotor, and how the holder goes on.

Several of them have to choose first, which recess, which tabs. Where a choice lacks a dimension, all that
choice and quantity lack is named; else only what was chosen counts.
"""

import math
from dataclasses import dataclass
from itertools import pairwise

from marquetry.core.evidence.seat import HOLDER_RING
from marquetry.core.fit.checks.by_case import CaseCheck
from marquetry.core.fit.checks.calendar import wrapped
from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.checks.words import Issues
from marquetry.core.fit.finding import Finding, judge_least
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.described.holder import TAB_SHAPES
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, is_column, nominal, where_not
from marquetry.core.values.verdict import Verdict

TABS, RECESSES = "holder.tabs", "movement.recesses"
ROUND = TAB_SHAPES[1]
FULL_TURN = 360.0


@dataclass(frozen=True, slots=True)
class Tab:
    """One tab: place from the stem in degrees, width and distance of its end from the axis in mm."""

    path: str
    angle: Number
    width: Number
    reach: Number


def tab_at(r: Trace, index: int, *, whole: bool = True) -> Tab:
    """The tab of that number; of a round one width and reach follow from its radius.

    Without `whole` only its reach is asked for.
    """
    path = f"{TABS}.{index}"
    angle = r[f"{path}.angle"] if whole else math.nan
    if r.word(f"{path}.shape") == ROUND:
        radius = r[f"{path}.radius"]
        return Tab(path, angle, 2 * radius, r["holder.inner_diameter"] / 2 - radius)
    width = r[f"{path}.width"] if whole else math.nan
    return Tab(path, angle, width, r[f"{path}.reach"])


def tab_in_recess(r: Trace, tab: Tab, recess: str) -> list[Number]:
    """Room of a tab in a recess each way, mm: both ways round, inwards, and at its two depths."""
    across = (r[f"{recess}.width"] - tab.width) / 2
    aside = tab.reach * wrapped(tab.angle - r[f"{recess}.angle"]) * math.radians(1.0)
    return [
        across - aside,
        across + aside,
        tab.reach - r[f"{recess}.reach"],
        r[f"{tab.path}.from"] - r[f"{recess}.from"],
        r[f"{recess}.to"] - r[f"{tab.path}.to"],
    ]


def judge_tabs(check: str, r: Trace, limits: Limits) -> Finding | None:
    """`holder_tabs`: each tab in the recess that suits it best; the least room of all."""
    if not r.wants("holder", "movement") or not r.count(TABS):
        return None
    if not r.count(RECESSES):
        r.lack(RECESSES)
    tabs = [tab_at(r, index) for index in range(r.count(TABS))]
    recesses = [f"{RECESSES}.{index}" for index in range(r.count(RECESSES))]
    rooms = [[tab_in_recess(r, tab, recess) for recess in recesses] for tab in tabs]
    if r.missing:
        return None
    chosen = [max(each, key=lambda room: min(map(nominal, room))) for each in rooms]
    return judge_least(check, [number for room in chosen for number in room], limits, r)


def tabs_in_the_way(r: Trace) -> list[int] | None:
    """Numbers of the tabs that reach within the rotor, by nominal values; None where that is not known."""
    radius = r["rotor.diameter"] / 2
    reaches = [tab_at(r, index, whole=False).reach for index in range(r.count(TABS))]
    if r.missing:
        return None
    return [index for index, reach in enumerate(reaches) if nominal(reach) < nominal(radius) - SLACK]


def chosen_tabs(r: Trace, key: str) -> tuple[list[int], list[Number]] | None:
    """The tabs in the rotor's way, with that dimension of each in mm or degrees; None where not known.

    Where which they are is not known, the dimension is wanted of every tab.
    """
    inside = tabs_in_the_way(r)
    every = range(r.count(TABS))
    for index in every:
        r.known(f"{TABS}.{index}.{key}")
    found = [r[f"{TABS}.{index}.{key}"] for index in (every if inside is None else inside)]
    return None if inside is None or r.missing else (inside, found)


def judge_over_tabs(check: str, r: Trace, limits: Limits) -> Finding | None:
    """`holder_rotor`: air between the tabs that reach within the rotor and the rotor above them."""
    if not r.has_rotor() or not r.wants("holder", "movement", "rotor") or not r.count(TABS):
        return None
    chosen = chosen_tabs(r, "to")
    if chosen is not None and not chosen[0]:
        return None
    height = r["movement.face_to_rotor"]
    return (
        None
        if chosen is None or r.missing
        else judge_least(check, [height - to for to in chosen[1]], limits, r)
    )


def holder_rotor_rim(r: Trace) -> Number | None:
    """Air between the rotor and the holder round it, mm; None where the holder ends before the rotor."""
    if not r.has_rotor() or not r.wants("holder", "movement", "rotor"):
        return None
    rim, rotor = (nominal(r[path]) for path in ("holder.face_to_rim", "movement.face_to_rotor"))
    ends_below = rim <= rotor + SLACK
    if not r.missing and not is_column(ends_below) and ends_below:
        return None
    room = (r["holder.inner_diameter"] - r["rotor.diameter"]) / 2
    return where_not(ends_below, room)


Approach = tuple[Verdict, str, str]
STRAIGHT: Approach = (Verdict.CLEAR, "straight", "The holder goes straight on over the rotor.")
TILTED: Approach = (
    Verdict.TIGHT,
    "tilted",
    "One side first: put the holder on tilted, turn the rotor over the tab, then let the other side down.",
)
ALL_ROUND: Approach = (
    Verdict.CLASH,
    "tabs_all_round",
    "Tabs stand all round: however the rotor is turned, it is in the way of one of them.",
)


FROM_THE_DIAL: Approach = (
    Verdict.CLEAR,
    "straight",
    "With its ring in one piece the holder goes on from the dial side; the rotor is not in its way.",
)
STOPPED: Approach = (
    Verdict.CLASH,
    "tabs_cannot_pass",
    "With its ring in one piece the holder goes on from the dial side: its tabs cannot pass the movement.",
)


def way_over(angles: list[float], arc: float) -> Approach:
    """How a holder with tabs at these angles goes over a rotor that leaves an arc free, both in degrees."""
    groups = groups_over(angles, arc)
    if groups is None:
        return ALL_ROUND
    return TILTED if groups[1] else STRAIGHT


def groups_over(angles: list[float], arc: float) -> tuple[list[int], list[int]] | None:
    """Which tabs, by number, go on first, and which after the rotor was turned over those; degrees.

    All in the first group where they lie within the free arc; None where two groups do not suffice.
    """
    numbers = list(range(len(angles)))
    if _within(angles, arc):
        return numbers, []
    for start in angles:
        first = [k for k in numbers if (angles[k] - start) % FULL_TURN <= arc + SLACK]
        rest = [k for k in numbers if k not in first]
        if _within([angles[k] for k in rest], arc):
            return first, rest
    return None


def _within(angles: list[float], arc: float) -> bool:
    """Whether all the angles lie within one closed arc, °."""
    if len(angles) < 2:  # noqa: PLR2004  # one angle needs no arc
        return True
    around = sorted(angle % FULL_TURN for angle in angles)
    gaps = [after - before for before, after in pairwise([*around, around[0] + FULL_TURN])]
    return FULL_TURN - max(gaps) <= arc + SLACK


def judge_way(check: str, r: Trace, limits: Limits) -> Finding | None:
    """`holder_on`: how the holder goes over the rotor, by the tabs that are in the rotor's way."""
    if not r.has_rotor():
        return None
    there = all([r.wants("holder", "rotor", "movement"), r.known("movement.face_to_rotor")])
    if not there or not r.count(TABS):
        return None
    if r.has(HOLDER_RING) and goes_on_from_the_dial(r):
        return _over_the_plate(check, r, limits)
    chosen = chosen_tabs(r, "angle")
    if chosen is None:
        return None
    angles = [float(nominal(angle)) for angle in chosen[1]]
    verdict, issue, told = way_over(angles, FULL_TURN - r.rule("rotor_sector"))
    return Finding(check, verdict, limits, detail=Issues((issue,), (told,)), reads=r.uses.dimensions())


def goes_on_from_the_dial(r: Trace) -> bool:
    """Whether a ring in one piece is narrower than the movement: the holder cannot come from the back."""
    with r.choosing():
        return bool(nominal(r[f"{HOLDER_RING}.inner_diameter"]) < nominal(r["movement.diameter"]) - SLACK)


def _over_the_plate(check: str, r: Trace, limits: Limits) -> Finding | None:
    """From the dial side the rotor is not in the way, but the movement's own edge is in that of every tab."""
    radius = r["movement.diameter"] / 2
    reaches = [tab_at(r, index, whole=False).reach for index in range(r.count(TABS))]
    if r.missing:
        return None
    stopped = any(nominal(reach) < nominal(radius) - SLACK for reach in reaches)
    verdict, issue, told = STOPPED if stopped else FROM_THE_DIAL
    return Finding(check, verdict, limits, detail=Issues((issue,), (told,)), reads=r.uses.dimensions())


PRINTED = "Make draws the holder with its tabs where the movement's recesses are."

CHECKS = (
    CaseCheck(
        name="holder_tabs",
        title="Tabs in their recesses",
        limits=Limits(0.03, None),
        judges=judge_tabs,
        span=Span("z", "recess_end", "tab_end", beside="tab_inside"),
        plan="tabs",
        words=Words(
            means="The least room of any tab in the recess of the movement that suits it best.",
            below="A tab does not enter its recess: the holder will not go down on the movement.",
            helps=("A tab narrower, shorter, thinner or turned by so much.", PRINTED),
        ),
    ),
    CaseCheck(
        name="holder_rotor",
        title="Rotor over the tabs",
        limits=Limits(0.15, None),
        judges=judge_over_tabs,
        skips_by_figures=True,
        span=Span("z", "rotor_underside", "tab_end", beside="tab_inside"),
        words=Words(
            means="Air between the rotor's rim and the tabs that reach under it.",
            below="The rotor may rub on a tab: it stops winding and sheds dust.",
            helps=("Tabs that end nearer the dial.", "Tabs that stop outside the rotor."),
        ),
    ),
    FormulaCheck(
        name="holder_rotor_rim",
        title="Rotor inside the holder",
        limits=Limits(0.20, None),
        formula=holder_rotor_rim,
        skips_by_figures=True,
        span=Span("r", "rotor_outer", "holder_inner", beside="rotor_middle"),
        words=Words(
            means="Air between the rotor's rim and the holder that stands round it, on one side.",
            below="The rotor may strike the holder.",
            helps=("A holder with a wider bore from the rotor's height on.", "A rotor of less diameter."),
        ),
    ),
    CaseCheck(
        name="holder_on",
        title="Holder over the rotor",
        limits=Limits(None, None),
        judges=judge_way,
        of_names=True,
        plan="tabs",
        words=Words(
            means="How the holder goes over the rotor, which covers a part of the movement at any time.",
            below="The rotor covers a part of the movement: the tabs decide how the holder goes on.",
            helps=(
                "Tabs on one side only: then it goes straight on.",
                "With tabs all round: rotor off first, holder on, rotor back, over a tray.",
            ),
        ),
    ),
)
