"""A recording as it can be worked on: one channel, long enough, neither silent nor clipped."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from marquetry.core.values.errors import MarquetryError

Samples = NDArray[np.float32]
SoundFaultKind = Literal["not-a-wav", "short", "long", "silent", "clipped", "no-beat"]

SHORTEST_S, LONGEST_S = 4.0, 600.0
SLOWEST_HZ, FASTEST_HZ = 8_000, 192_000
FULL = 0.999
"""The share of full scale from which a sample counts as clipped."""
MOST_CLIPPED = 0.01
SILENT_DB = -90.0


class SoundError(MarquetryError, ValueError):
    """A recording with no answer: `fault` is its kind, the text says what is wrong and what to do."""

    def __init__(self, fault: SoundFaultKind, words: str) -> None:
        self.fault = fault
        super().__init__(words)


@dataclass(frozen=True, slots=True)
class Recording:
    """One channel of sound: `samples` of full scale ±1, mean taken out; `rate` in samples a second."""

    samples: Samples
    rate: int

    @property
    def seconds(self) -> float:
        """How long it is, in seconds."""
        return len(self.samples) / self.rate


def recording_of(channels: Samples, rate: int) -> Recording:
    """The louder channel of samples in rows by frame, columns by channel, fit to be analysed.

    SoundError where it is too short or too long, silent, or clipped.
    """
    if not SLOWEST_HZ <= rate <= FASTEST_HZ:
        expected = f"{SLOWEST_HZ // 1000} to {FASTEST_HZ // 1000} kHz"
        raise SoundError("not-a-wav", f"This file is sampled at {rate} Hz; expected {expected}.")
    seconds = len(channels) / rate
    if seconds < SHORTEST_S:
        raise SoundError(
            "short",
            f"The recording is too short: {seconds:.1f} s. Record {SHORTEST_S:g} s at least, better 20.",
        )
    if seconds > LONGEST_S:
        raise SoundError(
            "long", f"The recording is too long: {seconds / 60:.0f} min. Ten minutes at most are analysed."
        )
    means = channels.mean(axis=0, dtype=np.float64).astype(np.float32)
    loud = [_rms(channels[:, at] - means[at]) for at in range(channels.shape[1])]
    best = int(np.argmax(loud))
    if loud[best] < 10.0 ** (SILENT_DB / 20.0):
        raise SoundError(
            "silent", "The recording is silent. Is the right microphone chosen, and is it switched on?"
        )
    clipped = float(np.mean(np.abs(channels[:, best]) >= FULL))
    if clipped > MOST_CLIPPED:
        raise SoundError(
            "clipped",
            f"The recording is clipped: {clipped * 100:.0f} % of it is at full scale. Turn the level down.",
        )
    return Recording(np.ascontiguousarray(channels[:, best] - means[best]), rate)


def _rms(samples: Samples) -> float:
    return float(np.sqrt(np.mean(np.square(samples, dtype=np.float64))))
