"""How much of a report still rests on what was only assumed: findings that read such a dimension."""

from dataclasses import dataclass

from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import Report
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Source
from marquetry.core.values.verdict import Verdict


@dataclass(frozen=True, slots=True)
class Resting:
    """Of so many findings that tell a verdict, so many read something assumed."""

    assumed: int
    told: int

    @property
    def share(self) -> float:
        """The share that rests on assumption, 0 to 1, a plain ratio."""
        return self.assumed / self.told if self.told else 0.0


def resting_on_assumption(build: Build, report: Report) -> Resting:
    """How many of the findings read a dimension that is assumed."""
    told = [f for f in report.findings.values() if f.verdict not in {Verdict.SKIPPED, Verdict.UNMEASURED}]
    return Resting(sum(rests(build, finding) for finding in told), len(told))


def rests(build: Build, finding: Finding) -> bool:
    """Whether a finding reads a dimension that is assumed."""
    return any(is_assumed(build, path) for path in finding.uses.dimensions())


def is_assumed(build: Build, path: str) -> bool:
    """Whether the dimension at the path is known by assumption only."""
    dimension = build.dimensions.get(path)
    return dimension is not None and dimension.source is Source.ASSUMED
