"""Formulas asked “what if this dimension were …”, one number or many at once, without making a build."""

from collections.abc import Mapping

import numpy as np

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.columns import Column
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import SLACK

ROUNDS = 12
NEAR = 1e-9


def value_at(check: Check, build: Build, rules: Rules, moved: Mapping[str, float]) -> float | None:
    """The check's quantity, in its unit, with dimensions moved (mm or degrees); None where it cannot be said."""
    columns = {path: Column(np.array([float(value)]), np.zeros(1)) for path, value in moved.items()}
    found = check.over(build, rules, columns)
    if found is None or found.values is None:
        return None
    number = float(np.ravel(found.values)[0])
    return None if np.isnan(number) else number


def solve(check: Check, build: Build, rules: Rules, path: str, aim: float) -> float | None:
    """The dimension's value, in its unit, at which the check's quantity is `aim`; None where it never is."""
    old = build.dimensions.get(path)
    if old is None:
        return None
    x, step = old.value, 0.01
    y = value_at(check, build, rules, {path: x})
    for _ in range(ROUNDS):
        if y is None or abs(y - aim) < NEAR:
            return x if y is not None else None
        other = value_at(check, build, rules, {path: x + step})
        if other is None or other == y:
            return None
        ahead = x + (aim - y) * step / (other - y)
        step, x = (ahead - x) / 10 or 1e-6, ahead
        y = value_at(check, build, rules, {path: x})
    return x if y is not None and abs(y - aim) < 1e-4 else None  # noqa: PLR2004  # a tenth of a micron will do


def aim_of(finding: Finding, spare_room: float) -> float | None:
    """Where the quantity had best lie, in the check's unit: mid-band, or clear of its one limit."""
    low, high = finding.limits.low, finding.limits.high
    if finding.value is None or finding.low is None or finding.high is None:
        return None
    doubt = (finding.high - finding.low) / 2
    if low is not None and high is not None:
        return (low + high) / 2
    if low is not None:
        return low + doubt + spare_room + SLACK
    return high - doubt - spare_room - SLACK if high is not None else None
