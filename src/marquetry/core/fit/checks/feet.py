"""The dial's feet over the movement's holes: which two meet, by how much, and which to take off.

Follows `dial_feet` of fit-model.md. The best common turn φ is found exactly: over a stretch where every
margin only rises or only falls, the smaller of two is largest at an end or where they cross.
"""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, pairwise, permutations

from marquetry.core.fit.checks.check import Check, Span, Words
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.levels import spacer_height
from marquetry.core.fit.trace import Readings
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, greatest, least, nominal

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
        """Room left in the hole after a common turn of the dial."""
        play = (self.hole.diameter - self.foot.diameter) / 2 + self.bend
        return play - abs(self.foot.at(turn) - self.hole.at())

    def own_turns(self) -> tuple[float, float]:
        """The turns at which the margin is largest and smallest: foot on the hole's ray, and opposite."""
        best = _wrapped(self.hole.angle - self.foot.angle)
        return best, _wrapped(best + 180.0)

    def best_margin(self, reach: float) -> float:
        """The largest margin at any turn within ±reach: at its own turn, or at the nearer end."""
        best, _ = self.own_turns()
        return self.margin(min(max(best, -reach), reach))

    def doubt(self) -> float:
        """How much the margin may be off in the worst case."""
        foot, hole = self.foot, self.hole
        along = foot.radius_tol + hole.radius_tol
        across = math.radians(foot.radius * foot.angle_tol + hole.radius * hole.angle_tol)
        return along + across + (foot.diameter_tol + hole.diameter_tol) / 2


@dataclass(frozen=True, slots=True)
class Fit:
    """Two feet in two holes at the turn that suits both best."""

    pairs: tuple[tuple[int, int], tuple[int, int]]
    meetings: tuple[Meeting, Meeting]
    turn: float
    value: float

    def worst(self, sign: int) -> float:
        """The smaller margin at the turn, each moved by its doubt; `sign` −1 for worst, +1 for best."""
        return min(m.margin(self.turn) + sign * m.doubt() for m in self.meetings)

    def needed_turn(self) -> float:
        """By how much the dial would have to turn for its feet to point along the holes, in degrees."""
        first, second = self.meetings
        holes = second.hole.at() - first.hole.at()
        feet = second.foot.at() - first.foot.at()
        return _wrapped(math.degrees(math.atan2(holes.imag, holes.real) - math.atan2(feet.imag, feet.real)))

    def span_error(self) -> float:
        """How much further apart the feet stand than the holes."""
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


def _fits(feet: tuple[Place, ...], holes: tuple[Place, ...], bend: float, reach: float) -> Iterator[Fit]:
    """Fits in the order of feet and holes, without those that cannot be better than one before."""
    every = {(f, h): Meeting(foot, hole, bend) for f, foot in enumerate(feet) for h, hole in enumerate(holes)}
    at_most = {key: meeting.best_margin(reach) for key, meeting in every.items()}
    found = -math.inf
    for a, b in combinations(range(len(feet)), 2):
        for c, d in permutations(range(len(holes)), 2):
            if min(at_most[a, c], at_most[b, d]) < found:
                continue
            meetings = (every[a, c], every[b, d])
            fit = Fit(((a, c), (b, d)), meetings, *_best_turn(meetings, reach))
            found = max(found, fit.value)
            yield fit


@lru_cache(maxsize=256)
def best_fit(feet: tuple[Place, ...], holes: tuple[Place, ...], bend: float, reach: float) -> Fit:
    """The two feet and two holes, and the turn within ±`reach`°, whose smaller margin is the largest.

    Three checks of one report ask for the same fit.
    """
    return max(_fits(feet, holes, bend, reach), key=lambda fit: round(fit.value, 12))


def places(r: Readings, path: str, turned_by: str | None = None) -> tuple[Place, ...]:
    """All feet or holes below the path, turned by another dimension where they are given relative to it."""
    turn = float(nominal(r[turned_by])) if turned_by else 0.0
    return tuple(_place(r, f"{path}.{index}", turn) for index in range(r.count(path)))


def _place(r: Readings, path: str, turn: float) -> Place:
    keys = ("radius", "angle", "diameter")
    radius, angle, diameter = (float(nominal(r[f"{path}.{key}"])) for key in keys)
    known = r.build.dimensions
    tols = (known[f"{path}.{key}"].tol if f"{path}.{key}" in known else math.nan for key in keys)
    return Place(radius, angle + turn, diameter, *tols)


def solve_feet(check: Check, r: Readings) -> Finding | None:
    """`dial_feet`: margin of the best two feet, the pairs, the feet to remove, the turn it would take."""
    if not (r.wants("dial") and r.wants("movement") and r.wants("case")) or r.count("dial.feet") == 0:
        return None
    for path in ("dial.feet", "movement.foot_holes"):
        if r.count(path) < FEWEST:
            r.lack(path)
    feet = places(r, "dial.feet")
    holes = places(r, "movement.foot_holes", turned_by="case.crown_angle")
    if r.missing:
        return None
    fit = best_fit(feet, holes, r.rule("foot_bend"), r.rule("dial_turn"))
    kept = [foot for foot, _ in fit.pairs] if fit.value >= -SLACK else []
    low, high = fit.worst(-1), fit.worst(+1)
    return Finding(
        check.name,
        check.limits.verdict(fit.value, low, high),
        check.limits,
        value=fit.value,
        low=low,
        high=high,
        extras={
            "pairs": [list(pair) for pair in fit.pairs] if kept else [],
            "remove": [foot for foot in range(len(feet)) if foot not in kept],
            "turn": fit.needed_turn(),
            "span_error": fit.span_error(),
        },
    )


def told_feet(finding: Finding) -> tuple[str, ...]:
    """Which feet to keep and to take off, and the turn and the span that miss."""
    pairs, remove = finding.extras.get("pairs"), finding.extras.get("remove")
    turn, span = finding.extras.get("turn"), finding.extras.get("span_error")
    if not (isinstance(remove, list) and isinstance(turn, float) and isinstance(span, float)):
        return ()
    if pairs:
        taken = ", ".join(str(foot + 1) for foot in remove)
        return (f"Feet to take off, since no hole waits for them: {taken}.",) if remove else ()
    told = f"The best two feet would meet their holes after a turn of {figure(turn, 1, '°')}"
    wider = f"they stand {figure(abs(span))} mm too {'far apart' if span > 0 else 'close'}"
    return (f"{told}." if abs(span) < LEAST_TOLD else f"{told}; {wider}.",)


def kept_feet(r: Readings) -> list[int]:
    """Numbers of the feet that hold the dial: the best pair where two meet, else all of them."""
    count = r.count("dial.feet")
    aside = Readings(r.build, r.rules)
    feet = places(aside, "dial.feet")
    holes = places(aside, "movement.foot_holes", turned_by="case.crown_angle")
    if not aside.missing and not aside.absent and len(feet) >= FEWEST and len(holes) >= FEWEST:
        fit = best_fit(feet, holes, r.rule("foot_bend"), r.rule("dial_turn"))
        if fit.value >= -SLACK:
            return [foot for foot, _ in fit.pairs]
    return list(range(count))


def kept_length(r: Readings, pick: Callable[[list[Number]], Number]) -> Number | None:
    """Length of the shortest or longest kept foot, as `pick` is least or greatest; None without feet."""
    lengths = [r[f"dial.feet.{foot}.length"] for foot in kept_feet(r)] if r.wants("dial") else []
    return pick(lengths) if lengths else None


def foot_engagement(r: Readings) -> Number | None:
    """How much of the shortest kept foot reaches past the movement-side spacers."""
    shortest = kept_length(r, least)
    return None if shortest is None else shortest - spacer_height(r, "movement")


def foot_bottoming(r: Readings) -> Number | None:
    """Room left under the longest kept foot in its hole."""
    longest = kept_length(r, greatest)
    return (
        None if longest is None else r["movement.foot_hole_depth"] - (longest - spacer_height(r, "movement"))
    )


CHECKS = (
    Check(
        name="dial_feet",
        title="Feet over their holes",
        limits=Limits(0.0, None),
        solver=solve_feet,
        details=told_feet,
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
    Check(
        name="foot_engagement",
        title="Feet in the movement",
        limits=Limits(0.60, None),
        formula=foot_engagement,
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
    Check(
        name="foot_bottoming",
        title="Room under the feet",
        limits=Limits(0.05, None),
        formula=foot_bottoming,
        span=Span("z", "foot_hole_bottom", "foot_end", beside="foot_hole"),
        plan="feet",
        words=Words(
            means="Room left between the longest kept foot and the bottom of its hole.",
            below="The foot stands on the bottom of its hole: the dial will not lie down flat.",
            helps=("Shorten the feet with a fine file, eyes protected, chips kept out.",),
        ),
    ),
)
