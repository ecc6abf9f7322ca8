"""The watch out of the ground: a filter that leaves hum and rumble behind and keeps what beats.

The recording is filtered by the spectrum of its own loud moments over that of its quiet ones, so that
it does not matter in which band this case and this microphone carry the beat. The filter's phase is zero: it
delays nothing.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.proving.sound.recording import Recording, Samples

Spectrum = NDArray[np.float64]

LOWEST_HZ, FULL_HZ = 600.0, 1_200.0
"""Below the first everything is hum and rumble; from the second on everything is kept."""
FINEST_HZ = 32_000
"""The filtered recording has so many samples a second at least, and hardly twice as many."""
FRAME_S = 0.004
LOUD = 96.0
"""The percentile of moments that counts as loud: beats fill a tenth of the time, knocks a hundredth."""
OF_NOISE = float(np.log(1.0 / (1.0 - LOUD / 100.0)) / np.log(2.0))
"""That percentile over the median, for noise alone."""
MOST_FRAMES = 4_000
BLOCKS = 32


@dataclass(frozen=True, slots=True)
class Heard:
    """What is heard of the watch: `power` of the filtered recording, `rate` of its samples a second.

    `smear` is what the filter makes of a moment: its own power around zero, sum 1.
    """

    power: Samples
    rate: int
    smear: Samples


def heard(recording: Recording) -> Heard:
    """The power of the watch's own sounds."""
    up, down = _steps(recording.rate)
    frequencies, weights = _weights(recording)
    rate = recording.rate * up // down
    filtered = _filtered(recording, frequencies, weights, up, down)
    grid = np.fft.rfftfreq(1024, 1.0 / rate)
    response = np.fft.fftshift(np.fft.irfft(np.interp(grid, frequencies, weights, right=0.0)))
    near = response[512 - rate // 1000 : 513 + rate // 1000] ** 2
    return Heard(np.square(filtered), rate, (near / near.sum()).astype(np.float32))


def _steps(rate: int) -> tuple[int, int]:
    """By what the rate is multiplied and divided, both powers of two."""
    up = down = 1
    while rate * up < FINEST_HZ:
        up *= 2
    while rate // down >= 2 * FINEST_HZ and rate % (2 * down) == 0:
        down *= 2
    return up, down


def _weights(recording: Recording) -> tuple[Spectrum, Spectrum]:
    """The filter's amplitude by frequency: what is loud over what is quiet, whitened by the quiet."""
    size = 2 * max(16, round(recording.rate * FRAME_S / 2))
    hop = max(size // 2, (len(recording.samples) - size) // MOST_FRAMES)
    frames = np.lib.stride_tricks.sliding_window_view(recording.samples, size)[::hop]
    power = np.square(np.abs(np.fft.rfft(frames * np.hanning(size).astype(np.float32), axis=1)))
    quiet = np.median(power, axis=0) + 1e-20
    over = np.maximum(np.percentile(power, LOUD, axis=0) / quiet / OF_NOISE - 1.0, 0.0)
    frequencies = np.fft.rfftfreq(size, 1.0 / recording.rate)
    high = np.clip((frequencies - LOWEST_HZ) / (FULL_HZ - LOWEST_HZ), 0.0, 1.0)
    share = over / (1.0 + over)
    share = np.convolve(np.pad(share, 2, mode="edge"), np.ones(5) / 5.0, mode="valid")
    amplitude: Spectrum = np.sqrt((share + 0.01) / quiet) * (0.5 - 0.5 * np.cos(np.pi * high))
    return frequencies.astype(np.float64), amplitude / float(amplitude.max())


def _filtered(recording: Recording, frequencies: Spectrum, weights: Spectrum, up: int, down: int) -> Samples:
    """The recording filtered and at its new rate: blocks that overlap by half, the middle of each kept."""
    size = down * 2 ** int(np.ceil(np.log2(recording.rate / down / 4)))
    half, quarter = size // 2, size // 4
    response = np.interp(np.fft.rfftfreq(size, 1.0 / recording.rate), frequencies, weights).astype(np.float32)
    out_size = size * up // down
    padded = np.pad(recording.samples, (quarter, size))
    blocks = np.lib.stride_tricks.sliding_window_view(padded, size)[::half]
    kept = []
    for start in range(0, len(blocks), BLOCKS):
        spectrum = np.fft.rfft(blocks[start : start + BLOCKS], axis=1) * response
        whole = np.zeros((len(spectrum), out_size // 2 + 1), dtype=spectrum.dtype)
        width = min(whole.shape[1], spectrum.shape[1])
        whole[:, :width] = spectrum[:, :width]
        back = np.fft.irfft(whole, out_size, axis=1) * (up / down)
        kept.append(back[:, out_size // 4 : 3 * out_size // 4].astype(np.float32).ravel())
    return np.concatenate(kept)[: len(recording.samples) * up // down]
