"""WAV files as they come from recorders: every form that is read, and every fault with its sentence."""

import struct
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.proving.sound.recording import SoundError
from marquetry.formats.wav import read_wav, wav_bytes

RATE = 8_000
SAMPLES = np.random.default_rng(2).uniform(-0.6, 0.6, (RATE * 5, 1)).astype(np.float32)


def wav(data: bytes, tag: int = 1, channels: int = 1, bits: int = 16, rate: int = RATE, **how: Any) -> bytes:
    """A WAV file, put together by hand; `how` bends it."""
    frame = how.get("frame", channels * bits // 8)
    form: bytes = struct.pack("<HHIIHH", how.get("outer", tag), channels, rate, rate * frame, frame, bits)
    if how.get("outer") == 0xFFFE:
        form += struct.pack("<HHIH", 22, bits, 0, tag) + bytes.fromhex("000000001000800000aa00389b71")
    before: bytes = how.get("before", b"")
    parts = before + b"fmt " + struct.pack("<I", len(form)) + form
    parts += b"data" + struct.pack("<I", how.get("size", len(data))) + data
    head: bytes = how.get("riff", b"RIFF")
    wave: bytes = how.get("wave", b"WAVE")
    return head + struct.pack("<I", 4 + len(parts)) + wave + parts


def packed(bits: int, *, is_float: bool = False) -> bytes:
    if is_float:
        return bytes(SAMPLES.astype(f"<f{bits // 8}").tobytes())
    whole = np.round(SAMPLES[:, 0] * (2 ** (bits - 1) - 1)).astype(int)
    return b"".join(int(value).to_bytes(bits // 8, "little", signed=True) for value in whole)


FORMS: Any = (
    (wav(packed(16)), 4e-5),
    (wav(packed(24), bits=24), 1e-6),
    (wav(packed(32, is_float=True), tag=3, bits=32), 1e-6),
    (wav(packed(64, is_float=True), tag=3, bits=64), 1e-6),
    (wav(packed(24), bits=24, outer=0xFFFE), 1e-6),
    (wav(packed(32, is_float=True), tag=3, bits=32, outer=0xFFFE), 1e-6),
    (wav(packed(16), before=b"LIST\x03\x00\x00\x00abc\x00junk\x02\x00\x00\x00xx"), 4e-5),
    (wav(packed(16)) + b"LIST\x02\x00\x00\x00hi", 4e-5),
    (wav_bytes(SAMPLES, RATE), 4e-5),
)


@pytest.mark.parametrize(("raw", "within"), FORMS)
def test_every_form_gives_the_samples_back(raw: bytes, within: float) -> None:
    found = read_wav(raw)
    assert (found.rate, found.seconds) == (RATE, 5.0)
    assert np.abs(found.samples - (SAMPLES[:, 0] - SAMPLES.mean())).max() < within


def test_of_two_channels_the_louder_is_read() -> None:
    both = np.concatenate([SAMPLES * 0.1, SAMPLES], axis=1)
    assert np.abs(read_wav(wav_bytes(both, RATE)).samples).max() > 0.5


GOOD = packed(16)
BROKEN: Any = (
    (b"", "not a WAV"), (b"ID3 something else", "not a WAV"), (wav(GOOD, riff=b"RIFX"), "not a WAV"),
    (wav(GOOD, wave=b"AVI "), "not a WAV"), (wav(GOOD)[:-100], "ends before"), (wav(GOOD, size=10**9), "ends before"),
    (b"RIFF\x04\x00\x00\x00WAVE", "does not say its form"), (wav(GOOD)[:36], "no sound"),
    (wav(b""), "too short"), (wav(GOOD, bits=8), "PCM of 8 bit"), (wav(GOOD, tag=2), "tag 2"),
    (wav(GOOD, tag=3, bits=16), "float of 16 bit"), (wav(GOOD, channels=3), "3 channels"), (wav(GOOD, channels=0), "0 channels"),
    (wav(GOOD, rate=4_000), "4000 samples"), (wav(GOOD, rate=400_000), "400000 samples"),
    (wav(GOOD, frame=7), "contradicts"), (wav(GOOD, outer=0xFFFE)[:40] + b"\x00" * 4, "."),
    (wav(np.full(RATE * 5, np.nan, "<f4").tobytes(), tag=3, bits=32), "no numbers"),
)  # fmt: skip


@pytest.mark.parametrize(("raw", "words"), BROKEN)
def test_what_cannot_be_read_has_a_sentence_of_its_own(raw: bytes, words: str) -> None:
    with pytest.raises(SoundError, match=words):
        read_wav(raw)


@settings(max_examples=150, deadline=None)
@given(st.binary(max_size=120), st.integers(0, 60), st.integers(0, 255))
def test_any_bytes_are_a_recording_or_refused(tail: bytes, at: int, value: int) -> None:
    bent = bytearray(wav(GOOD[:4000]) + tail)
    bent[at] = value
    for raw in (bytes(bent), b"RIFF\x00\x00\x00\x00WAVE" + tail):
        with pytest.raises(SoundError):
            read_wav(raw)
