"""How often it beats, roughly: the period and where even and odd beats lie, before any is looked at alone.

Works on the logarithm of power in milliseconds, so that a knock of ten times the loudness counts little
more than a beat.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.ground import Heard
from marquetry.core.proving.sound.recording import SoundError

Curve = NDArray[np.float64]

USUAL_BEATS = (18_000, 19_800, 21_600, 25_200, 28_800, 36_000)
FEWEST_BEATS, MOST_BEATS = 12_000, 72_000
COARSE_HZ = 1_000
WIDEST = 0.03
"""A watch is looked for within this share of its beat: 2,600 seconds a day."""
LOOKED_AT_S = 60
HARMONICS = 12
GROUP = 0.12
"""The share of a beat's time in which its noises are gathered for the comparison of even and odd."""
AS_GOOD = 0.6
"""At twice the beats nearly as good means that there are twice the beats."""
CLEAREST = 0.12
"""How far a beat stands out, in natural logarithms of power, where one is believed at least."""
BEYOND_CHANCE = 6.0


@dataclass(frozen=True, slots=True)
class Rhythm:
    """`beats` an hour as it is meant; a beat takes `period` s; even ones lie around `even` s, modulo two."""

    beats: int
    period: float
    even: float


def rhythm(heard: Heard, beats: int | None = None) -> Rhythm:
    """The beat that fits best, of the usual ones or the one given. SoundError where none is heard."""
    loud = loudness(heard)
    asked = (beats,) if beats else USUAL_BEATS
    tried = [_tried(loud[: LOOKED_AT_S * COARSE_HZ], each) for each in asked]
    best = max(clear for clear, _ in tried)
    if best < CLEAREST:
        at = f" at {beats} an hour" if beats else ""
        raise SoundError(
            "no-beat",
            f"No beat was found{at}. Lay the watch on the microphone, keep the room quiet, and record again.",
        )
    return max((r for clear, r in tried if clear >= AS_GOOD * best), key=lambda r: r.beats)


def loudness(heard: Heard) -> Curve:
    """The logarithm of the mean power of each millisecond over the ground's."""
    edges = (np.arange(len(heard.power) * COARSE_HZ // heard.rate) * heard.rate) // COARSE_HZ
    means = np.add.reduceat(heard.power, edges, dtype=np.float64) / np.diff(
        np.append(edges, len(heard.power))
    )
    return np.log1p(means / max(float(np.median(means)), 1e-30))


def _tried(loud: Curve, beats: int) -> tuple[float, Rhythm]:
    """How clearly both even and odd beats stand out at this beat, and the rhythm that does it best."""
    period = _sharpest(loud, beats)
    profile = folded(loud, 2.0 * period)
    width = max(3, round(GROUP * len(profile) / 2))
    around = np.convolve(np.concatenate([profile, profile[:width]]), np.ones(width) / width, "valid")[:-1]
    half = len(profile) // 2
    reach = max(1, half // 10)
    others = np.max([np.roll(around, -(half + shift)) for shift in range(-reach, reach + 1)], axis=0)
    both = np.minimum(around, others)
    at = int(np.argmax(both))
    laid_over = max(1.0, len(loud) / len(profile))
    chance = float(loud.std()) / np.sqrt(laid_over * width) * BEYOND_CHANCE
    clear = float(both[at] - np.median(profile))
    even = (at + width / 2) / len(profile) * 2.0 * period
    return (clear if clear > chance else 0.0), Rhythm(beats, period, even)


def _sharpest(loud: Curve, beats: int) -> float:
    """The period near this beat at which the loudness repeats best, from the harmonics of its spectrum."""
    size = 4 * 2 ** int(np.ceil(np.log2(len(loud))))
    spectrum = np.abs(np.fft.rfft(loud - loud.mean(), size))
    usual = beats / 3600.0
    step = COARSE_HZ / size / HARMONICS
    frequencies = np.arange(usual * (1.0 - WIDEST), usual * (1.0 + WIDEST), step)
    score = np.zeros(len(frequencies))
    for harmonic in range(1, HARMONICS + 1):
        at = np.round(frequencies * harmonic * size / COARSE_HZ).astype(int)
        score += spectrum[np.minimum(at, len(spectrum) - 1)]
    return float(1.0 / frequencies[int(np.argmax(score))])


def folded(loud: Curve, period: float) -> Curve:
    """The mean of a curve in milliseconds, laid over itself at a period in s, in bins of a millisecond."""
    bins = max(8, round(period * COARSE_HZ))
    phase = np.arange(len(loud)) / COARSE_HZ % period / period * bins
    at = np.minimum(phase.astype(int), bins - 1)
    return np.bincount(at, loud, bins) / np.maximum(np.bincount(at, minlength=bins), 1)
