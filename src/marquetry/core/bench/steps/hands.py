"""The hands: midnight found, each pressed to its height and looked at from the side, once round the clock."""

from collections.abc import Callable

from marquetry.core.bench.situation import Situation
from marquetry.core.bench.step import BenchStep
from marquetry.core.bench.steps.wording import guard, handling
from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.figures import figure


def _fits(applies: Callable[[Situation], bool] = lambda _: True) -> Callable[[Situation], bool]:
    """Whether it applies, and the hands are pressed here rather than come on the movement."""
    return lambda s: not s.stays("hands") and applies(s)


READY = ("fix_dial", "look_over_dial", "washer_seated", "movement_on_rest", "find_midnight")


def _round(s: Situation) -> str:
    date = " The date jumps at twelve." if s.calendar else ""
    quick = " Then the 24-hour hand by its quick-set: tried now, while hands can still be lifted."
    own = quick if "h24" in s.hands else ""
    return f"Crown out, slowly right round; stop where hands meet, look from the side.{date}{own}"


def _below(hand: str, s: Situation) -> str:
    """The hand under this one on this watch; empty for the first."""
    lower = s.hands[: s.hands.index(hand)]
    return lower[-1] if lower else ""


def _pressed_after(hand: str) -> Callable[[Situation], tuple[str, ...]]:
    return lambda s: (f"check_{_below(hand, s)}",) if _below(hand, s) else READY


def _press_waits(hand: str) -> Callable[[Situation], tuple[str, ...]]:
    def waits(s: Situation) -> tuple[str, ...]:
        below = _below(hand, s)
        return ("check_movement", *((f"check_{below}",) if below else ("date_in_window", "look_over_dial")))

    return waits


def _shim(hand: str) -> Callable[[Situation], tuple[str, str] | None]:
    def told(s: Situation) -> tuple[str, str] | None:
        height = s.shims.get(hand)
        # A shim from sizes that nobody read looks as sure as any other: its label says what it rests on.
        label = "Shim, if all is as assumed" if s.report.findings["hand_stack"].is_open else "Shim"
        return None if height is None else (label, figure(height, 2, "mm"))

    return told


def _how_pressed(hand: str) -> Callable[[Situation], str]:
    def told(s: Situation) -> str:
        at = "12 o'clock" if s.calendar or hand != "seconds" else "any place"
        by = "Onto the shim beside the post" if hand in s.shims else "By eye"
        return f"Lay it on at {at}, press upright, straight down. {by}. {handling(s)}"

    return told


def _press(hand: str) -> BenchStep:
    name = HAND_LABELS[hand]
    return BenchStep(
        id=f"press_{hand}",
        title=f"Press the {name} hand",
        group="hands",
        applies=_fits(),
        why="Its height decides every gap above and below it.",
        how=_how_pressed(hand),
        wrong="Pressed at an angle it grips and leans: look along the dial before it is home.",
        parts=(f"hands.{hand}", "movement"),
        after=_pressed_after(hand),
        gates=_press_waits(hand),
        place="hands",
        hand=hand,
        figure=_shim(hand),
        tools=("hand_press", "shims", "loupe"),
        consumables=guard,
        minutes=4,
    )


def _check(hand: str) -> BenchStep:
    name = HAND_LABELS[hand]
    return BenchStep(
        id=f"check_{hand}",
        title=f"{name[:1].upper()}{name[1:]} hand: level, clear, two turns",
        group="hands",
        applies=_fits(),
        why="The next hand hides this one.",
        how="From the side, light behind: level, air under it. Two turns by the crown, touching nothing. Read "
        "its height over the dial where you can.",
        wrong="It clears at one place and drags at another: two whole turns, over every raised marker.",
        parts=(f"hands.{hand}", "movement"),
        after=(f"press_{hand}",),
        question="Level, clear all round, two turns without a touch?",
        place="hands",
        hand=hand,
        entry="height",
        figure=_shim(hand),
        tools=("loupe", "height_gauge"),
        tells=("hand_stack",),
        minutes=3,
    )


STEPS = (
    BenchStep(
        id="movement_on_rest",
        title="Movement on its rest",
        group="hands",
        applies=_fits(),
        why="Pressing without a rest bends posts and jewels.",
        how="On the rest that bears on the centre's jewel; stem in, crown on.",
        wrong="It lies on its rotor: a ring under its edge, a stud under its centre.",
        parts=("hands", "movement"),
        after=("fix_dial", "look_over_dial"),
        place="hands",
        points="rest",
        tools=("movement_rest",),
        minutes=2,
    ),
    BenchStep(
        id="find_midnight",
        title="Find midnight",
        group="hands",
        why="Hands pressed at any other time make the date jump in the afternoon.",
        how="Turn forward until the date has just jumped: that is midnight. Leave the crown there.",
        wrong="The disc creeps for an hour before it jumps: only the jump counts.",
        parts=("hands", "movement"),
        applies=_fits(lambda s: bool(s.calendar)),
        after=("movement_on_rest", "date_in_window"),
        place="calendar",
        points="jump",
        minutes=3,
    ),
    *(step for hand in HANDS for step in (_press(hand), _check(hand))),
    BenchStep(
        id="hands_round",
        title=lambda s: f"Once round the clock{', 24 hours' if s.build.has('hands.h24') else ''}",
        group="hands",
        applies=_fits(),
        why="Everything that can touch, touches within one round.",
        how=_round,
        wrong="Turned too fast to see: stop at every meeting.",
        parts=("hands", "movement"),
        after=lambda s: (f"check_{s.hands[-1]}",) if s.hands else (),
        gates=lambda s: tuple(f"check_{hand}" for hand in s.hands[-1:]),
        question="Nothing touches, all round, and what jumps does so where it should?",
        place="hands",
        tools=("loupe",),
        tells=("hand_reach.minute", "hand_reach.seconds"),
        minutes=6,
    ),
    BenchStep(
        id="clean_dial_and_hands",
        title="Clean dial and hands",
        group="hands",
        applies=_fits(),
        why="The last time both lie open.",
        how=lambda s: f"Blower, putty dabbed between the hands, loupe at a low light. {handling(s)}",
        wrong="Putty catches a tip and lifts it: dab away from hands.",
        parts=("dial",),
        after=("fix_dial", "look_over_dial", "hands_round"),
        place="dial",
        points="hands",
        tools=("blower", "loupe"),
        consumables=lambda s: ("cleaning_putty", *guard(s)),
        minutes=5,
    ),
)
