"""Figures, entries and sentences as a builder reads and types them."""

import pytest

from marquetry.core.checks import CHECK_BY_NAME, CHECKS
from marquetry.core.entry import parse_figure
from marquetry.core.errors import DimensionError
from marquetry.core.figures import band, chance, entered, figure
from marquetry.core.finding import Limits
from marquetry.core.report import report_on
from marquetry.core.sentence import details, sentence
from tests.strategies import case_build


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
    told = sentence(CHECK_BY_NAME[check], report_on(case_build(number)).findings[check])
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
    assert told in " ".join(details(CHECK_BY_NAME[check], report_on(case_build(number)).findings[check]))


def test_every_check_says_what_it_means_and_what_helps() -> None:
    for check in CHECKS:
        assert check.words.means.endswith(".")
        assert check.words.helps
        assert check.limits.high is not None or check.words.below
        assert check.limits.high is None or check.words.above or check.words.below
        assert len(check.title) <= 25, "a note holds no longer title"
