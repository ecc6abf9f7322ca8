"""Sounds of watches made by the tests' own hand, so that what is heard is judged by what was put in.

Nothing of the program is used: bursts of noise at times that are worked out here.
"""

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

Sound = NDArray[np.float32]


def t1_of(lift: float, amplitude: float, beats: int) -> float:
    """Seconds in which a balance that swings so far turns through the lift angle, around its middle.

    It swings as a sine of period 2·(3600/beats): half of the lift to each side of the middle.
    """
    period = 2.0 * 3600.0 / beats
    return 2.0 * math.asin(lift / 2.0 / amplitude) * period / (2.0 * math.pi)


def ticking(  # one argument a property of the watch
    beats: int = 28_800,
    rate: float = 0.0,
    amplitude: float = 270.0,
    beat_error: float = 0.0,
    ground_db: float = 25.0,
    hertz: int = 22_050,
    seconds: float = 15.0,
    lift: float = 52.0,
    between: float = 0.6,
    seed: int = 1,
    lost: float = 0.0,
    knocks: int = 0,
    hum: float = 0.0,
    fades: float = 0.0,
    talk: float = 0.0,
) -> Sound:
    """A column of samples; `between` is the middle noise's loudness over the drop's, `fades` halves it so often."""
    chance = np.random.default_rng(seed)
    sound = np.zeros(int(seconds * hertz))
    beat = 3600.0 / beats * (1.0 - rate / 86_400.0 / (1.0 + rate / 86_400.0))
    t1 = t1_of(lift, amplitude, beats)
    for number in range(int(seconds / beat) + 1):
        drop = 0.05 + number * beat + (beat_error / 1000.0 if number % 2 else 0.0)
        if chance.random() < lost:
            continue
        loud = 0.2 * 0.5 ** (fades * drop / seconds)
        for at, share in ((drop - t1, 0.35), (drop - 0.5 * t1, between), (drop, 1.0)):
            burst(sound, at, loud * share, hertz, chance)
    sound += chance.standard_normal(len(sound)) * 0.2 * 10.0 ** (-ground_db / 20.0)
    time = np.arange(len(sound)) / hertz
    sound += hum * sum(np.sin(2 * np.pi * 50.0 * k * time + k) / k for k in (1, 2, 3))
    for at in chance.uniform(0.1, 0.9, knocks) * seconds:
        sound += np.where(
            time > at, np.exp(-np.maximum(time - at, 0.0) * 90.0) * np.sin(900.0 * (time - at)), 0.0
        )
    sound += talk * talking(len(sound), hertz, seed)
    return np.clip(sound, -1.0, 1.0).astype(np.float32)[:, None]


def talking(size: int, hertz: int, seed: int) -> NDArray[np.float64]:
    """Somebody talks beside it: syllables of 80 to 300 ms with gaps between, from 250 to 3,400 Hz, rms 1."""
    chance = np.random.default_rng(seed)
    spectrum = np.fft.rfft(chance.standard_normal(size))
    at = np.fft.rfftfreq(size, 1.0 / hertz)
    voice = np.fft.irfft(spectrum * ((at > 250.0) & (at < 3_400.0)), size)
    loud, start = np.zeros(size), 0
    while start < size:
        end = min(size, start + int(chance.uniform(0.08, 0.3) * hertz))
        if chance.random() < 0.6:
            loud[start:end] = np.sqrt(np.sin(np.linspace(0.0, np.pi, end - start))) * chance.uniform(0.3, 1.0)
        start = end
    voiced: NDArray[np.float64] = voice / voice.std() * loud
    return voiced


def burst(sound: NDArray[np.float64], at: float, loud: float, hertz: int, chance: Any) -> None:
    """Noise that begins at once and dies away within some milliseconds."""
    start = math.ceil(at * hertz)
    since = (np.arange(start, start + int(0.015 * hertz)) - at * hertz) / hertz
    inside = (np.arange(len(since)) + start >= 0) & (np.arange(len(since)) + start < len(sound))
    shape = loud * np.exp(-since / 0.0022) * chance.standard_normal(len(since))
    sound[start + np.flatnonzero(inside)] += shape[inside]
