"""From a finding by figures to a verdict by what is known: the rules of design/evidence.md, in their order.

A figure counts as known whoever said it, but for what is only assumed. What is assumed never makes a watch
red by its nominal value: only where the whole of its spread lies outside the limits.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.statements import MOVEMENT, DryFitResult
from marquetry.core.values.limits import SLACK, Limits
from marquetry.core.values.verdict import Verdict

By = Literal["tried", "listed", "together", "sold for it", "spread"]
"""What a verdict rests on beyond figures that are known."""
SHARE: dict[str, float] = {"together": 0.1, "sold for it": 0.7}
"""What of a check's usual rate of failure is left where parts came assembled, or are sold for each other."""
LISTED_CLASH_DOUBT, TIGHT_DOUBT = 0.3, 0.1
"""How often a seller's figure that says clash is wrong; what a tight finding without a chance counts for."""


@dataclass(frozen=True, slots=True)
class Facts:
    """What a check found and what it rests on; `low` and `high` in its unit, None without a figure.

    `has_assumed`: a dimension that it reads is assumed; `has_listed`: one is a seller's.
    """

    verdict: Verdict
    limits: Limits
    low: float | None
    high: float | None
    has_missing: bool
    has_assumed: bool
    has_assumed_word: bool
    has_listed: bool
    of_names: bool


@dataclass(frozen=True, slots=True)
class Ruling:
    """The verdict, what it rests on, and whether anything it reads is still open."""

    verdict: Verdict
    by: By | None
    is_open: bool


@dataclass(frozen=True, slots=True)
class Vouched:
    """What is said of a check's parts: `by` is the strongest statement, `tried` what a dry fit showed."""

    tried: DryFitResult | None
    by: Literal["together", "sold for it"] | None


def ruled(check: str, facts: Facts, vouched: Vouched) -> Ruling:
    """The verdict of the check of that name, by the first rule of evidence.md that holds."""
    if facts.verdict is Verdict.SKIPPED:
        return Ruling(Verdict.SKIPPED, None, is_open=False)
    is_open = facts.has_missing or facts.has_assumed or facts.has_assumed_word
    tried = vouched.tried
    misses = tried is not None and not tried.fits and check in tried.misses
    if not is_open and facts.verdict is Verdict.CLEAR and not misses:
        return Ruling(Verdict.CLEAR, None, is_open=False)
    if tried is not None and tried.fits:
        return Ruling(Verdict.CLEAR, "tried", is_open)
    if tried is not None and (misses or not tried.misses):
        return Ruling(Verdict.CLASH, "tried", is_open)
    if not is_open:
        listed = facts.verdict is Verdict.CLASH and facts.has_listed
        return Ruling(facts.verdict, "listed" if listed else None, is_open=False)
    return _open(facts, vouched)


def _open(facts: Facts, vouched: Vouched) -> Ruling:
    """The verdict where something that the check reads is assumed or missing."""
    if not (facts.has_missing or facts.has_assumed_word or facts.of_names):
        if facts.verdict is Verdict.CLEAR:
            return Ruling(Verdict.CLEAR, None, is_open=True)
        if is_outside(facts.limits, facts.low, facts.high):
            return Ruling(Verdict.CLASH, None, is_open=True)
    if vouched.by is not None:
        return Ruling(Verdict.ASSUMED, vouched.by, is_open=True)
    if facts.has_missing:
        return Ruling(Verdict.UNMEASURED, None, is_open=True)
    return Ruling(Verdict.ASSUMED, "spread", is_open=True)


def is_outside(limits: Limits, low: float | None, high: float | None) -> bool:
    """Whether nothing between low and high (the check's unit) lies within the limits."""
    if low is None or high is None:
        return False
    return limits.shortfall(high) > SLACK or limits.excess(low) > SLACK


def vouched_for(build: Build, about: Sequence[str], dry_fit: str | None, *, may_be_vouched: bool) -> Vouched:
    """What the sheet says of the parts that a check is about, by their slots."""
    tried = build.tried.get(dry_fit) if dry_fit else None
    return Vouched(tried, _statement(build, about) if may_be_vouched else None)


def _statement(build: Build, about: Sequence[str]) -> Literal["together", "sold for it"] | None:
    if about and any(group.issuperset(about) for group in build.together):
        return "together"
    calibres = build.sold_for.get(MOVEMENT)
    if not calibres:
        return None
    others = [part for part in about if part != MOVEMENT]
    # One name in common with the movement of this watch: what two parts are both sold for otherwise is
    # no word about this one.
    if others and all(calibres & build.sold_for.get(part, frozenset()) for part in others):
        return "sold for it"
    return None


def doubt_of(ruling: Ruling, chance: float | None, rate: float, *, of_names: bool) -> float:
    """How likely it is, a probability, that the verdict would change if everything were known.

    `chance` is that of the figures, `rate` how often such a check fails on parts that nobody measured.
    """
    if ruling.by == "tried" or ruling.verdict in {Verdict.CLEAR, Verdict.SKIPPED}:
        return 0.0
    if ruling.verdict in {Verdict.ASSUMED, Verdict.UNMEASURED}:
        return rate * SHARE.get(ruling.by or "", 1.0)
    if of_names:
        return 0.0
    if ruling.by == "listed":
        return LISTED_CLASH_DOUBT
    if chance is not None:
        return min(chance, 1.0 - chance)
    return TIGHT_DOUBT if ruling.verdict is Verdict.TIGHT else 0.0
