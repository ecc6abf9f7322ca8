"""Rate, beat error and swing of sounds whose truth is known, and sounds that have no answer."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.proving.sound.recording import SoundError, recording_of
from marquetry.core.proving.sound.timing import lift_time, swing, timing
from marquetry.core.proving.sound.words import timing_words
from tests.proving.ticking import t1_of, ticking

CASES = (
    # what is heard, and by how much s/d, ms and degrees may differ
    ({"rate": 12.0, "beat_error": 0.4}, (0.5, 0.1, 5.0)),
    (
        {
            "beats": 21_600,
            "rate": -8.5,
            "amplitude": 238.0,
            "beat_error": 1.3,
            "ground_db": 20.0,
            "hertz": 44_100,
        },
        (0.5, 0.1, 5.0),
    ),
    (
        {"rate": 3.7, "amplitude": 292.0, "beat_error": 0.2, "ground_db": 12.0, "hum": 0.05, "seconds": 20.0},
        (1.0, 0.2, 10.0),
    ),
    ({"beats": 18_000, "rate": -120.0, "amplitude": 190.0}, (0.5, 0.1, 5.0)),
    ({"beats": 36_000, "rate": 40.0, "amplitude": 300.0, "hertz": 48_000}, (0.5, 0.1, 5.0)),
    ({"beats": 19_800, "rate": 900.0, "amplitude": 250.0, "ground_db": 30.0}, (0.5, 0.1, 5.0)),
    ({"beats": 25_200, "rate": 0.0, "beat_error": 4.0}, (0.5, 0.1, 5.0)),
    ({"rate": 6.0, "between": 1.5}, (0.5, 0.1, 5.0)),
    ({"rate": 6.0, "between": 2.0, "hertz": 96_000, "seconds": 8.0}, (0.7, 0.1, 5.0)),
    ({"rate": -4.0, "hertz": 8_000, "ground_db": 30.0}, (0.5, 0.15, 8.0)),
    ({"rate": 15.0, "lost": 0.05, "knocks": 6, "seconds": 20.0}, (0.5, 0.1, 5.0)),
    ({"rate": 2.0, "fades": 3.0, "ground_db": 30.0}, (0.5, 0.1, 5.0)),
    ({"rate": -300.0, "seconds": 5.0, "ground_db": 30.0}, (2.0, 0.1, 6.0)),
)


@pytest.mark.parametrize(("told", "within"), CASES)
def test_what_is_heard_is_what_was_put_in(told: dict[str, Any], within: tuple[float, float, float]) -> None:
    found = timing(recording_of(ticking(**told), told.get("hertz", 22_050)))
    assert found.beats_per_hour == told.get("beats", 28_800)
    assert found.rate == pytest.approx(told.get("rate", 0.0), abs=within[0])
    assert found.beat_error_ms == pytest.approx(told.get("beat_error", 0.0), abs=within[1])
    if found.amplitude is not None or told.get("ground_db", 25.0) > 15.0:
        assert found.amplitude == pytest.approx(told.get("amplitude", 270.0), abs=within[2])
    assert 0.0 < found.rate_u < within[0]
    expected = told.get("seconds", 15.0) * found.beats_per_hour / 3600.0
    assert found.beats + found.gaps == pytest.approx(expected, abs=3)
    lost = told.get("lost", 0.0) * expected
    assert abs(found.gaps - lost) <= 4.0 + 3.0 * lost**0.5


def test_the_trace_holds_every_beat_and_drifts_as_the_rate_says() -> None:
    found = timing(recording_of(ticking(rate=60.0, beat_error=1.0), 22_050))
    times = np.array([each.time for each in found.trace])
    off = np.array([each.deviation for each in found.trace])
    odd = np.array([each.odd for each in found.trace])
    assert len(times) == found.beats
    assert off[0] == 0.0
    assert set(odd) == {0, 1}
    for parity in (0, 1):
        slope = np.polyfit(times[odd == parity], off[odd == parity], 1)[0]
        assert slope == pytest.approx(-60.0 / 86.4, abs=0.02), (
            "a watch that gains is ever earlier, in ms a second"
        )


def test_beats_that_are_told_are_looked_for_and_others_not() -> None:
    sound = recording_of(ticking(beats=14_400, rate=5.0), 22_050)
    assert timing(sound, beats=14_400).rate == pytest.approx(5.0, abs=0.5)
    with pytest.raises(SoundError) as refused:
        timing(sound, beats=20_000)
    assert refused.value.fault == "no-beat"


def test_the_clock_counts_only_where_it_is_known() -> None:
    sound = recording_of(ticking(), 22_050)
    without, known = timing(sound), timing(sound, clock_ppm=10.0)
    assert known.rate == without.rate
    assert known.rate_u**2 - without.rate_u**2 == pytest.approx(0.864**2, rel=1e-6)


def test_a_swing_is_not_told_where_its_first_noise_drowns() -> None:
    found = timing(recording_of(ticking(ground_db=4.0, seconds=30.0), 22_050))
    assert found.beats_per_hour == 28_800
    assert found.amplitude is None or abs(found.amplitude - 270.0) < 10.0
    assert any("swing" in line or "amplitude" in line for line in timing_words(found))


def quiet(seconds: float = 10.0, loud: float = 0.01) -> np.ndarray:
    return (np.random.default_rng(4).standard_normal((int(22_050 * seconds), 1)) * loud).astype(np.float32)


TIME = (np.arange(22_050 * 10) / 22_050)[:, None]
NO_ANSWER = (
    ("short", ticking(seconds=3.9), "short"),
    ("silent", quiet(loud=1e-6), "silent"),
    ("clipped", np.sign(quiet()), "clipped"),
    ("no-beat", quiet(), "No beat"),
    ("no-beat", (0.1 * np.sin(2 * np.pi * 50 * TIME)).astype(np.float32) + quiet(loud=1e-4), "No beat"),
    ("no-beat", ticking(seconds=10.0, beats=7_200), "No beat"),
    ("long", np.zeros((22_050 * 601, 1), np.float32), "Ten minutes"),
)


@pytest.mark.parametrize(
    ("fault", "sound", "words"), NO_ANSWER, ids=[f"{n}-{row[0]}" for n, row in enumerate(NO_ANSWER)]
)
def test_a_sound_with_no_answer_is_told_as_what_it_is(fault: str, sound: np.ndarray, words: str) -> None:
    with pytest.raises(SoundError, match=words) as refused:
        timing(recording_of(sound, 22_050))
    assert refused.value.fault == fault


def test_the_louder_channel_is_taken_and_an_offset_left_out() -> None:
    watch = ticking(rate=9.0, seconds=8.0)
    sound = np.concatenate([np.full_like(watch, 0.3) + quiet(8.0, 0.001), watch], axis=1)
    assert timing(recording_of(sound, 22_050)).rate == pytest.approx(9.0, abs=0.7)


@given(st.floats(100.0, 360.0), st.sampled_from([18_000, 21_600, 28_800, 36_000]), st.floats(36.0, 60.0))
def test_swing_and_lift_time_are_one_law_seen_from_both_ends(
    amplitude: float, beats: int, lift: float
) -> None:
    assert swing(lift, lift_time(lift, amplitude, beats), beats) == pytest.approx(amplitude)
    assert lift_time(lift, amplitude, beats) == pytest.approx(t1_of(lift, amplitude, beats))


@pytest.mark.parametrize("seed", range(1, 5))
@pytest.mark.parametrize(
    ("ground_db", "talk", "least"), [(20.0, 0.1, 118), (16.0, 0.2, 115), (12.0, 0.1, 117)]
)
def test_beats_are_found_where_somebody_talks_and_a_lamp_hums(
    seed: int, ground_db: float, talk: float, least: int
) -> None:
    """Of 119: talk as loud as half a beat, and louder than its faint noises, loses few; it lost seven."""
    told: dict[str, Any] = {
        "beats": 21_600,
        "rate": 5.0,
        "hum": 0.08,
        "seconds": 20.0,
        "ground_db": ground_db,
    }
    found = timing(recording_of(ticking(**told, talk=talk, seed=seed), 22_050))
    assert found.beats + found.gaps == pytest.approx(119, abs=1)
    assert found.beats >= least
    assert found.rate == pytest.approx(5.0, abs=0.6)


@settings(max_examples=12, deadline=None, derandomize=True)
@given(
    st.sampled_from([18_000, 21_600, 25_200, 28_800, 36_000]),
    st.floats(-200.0, 200.0), st.floats(180.0, 330.0), st.floats(0.0, 3.0), st.floats(0.4, 1.6), st.integers(1, 9),
)  # fmt: skip
def test_any_watch_is_heard(
    beats: int, rate: float, amplitude: float, error: float, between: float, seed: int
) -> None:
    sound = ticking(beats, rate, amplitude, error, 28.0, seed=seed, between=between, seconds=12.0)
    found = timing(recording_of(sound, 22_050))
    assert found.beats_per_hour == beats
    assert found.rate == pytest.approx(rate, abs=0.8)
    assert found.beat_error_ms == pytest.approx(error, abs=0.12)
    assert found.amplitude == pytest.approx(amplitude, abs=6.0)
