"""The line on which the beats lie: t = a + n·P for even n, b + n·P for odd, by least squares."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.ground import Heard
from marquetry.core.proving.sound.rhythm import COARSE_HZ, Curve, Rhythm, folded, loudness

Times = NDArray[np.float64]
Numbers = NDArray[np.int64]

TRIMMED = 4.0
"""Beats further from the line than so many standard deviations are left out of it."""
REACH_MS = 12
STRETCHES_S = (60.0, 240.0, 600.0)


@dataclass(frozen=True, slots=True)
class BeatLine:
    """`even` and `odd` are the lines' times at n = 0 in s, `period` P in s, `u` its standard doubt."""

    even: float
    odd: float
    period: float
    u: float = 0.0

    def at(self, n: Numbers) -> Times:
        """When beats of these numbers are expected, in s."""
        start: Times = np.where(n % 2 == 0, self.even, self.odd)
        return start + n.astype(np.float64) * self.period


def fitted(n: Numbers, times: Times) -> tuple[BeatLine, NDArray[np.bool_]]:
    """The line through beats' times, and which of them it rests on: outliers are left out, step by step."""
    kept = np.ones(len(n), dtype=bool)
    for _ in range(6):
        line = _least_squares(n[kept], times[kept])
        off = np.abs(times - line.at(n))
        spread = 1.4826 * float(np.median(off[kept]))
        near = off <= max(TRIMMED * spread, 2e-5)
        if np.array_equal(near, kept) or near.sum() < len(n) / 3:
            break
        kept = near
    return _least_squares(n[kept], times[kept]), kept


def _least_squares(n: Numbers, times: Times) -> BeatLine:
    middle = float(n.mean())
    design = np.stack([n % 2 == 0, n % 2 == 1, n - middle], axis=1).astype(np.float64)
    (even, odd, period), *_ = np.linalg.lstsq(design, times, rcond=None)
    rest = times - design @ np.array([even, odd, period])
    free = max(1, len(n) - 3)
    covariance = np.linalg.pinv(design.T @ design) * float(rest @ rest) / free
    shift = period * middle
    return BeatLine(even - shift, odd - shift, period, float(np.sqrt(covariance[2, 2])))


def first_line(heard: Heard, rhythm: Rhythm) -> BeatLine:
    """The line to a millisecond or so: each beat laid against their mean, in stretches that grow."""
    loud = loudness(heard)
    period = rhythm.period
    line = BeatLine(rhythm.even, rhythm.even, period)
    shape = _shape(loud[: int(STRETCHES_S[0]) * COARSE_HZ], line)
    for seconds in STRETCHES_S:
        part = loud[: int(seconds) * COARSE_HZ]
        n = numbers(line, len(part) / COARSE_HZ, len(shape) / 2 / COARSE_HZ + REACH_MS / COARSE_HZ)
        line, _ = fitted(n, _nearest(part, line.at(n), shape))
        if len(part) == len(loud):
            break
    return line


def numbers(line: BeatLine, seconds: float, margin: float) -> Numbers:
    """The numbers of the beats whose surroundings of `margin` s lie within a recording."""
    start = int(np.ceil((margin - min(line.even, line.odd)) / line.period))
    stop = int(np.floor((seconds - margin - max(line.even, line.odd)) / line.period))
    return np.arange(start, stop + 1, dtype=np.int64)


def _shape(loud: Curve, line: BeatLine) -> Curve:
    """The mean course of an even beat, half a beat's time long, less its own mean."""
    profile = folded(loud, 2.0 * line.period)
    middle = round(line.even / (2.0 * line.period) * len(profile))
    width = len(profile) // 8
    around: Curve = np.take(profile, np.arange(middle - width, middle + width), mode="wrap")
    return around - float(around.mean())


def _nearest(loud: Curve, expected: Times, shape: Curve) -> Times:
    """Where each beat lies best under the shape, within the reach."""
    starts = np.round(expected * COARSE_HZ).astype(int) - len(shape) // 2
    shifts = np.arange(-REACH_MS, REACH_MS + 1)
    rows = loud[starts[:, None] - REACH_MS + np.arange(len(shape) + 2 * REACH_MS)]
    laid = np.lib.stride_tricks.sliding_window_view(rows, len(shape), axis=1) @ shape

    found: Times = (starts + len(shape) // 2 + shifts[np.argmax(laid, axis=1)]) / COARSE_HZ
    return found
