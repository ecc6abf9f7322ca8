"""Every formula runs over columns of many parts at once and agrees with the report, part by part."""

from typing import Any

import numpy as np
import pytest

from marquetry.core.build import Build, dimension_as_json
from marquetry.core.checks import CHECKS
from marquetry.core.checks.check import Check
from marquetry.core.checks.hands import levels_of
from marquetry.core.dimension import Dimension
from marquetry.core.hand_stack import spare, terms_of
from marquetry.core.number import Number
from marquetry.core.readings import Readings
from marquetry.core.report import report_on
from marquetry.core.rules import Rules
from tests.strategies import case_build

ROWS = 12


class ColumnReadings(Readings):
    """Readings of many builds of the same shape: every dimension is a column."""

    def __init__(self, builds: list[Build]) -> None:
        super().__init__(builds[0], Rules())
        self._builds = builds

    def __getitem__(self, path: str) -> Number:
        if not self._has_part_of(path):
            return np.nan
        return np.array([build.dimensions[path].value for build in self._builds])


def perturbed(build: Build) -> list[Build]:
    """Builds whose every dimension is moved a little, reproducibly; feet and holes stay where they are."""
    generator = np.random.default_rng(4)
    made = []
    for _ in range(ROWS):
        moved = build
        for path, old in build.dimensions.items():
            if "feet" not in path and "foot_holes" not in path and old.value != 0:
                value = old.value * float(generator.uniform(0.97, 1.03))
                moved = moved.with_entry(path, dimension_as_json(Dimension(value, old.tol, old.source)))
        made.append(moved)
    return made


BUILDS = perturbed(case_build(10))
REPORTS = [report_on(build) for build in BUILDS]


@pytest.mark.parametrize("check", [c for c in CHECKS if c.formula], ids=lambda c: c.name)
def test_a_formula_over_columns_agrees_with_every_report(check: Check) -> None:
    assert check.formula is not None
    column: Any = check.formula(ColumnReadings(BUILDS))
    expected = [report.findings[check.name].value for report in REPORTS]
    if expected[0] is None:
        assert column is None
    else:
        assert np.broadcast_to(column, ROWS) == pytest.approx(expected, abs=1e-9)


def test_the_hand_stack_over_columns_agrees_with_every_report() -> None:
    levels = levels_of(ColumnReadings(BUILDS))
    values = np.array([np.broadcast_to(term.z, ROWS) for term in terms_of(levels)])
    expected = [report.findings["hand_stack"].value for report in REPORTS]
    assert spare(levels, values) == pytest.approx(expected, abs=1e-9)
