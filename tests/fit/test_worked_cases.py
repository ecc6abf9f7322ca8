"""The worked cases, digit by digit: expected values come from the cases' own independent computation."""

from typing import Any

import pytest

from marquetry.core.fit.figures import figures_of
from marquetry.core.sheet.build import Build
from marquetry.core.values.verdict import Verdict
from tests.strategies import ANATOMY, CASES, MODEL, case, report_on

NEAR = {"chance": 0.01, "chance_about": 0.03}
ROWS = [
    pytest.param(number, check, id=f"{CASES[number - 1].stem}:{check}")
    for number in range(1, len(CASES) + 1)
    for check in case(number)["expected"]
]

GIVEN = 10
"""Cases that came with the fit model."""


FIGURES = [
    pytest.param(number, key, id=f"{CASES[number - 1].stem}:{key}")
    for number in range(1, len(CASES) + 1)
    for key in case(number).get("figures", {})
]


@pytest.mark.parametrize(("number", "key"), FIGURES)
def test_figure_agrees_with_worked_case(number: int, key: str) -> None:
    build = Build(case(number)["build"], ANATOMY)
    told: dict[str, Any] = figures_of(MODEL, build, MODEL.rules_of(build))[key].as_dict()
    for part, expected in case(number)["figures"][key].items():
        assert told[part] == (pytest.approx(expected, abs=1e-4) if isinstance(expected, float) else expected)


def test_every_check_is_met_by_some_case_and_else_is_skipped() -> None:
    lacking = {check.name for check in MODEL.checks} - {row.values[1] for row in ROWS}
    assert not lacking, f"no worked case expects {', '.join(lacking)}: add one to tests/cases"
    # The ten that were given tell every check of the fit model; a check of our own has a case of its own.
    given = {name for number in range(1, GIVEN + 1) for name in case(number)["expected"]}
    for number in range(1, GIVEN + 1):
        worked = case(number)
        for name, finding in report_on(Build(worked["build"], ANATOMY)).findings.items():
            told = name in worked["expected"] or name not in given
            assert told or finding.verdict is Verdict.SKIPPED, name


@pytest.mark.parametrize(("number", "check"), ROWS)
def test_finding_agrees_with_worked_case(number: int, check: str) -> None:
    worked = case(number)
    found: dict[str, Any] = report_on(Build(worked["build"], ANATOMY)).findings[check].as_dict()
    for key, expected in worked["expected"][check].items():
        got = found["chance" if key == "chance_about" else key]
        if isinstance(expected, float):
            assert got == pytest.approx(expected, abs=NEAR.get(key, 1e-4)), key
        else:
            assert got == expected, key
