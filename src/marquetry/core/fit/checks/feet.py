"""The dial's feet in the movement: whether two meet holes, which come off, how deep the others stand."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from marquetry.core.evidence.seat import ADAPTER, behind_dial
from marquetry.core.fit.cases import cases_of
from marquetry.core.fit.checks.by_case import CaseCheck
from marquetry.core.fit.checks.check import Described, Span, Words
from marquetry.core.fit.columns import Columns, Ground, Judged, Slopes, judge_least_formula
from marquetry.core.fit.finding import Finding, judge_least
from marquetry.core.fit.footing import best_footing, places
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.figures import figure, is_told_as_nothing
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number
from marquetry.core.values.verdict import Verdict

FEET, HOLES, CROWN = "dial.feet", "movement.foot_holes", "case.crown_angle"
KEYS = ("radius", "angle", "diameter")
FEWEST = 2


def feet_of(r: Trace) -> range:
    """Numbers of the dial's feet; none on a carrier: there they were never, or were taken off."""
    return range(0 if r.has(ADAPTER) else r.count(FEET))


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
        return (f"{told}." if is_told_as_nothing(self.span_error) else f"{told}; {wider}.",)


def feet_told(finding: Finding) -> FeetTold | None:
    """What `dial_feet` told of its feet; None where it had nothing to say."""
    return finding.detail if isinstance(finding.detail, FeetTold) else None


def judge_meeting(check: str, trace: Trace, limits: Limits) -> Finding | None:
    """`dial_feet`: margin of the best two feet, the pairs, the feet to remove, the turn it would take."""
    if (
        not (trace.wants("dial") and trace.wants("movement") and trace.wants("case"))
        or trace.count(FEET) == 0
        or trace.has(ADAPTER)  # the carrier holds the dial, whatever feet it has
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
        reads=trace.uses.dimensions(),
        detail=FeetTold(
            footing.pairs if kept else (),
            tuple(foot for foot in range(len(feet)) if foot not in kept),
            footing.needed_turn(),
            footing.span_error(),
        ),
    )


Kept = tuple[int, ...]
"""Numbers of the feet that hold the dial."""
KeptQuantities = Callable[[Trace, Kept], list[Number]]


def kept_feet(trace: Trace) -> Kept:
    """Numbers of the feet that hold the dial: the best pair where two meet, else all of them.

    What is missing for telling which is no reason to say nothing: it is asked about, not wanted.
    """
    count = len(feet_of(trace))
    paths = [f"{path}.{i}.{key}" for path in (FEET, HOLES) for i in range(trace.count(path)) for key in KEYS]
    told = all([trace.known(path) for path in [*paths, CROWN]])  # noqa: C419  # every one leaves its mark
    if told and count >= FEWEST and trace.count(HOLES) >= FEWEST:
        with trace.choosing():
            feet, holes = places(trace, FEET), places(trace, HOLES, turned_by=CROWN)
        footing = best_footing(feet, holes, trace.rule("foot_bend"), trace.rule("dial_turn"))
        if footing.value >= -SLACK:
            return tuple(foot for foot, _ in footing.pairs)
    return tuple(range(count))


def foot_engagements(trace: Trace, kept: Kept) -> list[Number]:
    """How much of each kept foot, in mm, reaches past the movement-side spacers."""
    return [trace[f"{FEET}.{foot}.length"] - behind_dial(trace) for foot in kept]


def foot_bottomings(trace: Trace, kept: Kept) -> list[Number]:
    """Room in mm left under each kept foot in its hole."""
    return [trace["movement.foot_hole_depth"] - reach for reach in foot_engagements(trace, kept)]


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptFeetCheck(Described):
    """The least of a length, in mm, over the feet that are kept: which those are, cases tell apart."""

    quantities: KeptQuantities

    def judge(self, trace: Trace, limits: Limits) -> Finding | None:
        """The finding on one watch."""
        numbers = self.quantities(trace, kept_feet(trace)) if trace.wants("dial") else []
        if not numbers or trace.missing or trace.absent:
            return None
        return judge_least(self.name, numbers, limits, trace)

    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:  # noqa: ARG002  # cases have no slopes
        """The least over columns, once for each set of feet that is kept anywhere."""
        if self.find(build, rules).verdict is Verdict.SKIPPED:
            return None
        codes, cases = cases_of({path: column for path, column in columns.items() if _is_place(path)})
        kept_by_case = [kept_feet(Trace(build, rules, moved)) for moved in cases]
        kinds = list(dict.fromkeys(kept_by_case))
        which = np.array([kinds.index(kept) for kept in kept_by_case])[codes]
        nominal, worst = np.full(1, np.inf), np.full(1, np.inf)
        for number, kept in enumerate(kinds):
            formulas = [self._of(kept, place) for place in range(len(kept))]
            limits = rules.limits(self.key, self.limits)
            found = judge_least_formula(formulas, Ground(build, rules), columns, limits)
            if found is not None:
                nominal = np.where(which == number, found.nominal, nominal)
                worst = np.where(which == number, found.worst, worst)
        return Judged(nominal, worst)

    def _of(self, kept: Kept, place: int) -> Callable[[Trace], Number | None]:
        return lambda trace: self.quantities(trace, kept)[place]


def _is_place(path: str) -> bool:
    """Whether the dimension says where a foot or a hole lies, or how large it is."""
    return path == CROWN or (path.startswith((f"{FEET}.", f"{HOLES}.")) and path.rpartition(".")[2] in KEYS)


CHECKS = (
    CaseCheck(
        name="dial_feet",
        rate=0.08,
        title="Feet over their holes",
        limits=Limits(0.0, None),
        judges=judge_meeting,
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
    KeptFeetCheck(
        name="foot_engagement",
        title="Feet in the movement",
        limits=Limits(0.60, None),
        quantities=foot_engagements,
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
    KeptFeetCheck(
        name="foot_bottoming",
        title="Room under the feet",
        limits=Limits(0.05, None),
        quantities=foot_bottomings,
        span=Span("z", "foot_hole_bottom", "foot_end", beside="foot_hole"),
        plan="feet",
        words=Words(
            means="Room left between the longest kept foot and the bottom of its hole.",
            below="The foot stands on the bottom of its hole: the dial will not lie down flat.",
            helps=("Shorten the feet with a fine file, eyes protected, chips kept out.",),
        ),
    ),
)
