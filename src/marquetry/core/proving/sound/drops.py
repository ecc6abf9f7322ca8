"""The drop of each beat: the moment at which its power begins to rise, by greatest likelihood."""

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.beat_line import BeatLine, Numbers, Times
from marquetry.core.proving.sound.ground import Heard
from marquetry.core.proving.sound.noises import LaidOver, Noises, rows_of

REACH_S = 0.0014
LEAD_S, TAIL_S = 0.0010, 0.0020
LOUDNESSES = (0.08, 0.15, 0.3, 0.6, 1.0, 1.7, 3.0)
"""Of a beat's drop over the usual one's: each is looked for at the nearest of these."""
MOST = 8.0
HEARD_SHARE = 0.1


def drops(
    heard: Heard, line: BeatLine, n: Numbers, laid: LaidOver, found: Noises
) -> tuple[Times, NDArray[np.bool_]]:
    """When each beat's drop begins, in s, and in which beats it is heard at all."""
    rows, middle = rows_of(heard, line, n)
    drop = middle + round(found.drop * heard.rate)
    reach, lead, tail = (round(each * heard.rate) for each in (REACH_S, LEAD_S, TAIL_S))
    data = rows[:, drop - lead - reach : drop + tail + reach]
    usual = laid.power[drop - lead - 2 * reach : drop + tail + 2 * reach] - laid.ground
    usual = np.maximum(np.convolve(usual, np.ones(3) / 3.0, "same"), 0.0)
    shifts = np.arange(2 * reach + 1)
    shifted = np.stack([usual[2 * reach - s : 2 * reach - s + data.shape[1]] for s in shifts])
    millisecond = heard.rate // 1000
    over = data[:, lead + reach : lead + reach + 2 * millisecond].mean(axis=1, dtype=np.float64) - laid.ground
    typical = float(usual[lead + 2 * reach : lead + 2 * reach + 2 * millisecond].mean())
    nearest = np.argmin(
        np.abs(np.log(np.maximum(over / typical, 1e-3))[:, None] - np.log(LOUDNESSES)), axis=1
    )
    times, loud = np.zeros(len(n)), over > HEARD_SHARE * typical
    for at, loudness in enumerate(LOUDNESSES):
        these = nearest == at
        if these.any():
            shift = _likeliest(data[these], laid.ground + loudness * shifted)
            times[these] = (shift - reach) / heard.rate
    starts = np.round(line.at(n) * heard.rate) - middle
    return (starts + drop) / heard.rate + times, loud


def _likeliest(data: NDArray[np.float32], expected: NDArray[np.float64]) -> Times:
    """The shift in samples, whole and parts, at which power is likeliest what is expected."""
    most = (MOST * expected.max()).astype(np.float32)
    cost = np.minimum(data, most) @ (1.0 / expected).astype(np.float32).T + np.log(expected).sum(axis=1)
    best = np.clip(np.argmin(cost, axis=1), 1, len(expected) - 2)
    here = np.arange(len(data))
    left, centre, right = (cost[here, best + d] for d in (-1, 0, 1))
    bend = left - 2.0 * centre + right
    part: Times = np.clip(0.5 * (left - right) / np.maximum(bend, 1e-12), -0.5, 0.5)
    found: Times = best + np.where(bend > 0.0, part, 0.0)
    return found
