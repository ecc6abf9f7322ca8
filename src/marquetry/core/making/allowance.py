"""How far a made part's size may be off before the fit says no: the tolerance to ask a turner for."""

from dataclasses import dataclass

from marquetry.core.fit.finding import Finding
from marquetry.core.fit.report import report_on
from marquetry.core.making.parts import MadePart

GENERAL = 0.05
"""What a size that no limit hangs on may be off by, mm."""
WIDEST, NARROWEST = 0.10, 0.02
"""Nobody is asked for less care than the one, nor for more than the other, mm."""


@dataclass(frozen=True, slots=True)
class Allowance:
    """How much a size may be less and more than it is drawn, mm."""

    minus: float = GENERAL
    plus: float = GENERAL

    def narrowed(self, minus: float, plus: float) -> "Allowance":
        """The lesser of both each way, mm."""
        return Allowance(min(self.minus, minus), min(self.plus, plus))


def allowances(part: MadePart) -> dict[str, Allowance]:
    """The allowance of each field that a check of the part hangs on, everything else at its worst; mm."""
    report = report_on(part.build, part.rules)
    found: dict[str, Allowance] = {}
    for name in part.kind.checks:
        finding = report.findings.get(name)
        for contribution in finding.contributions if finding else ():
            if finding and contribution.path.startswith(f"{part.path}."):
                room = _room(part, finding, contribution.path, contribution.sensitivity)
                widest = Allowance(WIDEST, WIDEST)
                found[contribution.path] = found.get(contribution.path, widest).narrowed(*room)
    return {path: _kept(allowance) for path, allowance in found.items()}


def _room(part: MadePart, finding: Finding, path: str, slope: float) -> tuple[float, float]:
    """How far down and up the size may go, mm, with all other sizes at their worst."""
    if not slope or finding.low is None or finding.high is None:
        return WIDEST, WIDEST
    own = abs(slope) * part.build.dimensions[path].tol
    down = WIDEST if finding.limits.low is None else (finding.low + own - finding.limits.low) / abs(slope)
    up = WIDEST if finding.limits.high is None else (finding.limits.high - finding.high + own) / abs(slope)
    return (down, up) if slope > 0 else (up, down)


def _kept(allowance: Allowance) -> Allowance:
    return Allowance(max(allowance.minus, NARROWEST), max(allowance.plus, NARROWEST))
