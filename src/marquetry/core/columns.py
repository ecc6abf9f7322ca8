"""Checks over many parts at once: the report's own formulas on numpy columns, worst case included.

A dimension is one number or a column of any shape; columns broadcast, so that rows may be cases and columns
dials. What is not known is NaN and flows through. No formula is written here: this only feeds them.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from marquetry.core.build import Build
from marquetry.core.checks.check import Check
from marquetry.core.checks.hands import levels_of
from marquetry.core.finding import SLACK, Limits, Verdict
from marquetry.core.hand_stack import Floats, spare, terms_of
from marquetry.core.number import Number, nominal
from marquetry.core.readings import Readings
from marquetry.core.rules import Rules

NUDGE = 1e-5
"""A central difference over so little is exact to far below a micron, and stays on one side of any kink."""


@dataclass(frozen=True, slots=True)
class Column:
    """Values of one dimension and the half widths of their tolerances, of one shape."""

    values: Floats
    tols: Floats


CODES = (Verdict.CLEAR, Verdict.TIGHT, Verdict.CLASH, Verdict.UNMEASURED)
"""Verdicts by their code in a matrix."""
Moved = Mapping[str, Column]


class ColumnReadings(Readings):
    """A build's nominal values, some of them columns; what a column does not know is NaN, not missing."""

    def __init__(self, build: Build, rules: Rules, moved: Mapping[str, Number]) -> None:
        super().__init__(build, rules)
        self._moved = moved

    def _read(self, path: str) -> Number:
        if path in self._moved:
            self.uses[path] = None
            return self._moved[path]
        return nominal(super()._read(path))


@dataclass(frozen=True, slots=True)
class Judged:
    """A check over columns: its quantity, and how far it may be off in the worst case, each way."""

    values: Floats
    doubts: Floats
    limits: Limits

    @property
    def margins(self) -> Floats:
        """Worst-case room to the nearer limit, as a finding's `margin`; NaN where something is not known."""
        low = -np.inf if self.limits.low is None else self.limits.low
        high = np.inf if self.limits.high is None else self.limits.high
        return np.minimum(self.values - self.doubts - low, high - self.values - self.doubts)

    @property
    def nominal_margins(self) -> Floats:
        """Room of the nominal value: below zero, it clashes."""
        low = -np.inf if self.limits.low is None else self.limits.low
        high = np.inf if self.limits.high is None else self.limits.high
        return np.minimum(self.values - low, high - self.values)

    def verdict_codes(self) -> np.ndarray[tuple[int, ...], np.dtype[np.int8]]:
        """The verdict of every cell, as an index into CODES."""
        codes = np.where(self.margins >= -SLACK, 0, np.where(self.nominal_margins >= -SLACK, 1, 2))
        return np.where(np.isnan(self.values), 3, codes).astype(np.int8)


def judge_columns(check: Check, build: Build, rules: Rules, moved: Moved) -> Judged | None:
    """Run a check's formula over columns; None where it has none, or is about nothing in this build."""
    if check.formula is None:
        return None
    values = {path: column.values for path, column in moved.items()}
    readings = ColumnReadings(build, rules, values)
    number = check.formula(readings)
    if number is None or readings.absent:
        return None
    shape = np.broadcast_shapes(
        np.shape(number), *(np.shape(moved[p].values) for p in readings.uses if p in moved)
    )
    middle = np.broadcast_to(np.asarray(number, dtype=np.float64), shape)
    limits = rules.limits(check.rule or check.name, check.limits)
    if readings.missing:
        return Judged(np.full(shape, math.nan), np.zeros(shape), limits)
    return Judged(middle, _doubts(check, build, rules, (moved, readings, shape)), limits)


def _doubts(
    check: Check, build: Build, rules: Rules, known: tuple[Moved, ColumnReadings, tuple[int, ...]]
) -> Floats:
    """Σ |∂/∂x| · tol, each derivative by a central difference."""
    moved, readings, shape = known
    total: Floats = np.zeros(shape)
    values = {path: column.values for path, column in moved.items()}
    for path in readings.uses:
        single = build.dimensions.get(path)
        if path not in moved and (single is None or single.tol == 0):
            continue
        tol = moved[path].tols if path in moved else np.asarray(single.tol if single else 0.0)
        middle = moved[path].values if path in moved else np.asarray(single.value if single else math.nan)
        ends = [
            check.formula(ColumnReadings(build, rules, {**values, path: middle + way * NUDGE}))
            for way in (1, -1)
        ] if check.formula else [0.0, 0.0]  # fmt: skip
        slope = np.abs(np.asarray(ends[0], dtype=np.float64) - np.asarray(ends[1], dtype=np.float64)) / (
            2 * NUDGE
        )
        total = total + np.nan_to_num(slope * tol)
    return total


def hand_stack_over(build: Build, rules: Rules, moved: Moved) -> Floats | None:
    """The hand stack's nominal margin over columns of one length; None where a hand lacks something."""
    readings = ColumnReadings(build, rules, {path: column.values for path, column in moved.items()})
    levels = levels_of(readings)
    if not levels or readings.missing or readings.absent:
        return None
    size = max((np.size(column.values) for column in moved.values()), default=1)
    return spare(levels, np.array([np.broadcast_to(term.z, size) for term in terms_of(levels)]))
