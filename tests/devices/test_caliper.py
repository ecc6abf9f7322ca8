"""The caliper stand-in: its noise is what it states, and its cable types what it reads."""

import statistics
from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry import cli
from marquetry.core.values.errors import DimensionError
from marquetry.devices import cable
from marquetry.devices.caliper import STAND_IN, Caliper, keys_of


def test_its_noise_is_the_uncertainty_it_states() -> None:
    errors = [Caliper(seed).read(28.5) - 28.5 for seed in range(2000)]
    assert statistics.fmean(errors) == pytest.approx(0.0, abs=0.001)
    assert statistics.stdev(errors) == pytest.approx(STAND_IN.uncertainty / 2, rel=0.08)
    session = Caliper(7)
    within = [session.read(28.5) for _ in range(2000)]
    assert statistics.stdev(within) < statistics.stdev(errors)


@given(size=st.floats(0, 150), seed=st.integers(0, 1000))
def test_the_display_shows_steps_and_the_seed_repeats_them(size: float, seed: int) -> None:
    reading = Caliper(seed).read(size)
    assert reading == Caliper(seed).read(size)
    assert float(keys_of(reading)) == reading
    assert abs(reading - size) < 0.08


@pytest.mark.parametrize("size", [-0.1, 151.0, float("nan")])
def test_beyond_the_jaws_is_refused(size: float) -> None:
    with pytest.raises(DimensionError, match="between the jaws"):
        Caliper(1).read(size)


@pytest.fixture
def typed(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    keys: list[str] = []

    def type_(to: str, text: str) -> int:
        keys.append(text)
        return 0 if to.endswith("1") else 1

    monkeypatch.setattr(cable, "_typed", type_)
    return keys


def test_the_command_types_each_size_and_says_when_nobody_listens(
    typed: list[str], capsys: pytest.CaptureFixture[str]
) -> None:
    assert cli.main(["caliper", "28.5", '1 1/8"', "--seed", "3", "--to", "http://127.0.0.1:8000"]) == 0
    told = capsys.readouterr().out.splitlines()
    assert [line + "\n" for line in told] == typed
    assert float(told[1]) == pytest.approx(28.575, abs=0.08)
    assert cli.main(["caliper", "2", "--to", "http://127.0.0.1:8001"]) == 0
    assert "no page listens" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["wide"], "a number in mm"),
        (["900"], "between the jaws"),
        (["2", "--to", "http://example.org"], "this machine"),
        (["2", "--to", "file:///etc/passwd"], "this machine"),
    ],
)
def test_what_cannot_be_sent_is_told(
    arguments: list[str], words: str, typed: list[str], capsys: pytest.CaptureFixture[str]
) -> None:
    assert cli.main(["caliper", *arguments]) == 2
    assert words in capsys.readouterr().err
    assert typed == []


def test_it_asks_for_sizes_one_at_a_time(typed: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    answers = iter(["1.5", "0.4", ""])
    ask: Callable[[Any], str] = lambda _: next(answers)  # noqa: E731  # stands in for the keyboard
    monkeypatch.setattr("builtins.input", ask)
    assert cli.main(["caliper", "--to", "http://127.0.0.1:8000"]) == 0
    assert len(typed) == 2
