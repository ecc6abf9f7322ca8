"""Check of the hand stack: whether the hands find heights with air everywhere, and which: the press plan.

Follows `hand_stack` of fit-model.md; `hand_stack.py` beside this folder solves the chains.
"""

import math
from collections.abc import Iterator

import numpy as np

from marquetry.core.fit.checks.check import Check, Span, Words
from marquetry.core.fit.finding import Finding, drivers_of
from marquetry.core.fit.levels import crystal_underside, dial_top, movement_face
from marquetry.core.fit.sampling import SAMPLES, deviations
from marquetry.core.fit.stack import Bound, Floats, Level, chains_of, heights, spare, terms_of
from marquetry.core.fit.trace import Readings
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, is_column, least, nominal, partials


def tilt_slope(r: Readings) -> float:
    """T: what a leaning hand loses in height for each millimetre of its length."""
    return math.tan(math.radians(r.rule("hand_tilt")))


def length_of(r: Readings, hand: str) -> Number:
    """A hand's nominal length, centre to tip."""
    return nominal(r[f"hands.{hand}.length"])


def _floors(r: Readings, hand: str) -> Iterator[Bound]:
    """Bounds from below: the post's shoulder, its top where the bore is closed, the dial and its features."""
    post_top = movement_face(r) + r[f"movement.posts.{hand}.top"]
    grip, pipe = r[f"movement.posts.{hand}.grip"], r[f"hands.{hand}.pipe"]
    yield Bound(f"{hand}.post_shoulder", post_top - grip + pipe, wanted=False)
    if not r.flag(f"hands.{hand}.through"):
        yield Bound(f"{hand}.post_top", post_top, wanted=False)
    length = length_of(r, hand)
    air = r.rule("gap_dial") + length * tilt_slope(r)
    yield Bound(f"{hand}.dial", dial_top(r) + air, wanted=True)
    for index in range(r.count("dial.features")):
        begins, height = r[f"dial.features.{index}.inner_radius"], r[f"dial.features.{index}.height"]
        reaches, z = nominal(begins) < length, dial_top(r) + height + air
        if is_column(reaches):
            yield Bound(f"{hand}.feature_{index}", np.where(reaches, z, -np.inf), wanted=True)
        elif reaches:
            yield Bound(f"{hand}.feature_{index}", z, wanted=True)


def _ceilings(r: Readings, hand: str) -> Iterator[Bound]:
    """Bounds from above: the post's grip on the pipe, the crystal over the tip and over the centre."""
    post_top = movement_face(r) + r[f"movement.posts.{hand}.top"]
    pipe, blade = r[f"hands.{hand}.pipe"], r[f"hands.{hand}.thickness"]
    yield Bound(f"{hand}.post_engagement", post_top + pipe - r.rule("hand_engagement"), wanted=False)
    length = length_of(r, hand)
    air = r.rule("gap_crystal")
    at_tip = crystal_underside(r, length) - blade - air - length * tilt_slope(r)
    yield Bound(f"{hand}.crystal_tip", at_tip, wanted=True)
    yield Bound(f"{hand}.crystal_centre", crystal_underside(r, 0.0) - blade - air, wanted=True)


def _steps(r: Readings, below: str | None, hand: str) -> Iterator[Bound]:
    """How far this blade's underside must stand over the underside of the blade below."""
    if below is None:
        return
    blade = r[f"hands.{below}.thickness"]
    shorter = least([length_of(r, below), length_of(r, hand)])
    yield Bound(f"{hand}.blade", blade + r.rule("gap_hands") + 2 * shorter * tilt_slope(r), wanted=True)
    yield Bound(f"{hand}.pipe", blade + r[f"hands.{hand}.pipe"] + r.rule("gap_pipe"), wanted=True)


def levels_of(r: Readings) -> list[Level]:
    """The stack of this build's hands, from the dial upwards."""
    hands = r.hands()
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


def solve_hand_stack(check: Check, r: Readings) -> Finding | None:
    """`hand_stack`: by how much every wanted gap can be beaten at once, the press plan, the binding chain."""
    if not all([r.wants("hands"), r.wants("movement"), r.wants("dial"), r.wants("case"), r.wants("crystal")]):
        return None
    levels = levels_of(r)
    if not levels or r.missing:
        return None
    terms, chains = terms_of(levels), chains_of(levels)
    values = np.array([float(nominal(term.z)) for term in terms])
    known = r.build.dimensions
    paths = [path for path in r.uses if path in known and known[path].tol > 0]
    moves = _linear([term.z for term in terms], paths)
    slopes = chains.signs @ moves
    rooms = chains.signs @ values
    doubt = np.abs(slopes) @ np.array([known[path].tol for path in paths])
    value = float(chains.shares(rooms).min())
    low, high = (float(chains.shares(rooms + sign * doubt).min()) for sign in (-1, 1))
    binding = int(chains.shares(rooms).argmin())
    samples = spare(levels, values[:, None] + moves @ deviations([known[path] for path in paths]))
    plan = heights(levels, values, value)
    face = float(nominal(dial_top(r)))
    return Finding(
        check.name,
        check.limits.verdict(value, low, high),
        check.limits,
        value=value,
        low=low,
        high=high,
        chance=float(np.count_nonzero(check.limits.admits(samples)) / SAMPLES),
        drivers=drivers_of(_slopes_by_path(slopes[binding], paths, chains.counts[binding]), known),
        extras={
            "heights": {hand: z - face for hand, z in plan.items()},
            "binding": [term.name for term, sign in zip(terms, chains.signs[binding], strict=True) if sign],
        },
    )


def _slopes_by_path(row: Floats, paths: list[str], count: float) -> dict[str, float]:
    shared = row / max(count, 1.0)
    return {path: float(slope) for path, slope in zip(paths, shared, strict=True) if slope}


def told_plan(finding: Finding) -> tuple[str, ...]:
    """The press plan in words, and what holds the hands down."""
    plan, binding = finding.extras.get("heights"), finding.extras.get("binding")
    if not isinstance(plan, dict) or not isinstance(binding, list):
        return ()
    heights_told = ", ".join(f"{HAND_LABELS[hand]} {figure(height)}" for hand, height in plan.items())
    press = f"Press plan, blade's underside over the dial: {heights_told} mm." if plan else NO_PLAN
    bound = "; ".join(_told_bound(name) for name in binding)
    return press, f"Held down by: {bound}."


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


CHECKS = (
    Check(
        name="hand_stack",
        title="Room for the hands",
        limits=Limits(0.0, None),
        solver=solve_hand_stack,
        told_as="spare",
        details=told_plan,
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
