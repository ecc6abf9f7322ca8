"""Press the hands: height by shim and feel, level, a look from the side before the next."""

import math
import random
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from marquetry.core.bench.pressed import Pressed, pressed
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.checks.hands import press_plan
from marquetry.core.fit.levels import dial_top, movement_face
from marquetry.core.rehearsal.exercise import Aimed, At, Exercise, Mistake, MoveOffer, PlayMove, ticks, times
from marquetry.core.rehearsal.twin import Twin
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import nominal
from marquetry.core.values.verdict import Verdict

WITHIN = 0.08
"""How far a blade may stand from the press plan, mm: less than a shim's own step."""
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


class PressHands(Exercise[HandsAt]):
    """The hands one after the other, from the dial upwards."""

    key = "hands"
    title = "Press the hands"
    task = (
        "Press each hand to the press plan: set a shim, press, look from the side, level it, then the next."
    )
    aim = f"Every blade within {WITHIN:.2f} mm of its height, level, gripping, and nothing touches."
    steps = (
        "press_h24", "press_hour", "press_minute", "press_seconds",
        "check_h24", "check_hour", "check_minute", "check_seconds",
    )  # fmt: skip
    counts = (
        ("The shim stops the press", "A pipe breaks loose and slides; a finger is slower than that."),
        ("Let go when it meets the shim", "A shim that is leant on gives, and then the dial."),
        ("Look from the side", "From above a blade that leans looks like one that does not."),
        ("Press it once", "Each time a hand is lifted its pipe grips less."),
    )
    caution = "Tweezers and levers slip: keep the other hand behind them."
    checks = ("hand_stack", *(f"hand_grip.{hand}" for hand in HAND_LABELS))

    @property
    def mistakes(self) -> tuple[Mistake[HandsAt], ...]:
        """Without a shim; without a look."""
        return (
            Mistake(
                "by_feel",
                "Presses without a shim, each hand as long as the last one took",
                (0.85, 1.0),
                _by_feel,
            ),
            Mistake("unseen", "Sets the shims, and never looks from the side", (0.20, 0.40), _unseen),
            Mistake("leant_on", "Leans on the shim for three seconds", (0.70, 1.0), _leant_on),
        )

    def lacking(self, situation: Situation) -> str:
        """A watch whose hands have a press plan."""
        finding = situation.report.findings["hand_stack"]
        if finding.verdict is Verdict.SKIPPED:
            return "It takes hands, a movement, a dial, a case and a crystal."
        if finding.verdict is Verdict.CLASH:
            return "These hands find no heights with air everywhere: see the remedies first."
        return ""

    def begin(self, twin: Twin) -> HandsAt:
        """The first hand set on its post."""
        plan = press_plan(twin.report.findings["hand_stack"])
        heights = plan.heights if plan else {}
        hand = next(iter(heights))
        told = ", ".join(f"{HAND_LABELS[one]} {figure(height)}" for one, height in heights.items())
        notes = (f"Press plan, blade over dial: {told} mm.",)
        at = HandsAt(twin=twin, notes=notes, plan=heights, blades={}, hand=hand, seen={})
        return replace(at, blades={hand: _set_on(at, hand)})

    def offers(self, at: HandsAt) -> tuple[MoveOffer, ...]:
        """Shim, press, look, level, lift; the next, or done."""
        usual = round(at.plan[at.hand] / 0.05) * 0.05
        last = at.hand == list(at.plan)[-1]
        following = (
            MoveOffer("done", "All hands are on", "Enter", ends=True)
            if last
            else MoveOffer("next", "The next hand", "n")
        )
        found = [
            MoveOffer("shim", "Set a shim", "s", "amount", usual=round(usual, 2), high=4.0),
            MoveOffer("press", "Press", " ", "hold"),
        ]
        found.append(MoveOffer("look", "Look from the side", "l"))
        if at.blade.is_pressed:
            found += [
                MoveOffer("level", "Push its high side", "v"),
                MoveOffer("lift", "Lift it off again", "o"),
            ]
        return (*found, following) if at.blade.is_pressed else tuple(found)

    def track(self, at: HandsAt, what: str, draw: random.Random) -> tuple[float, ...]:
        """The blade's height over the dial while it is pressed, mm."""
        return ticks(_path(at, draw)) if what == "press" else ()

    def after(self, at: HandsAt, move: PlayMove, draw: random.Random) -> HandsAt:
        """Each with its own spread."""
        match move.what:
            case "shim":
                words = f"Shim {figure(move.value, 2, 'mm')} set." if move.value else "No shim."
                return replace(at, shim=move.value, notes=(*at.notes, words))
            case "press":
                return _press(at, move.value, draw)
            case "look":
                return _look(at, draw)
            case "level":
                blade = replace(
                    at.blade,
                    lean=draw.gauss(0.0, LEVELLED),
                    height=at.blade.height + draw.gauss(0.0, SHIM_U),
                    is_seen=False,
                )
                return _with(at, blade, "Pushed on its high side.")
            case "lift":
                lifted = replace(_set_on(at, at.hand), lifts=at.blade.lifts + 1)
                return _with(at, lifted, f"Lifted {times(lifted.lifts)}: its pipe grips a little less.")
            case "next":
                hands = list(at.plan)
                hand = hands[hands.index(at.hand) + 1]
                words = f"The {HAND_LABELS[hand]} hand is set on its post."
                return replace(
                    at,
                    hand=hand,
                    shim=0.0,
                    blades={**at.blades, hand: _set_on(at, hand)},
                    notes=(*at.notes, words),
                )
        return replace(at, done=True, spoilt=at.spoilt or _touching(at))

    def figures(self, at: HandsAt) -> tuple[Aimed, ...]:
        """Each blade's height against the plan, the worst lean, the weakest grip."""
        found = [
            Aimed(
                f"{HAND_LABELS[hand].capitalize()} hand over the dial",
                blade.height,
                Limits(at.plan[hand] - WITHIN, at.plan[hand] + WITHIN),
            )
            for hand, blade in at.blades.items()
        ]
        lean = max(abs(blade.lean) for blade in at.blades.values())
        most = at.twin.rules.number("hand_tilt")
        return (*found, Aimed("The worst lean", lean, Limits(None, most), "°", 2), _weakest(at))

    def praise(self, at: HandsAt) -> str:
        """With the least air that is left."""
        least = next(gap for gap in at.gaps.gaps if gap.gap is not None)
        return f"Every hand has its air; the least spare is {figure(least.spare, 2, 'mm')}, {least.words.lower()}."

    def blame(self, at: HandsAt) -> str:
        """Touching, too deep, leaning, loose."""
        if at.spoilt:
            return at.spoilt
        off = [one for one in self.figures(at) if not one.is_reached]
        worst = off[0]
        if worst.unit == "°":
            return f"A hand leans by {figure(worst.value, 2, '°')}. From above that is not seen: look from the side, then push its high side."
        if worst.label.startswith("The weakest"):
            return "A hand was lifted so often that its pipe no longer grips: close it in a collet, or another hand."
        way = "deep" if worst.value < (worst.band.low or 0.0) else "high"
        return f"{worst.label.removesuffix(' over the dial')}: pressed too {way}, by {figure(_beyond(worst), 2, 'mm')}. A shim as thick as the plan says stops the press there."

    def sure(self, at: HandsAt) -> PlayMove:
        """Shim to the plan's hundredth, press until it is met, look, level where it leans, then the next."""
        blade = at.blade
        if not blade.is_pressed:
            if abs(at.shim - at.plan[at.hand]) > 1e-6:  # noqa: PLR2004  # the same shim
                return PlayMove("shim", at.plan[at.hand])
            return PlayMove("press", met_after(at))
        if not blade.is_seen:
            return PlayMove("look")
        _, lean = at.seen[at.hand]
        if abs(lean) > LEVELLED * 2.5:
            return PlayMove("level")
        return PlayMove("done") if at.hand == list(at.plan)[-1] else PlayMove("next")


def _post_top(at: HandsAt, hand: str) -> float:
    """Where a post ends over the dial's face, mm."""
    p = at.twin.reader
    return float(nominal(movement_face(p) + p[f"movement.posts.{hand}.top"] - dial_top(p)))


def _set_on(at: HandsAt, hand: str) -> Blade:
    pipe = float(at.twin.reader[f"hands.{hand}.pipe"])
    return Blade(_post_top(at, hand) + pipe - ENGAGED)


def _floor(at: HandsAt, hand: str) -> float:
    """The lowest a blade can come over the dial: the post's shoulder, a closed bore's end, or the dial; mm."""
    p = at.twin.reader
    top = _post_top(at, hand)
    shoulder = top - float(p[f"movement.posts.{hand}.grip"]) + float(p[f"hands.{hand}.pipe"])
    closed = -math.inf if p.flag(f"hands.{hand}.through") else top
    return max(shoulder, closed, 0.0)


def _grip(at: HandsAt, hand: str, lifts: int = 0) -> float:
    p = at.twin.reader
    return float(p[f"movement.posts.{hand}.diameter"] - p[f"hands.{hand}.bore"]) - WEARS * lifts


def _path(at: HandsAt, draw: random.Random) -> Callable[[float], float]:
    """The blade's height after so many ms under the press: nothing, then loose and sliding, then the stop."""
    grip = max(_grip(at, at.hand, at.blade.lifts), LEAST_GRIP)
    breaks_ms = 1000 * min(BREAKS_AT * grip, MOST_BREAKS_AT) / FORCE_A_SECOND
    speed = SLIDES * min(USUAL_GRIP / grip, 2.0) * draw.uniform(*HASTE)
    floor, start, stop = (
        _floor(at, at.hand),
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
    """How long a hand on the press waits before it feels the shim, ms: long enough for any pipe."""
    way = max(at.blade.height - at.shim, 0.0)
    grip = max(_grip(at, at.hand, at.blade.lifts), LEAST_GRIP)
    slow = SLIDES * min(USUAL_GRIP / grip, 2.0) * HASTE[0]
    return 1000 * (min(BREAKS_AT * grip, MOST_BREAKS_AT) / FORCE_A_SECOND + way / slow) + 200


def _press(at: HandsAt, ms: float, draw: random.Random) -> HandsAt:
    height = _path(at, draw)(ms)
    moved = at.blade.height - height
    if moved <= 0:
        return replace(at, notes=(*at.notes, "It did not move: the pipe still holds."))
    lean = at.blade.lean + draw.gauss(0.0, LEANS)
    pressed_on = replace(at.blade, height=height, lean=lean, is_pressed=True, is_seen=False)
    found = _with(at, pressed_on, f"Pressed {figure(moved, 2, 'mm')} down.")
    return replace(found, spoilt=found.spoilt or _touching(found))


def _touching(at: HandsAt) -> str:
    """Whether blades or pipes touch something, in words."""
    touching = [gap for gap in at.gaps.gaps if gap.gap is not None and gap.gap < 0]
    if not touching:
        return ""
    return f"{touching[0].words} touches. It scrapes at every turn; lifted, its pipe grips less and the dial keeps the mark."


def _look(at: HandsAt, draw: random.Random) -> HandsAt:
    height = round(draw.gauss(at.blade.height, SIDE_U), 2)
    lean = round(draw.gauss(at.blade.lean, 0.01), 2)
    words = f"From the side: {figure(height, 2, 'mm')} over the dial, leaning by {figure(lean, 2, '°')}."
    return replace(
        _with(at, replace(at.blade, is_seen=True), words), seen={**at.seen, at.hand: (height, lean)}
    )


def _with(at: HandsAt, blade: Blade, words: str) -> HandsAt:
    return replace(at, blades={**at.blades, at.hand: blade}, notes=(*at.notes, words))


def _weakest(at: HandsAt) -> Aimed:
    grips = [_grip(at, hand, blade.lifts) for hand, blade in at.blades.items()]
    low = at.twin.report.findings[f"hand_grip.{at.hand}"].limits.low
    # What was bought loose is not the presser's fault: a hand that was never lifted counts as gripping.
    lifted = [grip for grip, blade in zip(grips, at.blades.values(), strict=True) if blade.lifts]
    return (
        Aimed("The weakest grip of a lifted hand", min(lifted), Limits(low, None), "mm", 3)
        if lifted
        else Aimed("Lifted off again", 0, Limits(None, 2), "×", 0)
    )


def _beyond(one: Aimed) -> float:
    return max(one.band.shortfall(one.value), one.band.excess(one.value))


def _by_feel(at: HandsAt) -> PlayMove:
    if not at.blade.is_pressed:
        return PlayMove("press", 900.0)
    return PlayMove("done") if at.hand == list(at.plan)[-1] else PlayMove("next")


def _unseen(at: HandsAt) -> PlayMove:
    return PressHands().sure(at) if not at.blade.is_pressed else _by_feel(at)


def _leant_on(at: HandsAt) -> PlayMove:
    move = PressHands().sure(at)
    return PlayMove("press", met_after(at) + 3000) if move.what == "press" else move
