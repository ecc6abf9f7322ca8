"""A check that no column can tell: each combination of figures that occurs is judged once, as a watch."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from marquetry.core.fit.cases import cases_of
from marquetry.core.fit.checks.check import Described
from marquetry.core.fit.columns import Columns, Judged, Slopes
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.build import Build
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict

JudgedCase = Callable[[str, Trace, Limits], Finding | None]
"""The finding of the check of that name; None where it is about nothing, or something is missing."""


@dataclass(frozen=True, slots=True, kw_only=True)
class CaseCheck(Described):
    """`judges` gives the finding; over columns it is asked once for each case that its own columns make."""

    judges: JudgedCase

    def judge(self, trace: Trace, limits: Limits) -> Finding | None:
        """The finding on one watch."""
        return self.judges(self.name, trace, limits)

    def over(self, build: Build, rules: Rules, columns: Columns, flat: Slopes | None = None) -> Judged | None:  # noqa: ARG002  # cases have no slopes
        """Found once for each case that the columns make: parts alike in what is asked say the same."""
        uses = self.find(build, rules).uses
        codes, cases = cases_of({path: column for path, column in columns.items() if uses.hangs_on(path)})
        findings = [self.found(Trace(build, rules, moved)) for moved in cases]
        if all(finding.verdict is Verdict.SKIPPED for finding in findings):
            return None
        rooms = np.array([room_at(finding) for finding in findings])[codes]
        return Judged(rooms[..., 0], rooms[..., 1])


def room_at(finding: Finding) -> tuple[float, float]:
    """Room of the nominal value and at worst, in the check's unit; NaN where unknown.

    ∞ where it fits, or says nothing, without a figure; −∞ where it does not.
    """
    limits = finding.limits
    if finding.verdict is Verdict.ASSUMED:
        return math.nan, -math.inf
    if finding.value is not None:
        return -max(limits.shortfall(finding.value), limits.excess(finding.value)), finding.margin
    unknown = {Verdict.UNMEASURED: math.nan, Verdict.ASSUMED: math.nan}
    nominal = {Verdict.CLASH: -math.inf, **unknown}.get(finding.verdict, math.inf)
    return nominal, math.inf if finding.verdict in {Verdict.CLEAR, Verdict.SKIPPED} else -math.inf
