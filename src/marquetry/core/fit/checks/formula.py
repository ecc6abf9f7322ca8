"""A check whose quantity is one formula: what most checks are."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from marquetry.core.fit.checks.check import Described
from marquetry.core.fit.columns import Columns, Formula, Ground, Judged, Slopes, flat_slopes, judge_formula
from marquetry.core.fit.finding import Detail, Finding, judge
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import Limits


@dataclass(frozen=True, slots=True, kw_only=True)
class FormulaCheck(Described):
    """`formula` gives the quantity in the check's unit; None where it is about nothing in this watch."""

    formula: Formula
    detail: Callable[[Trace], Detail | None] | None = None
    """What the check tells beyond its figure, where it tells more."""

    def judge(self, trace: Trace, limits: Limits) -> Finding | None:
        """The quantity with its worst case, chance and contributions."""
        number = self.formula(trace)
        if number is None or trace.missing or trace.absent:
            return None
        found = judge(self.name, number, limits, trace)
        return found if self.detail is None else replace(found, detail=self.detail(trace))

    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:
        """The same formula on columns, slopes by differences where they are not known to be flat."""
        limits = rules.limits(self.key, self.limits)
        return judge_formula(self.formula, Ground(build, rules), columns, limits, flat)

    def flat(self, build: Build, rules: Rules, sample: Columns) -> Slopes:
        """Slopes that are the same all over a sample, by path."""
        return flat_slopes(self.formula, Ground(build, rules), sample)
