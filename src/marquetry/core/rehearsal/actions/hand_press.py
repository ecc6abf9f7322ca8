"""A hand on its post under the press: what holds the pipe, how it slides, where a shim, a shoulder or the dial stops it."""

import math
import random
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from marquetry.core.bench.pressed import Pressed, pressed
from marquetry.core.fit.checks.hand_fit import hand_grip
from marquetry.core.fit.checks.hands import levels_of
from marquetry.core.fit.levels import dial_top
from marquetry.core.rehearsal.exercise import At
from marquetry.core.values.figures import figure
from marquetry.core.values.number import nominal

ENGAGED = 0.10
"""How deep a hand that was only set on sits on its post, mm."""
FORCE_A_SECOND = 10.0
BREAKS_AT, MOST_BREAKS_AT = 200.0, 12.0
"""Newtons for each millimetre of interference before a pipe slides; and what a hand ever asks for."""
SLIDES = 0.8
USUAL_GRIP, LEAST_GRIP = 0.02, 0.004
"""Interference at which a pipe slides `SLIDES` mm a second once it has broken loose; a tighter one slower."""
HASTE = (0.85, 1.15)
SHIM_GIVES, SHIM_GIVES_MOST = 0.035, 0.14
"""How much a shim is squeezed in a second once it is met, and at most, mm."""
SHIM_U, SIDE_U = 0.008, 0.012
"""Spread of a press that is stopped by its shim, and of a height read from the side; mm."""
LEANS, LEVELLED = 0.12, 0.04
"""How crooked a press leaves a blade, and a push on its high side; standard deviation in degrees."""
WEARS = 0.004
"""What a pipe loses of its grip each time it is lifted, mm."""


@dataclass(frozen=True, slots=True)
class Blade:
    """A hand on its post: its underside over the dial, mm, its lean in degrees, how often it was lifted."""

    height: float
    lean: float = 0.0
    lifts: int = 0
    is_pressed: bool = False
    is_seen: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class HandsAt(At):
    """`plan` is the press plan, `blades` the hands that are on; `shim` in mm, 0 for none."""

    plan: Mapping[str, float]
    blades: Mapping[str, Blade]
    hand: str
    shim: float = 0.0
    seen: Mapping[str, tuple[float, float]]

    @property
    def blade(self) -> Blade:
        """The hand at hand."""
        return self.blades[self.hand]

    @property
    def gaps(self) -> Pressed:
        """Every gap as it truly is, by the report's own formulas."""
        heights = {hand: blade.height for hand, blade in self.blades.items() if blade.is_pressed}
        return pressed(self.twin.true, self.twin.rules, heights)


def _hard(at: HandsAt, hand: str) -> tuple[list[float], float]:
    """The stack's own hard bounds of a hand alone, mm over the dial: those from below, and its last grip."""
    p = at.twin.reader
    level, face = levels_of(p, [hand])[0], dial_top(p)
    floors = [float(nominal(bound.z - face)) for bound in level.floors if not bound.wanted]
    last = next(float(nominal(bound.z - face)) for bound in level.ceilings if not bound.wanted)
    return floors, last


def set_on(at: HandsAt, hand: str) -> Blade:
    """A hand laid on its post by its own weight and a finger: it engages less than it has to."""
    _, last = _hard(at, hand)
    return Blade(last + at.twin.rules.number("hand_engagement") - ENGAGED)


def lowest(at: HandsAt, hand: str) -> float:
    """The lowest a blade can come over the dial: the post's shoulder, a closed bore's end, or the dial; mm."""
    floors, _ = _hard(at, hand)
    return max(*floors, 0.0)


def grip_of(at: HandsAt, hand: str, lifts: int = 0) -> float:
    """How much thicker the post is than the pipe, mm, lifted so often."""
    return float(nominal(hand_grip(at.twin.reader, hand))) - WEARS * lifts


def height_under_press(at: HandsAt, draw: random.Random) -> Callable[[float], float]:
    """The blade's height, mm, after so many ms under the press: held, then loose and sliding, then stopped."""
    grip = max(grip_of(at, at.hand, at.blade.lifts), LEAST_GRIP)
    breaks_ms = 1000 * min(BREAKS_AT * grip, MOST_BREAKS_AT) / FORCE_A_SECOND
    speed = SLIDES * min(USUAL_GRIP / grip, 2.0) * draw.uniform(*HASTE)
    floor, start, stop = (
        lowest(at, at.hand),
        at.blade.height,
        at.shim + draw.gauss(0.0, SHIM_U) if at.shim else -math.inf,
    )

    def height(ms: float) -> float:
        free = start - speed * max(ms - breaks_ms, 0.0) / 1000
        if free >= stop:
            return max(free, floor)
        met_ms = breaks_ms + 1000 * max(start - stop, 0.0) / speed
        given = min(SHIM_GIVES * (ms - met_ms) / 1000, SHIM_GIVES_MOST)
        return max(min(start, stop) - given, floor)

    return height


def met_after(at: HandsAt) -> float:
    """Thousandths of seconds until a hand on the press feels the shim: enough for any pipe."""
    way = max(at.blade.height - at.shim, 0.0)
    grip = max(grip_of(at, at.hand, at.blade.lifts), LEAST_GRIP)
    slow = SLIDES * min(USUAL_GRIP / grip, 2.0) * HASTE[0]
    return 1000 * (min(BREAKS_AT * grip, MOST_BREAKS_AT) / FORCE_A_SECOND + way / slow) + 200


def press(at: HandsAt, ms: float, draw: random.Random) -> HandsAt:
    """The press held for so many ms; every press leaves the blade leaning a little."""
    height = height_under_press(at, draw)(ms)
    moved = at.blade.height - height
    if moved <= 0:
        return replace(at, notes=(*at.notes, "It did not move: the pipe still holds."))
    lean = at.blade.lean + draw.gauss(0.0, LEANS)
    pressed_on = replace(at.blade, height=height, lean=lean, is_pressed=True, is_seen=False)
    found = with_blade(at, pressed_on, f"Pressed {figure(moved, 2, 'mm')} down.")
    return replace(found, spoilt=found.spoilt or touching(found))


def touching(at: HandsAt) -> str:
    """Whether blades or pipes touch something, in words."""
    found = [gap for gap in at.gaps.gaps if gap.gap is not None and gap.gap < 0]
    if not found:
        return ""
    return f"{found[0].words} touches. It scrapes at every turn; lifted, its pipe grips less and the dial keeps the mark."


def look(at: HandsAt, draw: random.Random) -> HandsAt:
    """Height and lean read from the side, with the noise of a loupe."""
    height = round(draw.gauss(at.blade.height, SIDE_U), 2)
    lean = round(draw.gauss(at.blade.lean, 0.01), 2)
    words = f"From the side: {figure(height, 2, 'mm')} over the dial, leaning by {figure(lean, 2, '°')}."
    return replace(
        with_blade(at, replace(at.blade, is_seen=True), words), seen={**at.seen, at.hand: (height, lean)}
    )


def with_blade(at: HandsAt, blade: Blade, words: str) -> HandsAt:
    """The same with the hand at hand as it stands now, and a note."""
    return replace(at, blades={**at.blades, at.hand: blade}, notes=(*at.notes, words))
