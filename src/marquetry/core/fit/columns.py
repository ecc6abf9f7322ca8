"""Checks over many parts at once: the report's own formulas on numpy columns, worst case included.

A dimension is one number or a column of any shape; columns broadcast, so that rows may be cases and columns
dials. What is not known is NaN and flows through. No formula is written here: this only feeds them.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from uncertainties import ufloat

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.checks.hands import levels_of
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats, chains_of, spare, terms_of
from marquetry.core.fit.trace import Readings
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.number import Number, nominal, partials
from marquetry.core.values.verdict import Verdict

FAR = 1e6
FLAT = 1e-7
"""Slopes that differ by less than this over a sample are one slope: a difference carries that much noise."""
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
    def nominal_margins(self) -> Floats:
        """Room of the nominal value to the nearer limit: below zero, it clashes; NaN where unknown."""
        low = None if self.limits.low is None else self.values - self.limits.low
        high = None if self.limits.high is None else self.limits.high - self.values
        if low is None or high is None:
            one = low if high is None else high
            return np.full_like(self.values, np.inf) if one is None else one
        return np.minimum(low, high)

    @property
    def margins(self) -> Floats:
        """Worst-case room to the nearer limit, as a finding's `margin`."""
        return self.nominal_margins - self.doubts

    def verdict_codes(self) -> NDArray[np.int8]:
        """The verdict of every cell, as an index into CODES."""
        return codes_of(self.nominal_margins, self.margins)


def codes_of(nominal_margins: Floats, margins: Floats) -> NDArray[np.int8]:
    """Verdicts as indices into CODES, from nominal and worst-case room; NaN is unmeasured."""
    codes = np.where(margins >= -SLACK, 0, np.where(nominal_margins >= -SLACK, 1, 2))
    return np.where(np.isnan(nominal_margins), 3, codes).astype(np.int8)


Slopes = Mapping[str, float]


def judge_columns(
    check: Check, build: Build, rules: Rules, moved: Moved, flat: Slopes | None = None
) -> Judged | None:
    """Run a check's formula over columns; None where it has none, or is about nothing in this build.

    `flat` are slopes known to be the same for all cells, as `flat_slopes` finds them.
    """
    if check.formula is None:
        return None
    values = {path: column.values for path, column in moved.items()}
    readings = ColumnReadings(build, rules, values)
    number = check.formula(readings)
    if number is None or readings.absent:
        return None
    read = [np.shape(moved[path].values) for path in readings.uses if path in moved]
    shape = np.broadcast_shapes(np.shape(number), *read)
    middle = np.broadcast_to(np.asarray(number, dtype=np.float64), shape)
    limits = rules.limits(check.rule or check.name, check.limits)
    if readings.missing:
        return Judged(np.full(shape, math.nan), np.zeros(shape), limits)
    total: Floats = np.zeros((1,) * len(shape))
    for path, tol in _tolerances(build, moved, readings):
        slope = (flat or {}).get(path)
        found = _slope(check, (build, rules, values), path) if slope is None else slope
        total = total + np.nan_to_num(found * tol)
    return Judged(middle, total, limits)


def flat_slopes(check: Check, build: Build, rules: Rules, sample: Moved) -> dict[str, float]:
    """The slopes that are the same all over a sample of cells: most formulas are linear."""
    values = {path: column.values for path, column in sample.items()}
    readings = ColumnReadings(build, rules, values)
    if check.formula is None or check.formula(readings) is None or readings.absent or readings.missing:
        return {}
    found = {
        path: _slope(check, (build, rules, values), path) for path, _ in _tolerances(build, sample, readings)
    }
    return {path: float(slope.flat[0]) for path, slope in found.items() if np.ptp(slope) < FLAT}


def _tolerances(build: Build, moved: Moved, readings: Readings) -> Iterator[tuple[str, Floats]]:
    """Half widths of all that was read and may be off, columns or single numbers."""
    for path in readings.uses:
        single = build.dimensions.get(path)
        if path in moved:
            yield path, moved[path].tols
        elif single is not None and single.tol > 0:
            yield path, np.asarray(single.tol)


def _slope(check: Check, at: tuple[Build, Rules, Mapping[str, Floats]], path: str) -> Floats:
    build, rules, values = at
    single = build.dimensions.get(path)
    middle = values[path] if path in values else np.asarray(single.value if single else math.nan)
    ends = []
    for way in (1, -1):
        number = (
            check.formula(ColumnReadings(build, rules, {**values, path: middle + way * NUDGE}))
            if check.formula
            else 0.0
        )
        ends.append(np.asarray(number, dtype=np.float64))
    found: Floats = np.abs(ends[0] - ends[1]) / (2 * NUDGE)
    return found


def hand_stack_worst(build: Build, rules: Rules, moved: Moved) -> tuple[Floats, Floats] | None:
    """Nominal margin and worst case of the hand stack over columns of one length; None where something lacks.

    Slopes are those of the build itself; the dome's, which differs from part to part, is left out, so that
    the worst case is never told too low.
    """
    readings = ColumnReadings(build, rules, {path: column.values for path, column in moved.items()})
    levels = levels_of(readings)
    if not levels or readings.missing or readings.absent:
        return None
    terms, chains = terms_of(levels), chains_of(levels)
    size = max((np.size(column.values) for column in moved.values()), default=1)
    values = np.array([np.broadcast_to(np.asarray(term.z, dtype=np.float64), size) for term in terms])
    values = np.maximum(values, -FAR)  # a feature out of a hand's reach bounds nothing
    known = build.dimensions
    tols = {
        p: moved[p].tols if p in moved else np.asarray(known[p].tol)
        for p in readings.uses
        if p in moved or p in known
    }
    tols.pop("crystal.inner_dome", None)
    slopes = _slopes(build, rules, [term.name for term in terms], list(tols))
    doubt = np.abs(chains.signs @ slopes) @ np.array([np.broadcast_to(tol, size) for tol in tols.values()])
    rooms = chains.signs @ values
    return chains.shares(rooms).min(axis=0), chains.shares(rooms - doubt).min(axis=0)


def _slopes(build: Build, rules: Rules, names: list[str], paths: list[str]) -> Floats:
    """∂term/∂dimension of the build's own stack: a row a term, a column a dimension."""
    own = {term.name: partials(term.z) for term in terms_of(levels_of(_Sensitive(build, rules)))}
    return np.array([[own.get(name, {}).get(path, 0.0) for path in paths] for name in names])


class _Sensitive(Readings):
    """A build's dimensions with a derivative each, whatever their tolerance."""

    def _read(self, path: str) -> Number:
        found = nominal(super()._read(path))
        return ufloat(found, 1.0, tag=path) if math.isfinite(found) else found


def hand_stack_over(build: Build, rules: Rules, values: Mapping[str, Floats]) -> Floats | None:
    """The hand stack's nominal margin over columns of one length; None where a hand lacks something."""
    readings = ColumnReadings(build, rules, values)
    levels = levels_of(readings)
    if not levels or readings.missing or readings.absent:
        return None
    size = max((np.size(column) for column in values.values()), default=1)
    return spare(levels, np.array([np.broadcast_to(term.z, size) for term in terms_of(levels)]))
