"""How far the drop stands out of the ground: hum and offset taken out, nothing else."""

import math

import numpy as np

from marquetry.core.proving.sound.beat_line import BeatLine, Numbers
from marquetry.core.proving.sound.recording import Recording, Samples

HUM_HZ = 600.0
"""Hum and its harmonics lie below; of the ground no more than a thirtieth does."""
LONGEST_S = 20
WINDOW_S = 0.0003


def noise_db(recording: Recording, line: BeatLine, n: Numbers) -> float:
    """20·log₁₀ of the drop's greatest rms over the ground's, in decibel; both over a short window."""
    samples = _without_hum(recording)
    width = round(line.period * recording.rate)
    starts = np.round(line.at(n) * recording.rate).astype(int) - width // 2
    starts = starts[(starts >= 0) & (starts + width <= len(samples))]
    rows = np.square(samples[starts[:, None] + np.arange(width)])
    window = max(2, round(WINDOW_S * recording.rate))
    ground = float(np.median(rows)) / 0.4549
    power = np.minimum(rows, 30.0 * np.median(rows, axis=0) / 0.4549 + 1e-30).mean(axis=0)
    loud = float(np.convolve(power, np.ones(window) / window, "valid").max())
    return 10.0 * math.log10(loud / max(ground, 1e-30))


def _without_hum(recording: Recording) -> Samples:
    """The first seconds of the recording, as many samples as are transformed fast, cut off below hum."""
    most = min(LONGEST_S * recording.rate, len(recording.samples))
    samples = recording.samples[: 1 << (most.bit_length() - 1)]
    spectrum = np.fft.rfft(samples)
    spectrum *= (
        np.clip(np.arange(len(spectrum)) * recording.rate / len(samples) / HUM_HZ - 0.5, 0.0, 0.5) * 2.0
    )
    back: Samples = np.fft.irfft(spectrum, len(samples)).astype(np.float32)
    return back
