"""The dial's feet in the movement: whether two meet holes, which come off, how deep the others stand."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.fit.cases import cases_of
from marquetry.core.fit.checks.check import Described, Span, Words
from marquetry.core.fit.columns import Columns, Ground, Judged, Slopes, judge_formula
from marquetry.core.fit.finding import Finding, judge
from marquetry.core.fit.footing import best_footing, places
from marquetry.core.fit.levels import spacer_height
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, greatest, least
from marquetry.core.values.verdict import Verdict

FEET, HOLES, CROWN = "dial.feet", "movement.foot_holes", "case.crown_angle"
KEYS = ("radius", "angle", "diameter")
FEWEST = 2
LEAST_TOLD = 0.005
"""Millimetres that would be told as 0.00."""


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
