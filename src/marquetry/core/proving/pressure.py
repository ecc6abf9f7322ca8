"""Dry pressure test: does the case hold? From pressure and the case's give over time.

The case is squeezed by the pressure around it; where air gets in, the squeeze goes back. The relative loss
of the give a minute, by least squares over the hold, decides; where its doubt reaches over the limit, it
does not.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

HoldVerdict = Literal["short", "unreadable", "leak", "tight", "unsure"]

HOLD_SHARE = 0.98
"""The hold begins within 2 % of the greatest pressure, and ends before pressure first falls below."""
SETTLE_S = 10.0
SHORTEST_S = 30.0
FIRST = 3
"""D₀ is the mean of so many readings after settling."""
READABLE = 3.0
LEAK = 0.02
"""A loss a minute that a sound case stays under."""


@dataclass(frozen=True, slots=True)
class PressureReading:
    """One row: `time` in s, `pressure` in bar, `deflection` in µm."""

    time: float
    pressure: float
    deflection: float


@dataclass(frozen=True, slots=True)
class Hold:
    """What a series says. `loss` a minute with standard uncertainty `u`, relative to `deflection` (D₀, µm).

    `held` is the mean pressure of the hold in bar, `seconds` its length with settling. Loss, u and
    deflection are None where the hold is too short.
    """

    verdict: HoldVerdict
    held: float
    seconds: float
    loss: float | None
    u: float | None
    deflection: float | None


def hold(readings: Sequence[PressureReading]) -> Hold:
    """The verdict on a series of at least one reading, in any order."""
    ordered = sorted(readings, key=lambda reading: reading.time)
    held = held_readings(ordered)
    seconds = held[-1].time - held[0].time
    pressure = sum(each.pressure for each in held) / len(held)
    rest = settled_readings(held)
    if seconds < SHORTEST_S or len(rest) < FIRST:
        return Hold("short", pressure, seconds, None, None, None)
    give = sum(each.deflection for each in rest[:FIRST]) / FIRST
    slope, slope_u, spread = _slope(rest)
    if give == 0.0 or not math.isfinite(slope_u):
        return Hold("unreadable", pressure, seconds, None, None, give)
    loss, u = -60.0 * slope / give, 60.0 * slope_u / abs(give)
    verdict = "unreadable" if give < READABLE * spread else _verdict(loss, u)
    return Hold(verdict, pressure, seconds, loss, u, give)


def held_readings(ordered: Sequence[PressureReading]) -> Sequence[PressureReading]:
    """The readings of the hold, of a series ordered by time."""
    greatest = max(each.pressure for each in ordered)
    least = greatest - (1.0 - HOLD_SHARE) * abs(greatest)
    start = next(at for at, each in enumerate(ordered) if each.pressure >= least)
    stop = next((at for at in range(start, len(ordered)) if ordered[at].pressure < least), len(ordered))
    return ordered[start:stop]


def settled_readings(held: Sequence[PressureReading]) -> Sequence[PressureReading]:
    """The readings of a hold once it has settled: those that decide."""
    return [each for each in held if each.time >= held[0].time + SETTLE_S]


def _slope(rest: Sequence[PressureReading]) -> tuple[float, float, float]:
    """Slope of the give in µm/s by least squares, its standard uncertainty, and the residuals' s in µm."""
    count = len(rest)
    time = sum(each.time for each in rest) / count
    give = sum(each.deflection for each in rest) / count
    wide = sum((each.time - time) ** 2 for each in rest)
    if wide == 0.0:
        return 0.0, math.inf, math.inf
    slope = sum((each.time - time) * (each.deflection - give) for each in rest) / wide
    off = sum((each.deflection - give - slope * (each.time - time)) ** 2 for each in rest)
    spread = math.sqrt(off / (count - 2))
    return slope, spread / math.sqrt(wide), spread


def _verdict(loss: float, u: float) -> HoldVerdict:
    if loss - 2.0 * u > LEAK:
        return "leak"
    return "tight" if abs(loss) + 2.0 * u < LEAK else "unsure"
