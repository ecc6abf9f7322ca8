"""A simulated watch on a simulated microphone: an escapement of known rate, swing and beat error.

Each beat is a group of short noises (the unlocking, the impulse, the drop), with the ground noise, hum,
knocks and lost beats that a real bench adds. Truth is known, so that what is read out of the sound can be
judged.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.recording import FASTEST_HZ, LONGEST_S, SLOWEST_HZ, Samples
from marquetry.core.proving.sound.rhythm import FEWEST_BEATS, MOST_BEATS
from marquetry.core.proving.sound.timing import LIFT_ANGLE, SMALLEST_SWING, WIDEST_SWING, lift_time
from marquetry.core.values.errors import DimensionError

LOUDNESS = 0.25
"""The drop's greatest rms, of full scale."""
BETWEEN_AT = 0.55
"""Where the impulse's noise lies on the way from the unlocking to the drop."""
RISE_S = 0.00005
BAND_HZ = (3_000.0, 10_000.0)
HUM_HZ = 50.0
KNOCK_S, KNOCK_HZ = 0.03, 400.0


@dataclass(frozen=True, slots=True)
class WatchSound:
    """The watch that is heard: `rate` in s a day, `amplitude` in degrees, `beat_error` in ms.

    `noise_db` is the drop's greatest rms over the ground's; `unlocking` and `between` are the noises' rms
    over the drop's; `hum` its rms over the drop's; `knocks` a second; `lost` the share of beats that fail;
    `jitter_ms` a beat's own unsteadiness.
    """

    beats: int = 28_800
    rate: float = 0.0
    amplitude: float = 270.0
    beat_error: float = 0.0
    noise_db: float = 30.0
    lift_angle: float = LIFT_ANGLE
    unlocking: float = 0.3
    between: float = 0.7
    hum: float = 0.0
    knocks: float = 0.0
    lost: float = 0.0
    jitter_ms: float = 0.02
    rise_s: float = RISE_S

    def __post_init__(self) -> None:
        for field, value, unit, low, high in (
            ("bph", self.beats, "beats an hour", FEWEST_BEATS, MOST_BEATS),
            ("rate", self.rate, "s/d", -2_000.0, 2_000.0),
            ("amplitude", self.amplitude, "°", SMALLEST_SWING, WIDEST_SWING),
            ("beat error", self.beat_error, "ms", 0.0, 10.0),
            ("noise", self.noise_db, "dB", 0.0, 100.0),
        ):
            if not low <= value <= high:
                raise DimensionError(field, f"{value:g}", unit, f"{low:g} to {high:g} {unit}")

    def recorded(self, seconds: float, samples_a_second: int = 44_100, seed: int | None = None) -> Samples:
        """So many seconds of it, one column, full scale ±1. DimensionError where none is that long."""
        if not 1.0 <= seconds <= LONGEST_S:
            raise DimensionError("seconds", f"{seconds:g}", "s", f"1 to {LONGEST_S:g} s")
        if not SLOWEST_HZ <= samples_a_second <= FASTEST_HZ:
            raise DimensionError("samples", samples_a_second, "Hz", f"{SLOWEST_HZ} to {FASTEST_HZ} Hz")
        chance = np.random.default_rng(seed)
        sound = np.zeros(round(seconds * samples_a_second))
        for drop in self._drops(seconds, chance):
            self._beat(sound, drop, samples_a_second, chance)
        sound = _in_band(sound, samples_a_second)
        sound += chance.standard_normal(len(sound)) * LOUDNESS * 10.0 ** (-self.noise_db / 20.0)
        self._disturbed(sound, samples_a_second, chance)
        return np.clip(sound, -1.0, 1.0).astype(np.float32)[:, None]

    def _drops(self, seconds: float, chance: np.random.Generator) -> NDArray[np.float64]:
        period = 3600.0 / self.beats / (1.0 + self.rate / 86_400.0)
        n = np.arange(int(seconds / period) + 1)
        times = 0.3 * period + n * period + (n % 2) * self.beat_error / 1000.0
        times += chance.standard_normal(len(n)) * self.jitter_ms / 1000.0
        kept: NDArray[np.float64] = times[chance.random(len(n)) >= self.lost]
        return kept

    def _beat(self, sound: NDArray[np.float64], drop: float, rate: int, chance: np.random.Generator) -> None:
        t1 = lift_time(self.lift_angle, self.amplitude, self.beats)
        loud = LOUDNESS * float(np.exp(0.15 * chance.standard_normal()))
        for at, share, decay in (
            (drop - t1, self.unlocking, 0.0016),
            (drop - t1 * (1.0 - BETWEEN_AT), self.between, 0.0020),
            (drop, 1.0, 0.0030),
        ):
            start = int(np.ceil(at * rate))
            since = (np.arange(start, start + int(8 * decay * rate)) - at * rate) / rate
            shape = np.minimum(since / self.rise_s, 1.0) * np.exp(-since / decay)
            low, high = max(0, start), min(len(sound), start + len(since))
            if low < high:
                noise = chance.standard_normal(high - low) * shape[low - start : high - start]
                sound[low:high] += share * loud * noise * _kept_of_noise(rate) ** -0.5

    def _disturbed(self, sound: NDArray[np.float64], rate: int, chance: np.random.Generator) -> None:
        t = np.arange(len(sound)) / rate
        for harmonic, share in ((1, 1.0), (2, 0.5), (3, 0.3), (5, 0.15)):
            wave = np.sin(2.0 * np.pi * HUM_HZ * harmonic * t + chance.uniform(0.0, 6.28))
            sound += 1.2 * self.hum * LOUDNESS * share * wave
        for _ in range(chance.poisson(self.knocks * len(sound) / rate)):
            start = int(chance.integers(0, len(sound)))
            since = t[: len(sound) - start]
            ring = np.sin(2.0 * np.pi * KNOCK_HZ * since) + 0.2 * chance.standard_normal(len(since))
            sound[start:] += 10.0 * LOUDNESS * np.exp(-since / KNOCK_S * 4.0) * ring


def _band(rate: int) -> tuple[float, float]:
    top = min(BAND_HZ[1], 0.46 * rate)
    return min(BAND_HZ[0], 0.4 * top), top


def _kept_of_noise(rate: int) -> float:
    low, high = _band(rate)
    return (high - low) / (rate / 2.0)


def _in_band(sound: NDArray[np.float64], rate: int) -> NDArray[np.float64]:
    """What a case lets out of it: a band, with soft edges."""
    spectrum = np.fft.rfft(sound)
    frequencies = np.fft.rfftfreq(len(sound), 1.0 / rate)
    low, high = _band(rate)
    spectrum /= np.sqrt(1.0 + (low / np.maximum(frequencies, 1.0)) ** 16)
    spectrum /= np.sqrt(1.0 + (frequencies / high) ** 16)
    return np.fft.irfft(spectrum, len(sound))
