"""`timing`, `watch-sound`, `pressure`, `chamber`: what they print, and how they end."""

import json
from pathlib import Path
from typing import Any

import pytest

from marquetry.cli import main
from marquetry.formats.wav import wav_bytes
from tests.proving.ticking import ticking

Said = tuple[int, str, str]


@pytest.fixture
def run(capsys: pytest.CaptureFixture[str]) -> Any:
    def ran(*arguments: object) -> Said:
        code = main([str(argument) for argument in arguments])
        told = capsys.readouterr()
        return code, told.out, told.err

    return ran


KEYS = {
    "beats_per_hour", "rate_s_per_day", "rate_u", "beat_error_ms", "amplitude_deg", "beats", "gaps", "seconds",
    "noise_db", "trace",
}  # fmt: skip


def test_a_recording_is_told_as_json_and_in_words(run: Any, tmp_path: Path) -> None:
    file = tmp_path / "w.wav"
    file.write_bytes(wav_bytes(ticking(rate=-7.0, seconds=10.0, lift=48.0), 22_050))
    code, out, err = run("timing", file, "--json", "--lift-angle", 48)
    found = json.loads(out)
    assert (code, err) == (0, "")
    assert set(found) == KEYS
    assert found["rate_s_per_day"] == pytest.approx(-7.0, abs=0.7)
    assert found["amplitude_deg"] == pytest.approx(270.0, abs=5.0)
    assert len(found["trace"]) == found["beats"]
    assert "28800 beats an hour" in run("timing", file)[1]


@pytest.mark.parametrize(
    ("more", "words"),
    [
        (("--beats", 11_999), "12000"),
        (("--beats", 72_001), "72000"),
        (("--lift-angle", 5), "lift angle"),
        (("--beats", 36_000), "No beat"),
    ],
)
def test_what_no_watch_has_ends_with_two(
    run: Any, tmp_path: Path, more: tuple[object, ...], words: str
) -> None:
    file = tmp_path / "w.wav"
    file.write_bytes(wav_bytes(ticking(seconds=6.0), 22_050))
    code, out, err = run("timing", file, *more)
    assert (code, out) == (2, "")
    assert words in err


@pytest.mark.parametrize("raw", [b"", b"RIFF", b"just words"])
def test_what_is_no_recording_ends_with_two_and_a_sentence(run: Any, tmp_path: Path, raw: bytes) -> None:
    file = tmp_path / "w.wav"
    file.write_bytes(raw)
    code, out, err = run("timing", file)
    assert (code, out) == (2, "")
    assert "not a WAV" in err
    assert run("timing", tmp_path / "missing.wav")[0] == 2


def test_the_stand_in_is_heard_as_what_it_was_told_to_be(run: Any, tmp_path: Path) -> None:
    file = tmp_path / "s.wav"
    asked = (
        "--bph",
        21_600,
        "--rate",
        "+12",
        "--amplitude",
        240,
        "--beat-error",
        0.4,
        "--noise-db",
        30,
        "--seconds",
        15,
    )
    assert run("watch-sound", *asked, "--seed", 3, "--out", file)[0] == 0
    found = json.loads(run("timing", file, "--json")[1])
    assert found["beats_per_hour"] == 21_600
    assert found["rate_s_per_day"] == pytest.approx(12.0, abs=0.5)
    assert found["beat_error_ms"] == pytest.approx(0.4, abs=0.1)
    assert found["amplitude_deg"] == pytest.approx(240.0, abs=5.0)
    assert found["noise_db"] == pytest.approx(30.0, abs=3.0)
    again = tmp_path / "t.wav"
    run("watch-sound", *asked, "--seed", 3, "--out", again)
    assert again.read_bytes() == file.read_bytes()


@pytest.mark.parametrize(
    "asked", [("--rate", 9999), ("--bph", 100), ("--amplitude", 20), ("--seconds", 0), ("--samples", 100)]
)
def test_a_watch_that_cannot_be_is_not_made(run: Any, tmp_path: Path, asked: tuple[str, int]) -> None:
    file = tmp_path / "s.wav"
    assert run("watch-sound", *asked, "--out", file)[0] == 2
    assert not file.exists()


@pytest.mark.parametrize(
    ("case", "code", "verdict"), [("sound", 0, "tight"), ("crown", 1, "leak"), ("crystal", 1, "leak")]
)
def test_the_chambers_file_is_judged(run: Any, tmp_path: Path, case: str, code: int, verdict: str) -> None:
    file = tmp_path / "c.csv"
    assert run("chamber", "--case", case, "--hold", 60, "--seed", 2, "--out", file)[0] == 0
    ended, out, _ = run("pressure", file, "--json")
    found = json.loads(out)
    assert (ended, found["verdict"]) == (code, verdict)
    assert set(found) == {"verdict", "held_bar", "hold_s", "loss_per_min", "u", "deflection_um"}
    assert verdict.capitalize() in run("pressure", file)[1]
    assert (
        run("chamber", "--case", case, "--hold", 60, "--seed", 2)[1].strip()
        == file.read_text("utf-8").strip()
    )


@pytest.mark.parametrize(
    ("text", "words"), [("", "none"), ("0,1,2\nx\n", "line 2"), ("0,1,1e999\n", "line 1")]
)
def test_a_series_with_rubbish_ends_with_two(run: Any, tmp_path: Path, text: str, words: str) -> None:
    file = tmp_path / "c.csv"
    file.write_text(text, "utf-8")
    code, out, err = run("pressure", file)
    assert (code, out) == (2, "")
    assert words in err


@pytest.mark.parametrize(
    "asked",
    [
        ("--bar", 99),
        ("--hold", 0),
        ("--to", "http://elsewhere.invalid"),
        ("--from", "/nowhere"),
        ("--to", "http://127.0.0.1:1", "--faster", 0),
    ],
)
def test_a_chamber_that_cannot_be_played_ends_with_two(run: Any, asked: tuple[object, ...]) -> None:
    code, _, err = run("chamber", *asked)
    assert code == 2
    assert err
