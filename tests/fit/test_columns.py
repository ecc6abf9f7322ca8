"""Every formula runs over columns of many parts at once and agrees with the report, part by part."""

import numpy as np
import pytest

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.checks.hands import stack_over
from marquetry.core.fit.columns import CODES, Column
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.verdict import Verdict
from tests.strategies import MODEL, case_build, report_on, rules

ROWS = 12


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


FOUR_HANDS, TILTED, PAINTED = (perturbed(case_build(number)) for number in (10, 14, 19))
BUILDS = FOUR_HANDS
REPORTS = [report_on(build) for build in BUILDS]


def columns(builds: list[Build] = BUILDS) -> dict[str, Column]:
    """Every dimension of every build as a column."""
    return {
        path: Column(
            np.array([build.dimensions[path].value for build in builds]),
            np.array([build.dimensions[path].tol for build in builds]),
        )
        for path in builds[0].dimensions
    }


@pytest.mark.parametrize("builds", [FOUR_HANDS, TILTED, PAINTED], ids=["four hands", "tilted", "painted"])
@pytest.mark.parametrize("check", [c for c in MODEL.checks if not c.one_length], ids=lambda c: c.name)
def test_a_formula_over_columns_agrees_with_every_report(check: Check, builds: list[Build]) -> None:
    own = MODEL.rules_of(builds[0])
    found = check.over(builds[0], own, columns(builds))
    findings = [report_on(build, own).findings[check.name] for build in builds]
    if found is None:
        assert {finding.verdict for finding in findings} == {Verdict.SKIPPED}
        return
    if check.skips_by_figures:
        told = np.array([finding.verdict is not Verdict.SKIPPED for finding in findings])
        assert np.all(np.isposinf(np.broadcast_to(found.nominal, ROWS)[~told]))
        if not told.all():
            return
    if findings[0].verdict is Verdict.UNMEASURED:
        assert np.all(np.isnan(found.nominal))
        return
    if found.values is not None:
        assert np.broadcast_to(found.values, ROWS) == pytest.approx([f.value for f in findings], abs=1e-9)
    if findings[0].value is not None:
        assert np.broadcast_to(found.worst, ROWS) == pytest.approx([f.margin for f in findings], abs=1e-6)
    codes = np.broadcast_to(found.verdict_codes(), ROWS)
    assert [CODES[code] for code in codes] == [f.verdict for f in findings]


def test_what_a_column_does_not_know_is_unmeasured_there_and_nowhere_else() -> None:
    moved = columns()
    values = moved["dial.thickness"].values.copy()
    values[3] = np.nan
    moved["dial.thickness"] = Column(values, moved["dial.thickness"].tols)
    found = MODEL.check("stem_height").over(BUILDS[0], rules(), moved)
    assert found is not None
    assert [
        index for index, code in enumerate(found.verdict_codes()) if CODES[code] is Verdict.UNMEASURED
    ] == [3]


def test_the_hand_stack_over_columns_agrees_with_every_report() -> None:
    expected = [report.findings["hand_stack"].value for report in REPORTS]
    assert stack_over(BUILDS[0], rules(), {p: c.values for p, c in columns().items()}) == pytest.approx(
        expected, abs=1e-9
    )


def test_the_hand_stacks_worst_case_over_columns_promises_at_most_the_domes_doubt_too_much() -> None:
    found = MODEL.check("hand_stack").over(BUILDS[0], rules(), columns())
    assert found is not None
    assert found.values is not None
    findings = [report.findings["hand_stack"] for report in REPORTS]
    assert found.values == pytest.approx([f.value for f in findings], abs=1e-9)
    for worst, finding, build in zip(found.worst, findings, BUILDS, strict=True):
        assert finding.low is not None
        dome = build.dimensions["crystal.inner_dome"].tol
        assert finding.low - 1e-9 <= worst <= finding.low + dome + 0.005
