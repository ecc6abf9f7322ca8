"""The drop of each beat: the moment at which its power begins to rise, by greatest likelihood."""

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.beat_line import BeatLine, Numbers, Times
from marquetry.core.proving.sound.ground import Heard
from marquetry.core.proving.sound.noises import TYPICAL, LaidOver, Noises, rows_of

REACH_S = 0.0014
LEAD_S, TAIL_S = 0.0010, 0.0020
LOUDNESSES = (0.08, 0.15, 0.3, 0.6, 1.0, 1.7, 3.0)
"""Of a beat's drop over the usual one's: each is looked for at the nearest of these."""
MOST = 8.0
HEARD_SHARE = 0.1
AROUND_S = 0.030
"""On both sides of a beat's own noises its ground is looked at for so long: a syllable lasts longer."""
GROUNDS = (1.0, 2.0, 4.0, 8.0, 16.0, 32.0, 64.0)
"""Of a beat's ground over the quiet one: talk is loud at one beat and over at the next."""


def drops(
    heard: Heard, line: BeatLine, n: Numbers, of_beat: tuple[LaidOver, Noises], reach_s: float = REACH_S
) -> tuple[Times, NDArray[np.bool_]]:
    """When each beat's drop begins, in s, and in which beats it is heard; sought so near to the line, s."""
    laid, found = of_beat
    rows, middle = rows_of(heard, line, n)
    drop = middle + round(found.drop * heard.rate)
    reach, lead, tail = (round(each * heard.rate) for each in (reach_s, LEAD_S, TAIL_S))
    data = rows[:, drop - lead - reach : drop + tail + reach]
    usual = laid.power[drop - lead - 2 * reach : drop + tail + 2 * reach] - laid.ground
    usual = np.maximum(np.convolve(usual, np.ones(3) / 3.0, "same"), 0.0)
    shifts = np.arange(2 * reach + 1)
    shifted = np.stack([usual[2 * reach - s : 2 * reach - s + data.shape[1]] for s in shifts])
    millisecond = heard.rate // 1000
    ground = _grounds(heard, rows, drop, laid, found)
    over = data[:, lead + reach : lead + reach + 2 * millisecond].mean(axis=1, dtype=np.float64) - ground
    typical = float(usual[lead + 2 * reach : lead + 2 * reach + 2 * millisecond].mean())
    nearest = np.argmin(
        np.abs(np.log(np.maximum(over / typical, 1e-3))[:, None] - np.log(LOUDNESSES)), axis=1
    )
    times, loud = np.zeros(len(n)), over > HEARD_SHARE * typical
    level = np.argmin(np.abs(np.log(ground / laid.ground)[:, None] - np.log(GROUNDS)), axis=1)
    for at, of_ground in sorted(set(zip(nearest.tolist(), level.tolist(), strict=True))):
        these = (nearest == at) & (level == of_ground)
        expected = GROUNDS[of_ground] * laid.ground + LOUDNESSES[at] * shifted
        times[these] = (_likeliest(data[these], expected) - reach) / heard.rate
    starts = np.round(line.at(n) * heard.rate) - middle
    return (starts + drop) / heard.rate + times, loud


def _grounds(
    heard: Heard, rows: NDArray[np.float32], drop: int, laid: LaidOver, found: Noises
) -> NDArray[np.float64]:
    """The mean power of each beat's own ground: what goes on beside it, however loud the talk."""
    first = drop if found.first is None else drop - round((found.drop - found.first) * heard.rate)
    around, tail = round(AROUND_S * heard.rate), round(6 * TAIL_S * heard.rate)
    before = rows[:, max(0, first - around) : max(1, first - round(LEAD_S * heard.rate))]
    after = rows[:, min(drop + tail, rows.shape[1] - 1) : drop + tail + around]
    beside = np.concatenate([before, after], axis=1)
    grounds: NDArray[np.float64] = np.maximum(np.median(beside, axis=1) / TYPICAL, laid.ground)
    return grounds


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
