"""Where hands meet: the times at which to look from the side, and when the date jumps.

Every pair of hands is there, and every raised thing of the dial has a time at which the hands that pass it
are near, in a dozen looks at most.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.errors import DimensionError

TURNS_AN_HOUR = {"h24": 1.0 / 24.0, "hour": 1.0 / 12.0, "minute": 1.0, "seconds": 60.0}
HOURS = 12.0
MOST_LOOKS = 12
DAY_MIN = 1440
CLOCK = 2


@dataclass(frozen=True, slots=True)
class HandsMeeting:
    """At `seconds` after twelve the hands `lower` and `upper` lie over each other, at `angle` from twelve."""

    seconds: int
    lower: str
    upper: str
    angle: float
    features: tuple[str, ...] = ()

    @property
    def item(self) -> str:
        """Its name among the proofs."""
        return f"{self.lower}-{self.upper}-{self.seconds}"

    @property
    def clock(self) -> str:
        """The time to set, such as 1:05:27."""
        hours, rest = divmod(self.seconds, 3600)
        return f"{hours or 12}:{rest // 60:02d}:{rest % 60:02d}"

    @property
    def words(self) -> str:
        """Which hands, and what is raised there."""
        pair = f"{HAND_LABELS[self.upper].capitalize()} over {HAND_LABELS[self.lower]}"
        return f"{pair}, near {', '.join(self.features)}" if self.features else pair


def meetings(lower: str, upper: str) -> list[float]:
    """Every time in twelve hours, in seconds, at which two hands lie over each other; at twelve they do."""
    faster = abs(TURNS_AN_HOUR[upper] - TURNS_AN_HOUR[lower])
    return [3600.0 * k / faster for k in range(math.ceil(HOURS * faster - 1e-9))]


def looks(hands: Sequence[str], raised: Sequence[tuple[str, float]] = ()) -> list[HandsMeeting]:
    """At most a dozen times to look at these hands; `raised` are things of the dial, by angle from twelve."""
    there = [hand for hand in HANDS if hand in hands]
    pairs = list(combinations(there, 2))
    found = [_at(_second(meetings(*pair)), *pair) for pair in pairs if set(pair) != {"hour", "minute"}]
    if {"hour", "minute"} <= set(there):
        times = meetings("hour", "minute")
        room = min(MOST_LOOKS - len(found), len(times))
        found += [_at(times[round(k * len(times) / room)], "hour", "minute") for k in range(room)]
    ordered = sorted(found, key=lambda each: (each.seconds, each.item))
    return [_with(each, ordered, raised) for each in ordered]


def _second(times: Sequence[float]) -> float:
    """Another time than twelve, where there is one: there everything meets at once."""
    return times[1] if len(times) > 1 else times[0]


def _at(seconds: float, lower: str, upper: str) -> HandsMeeting:
    return HandsMeeting(round(seconds), lower, upper, seconds / 3600.0 * TURNS_AN_HOUR[lower] % 1.0 * 360.0)


def _with(
    meeting: HandsMeeting, every: Sequence[HandsMeeting], raised: Sequence[tuple[str, float]]
) -> HandsMeeting:
    """The meeting with the raised things to which no other is nearer."""
    near = tuple(
        name for name, angle in raised if min(every, key=lambda each: _apart(each.angle, angle)) is meeting
    )
    return HandsMeeting(meeting.seconds, meeting.lower, meeting.upper, meeting.angle, near)


def _apart(one: float, other: float) -> float:
    return abs((one - other + 180.0) % 360.0 - 180.0)


def minutes_from_midnight(field: str, typed: str) -> int:
    """`00:04` as 4, `23:52` as −8. DimensionError where it is no time of the day."""
    parts = typed.strip().replace(".", ":").split(":")
    numbers = [int(part) for part in parts if part.isascii() and part.isdigit() and len(part) <= CLOCK]
    if len(parts) != CLOCK or len(numbers) != CLOCK or numbers[0] > 23 or numbers[1] > 59:  # noqa: PLR2004  # a clock's
        raise DimensionError(field, typed[:20], "", "a time such as 23:52 or 00:04")
    minutes = numbers[0] * 60 + numbers[1]
    return minutes - DAY_MIN if minutes > DAY_MIN // 2 else minutes


def clock_words(minutes: int) -> str:
    """How far from midnight, in words."""
    return (
        "at midnight"
        if minutes == 0
        else f"{abs(minutes)} min {'after' if minutes > 0 else 'before'} midnight"
    )
