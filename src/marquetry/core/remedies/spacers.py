"""Spacers on the dial side or behind the dial, solved from the stem; moved over, thinned or left out."""

import math
from collections.abc import Iterator

from marquetry.core.evidence.seat import spacer_height
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.levels import opening
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import aside
from marquetry.core.remedies.idea import MADE_TOL, Idea, rounded
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

SIDES = {"dial": "on the dial side", "movement": "behind the dial"}
THINNEST = 0.05
LAYER = 0.02
"""Spacers are made in these steps: what a fine printer lays down, or a sheet is sold in."""
PLAY = 0.10
RING = 3.0
"""Width of a ring behind the dial where nothing says otherwise: it clears the wheels and carries the feet."""

CHECKS = (
    "stem_height",
    "rotor_clearance",
    "back_clearance",
    "holder_clamp",
    "hand_stack",
    "foot_engagement",
    "foot_bottoming",
)


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """Spacers that bring the stem to its tube, thicker and thinner as far as the stem allows; or moved over."""
    if check not in CHECKS or not (build.has("case") and build.has("dial")):
        return
    stem = report.findings["stem_height"]
    if stem.value is not None:
        for side in SIDES:
            for missing in _thicknesses(stem):
                yield from _changed(build, report.rules, side, missing)
    yield from _moved(build, report.rules)


def _thicknesses(stem: Finding) -> Iterator[float]:
    """What is missing at the stem: exactly, and as little and as much as its band allows in the worst case."""
    if stem.value is None or stem.low is None or stem.high is None:
        return
    doubt = (stem.high - stem.low) / 2
    reach = max((stem.limits.high or 0.0) - doubt - LAYER, 0.0)
    yield from dict.fromkeys(rounded(stem.value + way * reach, LAYER) for way in (0.0, -1.0, 1.0))


def _total(build: Build, rules: Rules, side: str) -> float:
    return float(nominal(spacer_height(aside(build, rules), side)))


def _changed(build: Build, rules: Rules, side: str, missing: float) -> Iterator[Idea]:
    """The spacers of a side brought to another height altogether."""
    old = _total(build, rules, side)
    wanted = rounded(old + missing, LAYER)
    if abs(missing) < LAYER / 2 or wanted < -LAYER / 2:
        return
    if wanted < THINNEST:
        if old:
            yield Idea("no_spacer", f"Leave out the spacer {SIDES[side]}", _without(build, side), 1)
        return
    words = "A spacer" if not old else "A spacer in place of the present one,"
    title = f"{words} of {figure(wanted, 2, 'mm')} {SIDES[side]}"
    made = _with(_without(build, side), rules, side, wanted)
    yield Idea(f"spacer_{side}", title, made, 2, school=f"spacer_{side}", make="spacer")


def _moved(build: Build, rules: Rules) -> Iterator[Idea]:
    """All spacers of one side on the other."""
    for side, other in (("dial", "movement"), ("movement", "dial")):
        height = _total(build, rules, side)
        if height >= THINNEST:
            total = height + _total(build, rules, other)
            made = _with(_without(_without(build, side), other), rules, other, total)
            title = f"The spacer {SIDES[other]} instead, {figure(total, 2, 'mm')}"
            yield Idea(f"spacer_{other}", title, made, 2, school=f"spacer_{other}", make="spacer")


def _without(build: Build, side: str) -> Build:
    for index in reversed(range(build.count(SPACERS.key))):
        if build.at(f"{SPACERS.key}.{index}.side") == side:
            build = build.without(f"{SPACERS.key}.{index}")
    return build


def ring_for(build: Build, rules: Rules, side: str) -> tuple[float, float]:
    """Outer and inner Ø of a ring for that side of the dial, mm; not above 0 where the watch does not say."""
    bore, movement = (build.dimensions.get(path) for path in ("case.dial_bore", "movement.diameter"))
    outer = (bore.value - PLAY if bore else 0.0) if side == "dial" else movement.value if movement else 0.0
    return outer, _seen(build, rules) if side == "dial" else outer - RING


def _with(build: Build, rules: Rules, side: str, thickness: float) -> Build:
    outer, inner = ring_for(build, rules, side)
    made: dict[str, Json] = {"side": side, "thickness": _dimension(thickness)}
    if outer > inner > 0:
        made |= {"outer_diameter": _dimension(outer), "inner_diameter": _dimension(inner)}
    return build.with_entry(f"{SPACERS.key}.-", made)


def _seen(build: Build, rules: Rules) -> float:
    """The opening through which the dial is seen: a ring on the dial side must not show inside it."""
    found = float(nominal(opening(aside(build, rules))))
    return 0.0 if math.isnan(found) else found


def _dimension(value: float) -> Json:
    return dimension_as_json(Dimension(round(value, 4), MADE_TOL, Source.PLANNED))
