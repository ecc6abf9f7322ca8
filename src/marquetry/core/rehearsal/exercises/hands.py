"""Press the hands: height by shim and feel, level, a look from the side before the next."""

import random
from collections.abc import Iterator
from dataclasses import replace

from marquetry.core.bench.situation import Situation
from marquetry.core.fit.checks.hands import press_plan
from marquetry.core.rehearsal.actions.hand_press import (
    LEVELLED,
    SHIM_U,
    HandsAt,
    grip_of,
    height_under_press,
    look,
    met_after,
    press,
    set_on,
    touching,
    with_blade,
)
from marquetry.core.rehearsal.exercise import Aimed, Exercise, Mistake, MoveOffer, PlayMove, ticks, times
from marquetry.core.rehearsal.twin import Twin
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict

WITHIN = 0.08
"""How far a blade may stand from the press plan, mm: less than a shim's own step."""


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
        return replace(at, blades={hand: set_on(at, hand)})

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
        return ticks(height_under_press(at, draw)) if what == "press" else ()

    def after(self, at: HandsAt, move: PlayMove, draw: random.Random) -> HandsAt:
        """Each with its own spread."""
        match move.what:
            case "shim":
                words = f"Shim {figure(move.value, 2, 'mm')} set." if move.value else "No shim."
                return replace(at, shim=move.value, notes=(*at.notes, words))
            case "press":
                return press(at, move.value, draw)
            case "look":
                return look(at, draw)
            case "level":
                blade = replace(
                    at.blade,
                    lean=draw.gauss(0.0, LEVELLED),
                    height=at.blade.height + draw.gauss(0.0, SHIM_U),
                    is_seen=False,
                )
                return with_blade(at, blade, "Pushed on its high side.")
            case "lift":
                lifted = replace(set_on(at, at.hand), lifts=at.blade.lifts + 1)
                return with_blade(at, lifted, f"Lifted {times(lifted.lifts)}: its pipe grips a little less.")
            case "next":
                hands = list(at.plan)
                hand = hands[hands.index(at.hand) + 1]
                words = f"The {HAND_LABELS[hand]} hand is set on its post."
                return replace(
                    at,
                    spoilt=at.spoilt or self._left(at),
                    hand=hand,
                    shim=0.0,
                    blades={**at.blades, hand: set_on(at, hand)},
                    notes=(*at.notes, words),
                )
        return replace(at, done=True, spoilt=at.spoilt or touching(at) or self._left(at))

    def _left(self, at: HandsAt) -> str:
        """How the hand at hand was left, where it cannot stay so: nobody comes back to it under the next one."""
        name, blade = HAND_LABELS[at.hand], at.blade
        off, most = blade.height - at.plan[at.hand], at.twin.rules.number("hand_tilt")
        if abs(off) > WITHIN:
            way = "deep" if off < 0 else "high"
            by = figure(abs(off), 2, "mm")
            return f"The {name} hand was left {by} too {way}. A shim as thick as the plan says stops the press there."
        if abs(blade.lean) > most:
            lean = figure(abs(blade.lean), 2, "°")
            return f"The {name} hand was left leaning by {lean}. From above that is not seen: look from the side, then push its high side."
        return ""

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
        return (*found, Aimed("The worst lean", lean, Limits(None, most), "°", 2), *_lifted(at))

    def praise(self, at: HandsAt) -> str:
        """With the least air that is left."""
        least = next(gap for gap in at.gaps.gaps if gap.gap is not None)
        return f"Every hand has its air; the least spare is {figure(least.spare, 2, 'mm')}, {least.words.lower()}."

    def blame(self, at: HandsAt) -> str:
        """Touching, too deep, leaning; or loose, which only the end shows."""
        loose = (
            "A hand was lifted so often that its pipe no longer grips: close it in a collet, or another hand."
        )
        return at.spoilt or loose

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


def _lifted(at: HandsAt) -> Iterator[Aimed]:
    """The weakest grip of the hands that were lifted: what was bought loose is not the presser's fault."""
    grips = [grip_of(at, hand, blade.lifts) for hand, blade in at.blades.items() if blade.lifts]
    low = at.twin.report.findings[f"hand_grip.{at.hand}"].limits.low
    if grips:
        yield Aimed("The weakest grip of a lifted hand", min(grips), Limits(low, None), "mm", 3)


def _by_feel(at: HandsAt) -> PlayMove:
    if not at.blade.is_pressed:
        return PlayMove("press", 900.0)
    return PlayMove("done") if at.hand == list(at.plan)[-1] else PlayMove("next")


def _unseen(at: HandsAt) -> PlayMove:
    return PressHands().sure(at) if not at.blade.is_pressed else _by_feel(at)


def _leant_on(at: HandsAt) -> PlayMove:
    move = PressHands().sure(at)
    return PlayMove("press", met_after(at) + 3000) if move.what == "press" else move
