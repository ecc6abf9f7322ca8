"""Find midnight, and set the hands so that the date jumps at twelve."""

import random
from collections.abc import Callable
from dataclasses import dataclass, replace

from marquetry.core.bench.situation import Situation
from marquetry.core.rehearsal.exercise import (
    LONGEST_HOLD_MS,
    Aimed,
    At,
    Exercise,
    Mistake,
    MoveOffer,
    PlayMove,
    held_until,
    ticks,
    times,
)
from marquetry.core.rehearsal.twin import Twin, draws
from marquetry.core.values.limits import Limits

DAY = 1440.0
"""Minutes of the hour wheel's two turns, from one jump of the date to the next."""
FAST, SLOW, BACK = 90.0, 8.0, 60.0
"""Minutes that the crown turns the works in a second: quickly, a hair at a time, and backwards."""
CREEPS, CREPT = 60.0, 0.35
"""For so many minutes before its jump the disc creeps, by so much of a day's step."""
SLACK_MINUTES = (6.0, 16.0)
"""What the works lag behind when the crown was turned back."""
SET_U, SEEN_U = 1.0, 1.0
"""Spread of hands set at twelve, and of a jump read off them, minutes."""
MOST_LIFTS = 2
REACTION_MS = 150.0


@dataclass(frozen=True, slots=True, kw_only=True)
class MidnightAt(At):
    """`phase` is the minutes since the last jump, `day` the numeral; `off` the jump's own time once hands are on.

    `lag` is what the works lag behind the crown after it was turned back, minutes.
    """

    phase: float
    day: int
    slack: float
    lag: float = 0.0
    off: float | None = None
    lifts: int = 0
    has_jumped: bool = False

    @property
    def disc(self) -> float:
        """The share of a day's step that the disc has crept towards its next numeral."""
        return creeping(self.phase)


class FindMidnight(Exercise[MidnightAt]):
    """The calendar's own midnight under the hands."""

    key = "midnight"
    title = "Find midnight"
    task = "Turn the works until the date jumps, stop there, and set the hands at twelve."
    aim = "The date jumps at twelve by the hands, and they were not fitted again and again."
    steps = ("find_midnight", "press_hour", "press_h24", "hands_round", "calendar_works")
    counts = (
        (
            "Quickly until it creeps, then a hair at a time",
            "The disc creeps for an hour before it jumps: that is the sign to slow down.",
        ),
        (
            "Only forwards",
            "Turned back, the works lag behind by a quarter of an hour, and the date's finger may bend.",
        ),
        (
            "Once round before the hands are pressed home",
            "Set at noon, they are wrong by twelve hours: the date tells.",
        ),
    )
    caution = "Never set the date by quick-set between nine and three: its finger is in the disc."

    @property
    def mistakes(self) -> tuple[Mistake[MidnightAt], ...]:
        """Too fast; backwards; not at all."""
        return (
            Mistake("fast", "Turns quickly and stops when the numeral has changed", (0.90, 1.0), _fast),
            Mistake("back", "Turns back to where it jumped", (0.50, 0.72), _back),
            Mistake(
                "anywhere", "Sets the hands at twelve where the works happen to stand", (0.96, 1.0), _anywhere
            ),
        )

    def lacking(self, situation: Situation) -> str:
        """A movement that keeps a date or a day."""
        if not situation.calendar:
            return "Its movement keeps no date and no day: its hands may be set at any twelve."
        return ""

    def begin(self, twin: Twin) -> MidnightAt:
        """The works as they came, the hands off."""
        draw = draws(twin.seed, "works")
        phase, day = draw.uniform(150.0, DAY - 2 * CREEPS), draw.randrange(1, 31)
        return MidnightAt(twin=twin, phase=phase, day=day, slack=draw.uniform(*SLACK_MINUTES))

    def offers(self, at: MidnightAt) -> tuple[MoveOffer, ...]:
        """Turn; set the hands; once round; lift."""
        if at.off is not None:
            return (
                MoveOffer("round", "Once round to the next jump", "r"),
                MoveOffer("lift", "Lift the hands again", "o"),
                MoveOffer("done", "The date jumps at twelve", "Enter", ends=True),
            )
        return (
            MoveOffer("turn", "Turn quickly", " ", "hold"),
            MoveOffer("creep", "A hair at a time", "c", "hold"),
            MoveOffer("back", "Turn back", "b", "hold"),
            MoveOffer("set", "Set the hands at twelve", "Enter"),
        )

    def track(self, at: MidnightAt, what: str, draw: random.Random) -> tuple[float, ...]:
        """How far the disc has gone since, the unit a day's step; what turns back leaves it where it is."""
        del draw
        return ticks(_disc(at, FORWARDS[what])) if what in FORWARDS else ()

    def after(self, at: MidnightAt, move: PlayMove, draw: random.Random) -> MidnightAt:
        """Forwards the disc goes with the works; backwards they lag."""
        match move.what:
            case "turn" | "creep":
                return _forwards(at, FORWARDS[move.what] * move.value / 1000)
            case "back":
                gone = BACK * move.value / 1000
                words = "Turned back: the disc stands where it was."
                return replace(at, phase=(at.phase - gone) % DAY, lag=at.slack, notes=(*at.notes, words))
            case "set":
                off = -(_past(at.phase) + at.lag) + draw.gauss(0.0, SET_U)
                return replace(at, off=off, notes=(*at.notes, "Hour and minute hand set at twelve."))
            case "round":
                seen = round(draw.gauss(at.off or 0.0, SEEN_U))
                day = at.day % 31 + 1
                return replace(at, day=day, notes=(*at.notes, f"The date jumps {_minutes(seen)}."))
            case "lift":
                lifts = at.lifts + 1
                return replace(
                    at,
                    off=None,
                    lifts=lifts,
                    lag=0.0,
                    phase=150.0,
                    notes=(*at.notes, f"Lifted {times(lifts)}."),
                )
        return replace(at, done=True)

    def figures(self, at: MidnightAt) -> tuple[Aimed, ...]:
        """When the date jumps by the hands; how often they were lifted."""
        return (
            Aimed("The date jumps, from midnight", at.off or 0.0, at.twin.rules.band("date_jump"), "min", 0),
            Aimed("Hands lifted again", float(at.lifts), Limits(None, MOST_LIFTS), "×", 0),
        )

    def praise(self, at: MidnightAt) -> str:
        """How near."""
        return f"It jumps {_minutes(round(at.off or 0.0))}. Nobody will ever see it between two days."

    def blame(self, at: MidnightAt) -> str:
        """Late, lagging, by half a day, or fitted too often."""
        off = at.off or 0.0
        if at.lifts > MOST_LIFTS:
            return "Lifted so often, the pipes no longer grip."
        if abs(off) > DAY / 6:
            return f"It jumps {_minutes(round(off))}: the works stood anywhere. Turn until it jumps, then set the hands."
        if at.lag:
            return f"It jumps {_minutes(round(off))}. The crown was turned back last, and the works lagged behind it: come from before, forwards."
        return f"It jumps {_minutes(round(off))}. It was past the jump before the crown stopped: a hair at a time as soon as the disc creeps."

    def sure(self, at: MidnightAt) -> PlayMove:
        """Quickly until the disc creeps, then a hair at a time to the jump; the hands; once round."""
        if at.off is not None:
            return PlayMove("done") if at.notes[-1].startswith("The date jumps") else PlayMove("round")
        if at.has_jumped and _past(at.phase) < SLOW:
            return PlayMove("set")
        if at.disc > 0:
            held = held_until(_disc(at, SLOW), 1.0 - at.disc) + REACTION_MS
            return PlayMove("creep", min(held, LONGEST_HOLD_MS))
        return PlayMove("turn", min(held_until(_disc(at, FAST), 0.02) + REACTION_MS, LONGEST_HOLD_MS))


FORWARDS = {"turn": FAST, "creep": SLOW}


def creeping(phase: float) -> float:
    """How far the disc has crept at that many minutes after a jump, in steps of a day."""
    return CREPT * max(phase - (DAY - CREEPS), 0.0) / CREEPS


def _past(phase: float) -> float:
    """Minutes past the nearest jump; negative before it."""
    return phase if phase < DAY / 2 else phase - DAY


def _disc(at: MidnightAt, rate: float) -> Callable[[float], float]:
    """The disc's way after so many ms, in steps of a day."""

    def way(ms: float) -> float:
        turned = at.phase + max(rate * ms / 1000 - at.lag, 0.0)
        return turned // DAY + creeping(turned % DAY) - at.disc

    return way


def _forwards(at: MidnightAt, minutes: float) -> MidnightAt:
    turned = at.phase + max(minutes - at.lag, 0.0)
    jumps = int(turned // DAY)
    lag = max(at.lag - minutes, 0.0)
    day = (at.day - 1 + jumps) % 31 + 1
    words = (
        f"The date jumped to {day}."
        if jumps
        else "Turned on; the disc creeps."
        if creeping(turned % DAY)
        else "Turned on."
    )
    return replace(at, phase=turned % DAY, day=day, lag=lag, has_jumped=jumps > 0, notes=(*at.notes, words))


def _minutes(off: int) -> str:
    if off == 0:
        return "at twelve"
    hours, minutes = divmod(abs(off), 60)
    told = f"{hours} h {minutes:02d} min" if hours else f"{minutes} min"
    return f"{told} {'after' if off > 0 else 'before'} twelve"


def _fast(at: MidnightAt) -> PlayMove:
    if at.off is not None:
        return PlayMove("done")
    if at.has_jumped:
        return PlayMove("set")
    held = held_until(_disc(at, FAST), 1.0 - at.disc) + 2 * REACTION_MS
    return PlayMove("turn", min(held, LONGEST_HOLD_MS))


def _back(at: MidnightAt) -> PlayMove:
    if at.has_jumped and _past(at.phase) > SLOW:
        return PlayMove("back", 1000 * _past(at.phase) / BACK)
    return PlayMove("done") if at.off is not None else PlayMove("set") if at.lag else _fast(at)


def _anywhere(at: MidnightAt) -> PlayMove:
    return PlayMove("set") if at.off is None else PlayMove("done")
