"""Feet over holes in the plan: which two meet, after which turn, by how much.

Follows `dial_feet` of fit-model.md. The best common turn φ is found exactly: over a stretch where every
margin only rises or only falls, the smaller of two is largest at an end or where they cross.
"""

import heapq
import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, pairwise, permutations

from marquetry.core.fit.trace import Trace
from marquetry.core.values.number import nominal

MOST_TRIED = 5_000
"""Of two dozen feet over two dozen holes there are 150,000 ways; of eight over eight 1,568, all tried."""
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
    """Fits by what they could be at most, the best first, until none can be better than one before.

    Each with its place in the order of feet and holes, which decides between equals.
    """
    every = {(f, h): Meeting(foot, hole, bend) for f, foot in enumerate(feet) for h, hole in enumerate(holes)}
    at_most = {key: meeting.best_margin(reach) for key, meeting in every.items()}
    pairs = (
        (min(at_most[a, c], at_most[b, d]), a, b, c, d)
        for a, b in combinations(range(len(feet)), 2)
        for c, d in permutations(range(len(holes)), 2)
    )
    found = -math.inf
    for bound, a, b, c, d in heapq.nsmallest(MOST_TRIED, pairs, key=lambda pair: (-pair[0], *pair[1:])):
        if bound < found:
            return
        meetings = (every[a, c], every[b, d])
        fit = Footing(((a, c), (b, d)), meetings, *_best_turn(meetings, reach))
        found = max(found, fit.value)
        yield fit


@lru_cache(maxsize=256)
def best_footing(feet: tuple[Place, ...], holes: tuple[Place, ...], bend: float, reach: float) -> Footing:
    """The two feet and two holes, and the turn within ±`reach`°, whose smaller margin is the largest.

    Three checks of one report ask for the same fit.
    """
    return min(_footings(feet, holes, bend, reach), key=_rank)


def _rank(fit: Footing) -> tuple[float, ...]:
    """The larger the better, and of equals the one of the earlier feet, then holes."""
    (a, c), (b, d) = fit.pairs
    return -round(fit.value, 12), a, b, c, d


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
