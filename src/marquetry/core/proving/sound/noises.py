"""The noises of a beat, in the mean power of all beats laid over each other on their line."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.beat_line import BeatLine, Numbers
from marquetry.core.proving.sound.ground import Heard
from marquetry.core.proving.sound.recording import Samples

Power = NDArray[np.float64]

BEFORE = 0.55
"""A beat is looked at from this share of its time before its middle."""
LONGEST_T1 = 0.2
"""The unlocking lies within this share of a beat before the drop, down to a swing of a hundred degrees."""
WINDOW_S = 0.0006
STANDS_OUT = 5.0
RISE = 0.5
"""Within a beat a noise is one where power rises by this much at once, in natural logarithms."""
FAINT = 0.06
"""What rises to less than this share of the loudest noise is none."""
LOUDER = 8.0
"""Power over the typical one of its moment that counts at most: what a knock can add."""
TYPICAL = 0.4549
"""The median of the power of noise over its mean."""
HIDDEN = 10.0
"""The unlocking may be this many times fainter than the noise after it."""
DECAYS_S = (0.0003, 0.0006, 0.0012, 0.0025)
FIT_S = 0.001
STEP = 0.25


@dataclass(frozen=True, slots=True)
class LaidOver:
    """`power` over a beat's time, `rate` its samples a second, `middle` the sample of the line itself.

    `ground` is the level between beats and `spread` the standard deviation of its means over a window.
    """

    power: Power
    rate: int
    middle: int
    ground: float
    spread: float


@dataclass(frozen=True, slots=True)
class Noises:
    """Onsets in s from the line: of the `drop`, and of the `first` noise where it can be told (else None).

    `after` is the mean power in the first millisecond of the drop.
    """

    drop: float
    first: float | None
    after: float


def rows_of(heard: Heard, line: BeatLine, n: Numbers) -> tuple[Samples, int]:
    """The power around each beat, a beat's time in a row, and the sample in it that the line meets."""
    width = round(line.period * heard.rate)
    middle = round(BEFORE * width)
    starts = np.round(line.at(n) * heard.rate).astype(int) - middle
    return heard.power[starts[:, None] + np.arange(width)], middle


def laid_over(heard: Heard, line: BeatLine, n: Numbers) -> LaidOver:
    """The mean of all beats, with little regard to knocks."""
    rows, middle = rows_of(heard, line, n)
    window = _window(heard.rate)
    typical = _smooth(np.median(rows, axis=0).astype(np.float64) / TYPICAL, window)
    power = np.minimum(rows, (LOUDER * typical).astype(np.float32)).mean(axis=0, dtype=np.float64)
    means = _smooth(power, window)
    ground = float(np.median(means))
    spread = ground - float(np.quantile(means[means < ground], 0.32))
    return LaidOver(power, heard.rate, middle, ground, spread)


def noises(laid: LaidOver, smear: Samples) -> Noises | None:
    """The drop, the last of a beat's noises, and the unlocking, its first; None where nothing rises."""
    onsets = _onsets(laid)
    if not onsets:
        return None
    drop = _onset(laid, onsets[-1], smear)
    before = [at for at in onsets[:-1] if onsets[-1] - at <= LONGEST_T1 * len(laid.power)]
    first = _onset(laid, before[0], smear) if before and _told(laid, before) else None
    at = round(drop)
    after = float(laid.power[at : at + laid.rate // 1000].mean())
    seconds = [None if each is None else (each - laid.middle) / laid.rate for each in (drop, first)]
    return Noises(seconds[0] or 0.0, seconds[1], after)


def _told(laid: LaidOver, before: list[int]) -> bool:
    """Whether the first noise found is the unlocking: with none between, a fainter one could lie hidden."""
    window = _window(laid.rate)
    over = float(laid.power[before[0] : before[0] + window].mean()) - laid.ground
    needed = STANDS_OUT * laid.spread * (1.0 if len(before) > 1 else HIDDEN)
    return over >= needed


def _onsets(laid: LaidOver) -> list[int]:
    """The samples at which power rises, in order; each stands out of the ground and of what was before it."""
    window = _window(laid.rate)
    means = np.convolve(laid.power, np.ones(window) / window, "valid")
    before, after = means[:-window], means[window:]
    rise = np.log(after / before)
    least = STANDS_OUT * laid.spread
    quiet = before < laid.ground + least
    out = (after > laid.ground + least) & np.where(quiet, after - before > least, rise > RISE)
    # A loud noise has a skirt, which the filter lays before it: of rises near each other the greatest counts.
    rise = np.where(out, rise, -np.inf)
    greatest = np.lib.stride_tricks.sliding_window_view(
        np.pad(rise, 2 * window, constant_values=-np.inf), 4 * window + 1
    ).max(axis=1)
    over = after - laid.ground
    found = np.flatnonzero(out & (rise == greatest))
    loud = found[over[found] > FAINT * over.max()]
    return [int(at) + window for at in found if at <= loud.max(initial=-1)]


def _onset(laid: LaidOver, near: int, smear: Samples) -> float:
    """Where the noise begins, in samples: a step with a decay laid under the power by plain least squares.

    The fit is linear in power, so that its delay is the same for faint and for loud noises.
    """
    reach, step = _window(laid.rate), round(FIT_S * laid.rate)
    start = max(0, near - reach - step)
    data = laid.power[start : near + reach + step]
    at, grown = _steps(len(data), step, laid.rate)
    grown = grown @ _smearing(smear, len(data))
    tail = np.exp(-np.arange(len(data)) / (laid.rate * DECAYS_S[2]))
    before = np.linalg.qr(np.stack([np.ones_like(tail), tail], axis=1))[0]
    # What a level and a tail cannot explain, of the data and of each step: one number is left to be fitted.
    rest = data - before @ (before.T @ data)
    free = grown - (grown @ before) @ before.T
    height = free @ rest / np.maximum(np.einsum("ij,ij->i", free, free), 1e-30)
    gain = np.where(height > 0.0, height * (free @ rest), -np.inf)
    return start + float(at[int(np.argmax(gain))])


def _smearing(smear: Samples, size: int) -> Power:
    """What lays each sample of so many out as the filter smears it."""
    half = len(smear) // 2
    offsets = np.arange(size)[None, :] - np.arange(size)[:, None] + half
    inside = (offsets >= 0) & (offsets < len(smear))
    return np.where(inside, smear[np.clip(offsets, 0, len(smear) - 1)].astype(np.float64), 0.0)


def _steps(size: int, margin: int, rate: int) -> tuple[Power, Power]:
    """Steps with every decay at every place but the margins: the places, and a row each."""
    places = np.repeat(np.arange(margin, size - margin, STEP), len(DECAYS_S))
    decays = np.tile(DECAYS_S, len(places) // len(DECAYS_S))
    since = np.arange(size)[None, :] - places[:, None]
    grown = np.where(since >= 0.0, np.exp(-np.maximum(since, 0.0) / (decays[:, None] * rate)), 0.0)
    # A sample that a step meets on its way counts for its part.
    return places, np.where((since > -1.0) & (since < 0.0), 1.0 + since, grown)


def _window(rate: int) -> int:
    return round(WINDOW_S * rate)


def _smooth(values: Power, width: int) -> Power:
    return np.convolve(
        np.pad(values, (width // 2, width - 1 - width // 2), mode="edge"), np.ones(width) / width, "valid"
    )
