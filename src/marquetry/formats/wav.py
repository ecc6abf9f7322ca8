"""WAV: bytes to samples and back. PCM of 16 or 24 bit and IEEE float, plainly tagged or extensible.

The standard library's reader knows neither float nor the extensible tag; nothing else of the format is needed
here, and each fault has a sentence of its own.
"""

import struct
from dataclasses import dataclass

import numpy as np

from marquetry.core.proving.sound.recording import (
    FASTEST_HZ,
    LONGEST_S,
    SLOWEST_HZ,
    Recording,
    Samples,
    SoundError,
    recording_of,
)

PCM, FLOAT, EXTENSIBLE = 1, 3, 0xFFFE
KNOWN = {(PCM, 16), (PCM, 24), (FLOAT, 32), (FLOAT, 64)}
MOST_CHANNELS = 2
HEADER = 12
FORM, EXTENDED_FORM = 16, 40
"""Bytes of a plain form and of an extensible one."""
SHORT = 16
"""Bits of the shorter PCM."""


@dataclass(frozen=True, slots=True)
class _Form:
    tag: int
    channels: int
    rate: int
    bits: int

    @property
    def frame(self) -> int:
        return self.channels * self.bits // 8


def read_wav(raw: bytes) -> Recording:
    """The recording in a WAV file, its louder channel. SoundError where it is none that can be analysed."""
    if len(raw) < HEADER or raw[:4] != b"RIFF" or raw[8:12] != b"WAVE":
        raise _refused("This is not a WAV file. Export the recording as WAV, PCM 16 or 24 bit or float")
    form, data = _chunks(raw)
    if form is None:
        raise _refused("The WAV file does not say its form: its “fmt ” part is missing or comes too late")
    if data is None:
        raise _refused("The WAV file holds no sound: its “data” part is missing")
    _check(form)
    frames = len(data) // form.frame
    if frames > LONGEST_S * form.rate:
        minutes = frames / form.rate / 60
        raise SoundError(
            "long", f"The recording is too long: {minutes:.0f} min. Ten minutes at most are analysed."
        )
    samples = _decoded(data[: frames * form.frame], form)
    if not np.isfinite(samples).all():
        raise _refused("The WAV file is broken: some of its samples are no numbers")
    return recording_of(samples.reshape(-1, form.channels), form.rate)


def _chunks(raw: bytes) -> tuple[_Form | None, bytes | None]:
    """The form and the samples; unknown parts are skipped. Refused where a part is longer than the file."""
    form: _Form | None = None
    at = HEADER
    while at + 8 <= len(raw):
        name, size = raw[at : at + 4], int.from_bytes(raw[at + 4 : at + 8], "little")
        body = raw[at + 8 : at + 8 + size]
        if name in {b"fmt ", b"data"} and len(body) < size:
            raise _refused("The WAV file is broken: it ends before its sound does. Record or copy it again")
        if name == b"fmt ":
            form = _form(body)
        elif name == b"data":
            return form, body
        at += 8 + size + size % 2
    return form, None


def _form(body: bytes) -> _Form:
    if len(body) < FORM:
        raise _refused("The WAV file is broken: its form is cut short")
    tag, channels, rate, _, frame, bits = struct.unpack("<HHIIHH", body[:16])
    if tag == EXTENSIBLE:
        if len(body) < EXTENDED_FORM:
            raise _refused("The WAV file is broken: its extensible form is cut short")
        tag = int.from_bytes(body[24:26], "little")
    if channels * bits // 8 != frame:
        raise _refused("The WAV file is broken: its form contradicts itself")
    return _Form(tag, channels, rate, bits)


def _check(form: _Form) -> None:
    if not 1 <= form.channels <= MOST_CHANNELS:
        raise _refused(f"The WAV file has {form.channels} channels; one or two can be read")
    if (form.tag, form.bits) not in KNOWN:
        kind = {PCM: "PCM", FLOAT: "float"}.get(form.tag, f"tag {form.tag}")
        raise _refused(f"The WAV file is {kind} of {form.bits} bit; PCM of 16 or 24 bit or float can be read")
    if not SLOWEST_HZ <= form.rate <= FASTEST_HZ:
        raise _refused(
            f"The WAV file has {form.rate} samples a second; "
            f"{SLOWEST_HZ // 1000} to {FASTEST_HZ // 1000} kHz can be read"
        )


def _decoded(data: bytes, form: _Form) -> Samples:
    if form.tag == FLOAT:
        return np.frombuffer(data, f"<f{form.bits // 8}").astype(np.float32)
    if form.bits == SHORT:
        return np.frombuffer(data, "<i2").astype(np.float32) / np.float32(1 << 15)
    parts = np.frombuffer(data, np.uint8).reshape(-1, 3).astype(np.int32)
    whole = (parts[:, 0] << 8 | parts[:, 1] << 16 | parts[:, 2] << 24) >> 8
    return whole.astype(np.float32) / np.float32(1 << 23)


def wav_bytes(samples: Samples, rate: int) -> bytes:
    """Samples of full scale ±1, frames in rows, as a WAV file of 16 bit PCM."""
    channels = samples.shape[1]
    data = np.round(np.clip(samples, -1.0, 1.0) * 32767.0).astype("<i2").tobytes()
    form = struct.pack("<HHIIHH", PCM, channels, rate, rate * channels * 2, channels * 2, 16)
    parts = b"WAVEfmt " + struct.pack("<I", len(form)) + form + b"data" + struct.pack("<I", len(data)) + data
    return b"RIFF" + struct.pack("<I", len(parts)) + parts


def _refused(words: str) -> SoundError:
    return SoundError("not-a-wav", f"{words}.")
