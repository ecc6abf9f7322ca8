"""Check of the hand stack: whether the hands find heights with air everywhere, and which: the press plan.

Follows `hand_stack` of fit-model.md; `hand_stack.py` beside this folder solves the chains.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from uncertainties import ufloat

from marquetry.core.fit.checks.check import Described, Span, Words
from marquetry.core.fit.columns import Columns, ColumnTrace, Judged, Slopes, judged
from marquetry.core.fit.finding import Finding, contributions_of
from marquetry.core.fit.levels import crystal_underside, dial_top, movement_face
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.sampling import Sampled, deviations
from marquetry.core.fit.stack import Bound, Floats, Level, chains_of, heights, spare, terms_of
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, is_column, least, nominal, partials
from marquetry.core.values.verdict import Verdict


def tilt_slope(r: Trace) -> float:
    """T: what a leaning hand loses in height for each millimetre of its length."""
    return math.tan(math.radians(r.rule("hand_tilt")))


def length_of(r: Trace, hand: str) -> Number:
    """A hand's nominal length, centre to tip, mm."""
    return nominal(r[f"hands.{hand}.length"])


def _floors(r: Trace, hand: str) -> Iterator[Bound]:
    """Bounds from below: the post's shoulder, its top where the bore is closed, the dial and its features."""
    post_top = movement_face(r) + r[f"movement.posts.{hand}.top"]
    grip, pipe = r[f"movement.posts.{hand}.grip"], r[f"hands.{hand}.pipe"]
    yield Bound(f"{hand}.post_shoulder", post_top - grip + pipe, wanted=False)
    if not r.flag(f"hands.{hand}.through"):
        yield Bound(f"{hand}.post_top", post_top, wanted=False)
    length = length_of(r, hand)
    air = r.rule("gap_dial") + length * tilt_slope(r)
    yield Bound(f"{hand}.dial", dial_top(r) + air, wanted=True, air=air)
    for index in range(r.count("dial.features")):
        begins, height = r[f"dial.features.{index}.inner_radius"], r[f"dial.features.{index}.height"]
        reaches, z = nominal(begins) < length, dial_top(r) + height + air
        if is_column(reaches):
            yield Bound(f"{hand}.feature_{index}", np.where(reaches, z, -np.inf), wanted=True, air=air)
        elif reaches:
            yield Bound(f"{hand}.feature_{index}", z, wanted=True, air=air)


def _ceilings(r: Trace, hand: str) -> Iterator[Bound]:
    """Bounds from above: the post's grip on the pipe, the crystal over the tip and over the centre."""
    post_top = movement_face(r) + r[f"movement.posts.{hand}.top"]
    pipe, blade = r[f"hands.{hand}.pipe"], r[f"hands.{hand}.thickness"]
    yield Bound(f"{hand}.post_engagement", post_top + pipe - r.rule("hand_engagement"), wanted=False)
    length = length_of(r, hand)
    air = r.rule("gap_crystal")
    leaning = air + length * tilt_slope(r)
    at_tip = crystal_underside(r, length) - blade - leaning
    yield Bound(f"{hand}.crystal_tip", at_tip, wanted=True, air=leaning)
    at_centre = crystal_underside(r, 0.0) - blade - air
    yield Bound(f"{hand}.crystal_centre", at_centre, wanted=True, air=air)


def _steps(r: Trace, below: str | None, hand: str) -> Iterator[Bound]:
    """How far this blade's underside must stand over the underside of the blade below."""
    if below is None:
        return
    blade = r[f"hands.{below}.thickness"]
    shorter = least([length_of(r, below), length_of(r, hand)])
    air, by_pipe = r.rule("gap_hands") + 2 * shorter * tilt_slope(r), r.rule("gap_pipe")
    yield Bound(f"{hand}.blade", blade + air, wanted=True, air=air)
    over = blade + r[f"hands.{hand}.pipe"] + by_pipe
    yield Bound(f"{hand}.pipe", over, wanted=True, air=by_pipe)


def levels_of(r: Trace, pressed: Sequence[str] | None = None) -> list[Level]:
    """The stack of this build's hands, from the dial upwards; of those alone that are `pressed` already."""
    hands = r.hands() if pressed is None else list(pressed)
    below = [None, *hands][: len(hands)]
    return [
        Level(hand, tuple(_floors(r, hand)), tuple(_ceilings(r, hand)), tuple(_steps(r, under, hand)))
        for under, hand in zip(below, hands, strict=True)
    ]


def _linear(terms: list[Number], paths: list[str]) -> Floats:
    """Partial derivatives of every term (rows) by every dimension (columns)."""
    column = {path: index for index, path in enumerate(paths)}
    matrix = np.zeros((len(terms), len(paths)))
    for row, term in enumerate(terms):
        for path, slope in partials(term).items():
            matrix[row, column[path]] = slope
    return matrix


NO_PLAN = "No press plan: a hand would hold too little of its post at any height."
BOUNDS = {
    "post_shoulder": "pipe on the post's shoulder",
    "post_top": "closed bore on the post's top",
    "post_engagement": "least grip on the post",
    "dial": "over the dial",
    "feature": "over what is raised on the dial",
    "blade": "blade over the blade below",
    "pipe": "pipe over the blade below",
    "crystal_tip": "tip under the crystal",
    "crystal_centre": "centre under the crystal",
}


def _told_bound(name: str) -> str:
    hand, _, what = name.partition(".")
    return f"{HAND_LABELS[hand]} {BOUNDS[what if what in BOUNDS else what.partition('_')[0]]}"


@dataclass(frozen=True, slots=True)
class PressPlan:
    """Height in mm of each blade's underside over the dial's face, and the chain that holds them down."""

    heights: Mapping[str, float]
    binding: tuple[str, ...]
    is_pressed: bool = False
    """Whether these are the heights that were read, of hands that are on."""

    def as_dict(self) -> Mapping[str, object]:
        """As JSON carries it."""
        return {"heights": dict(self.heights), "binding": list(self.binding)}

    def told(self) -> tuple[str, ...]:
        """The press plan in words, and what holds the hands down."""
        told = ", ".join(f"{HAND_LABELS[hand]} {figure(height)}" for hand, height in self.heights.items())
        if self.is_pressed:
            near = "; ".join(map(_told_bound, self.binding))
            return f"As pressed, blade's underside over the dial: {told} mm.", f"Nearest: {near}."
        press = f"Press plan, blade's underside over the dial: {told} mm." if told else NO_PLAN
        return press, f"Held down by: {'; '.join(map(_told_bound, self.binding))}."


def press_plan(finding: Finding) -> PressPlan | None:
    """The plan that `hand_stack` told; None where it had nothing to say."""
    return finding.detail if isinstance(finding.detail, PressPlan) else None


STACKED = ("hands", "movement", "dial", "case", "crystal")


@dataclass(frozen=True, slots=True, kw_only=True)
class StackCheck(Described):
    """The hand stack: chains of bounds between dial and crystal, solved together."""

    @property
    def one_length(self) -> bool:
        """Hundreds of chains for each cell."""
        return True

    def judge(self, trace: Trace, limits: Limits) -> Finding | None:
        """By how much every wanted gap can be beaten at once, the press plan, the binding chain."""
        if not trace.wants(*STACKED):
            return None
        levels = levels_of(trace)
        on = {level.hand: trace.plain(f"hands.{level.hand}.pressed") for level in levels}
        if not levels or trace.missing:
            return None
        heights_on = {hand: height for hand, height in on.items() if height is not None}
        if len(heights_on) == len(on):
            return _as_pressed(self.name, levels, heights_on, limits, trace)
        terms, chains = terms_of(levels), chains_of(levels)
        values = np.array([float(nominal(term.z)) for term in terms])
        known = {path: d for path in trace.uses.dimensions() if (d := trace.dimension(path)) and d.tol > 0}
        paths = list(known)
        moves = _linear([term.z for term in terms], paths)
        slopes = chains.signs @ moves
        rooms = chains.signs @ values
        half_widths = np.abs(slopes) @ np.array([known[path].tol for path in paths])
        value = float(chains.shares(rooms).min())
        low, high = (float(chains.shares(rooms + sign * half_widths).min()) for sign in (-1, 1))
        binding = int(chains.shares(rooms).argmin())
        doubtful = list(known.values())
        plan = heights(levels, values, value)
        face = float(nominal(dial_top(trace)))
        names = [term.name for term, sign in zip(terms, chains.signs[binding], strict=True) if sign]
        return Finding(
            self.name,
            limits.verdict(value, low, high),
            limits,
            value=value,
            low=low,
            high=high,
            odds=Sampled(
                lambda: limits.admits(spare(levels, values[:, None] + moves @ deviations(doubtful)))
            ),
            reads=trace.uses.dimensions(),
            contributions=contributions_of(
                _slopes_by_path(slopes[binding], paths, chains.counts[binding]), trace
            ),
            detail=PressPlan({hand: z - face for hand, z in plan.items()}, tuple(names)),
        )

    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:  # noqa: ARG002  # its slopes are the build's own
        """Room over columns of one length; None where the build lacks something, or has no hands.

        Slopes are those of the build itself; the dome's, which differs from part to part, is left out, so
        that the worst case is never told too low.
        """
        found = _over(build, rules, columns)
        return None if found is None else judged(*found, rules.limits(self.key, self.limits))


@dataclass(frozen=True, slots=True)
class GapFound:
    """One bound of the stack at heights that were read: `spare` mm over it, and the hand under this one."""

    bound: Bound
    spare: float
    under: str | None

    @property
    def verdict(self) -> Verdict:
        """Clash where the two touch or the post does not hold, tight where less air is left than wanted."""
        if self.spare >= -SLACK:
            return Verdict.CLEAR
        gap = self.spare + float(nominal(self.bound.air))
        return Verdict.CLASH if not self.bound.wanted or gap < -SLACK else Verdict.TIGHT


def gaps_at(levels: Sequence[Level], face: float, heights_on: Mapping[str, float]) -> Iterator[GapFound]:
    """Every bound of the stack, by heights of blades' undersides over the dial's face at z = `face`, mm."""
    below = 0.0
    for level, under in zip(levels, [None, *(level.hand for level in levels)], strict=False):
        height = face + heights_on[level.hand]
        for bound in level.floors:
            yield GapFound(bound, height - float(nominal(bound.z)), under)
        for bound in level.ceilings:
            yield GapFound(bound, float(nominal(bound.z)) - height, under)
        for bound in level.steps:
            yield GapFound(bound, height - below - float(nominal(bound.z)), under)
        below = height


def _as_pressed(
    check: str, levels: Sequence[Level], on: Mapping[str, float], limits: Limits, trace: Trace
) -> Finding:
    """What the stack has to spare with every hand where it was read to be: bench and fit say one thing."""
    found = sorted(gaps_at(levels, float(nominal(dial_top(trace))), on), key=lambda gap: gap.spare)
    worst = max((gap.verdict for gap in found), key=lambda verdict: verdict.gravity)
    value = found[0].spare
    detail = PressPlan(dict(on), (found[0].bound.name,), is_pressed=True)
    return Finding(
        check, worst, limits, value=value, low=value, high=value, reads=trace.uses.dimensions(), detail=detail
    )


def _over(build: Build, rules: Rules, columns: Columns) -> tuple[Floats, Floats, Floats] | None:
    """The stack's value over columns, and how far it may be off downwards and upwards, in mm."""
    trace = ColumnTrace(build, rules, {path: column.values for path, column in columns.items()})
    levels = levels_of(trace) if all(build.has(part) for part in STACKED) else []
    if not levels or trace.missing or trace.absent:
        return None
    terms, chains = terms_of(levels), chains_of(levels)
    size = max((np.size(column.values) for column in columns.values()), default=1)
    values = np.array([np.broadcast_to(np.asarray(term.z, dtype=np.float64), size) for term in terms])
    values = np.maximum(values, -FAR)  # a feature out of a hand's reach bounds nothing
    known = build.dimensions
    tols = {
        path: columns[path].tols if path in columns else np.asarray(known[path].tol)
        for path in trace.uses.dimensions()
        if path in columns or path in known
    }
    tols.pop("crystal.inner_dome", None)
    slopes = _slopes(build, rules, [term.name for term in terms], list(tols))
    off = np.abs(chains.signs @ slopes) @ np.array([np.broadcast_to(tol, size) for tol in tols.values()])
    rooms = chains.signs @ values
    middle = chains.shares(rooms).min(axis=0)
    low, high = (chains.shares(rooms + sign * off).min(axis=0) for sign in (-1, 1))
    return middle, middle - low, high - middle


def _slopes(build: Build, rules: Rules, names: list[str], paths: list[str]) -> Floats:
    """∂term/∂dimension of the build's own stack: a row a term, a column a dimension."""
    own = {term.name: partials(term.z) for term in terms_of(levels_of(_Sensitive(build, rules)))}
    return np.array([[own.get(name, {}).get(path, 0.0) for path in paths] for name in names])


class _Sensitive(Trace):
    """A build's dimensions with a derivative each, whatever their tolerance."""

    def number(self, path: str, dimension: Dimension) -> Number:
        """The nominal value, with a doubt of one unit."""
        return ufloat(dimension.value, 1.0, tag=path)


def stack_over(build: Build, rules: Rules, values: Mapping[str, Floats]) -> Floats | None:
    """The hand stack's nominal value in mm over columns of one length; None where a hand lacks something."""
    trace = ColumnTrace(build, rules, values)
    levels = levels_of(trace)
    if not levels or trace.missing or trace.absent:
        return None
    size = max((np.size(column) for column in values.values()), default=1)
    return spare(levels, np.array([np.broadcast_to(term.z, size) for term in terms_of(levels)]))


def _slopes_by_path(row: Floats, paths: list[str], count: float) -> dict[str, float]:
    shared = row / max(count, 1.0)
    return {path: float(slope) for path, slope in zip(paths, shared, strict=True) if slope}


FAR = 1e6


CHECKS = (
    StackCheck(
        name="hand_stack",
        rate=0.06,
        title="Room for the hands",
        limits=Limits(0.0, None),
        told_as="spare",
        span=Span("z", "dial_top", "crystal_centre", beside="hand_tip"),
        words=Words(
            means="How much more air than wanted every hand has at once, pressed to the press plan.",
            below="No heights give every hand the air it wants: a blade will come too near "
            "the dial, the next blade or the crystal, or a pipe will hold too little post.",
            helps=(
                "A crystal with an inner dome, or seated higher on a flanged gasket.",
                "Hands with longer pipes where the posts stand too low; thinner blades where they crowd.",
                "A dial-side spacer lowers dial and hands together under the crystal.",
            ),
        ),
    ),
)
