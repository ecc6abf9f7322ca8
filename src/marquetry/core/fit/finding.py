"""What a check finds: a value, its worst case, its limits, a verdict, and what drives the doubt.

Limits meet exactly in this trade and binary fractions do not, so every comparison with a limit goes
through `Limits`, with one slack (docs/decisions/0001-one-slack-for-limits.md).
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Protocol

from marquetry.core.evidence.ruling import By, Ruling, doubt_of
from marquetry.core.fit.sampling import Sampled
from marquetry.core.fit.trace import NOTHING_ASKED, Trace, Uses
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, nominal, partials
from marquetry.core.values.verdict import Verdict


@dataclass(frozen=True, slots=True)
class Contribution:
    """One dimension's part in a finding's doubt: its share of the variance, and ∂value/∂dimension."""

    path: str
    share: float
    sensitivity: float


@dataclass(frozen=True, slots=True)
class Unsure:
    """A size or word that a finding reads and nobody knows.

    `value` is what is assumed of a size, mm or °, `slope` ∂finding/∂size, `spread` what of the finding's
    spread is its own, in the check's unit; None and 0 for a word.
    """

    path: str
    value: float | None = None
    slope: float = 0.0
    spread: float = 0.0


class Detail(Protocol):
    """What a check tells beyond its figures: which feet, the press plan, each issue."""

    def as_dict(self) -> Mapping[str, object]:
        """As JSON carries it, beside the finding's own keys."""

    def told(self) -> tuple[str, ...]:
        """In sentences for a builder."""


@dataclass(frozen=True, slots=True)
class Finding:
    """The result of one check on one build; `detail` is what only some checks tell."""

    check: str
    verdict: Verdict
    limits: Limits
    value: float | None = None
    low: float | None = None
    high: float | None = None
    odds: float | Sampled | None = None
    """The chance, or what gives it when it is asked for."""
    contributions: tuple[Contribution, ...] = ()
    missing: tuple[str, ...] = ()
    detail: "Detail | None" = None
    uses: Uses = NOTHING_ASKED
    """Every question the check asked of the build and the rules."""
    reads: tuple[str, ...] = ()
    """Paths of the dimensions that the figures rest on: of a choice only what was chosen."""
    by: By | None = None
    """What the verdict rests on beyond figures that are known."""
    is_open: bool = False
    """Whether something that it reads is only assumed, or missing."""
    unsure: tuple[Unsure, ...] = ()
    """What of all it reads is only assumed, what spreads it most first."""
    rate: float = 0.0
    """How often such a check fails on parts that nobody measured."""
    of_names: bool = False

    @property
    def chance(self) -> float | None:
        """Probability, 0 to 1, that the value lies within its limits; None where no doubt is told.

        What is assumed has no chance: its spread is no distribution that anything was drawn from.
        """
        if self.by == "tried" or self.verdict is Verdict.ASSUMED:
            return None
        return self.odds.share if isinstance(self.odds, Sampled) else self.odds

    @property
    def doubt(self) -> float:
        """How likely it is, a probability, that the verdict would change if everything were known."""
        ruling = Ruling(self.verdict, self.by, self.is_open)
        needs_chance = (
            self.verdict in {Verdict.TIGHT, Verdict.CLASH} and self.by is None and not self.of_names
        )
        return doubt_of(ruling, self.chance if needs_chance else None, self.rate, of_names=self.of_names)

    @property
    def margin(self) -> float:
        """Worst-case room to the nearer limit, in the check's unit; negative where it may not fit."""
        if self.low is None or self.high is None:
            return math.nan
        return -max(self.limits.shortfall(self.low), self.limits.excess(self.high))

    def as_dict(self) -> dict[str, object]:
        """The finding as JSON carries it; figures lose only the noise of binary fractions."""
        return {
            "verdict": self.verdict.value,
            "by": self.by,
            "doubt": tidy(self.doubt),
            "value": tidy(self.value),
            "low": tidy(self.low),
            "high": tidy(self.high),
            "limits": [self.limits.low, self.limits.high],
            "chance": tidy(self.chance),
            "drivers": [
                {"dimension": d.path, "share": tidy(d.share), "sensitivity": tidy(d.sensitivity)}
                for d in self.contributions
            ],
            "missing": list(self.missing),
            **({} if self.detail is None else {k: tidy(v) for k, v in self.detail.as_dict().items()}),
        }


def tidy(value: object) -> object:
    """The value for JSON: rounded to a picometre, and turn −0.0 into 0.0, in lists and dicts as well."""
    if isinstance(value, float):
        return round(value, 9) + 0.0
    if isinstance(value, Mapping):
        return {key: tidy(item) for key, item in value.items()}
    if isinstance(value, Sequence) and not isinstance(value, str):
        return [tidy(item) for item in value]
    return value


def contributions_of(slopes: Mapping[str, float], trace: Trace) -> tuple[Contribution, ...]:
    """Each dimension's share of the variance, largest first; `slopes` are the partial derivatives by path."""
    variances = {path: (d * _of(trace, path).standard_uncertainty) ** 2 for path, d in slopes.items()}
    return _ranked(variances, slopes)


def _ranked(variances: Mapping[str, float], slopes: Mapping[str, float]) -> tuple[Contribution, ...]:
    total = sum(variances.values())
    ranked = sorted(variances, key=lambda path: (-variances[path], path))
    return tuple(Contribution(path, variances[path] / total, slopes[path]) for path in ranked if total > 0)


def judge(check: str, number: Number, limits: Limits, trace: Trace) -> Finding:
    """Turn a sensitivity-carrying number into a finding: worst case, chance, contributions; first order."""
    value, slopes = float(nominal(number)), partials(number)
    spread, variances = 0.0, dict[str, float]()
    # One walk over the dimensions gives both: this runs forty times a report.
    for path, slope in slopes.items():
        dimension = _of(trace, path)
        spread += abs(slope) * dimension.tol
        variances[path] = (slope * dimension.standard_uncertainty) ** 2
    low, high = value - spread, value + spread
    return Finding(
        check,
        limits.verdict(value, low, high),
        limits,
        value=value,
        low=low,
        high=high,
        odds=limits.chance(value, math.sqrt(sum(variances.values()))),
        contributions=_ranked(variances, slopes),
        uses=trace.uses,
        reads=tuple(slopes),
    )


def narrowed(finding: Finding, path: str, before: Dimension, after: Dimension) -> Finding:
    """A formula's finding with the doubt of one dimension another, its value the same; first order.

    The slopes stay as they are, so that the formula need not be run again. Contributions are not told anew.
    """
    own = next((part for part in finding.contributions if part.path == path), None)
    if own is None or finding.value is None or finding.low is None or own.share <= 0:
        return finding
    slope = abs(own.sensitivity)
    spread = finding.value - finding.low + slope * (after.tol - before.tol)
    known = (slope * before.standard_uncertainty) ** 2
    variance = known / own.share - known + (slope * after.standard_uncertainty) ** 2
    low, high = finding.value - spread, finding.value + spread
    return replace(
        finding,
        verdict=finding.limits.verdict(finding.value, low, high),
        low=low,
        high=high,
        odds=finding.limits.chance(finding.value, math.sqrt(max(variance, 0.0))),
    )


def judge_least(check: str, numbers: Sequence[Number], limits: Limits, trace: Trace) -> Finding:
    """The least of several quantities: the least of their values, lows and highs.

    Chance and contributions are those of the one that sets the low, the first of equals.
    """
    each = [judge(check, number, limits, trace) for number in numbers]
    value, low, high = (min(_figures(each, key)) for key in ("value", "low", "high"))
    setting = next(finding for finding in each if finding.low == low)
    reads = tuple(dict.fromkeys(path for finding in each for path in finding.reads))
    return replace(
        setting, verdict=limits.verdict(value, low, high), value=value, low=low, high=high, reads=reads
    )


def _figures(findings: Sequence[Finding], key: str) -> list[float]:
    return [float(getattr(finding, key)) for finding in findings]


def _of(trace: Trace, path: str) -> Dimension:
    """A dimension that a number was made of."""
    found = trace.dimension(path)
    if found is None:
        raise KeyError(path)
    return found
