"""Every check on one build: what page, command line and JSON all show."""

from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.fit.checks.check import room_of
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.values.verdict import Verdict


@dataclass(frozen=True, slots=True)
class Report:
    """The findings on a build, by check, in the checks' own order."""

    findings: Mapping[str, Finding]
    rules: Rules

    @property
    def worst(self) -> Verdict:
        """The gravest verdict of all; skipped where no check had anything to say."""
        verdicts = (finding.verdict for finding in self.findings.values())
        return max(verdicts, key=lambda verdict: verdict.gravity, default=Verdict.SKIPPED)

    def ranked(self) -> list[Finding]:
        """Findings that speak, the gravest first; those of one verdict in the checks' order."""
        spoken = [f for f in self.findings.values() if f.verdict is not Verdict.SKIPPED]
        return sorted(spoken, key=lambda finding: -finding.verdict.gravity)

    def count(self, verdict: Verdict) -> int:
        """How many findings have this verdict."""
        return sum(finding.verdict is verdict for finding in self.findings.values())

    def room(self, name: str) -> float:
        """Worst-case room of one finding in mm; per cents and degrees on a scale of their own."""
        return room_of(self.rules.model.check(name), self.findings[name])

    def missing(self) -> list[str]:
        """Paths that findings wait for, those that most of them wait for first."""
        waiting: dict[str, int] = {}
        for finding in self.findings.values():
            for path in finding.missing:
                waiting[path] = waiting.get(path, 0) + 1
        return sorted(waiting, key=lambda path: -waiting[path])

    def as_dict(self) -> dict[str, object]:
        """Findings by check, as JSON carries them."""
        return {name: finding.as_dict() for name, finding in self.findings.items()}


def report_on(build: Build, rules: Rules) -> Report:
    """Run every check of the model that the rules are rules of.

    Raises SheetError where one of the rules cannot be read.
    """
    return Report({check.name: check.find(build, rules) for check in rules.model.checks}, rules)
