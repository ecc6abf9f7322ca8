"""What a finding says to a builder, in one or two sentences put together from the check's own words."""

from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.finding import Finding, Unsure
from marquetry.core.fit.model import Model
from marquetry.core.values.figures import band, figure
from marquetry.core.values.verdict import Verdict

BY_WORDS = {
    "together": "its parts came assembled",
    "sold for it": "its parts are sold for this movement",
    "spread": "",
}


def sentence(model: Model, finding: Finding) -> str:  # noqa: PLR0911  # one return a verdict
    """What was found, by how much it misses or keeps its limits, and what that means on the bench."""
    check = model.check(finding.check)
    if finding.verdict is Verdict.SKIPPED:
        return "A part this is about is not in the watch."
    if finding.by == "tried":
        return _tried(check, finding)
    if finding.verdict is Verdict.ASSUMED:
        return _open(model, check, finding)
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


def _tried(check: Check, finding: Finding) -> str:
    if finding.verdict is Verdict.CLASH:
        return f"Tried on the bench: it does not fit. {_meaning(check, finding) or check.words.below}"
    outside = finding.value is not None and not finding.limits.admit(finding.value)
    again = " The figures say otherwise: read them again." if outside and not finding.is_open else ""
    return f"Tried on the bench: it fits.{again}"


def _open(model: Model, check: Check, finding: Finding) -> str:
    """Why it is open, and at which value of what is assumed it would just fit."""
    by = BY_WORDS.get(finding.by or "", "")
    why = f"Open, though {by}" if by else "Open"
    label_of = model.anatomy.label_of
    if finding.missing:
        return f"{why}. Not known: {'; '.join(map(label_of, finding.missing))}."
    if not finding.unsure:
        return f"{why}."
    first, *others = finding.unsure
    if first.value is None:
        return f"{why}: {label_of(first.path)} is only assumed."
    more = f" {len(others)} more {'is' if len(others) == 1 else 'are'} assumed." if others else ""
    return f"{why}: {_assumed_at(model, check, finding, first)}.{more}"


def _assumed_at(model: Model, check: Check, finding: Finding, unsure: Unsure) -> str:
    """`it fits while the dial seat Ø, assumed 28.62 mm, is from 28.52 to 28.90`."""
    quantity = model.anatomy.quantity_at(unsure.path)
    label, decimals = model.anatomy.label_of(unsure.path), max(2, check.decimals)
    what = f"{label}, assumed {figure(unsure.value or 0.0, decimals, quantity.unit)}"
    missed = miss(finding)
    says = f"misses by {_figure(check, missed)} at what is assumed" if missed else "fits as assumed"
    low, high = (None if end is None else figure(end, decimals) for end in just_fits(finding, unsure))
    if low is None and high is None:
        return f"{says} ({what})"
    told = f"from {low} to {high}" if low and high else f"from {low} on" if low else f"up to {high}"
    return f"{says}; it fits while {what}, is {told}"


def just_fits(finding: Finding, unsure: Unsure) -> tuple[float | None, float | None]:
    """Between which values of a size, mm or °, the finding would lie within its limits, all else as it is.

    None for an end that no limit sets, and for both where the size does not move the finding.
    """
    if finding.value is None or unsure.value is None or not unsure.slope:
        return None, None
    ends = [
        None if limit is None else unsure.value + (limit - finding.value) / unsure.slope
        for limit in (finding.limits.low, finding.limits.high)
    ]
    low, high = ends if unsure.slope > 0 else reversed(ends)
    return low, high


def in_short(model: Model, finding: Finding) -> str:
    """The sentence without the figures that stand beside it anyway."""
    check = model.check(finding.check)
    if finding.value is None or finding.by == "tried" or finding.verdict is Verdict.ASSUMED:
        return sentence(model, finding)
    if finding.verdict is Verdict.CLASH:
        seller = " by the seller's figure, to be read first" if finding.by == "listed" else ""
        return f"Misses by {_figure(check, miss(finding))}{seller}. {_meaning(check, finding)}"
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
