"""The dial's feet over the movement's holes: which two meet, by how much, and which to take off.

Follows `dial_feet` of fit-model.md. The best common turn φ is found exactly: over a stretch where every
margin only rises or only falls, the smaller of two is largest at an end or where they cross.
"""

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, pairwise, permutations

import numpy as np
from numpy.typing import NDArray

from marquetry.core.fit.cases import cases_of
from marquetry.core.fit.checks.check import Described, Span, Words
from marquetry.core.fit.columns import Columns, Ground, Judged, Slopes, judge_formula
from marquetry.core.fit.finding import Finding, judge
from marquetry.core.fit.levels import spacer_height
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, greatest, least, nominal
from marquetry.core.values.verdict import Verdict

FEET, HOLES, CROWN = "dial.feet", "movement.foot_holes", "case.crown_angle"
KEYS = ("radius", "angle", "diameter")
FEWEST = 2
LEAST_TOLD = 0.005
"""Millimetres that would be told as 0.00."""

HALVINGS = 60
"""Bisections of a stretch of at most 1° down to below a double's resolution."""


@dataclass(frozen=True, slots=True)
class Place:
    """A foot or a hole in the plan: radius, angle from 12 o'clock in the case, diameter; with tolerances."""

    radius: float
    angle: float
    diameter: float
    radius_tol: float
    angle_tol: float
    diameter_tol: float

    def at(self, turn: float = 0.0) -> complex:
        """The point in the plan after a turn in degrees, 12 o'clock along the real axis."""
        angle = math.radians(self.angle + turn)
        return complex(self.radius * math.cos(angle), self.radius * math.sin(angle))


@dataclass(frozen=True, slots=True)
class Meeting:
    """One foot over one hole; `bend` is how far the foot may be bent to meet it."""

    foot: Place
    hole: Place
    bend: float

    def margin(self, turn: float) -> float:
        """Room left in the hole after a common turn of the dial, mm."""
        play = (self.hole.diameter - self.foot.diameter) / 2 + self.bend
        return play - abs(self.foot.at(turn) - self.hole.at())

    def own_turns(self) -> tuple[float, float]:
        """The turns at which the margin is largest and smallest: foot on the hole's ray, and opposite, °."""
        best = _wrapped(self.hole.angle - self.foot.angle)
        return best, _wrapped(best + 180.0)

    def best_margin(self, reach: float) -> float:
        """The largest margin at any turn within ±reach: at its own turn, or at the nearer end, mm."""
        best, _ = self.own_turns()
        return self.margin(min(max(best, -reach), reach))

    def half_width(self) -> float:
        """How much the margin may be off in the worst case, in mm."""
        foot, hole = self.foot, self.hole
        along = foot.radius_tol + hole.radius_tol
        across = math.radians(foot.radius * foot.angle_tol + hole.radius * hole.angle_tol)
        return along + across + (foot.diameter_tol + hole.diameter_tol) / 2


@dataclass(frozen=True, slots=True)
class Footing:
    """Two feet in two holes at the turn that suits both best; lengths in mm, turns in degrees."""

    pairs: tuple[tuple[int, int], tuple[int, int]]
    meetings: tuple[Meeting, Meeting]
    turn: float
    value: float

    def worst(self, sign: int) -> float:
        """The smaller margin at the turn, each moved by its worst case, mm; `sign` −1 worst, +1 best."""
        return min(m.margin(self.turn) + sign * m.half_width() for m in self.meetings)

    def needed_turn(self) -> float:
        """By how much the dial would have to turn for its feet to point along the holes, in degrees."""
        first, second = self.meetings
        holes = second.hole.at() - first.hole.at()
        feet = second.foot.at() - first.foot.at()
        return _wrapped(math.degrees(math.atan2(holes.imag, holes.real) - math.atan2(feet.imag, feet.real)))

    def span_error(self) -> float:
        """How much further apart the feet stand than the holes, mm."""
        first, second = self.meetings
        return abs(second.foot.at() - first.foot.at()) - abs(second.hole.at() - first.hole.at())


def _wrapped(angle: float) -> float:
    """The angle in −180 … 180."""
    return (angle + 180.0) % 360.0 - 180.0


def _best_turn(meetings: tuple[Meeting, Meeting], reach: float) -> tuple[float, float]:
    """The turn within ±reach at which the smaller margin is largest, and that margin."""
    first, second = meetings
    marks = {-reach, reach, 0.0, *(t for m in meetings for t in m.own_turns() if abs(t) < reach)}
    ends = sorted(marks)
    turns = [*ends, *(t for low, high in pairwise(ends) if (t := _crossing(first, second, low, high)))]
    best = max(turns, key=lambda t: (round(min(m.margin(t) for m in meetings), 12), -abs(t)))
    return best, min(m.margin(best) for m in meetings)


def _crossing(first: Meeting, second: Meeting, low: float, high: float) -> float | None:
    """The turn between two where both margins are equal, or None where one stays the larger."""

    def lead(turn: float) -> float:
        return first.margin(turn) - second.margin(turn)

    rising = lead(low) < 0
    if rising == (lead(high) < 0):
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        if (lead(middle) < 0) == rising:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _footings(
    feet: tuple[Place, ...], holes: tuple[Place, ...], bend: float, reach: float
) -> Iterator[Footing]:
    """Fits in the order of feet and holes, without those that cannot be better than one before."""
    every = {(f, h): Meeting(foot, hole, bend) for f, foot in enumerate(feet) for h, hole in enumerate(holes)}
    at_most = {key: meeting.best_margin(reach) for key, meeting in every.items()}
    found = -math.inf
    for a, b in combinations(range(len(feet)), 2):
        for c, d in permutations(range(len(holes)), 2):
            if min(at_most[a, c], at_most[b, d]) < found:
                continue
            meetings = (every[a, c], every[b, d])
            fit = Footing(((a, c), (b, d)), meetings, *_best_turn(meetings, reach))
            found = max(found, fit.value)
            yield fit


@lru_cache(maxsize=256)
def best_footing(feet: tuple[Place, ...], holes: tuple[Place, ...], bend: float, reach: float) -> Footing:
    """The two feet and two holes, and the turn within ±`reach`°, whose smaller margin is the largest.

    Three checks of one report ask for the same fit.
    """
    return max(_footings(feet, holes, bend, reach), key=lambda fit: round(fit.value, 12))


def places(trace: Trace, path: str, turned_by: str | None = None) -> tuple[Place, ...]:
    """All feet or holes below the path, turned by another dimension where they are given relative to it."""
    turn = float(nominal(trace[turned_by])) if turned_by else 0.0
    return tuple(_place(trace, f"{path}.{index}", turn) for index in range(trace.count(path)))


def _place(trace: Trace, path: str, turn: float) -> Place:
    keys = ("radius", "angle", "diameter")
    radius, angle, diameter = (float(nominal(trace[f"{path}.{key}"])) for key in keys)
    known = (trace.dimension(f"{path}.{key}") for key in keys)
    tols = (math.nan if dimension is None else dimension.tol for dimension in known)
    return Place(radius, angle + turn, diameter, *tols)


@dataclass(frozen=True, slots=True)
class FeetTold:
    """Which foot meets which hole, which feet are to come off; else how far the best two are from meeting.

    `turn` in degrees, `span_error` in millimetres.
    """

    pairs: tuple[tuple[int, int], ...]
    remove: tuple[int, ...]
    turn: float
    span_error: float

    def as_dict(self) -> Mapping[str, object]:
        """As JSON carries it."""
        return {
            "pairs": [list(pair) for pair in self.pairs],
            "remove": list(self.remove),
            "turn": self.turn,
            "span_error": self.span_error,
        }

    def told(self) -> tuple[str, ...]:
        """Which feet to take off, or the turn and the span that miss."""
        if self.pairs:
            taken = ", ".join(str(foot + 1) for foot in self.remove)
            return (f"Feet to take off, since no hole waits for them: {taken}.",) if self.remove else ()
        told = f"The best two feet would meet their holes after a turn of {figure(self.turn, 1, '°')}"
        way = "far apart" if self.span_error > 0 else "close"
        wider = f"they stand {figure(abs(self.span_error))} mm too {way}"
        return (f"{told}." if abs(self.span_error) < LEAST_TOLD else f"{told}; {wider}.",)


def feet_told(finding: Finding) -> FeetTold | None:
    """What `dial_feet` told of its feet; None where it had nothing to say."""
    return finding.detail if isinstance(finding.detail, FeetTold) else None


def judge_meeting(check: str, trace: Trace, limits: Limits) -> Finding | None:
    """`dial_feet`: margin of the best two feet, the pairs, the feet to remove, the turn it would take."""
    if (
        not (trace.wants("dial") and trace.wants("movement") and trace.wants("case"))
        or trace.count(FEET) == 0
    ):
        return None
    for path in (FEET, HOLES):
        if trace.count(path) < FEWEST:
            trace.lack(path)
    feet = places(trace, FEET)
    holes = places(trace, HOLES, turned_by=CROWN)
    if trace.missing:
        return None
    footing = best_footing(feet, holes, trace.rule("foot_bend"), trace.rule("dial_turn"))
    kept = [foot for foot, _ in footing.pairs] if footing.value >= -SLACK else []
    low, high = footing.worst(-1), footing.worst(+1)
    return Finding(
        check,
        limits.verdict(footing.value, low, high),
        limits,
        value=footing.value,
        low=low,
        high=high,
        detail=FeetTold(
            footing.pairs if kept else (),
            tuple(foot for foot in range(len(feet)) if foot not in kept),
            footing.needed_turn(),
            footing.span_error(),
        ),
    )


Kept = tuple[int, ...]
"""Numbers of the feet that hold the dial."""
KeptQuantity = Callable[[Trace, Kept], Number | None]


def kept_feet(trace: Trace) -> Kept:
    """Numbers of the feet that hold the dial: the best pair where two meet, else all of them.

    What is missing for telling which is no reason to say nothing: it is asked about, not wanted.
    """
    count = trace.count(FEET)
    paths = [f"{path}.{i}.{key}" for path in (FEET, HOLES) for i in range(trace.count(path)) for key in KEYS]
    told = all([trace.known(path) for path in [*paths, CROWN]])  # noqa: C419  # every one leaves its mark
    if told and count >= FEWEST and trace.count(HOLES) >= FEWEST:
        feet, holes = places(trace, FEET), places(trace, HOLES, turned_by=CROWN)
        footing = best_footing(feet, holes, trace.rule("foot_bend"), trace.rule("dial_turn"))
        if footing.value >= -SLACK:
            return tuple(foot for foot, _ in footing.pairs)
    return tuple(range(count))


def _kept_length(trace: Trace, kept: Kept, pick: Callable[[list[Number]], Number]) -> Number:
    return pick([trace[f"{FEET}.{foot}.length"] for foot in kept])


def foot_engagement(trace: Trace, kept: Kept) -> Number | None:
    """How much of the shortest kept foot, in mm, reaches past the movement-side spacers."""
    return _kept_length(trace, kept, least) - spacer_height(trace, "movement") if kept else None


def foot_bottoming(trace: Trace, kept: Kept) -> Number | None:
    """Room in mm left under the longest kept foot in its hole."""
    if not kept:
        return None
    return trace["movement.foot_hole_depth"] - (
        _kept_length(trace, kept, greatest) - spacer_height(trace, "movement")
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class FeetCheck(Described):
    """A check that goes by which foot meets which hole: no column can say that, so cases are told apart.

    `quantity` is a length of the feet that are kept, in mm; without one it is the meeting itself.
    """

    quantity: KeptQuantity | None = None

    def judge(self, trace: Trace, limits: Limits) -> Finding | None:
        """The finding on one watch."""
        if self.quantity is None:
            return judge_meeting(self.name, trace, limits)
        number = self.quantity(trace, kept_feet(trace)) if trace.wants("dial") else None
        return (
            None
            if number is None or trace.missing or trace.absent
            else judge(self.name, number, limits, trace)
        )

    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:  # noqa: ARG002  # cases have no slopes
        """Found once for each case that the columns make: parts of one family of feet say the same."""
        if self.find(build, rules).verdict is Verdict.SKIPPED:
            return None
        codes, cases = cases_of({path: column for path, column in columns.items() if _is_place(path)})
        traces = (Trace(build, rules, moved) for moved in cases)
        if self.quantity is None:
            rooms = [self._meeting(trace) for trace in traces]
            nominal, worst = (np.array([room[i] for room in rooms])[codes] for i in (0, 1))
            return Judged(nominal, worst)
        return self._by_kept(Ground(build, rules), columns, codes, [kept_feet(trace) for trace in traces])

    def _meeting(self, trace: Trace) -> tuple[float, float]:
        """Room of the nominal value and at worst, in mm; NaN where unknown, ∞ where it says nothing."""
        finding = self.found(trace)
        if finding.value is None:
            unknown = finding.verdict is Verdict.UNMEASURED
            return (math.nan, math.nan) if unknown else (math.inf, math.inf)
        limits = finding.limits
        return -max(limits.shortfall(finding.value), limits.excess(finding.value)), finding.margin

    def _by_kept(
        self, ground: Ground, columns: Columns, codes: NDArray[np.int64], kept_by_case: list[Kept]
    ) -> Judged | None:
        """The quantity over columns, once for each set of feet that is kept anywhere."""
        limits = ground.rules.limits(self.key, self.limits)
        kinds = list(dict.fromkeys(kept_by_case))
        which = np.array([kinds.index(kept) for kept in kept_by_case])[codes]
        nominal, worst = np.full(1, np.inf), np.full(1, np.inf)
        for number, kept in enumerate(kinds):
            found = judge_formula(self._of(kept), ground, columns, limits)
            if found is not None:
                nominal = np.where(which == number, found.nominal, nominal)
                worst = np.where(which == number, found.worst, worst)
        return Judged(nominal, worst)

    def _of(self, kept: Kept) -> Callable[[Trace], Number | None]:
        quantity = self.quantity
        return lambda trace: None if quantity is None else quantity(trace, kept)


def _is_place(path: str) -> bool:
    """Whether the dimension says where a foot or a hole lies, or how large it is."""
    return path == CROWN or (path.startswith((f"{FEET}.", f"{HOLES}.")) and path.rpartition(".")[2] in KEYS)


CHECKS = (
    FeetCheck(
        name="dial_feet",
        title="Feet over their holes",
        limits=Limits(0.0, None),
        span=Span("r", "foot", "foot_hole", beside="movement_face"),
        plan="feet",
        words=Words(
            means="Room left for the two feet that meet the movement's holes best, bending them a little.",
            below="No two feet meet two holes: the dial will not sit down on this movement as it is.",
            helps=(
                "Take the feet off and use adhesive pads, the dial aligned to the stem.",
                "Drill new holes in the movement's ring: rotor off, chips kept out, eyes protected.",
                "A printed adapter between dial and movement.",
                "A large turn asks for a dial for another crown place.",
                "A span error asks for a dial made for this family of movements.",
            ),
        ),
    ),
    FeetCheck(
        name="foot_engagement",
        title="Feet in the movement",
        limits=Limits(0.60, None),
        quantity=foot_engagement,
        span=Span("z", "foot_end", "movement_face", beside="foot"),
        plan="feet",
        words=Words(
            means="How much of the shortest kept foot stands inside the movement's hole.",
            below="The foot screws catch too little of the foot: the dial will lift or turn.",
            helps=(
                "A spacer on the dial side instead of behind the dial.",
                "Adhesive pads besides the feet.",
            ),
        ),
    ),
    FeetCheck(
        name="foot_bottoming",
        title="Room under the feet",
        limits=Limits(0.05, None),
        quantity=foot_bottoming,
        span=Span("z", "foot_hole_bottom", "foot_end", beside="foot_hole"),
        plan="feet",
        words=Words(
            means="Room left between the longest kept foot and the bottom of its hole.",
            below="The foot stands on the bottom of its hole: the dial will not lie down flat.",
            helps=("Shorten the feet with a fine file, eyes protected, chips kept out.",),
        ),
    ),
)
