"""Figures, entries and sentences as a builder reads and types them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.fit.sentence import details, sentence
from marquetry.core.values.entry import parse_entry, parse_figure
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import band, chance, entered, figure
from marquetry.core.values.limits import Limits
from tests.strategies import MODEL, case_build, report_on


@pytest.mark.parametrize(
    ("told", "expected"),
    [
        (figure(-0.36, unit="mm"), "−0.36\u00a0mm"),
        (figure(-0.001), "0.00"),
        (figure(0.36, signed=True), "+0.36"),
        (figure(0.0, signed=True), "0.00"),
        (figure(0.0125, 3), "0.013"),
        (entered(2.6), "2.60"),
        (entered(0.005), "0.005"),
        (entered(-57.0), "−57.00"),
        (band(Limits(-0.1, 0.1), 2, "mm"), "−0.10 … 0.10\u00a0mm"),
        (band(Limits(None, 85), 0, "%"), "at most 85\u00a0%"),
        (band(Limits(None, None)), "no limit"),
        (chance(0.9999), "over 99 %"),
        (chance(0.001), "under 1 %"),
        (chance(0.07), "7 %"),
    ],
)
def test_figures_are_told(told: str, expected: str) -> None:
    assert told == expected


@pytest.mark.parametrize(
    ("typed", "value"),
    [
        ("2.62", 2.62),
        ("2,62", 2.62),
        (" −0.4 mm", -0.4),
        ("-.4", -0.4),
        ("+3", 3.0),
        ("3mm", 3.0),
        ("7.", 7.0),
    ],
)
def test_entries_are_understood(typed: str, value: float) -> None:
    assert parse_figure("value", typed, "mm") == value


@pytest.mark.parametrize(
    ("typed", "value", "tol"),
    [
        ("28.5 ±0.02", 28.5, 0.02),
        ("28,5 +/- 0,02 mm", 28.5, 0.02),
        ("1.125in", 28.575, None),
        ('1 1/8"', 28.575, None),
        ("1/8 inch", 3.175, None),
        ("1.125 ±0.001in", 28.575, 0.0254),
        ("−0.4±.1", -0.4, 0.1),
    ],
)
def test_tolerances_and_inches_are_understood(typed: str, value: float, tol: float | None) -> None:
    found, found_tol = parse_entry("value", typed, "mm")
    assert found == pytest.approx(value)
    assert (found_tol or 0.0) == pytest.approx(tol or 0.0)
    assert (found_tol is None) == (tol is None)


@given(st.decimals("0.001", "199", places=3))
def test_inches_there_and_back_are_the_same_length(millimetres: object) -> None:
    length = float(str(millimetres))
    assert parse_figure("value", f"{length / 25.4:.9f}in", "mm") == pytest.approx(length, abs=1e-7)


@pytest.mark.parametrize("typed", ["1/0", '3 ±0.1"mm', "1 / 8 / 2", "3in °", "±0.1"])
def test_what_is_neither_is_refused(typed: str) -> None:
    with pytest.raises(DimensionError):
        parse_entry("value", typed, "mm")


def test_an_angle_is_not_in_inches() -> None:
    assert parse_entry("value", "12.5° ±0.5", "°") == (12.5, 0.5)
    with pytest.raises(DimensionError, match="a number in °"):
        parse_entry("value", "3in", "°")


@pytest.mark.parametrize("typed", ["two", "1.2.3", "3°", "1e3", "inf", "nan", "", "--3", "9" * 30, "3 mm mm"])
def test_other_entries_are_refused(typed: str) -> None:
    with pytest.raises(DimensionError, match="expected a number in mm"):
        parse_figure("value", typed, "mm")


@pytest.mark.parametrize(
    ("number", "check", "parts"),
    [
        (1, "stem_height", ["wanted −0.10 … 0.10\u00a0mm", "Clear by 0.01\u00a0mm"]),
        (
            2,
            "stem_height",
            ["0.74\u00a0mm", "Misses by 0.64\u00a0mm", "a spacer of this thickness is missing"],
        ),
        (7, "stem_height", ["−0.55\u00a0mm", "too thick"]),
        (9, "stem_height", ["Not known: Movement, dial face to stem axis"]),
        (3, "stem_height", ["may miss by 0.01\u00a0mm"]),
    ],
)
def test_a_finding_says_what_it_means(number: int, check: str, parts: list[str]) -> None:
    told = sentence(MODEL, report_on(case_build(number)).findings[check])
    for part in parts:
        assert part in told


@pytest.mark.parametrize(
    ("number", "check", "told"),
    [
        (5, "dial_feet", "after a turn of 24.0\u00a0°"),
        (6, "dial_feet", "no hole waits for them: 3, 4"),
        (10, "hand_stack", "24-hour 0.38, hour 0.93, minute 1.50, seconds 2.23"),
        (10, "hand_stack", "24-hour over the dial"),
    ],
)
def test_what_is_beyond_the_figures_is_told(number: int, check: str, told: str) -> None:
    assert told in " ".join(details(report_on(case_build(number)).findings[check]))


def test_every_check_says_what_it_means_and_what_helps() -> None:
    for check in MODEL.checks:
        assert check.words.means.endswith(".")
        assert check.words.helps
        assert check.limits.high is not None or check.words.below
        assert check.limits.high is None or check.words.above or check.words.below
