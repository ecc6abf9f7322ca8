"""Many parts at once: the report's own formulas on numpy columns, worst case included.

A dimension is one number or a column of any shape; columns broadcast, so that rows may be cases and columns
dials. What is not known is NaN and flows through. No formula is written here: this only feeds them.
"""

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import reduce

import numpy as np
from numpy.typing import NDArray

from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number
from marquetry.core.values.verdict import Verdict

FLAT = 1e-7
"""Slopes that differ by less than this over a sample are one slope: a difference carries that much noise."""
NUDGE = 1e-5
"""A central difference over so little is exact to far below a micron, and stays on one side of any kink."""


@dataclass(frozen=True, slots=True)
class Column:
    """Values of one dimension and the half widths of their tolerances (mm or degrees), of one shape."""

    values: Floats
    tols: Floats


Columns = Mapping[str, Column]
Slopes = Mapping[str, float]
CODES = (Verdict.CLEAR, Verdict.TIGHT, Verdict.CLASH, Verdict.UNMEASURED, Verdict.ASSUMED)
"""Verdicts by their code in a matrix."""


class ColumnTrace(Trace):
    """A build's nominal values, some of them columns; what a column does not know is NaN, not missing."""

    def __init__(self, build: Build, rules: Rules, columns: Mapping[str, Number] | None = None) -> None:
        super().__init__(build, rules)
        self._columns = columns or {}

    def _read(self, path: str) -> Number:
        return self._columns[path] if path in self._columns else super()._read(path)

    def number(self, path: str, dimension: Dimension) -> Number:  # noqa: ARG002  # a plain number knows no path
        """The dimension's nominal value, in its own unit."""
        return dimension.value


@dataclass(frozen=True, slots=True)
class Judged:
    """A check over columns, in its unit: room to the nearer limit, of the nominal value and at worst.

    NaN where it is not known; ∞ where it fits and no figure says by how much, −∞ where it does not.
    `values` are the quantity itself, where there is one.
    """

    nominal: Floats
    worst: Floats
    values: Floats | None = None
    best: Floats | None = None
    """Room of the most favourable case: below 0 where nothing within the tolerances would fit."""

    def resting_on(self, probe: Finding) -> "Judged":
        """The same where the check reads what is assumed, as it does of the `probe`, a part like these.

        Only what fits, or does not, over the whole spread is told; all else is not known.
        """
        if not probe.is_open:
            return self
        outside = self.best < -SLACK if self.best is not None else np.isneginf(self.nominal)
        told = (self.worst >= -SLACK) | outside
        if probe.of_names:
            told = np.zeros_like(told)
        nominal = np.where(
            told, np.where(outside, np.minimum(self.nominal, -2 * SLACK), self.nominal), np.nan
        )
        return Judged(nominal, self.worst, self.values, self.best)

    def verdict_codes(self, unknown: Verdict = Verdict.UNMEASURED) -> NDArray[np.int8]:
        """The verdict of every cell, as an index into CODES; `unknown` where it cannot be told."""
        codes = np.where(self.worst >= -SLACK, 0, np.where(self.nominal >= -SLACK, 1, 2))
        return np.where(np.isnan(self.nominal), CODES.index(unknown), codes).astype(np.int8)


def judged(values: Floats, downwards: Floats, upwards: Floats, limits: Limits) -> Judged:
    """Room of values that may be off by so much each way in the worst case."""
    nominal, worst, best = (np.full(values.shape, np.inf) for _ in range(3))
    if limits.low is not None:
        nominal = values - limits.low
        worst, best = nominal - downwards, nominal + upwards
    if limits.high is not None:
        left = limits.high - values
        nominal, worst = np.minimum(nominal, left), np.minimum(worst, left - upwards)
        best = np.minimum(best, left + downwards)
    unknown = np.isnan(values)
    if unknown.any():
        nominal = np.where(unknown, np.nan, nominal)
    return Judged(nominal, worst, values, best)


Formula = Callable[[Trace], Number | None]
"""One number, in the check's unit, from one reading of a build; None where it is about nothing there."""


@dataclass(frozen=True, slots=True)
class Ground:
    """What columns are laid over: one build, by one set of rules."""

    build: Build
    rules: Rules

    def trace(self, values: Mapping[str, Number]) -> ColumnTrace:
        """A reading with these columns in place of the build's own dimensions."""
        return ColumnTrace(self.build, self.rules, values)


def judge_formula(
    formula: Formula, ground: Ground, columns: Columns, limits: Limits, flat: Slopes | None = None
) -> Judged | None:
    """Run a formula over columns; None where it is about nothing in this build.

    `flat` are slopes known to be the same for all cells, as `flat_slopes` finds them.
    """
    found = _cells(formula, ground, columns, flat)
    return None if found is None else judged(found[0], found[1], found[1], limits)


def judge_least_formula(
    formulas: Sequence[Formula], ground: Ground, columns: Columns, limits: Limits
) -> Judged | None:
    """The least of several formulas over columns: the least of their values, lows and highs."""
    found = [cells for formula in formulas if (cells := _cells(formula, ground, columns)) is not None]
    if not found:
        return None
    value, low, high = (
        reduce(np.minimum, each) for each in zip(*((v, v - off, v + off) for v, off in found), strict=True)
    )
    return judged(value, value - low, high - value, limits)


def _cells(
    formula: Formula, ground: Ground, columns: Columns, flat: Slopes | None = None
) -> tuple[Floats, Floats] | None:
    """Values of a formula over columns and how far they may be off in the worst case; NaN where unknown."""
    values = {path: column.values for path, column in columns.items()}
    trace = ground.trace(values)
    number = formula(trace)
    if number is None or trace.absent:
        return None
    read = trace.uses.dimensions()
    shape = np.broadcast_shapes(
        np.shape(number), *(np.shape(columns[p].values) for p in read if p in columns)
    )
    if trace.missing:
        return np.full(shape, math.nan), np.zeros(shape)
    total: Floats = np.zeros((1,) * len(shape))
    for path, tol in _tolerances(ground, columns, read):
        slope = (flat or {}).get(path)
        found = _slope(formula, ground, values, path) if slope is None else slope
        total = total + np.nan_to_num(found * tol)
    return np.broadcast_to(np.asarray(number, dtype=np.float64), shape), total


def flat_slopes(formula: Formula, ground: Ground, sample: Columns) -> dict[str, float]:
    """The slopes that are the same all over a sample of cells: most formulas are linear."""
    values = {path: column.values for path, column in sample.items()}
    trace = ground.trace(values)
    if formula(trace) is None or trace.absent or trace.missing:
        return {}
    read = trace.uses.dimensions()
    found = {p: _slope(formula, ground, values, p) for p, _ in _tolerances(ground, sample, read)}
    return {path: float(slope.flat[0]) for path, slope in found.items() if np.ptp(slope) < FLAT}


def _tolerances(ground: Ground, columns: Columns, read: tuple[str, ...]) -> Iterator[tuple[str, Floats]]:
    """Half widths of all that was read and may be off, columns or single numbers."""
    for path in read:
        single = ground.rules.believed(ground.build, path)
        if path in columns:
            yield path, columns[path].tols
        elif single is not None and single.tol > 0:
            yield path, np.asarray(single.tol)


def _slope(formula: Formula, ground: Ground, values: Mapping[str, Floats], path: str) -> Floats:
    single = ground.build.dimensions.get(path)
    middle = values[path] if path in values else np.asarray(single.value if single else math.nan)
    ends = [
        np.asarray(formula(ground.trace({**values, path: middle + way * NUDGE})), dtype=np.float64)
        for way in (1, -1)
    ]
    # A row that the check is not about is ∞ at both ends, and hangs on nothing.
    about = ~(np.isinf(ends[0]) | np.isinf(ends[1]))
    apart = np.subtract(ends[0], ends[1], out=np.zeros(about.shape), where=about)
    found: Floats = np.abs(apart) / (2 * NUDGE)
    return found
