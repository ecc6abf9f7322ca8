"""Running, from the wrist: readings against a clock, between settings of the watch.

Between two settings offset = c + rate·days, by least squares weighted with 1/u²; what a position adds is read
from the readings before and after it was held.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

WristWhat = Literal["read", "set", "wound", "stopped"]
WRIST_WHATS: tuple[WristWhat, ...] = ("read", "set", "wound", "stopped")
WRIST_WAYS = ("worn", "dial_up", "dial_down", "crown_up", "crown_right", "crown_down", "crown_left")
WRIST_WAY_WORDS = {
    "worn": "worn", "dial_up": "lying dial up", "dial_down": "lying dial down", "crown_up": "crown up",
    "crown_right": "crown right", "crown_down": "crown down", "crown_left": "crown left",
}  # fmt: skip
USUAL_READING_U = 0.5
HALF_TURN_S = 43_200.0
DAY_S = 86_400.0
MINUTE_S = 60.0
WORN_H = 20.0
"""A day on the wrist and a night on the table."""


@dataclass(frozen=True, slots=True)
class WristEntry:
    """At `at` s since 1970 the watch stood `offset` s fast (negative slow).

    `how` it was kept since the entry before.

    A `set` watch begins a new stretch; `wound` and `stopped` tell of its power.
    """

    at: float
    what: WristWhat = "read"
    offset: float = 0.0
    how: str = "worn"
    u: float = USUAL_READING_U


@dataclass(frozen=True, slots=True)
class WristStretch:
    """The readings between two settings, and what they say.

    `rate` and `rate_u` in s a day, None with fewer than two readings at different times; `hours` from first
    to last. `offsets` are unwrapped at ±12 h; `rest` is the scatter around the line in s.
    """

    entries: Sequence[WristEntry]
    offsets: Sequence[float]
    rate: float | None
    rate_u: float | None
    start: float
    hours: float
    by_way: Sequence[tuple[str, float, float]] = ()


def stretches(entries: Iterable[WristEntry]) -> list[WristStretch]:
    """Every stretch between settings, the oldest first; those without a reading are left out."""
    found: list[list[WristEntry]] = [[]]
    for entry in sorted(entries, key=lambda each: each.at):
        if entry.what == "set":
            found.append([])
        if entry.what in {"read", "set"}:
            found[-1].append(entry)
    return [_stretch(each) for each in found if each]


def _stretch(entries: Sequence[WristEntry]) -> WristStretch:
    offsets = unwrapped([entry.offset for entry in entries])
    days = [(entry.at - entries[0].at) / DAY_S for entry in entries]
    weights = [1.0 / entry.u**2 for entry in entries]
    fit = _line(days, offsets, weights)
    hours = days[-1] * 24.0
    if fit is None:
        return WristStretch(entries, offsets, None, None, offsets[0], hours)
    return WristStretch(
        entries, offsets, fit[1], fit[2], fit[0], hours, tuple(_by_way(entries, offsets, days))
    )


def unwrapped(offsets: Sequence[float]) -> list[float]:
    """Offsets in seconds without jumps: each within ±12 h of the one before."""
    found: list[float] = []
    for offset in offsets:
        before = found[-1] if found else offset
        found.append(before + math.remainder(offset - before, 2.0 * HALF_TURN_S))
    return found


def offset_at_minute(at: float, before: float = 0.0) -> float:
    """The offset, in seconds, of a watch that showed a full minute at `at` s since 1970: fast where early.

    Which minute cannot be seen from the moment alone: it is the one that leaves the watch nearest to
    `before`, what it was off when last read.
    """
    return before + math.remainder(-at - before, MINUTE_S)


def _line(x: Sequence[float], y: Sequence[float], w: Sequence[float]) -> tuple[float, float, float] | None:
    """Constant, slope and the slope's standard uncertainty from the weights; None where no slope is told."""
    whole = sum(w)
    middle = sum(wi * xi for wi, xi in zip(w, x, strict=True)) / whole
    level = sum(wi * yi for wi, yi in zip(w, y, strict=True)) / whole
    wide = sum(wi * (xi - middle) ** 2 for wi, xi in zip(w, x, strict=True))
    if wide <= 0.0:
        return None
    slope = sum(wi * (xi - middle) * (yi - level) for wi, xi, yi in zip(w, x, y, strict=True)) / wide
    return level - slope * middle, slope, 1.0 / math.sqrt(wide)


def _by_way(
    entries: Sequence[WristEntry], offsets: Sequence[float], days: Sequence[float]
) -> Iterable[tuple[str, float, float]]:
    """Rate and its doubt by how the watch was kept: what it gained over the time it was kept so."""
    for way in WRIST_WAYS:
        at = [i for i in range(1, len(entries)) if entries[i].how == way and days[i] > days[i - 1]]
        spans = [days[i] - days[i - 1] for i in at]
        gains = [offsets[i] - offsets[i - 1] for i in at]
        weights = [1.0 / (entries[i].u ** 2 + entries[i - 1].u ** 2) for i in at]
        wide = sum(w * span**2 for w, span in zip(weights, spans, strict=True))
        if wide > 0.0:
            rate = sum(w * s * g for w, s, g in zip(weights, spans, gains, strict=True)) / wide
            yield way, rate, 1.0 / math.sqrt(wide)


def power_reserve_h(entries: Iterable[WristEntry]) -> float | None:
    """Hours from the last full winding before a stop to that stop; None where neither is told."""
    wound: float | None = None
    found: float | None = None
    for entry in sorted(entries, key=lambda each: each.at):
        if entry.what == "wound":
            wound = entry.at
        elif entry.what == "stopped" and wound is not None:
            found, wound = (entry.at - wound) / 3600.0, None
    return found
