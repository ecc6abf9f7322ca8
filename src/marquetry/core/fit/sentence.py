"""What a finding says to a builder, in one or two sentences put together from the check's own words."""

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.model import Model
from marquetry.core.values.figures import band, figure
from marquetry.core.values.verdict import Verdict


def sentence(model: Model, finding: Finding) -> str:
    """What was found, by how much it misses or keeps its limits, and what that means on the bench."""
    check = model.check(finding.check)
    if finding.verdict is Verdict.SKIPPED:
        return "A part this is about is not in the watch."
    if finding.verdict is Verdict.UNMEASURED:
        names = "; ".join(model.anatomy.label_of(path) for path in finding.missing)
        return f"Cannot be told yet. Not known: {names}."
    if finding.value is None:
        return check.words.means if finding.verdict is Verdict.CLEAR else check.words.below
    wanted = band(finding.limits, check.decimals, check.unit)
    found = f"{_figure(check, finding.value)}, {_worst(check, finding)} at worst; wanted {wanted}."
    if finding.verdict is Verdict.CLEAR:
        return f"{found} Clear by {_figure(check, finding.margin)} in the worst case too."
    if finding.verdict is Verdict.TIGHT:
        meaning = _meaning(check, finding, worst=True)
        may_miss = _figure(check, -finding.margin)
        return f"{found} It fits as described, but may miss by {may_miss}. Then: {meaning}"
    return f"{found} {in_short(model, finding)}"


def in_short(model: Model, finding: Finding) -> str:
    """The sentence without the figures that stand beside it anyway."""
    check = model.check(finding.check)
    if finding.value is None:
        return sentence(model, finding)
    if finding.verdict is Verdict.CLASH:
        return f"Misses by {_figure(check, miss(finding))}. {_meaning(check, finding)}"
    if finding.verdict is Verdict.TIGHT:
        return f"Fits as described, but may miss by {_figure(check, -finding.margin)}."
    return sentence(model, finding)


def details(finding: Finding) -> tuple[str, ...]:
    """What the finding says beyond its figures: feet to take off, the press plan."""
    return () if finding.detail is None else finding.detail.told()


def miss(finding: Finding) -> float:
    """By how much the nominal value lies outside the limits, in the check's unit; 0 inside."""
    if finding.value is None:
        return 0.0
    return max(finding.limits.shortfall(finding.value), finding.limits.excess(finding.value), 0.0)


def _meaning(check: Check, finding: Finding, *, worst: bool = False) -> str:
    low = finding.low if worst else finding.value
    high = finding.high if worst else finding.value
    if low is None or high is None:
        return ""
    under = finding.limits.shortfall(low) >= finding.limits.excess(high)
    return check.words.below if under else check.words.above or check.words.below


def _worst(check: Check, finding: Finding) -> str:
    return f"{figure(finding.low or 0.0, check.decimals)} to {_figure(check, finding.high)}"


def _figure(check: Check, value: float | None) -> str:
    return "–" if value is None else figure(value, check.decimals, check.unit)
