"""What a check finds: a value, its worst case, its limits, a verdict, and what drives the doubt.

Limits meet exactly in this trade and binary fractions do not, so every comparison with a limit goes
through `Limits`, with one slack (docs/decisions/0001-one-slack-for-limits.md).
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from marquetry.core.values.dimension import Dimension
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number, nominal, partials
from marquetry.core.values.verdict import Verdict


@dataclass(frozen=True, slots=True)
class Driver:
    """One dimension's part in a finding's doubt: its share of the variance, and ∂value/∂dimension."""

    path: str
    share: float
    sensitivity: float


@dataclass(frozen=True, slots=True)
class Finding:
    """The result of one check on one build; `extras` are the keys that only some checks have."""

    check: str
    verdict: Verdict
    limits: Limits
    value: float | None = None
    low: float | None = None
    high: float | None = None
    chance: float | None = None
    drivers: tuple[Driver, ...] = ()
    missing: tuple[str, ...] = ()
    extras: Mapping[str, object] = field(default_factory=dict)
    uses: tuple[str, ...] = ()
    """Paths of all dimensions and lists the check read, in the order it read them."""

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
            "value": _tidy(self.value),
            "low": _tidy(self.low),
            "high": _tidy(self.high),
            "limits": [self.limits.low, self.limits.high],
            "chance": _tidy(self.chance),
            "drivers": [
                {"dimension": d.path, "share": _tidy(d.share), "sensitivity": _tidy(d.sensitivity)}
                for d in self.drivers
            ],
            "missing": list(self.missing),
            **{key: _tidy(value) for key, value in self.extras.items()},
        }


def _tidy(value: object) -> object:
    """Round to a picometre and turn −0.0 into 0.0, in lists and dicts as well."""
    if isinstance(value, float):
        return round(value, 9) + 0.0
    if isinstance(value, Mapping):
        return {key: _tidy(item) for key, item in value.items()}
    if isinstance(value, Sequence) and not isinstance(value, str):
        return [_tidy(item) for item in value]
    return value


def drivers_of(slopes: Mapping[str, float], dimensions: Mapping[str, Dimension]) -> tuple[Driver, ...]:
    """Each dimension's share of the variance, largest first; `slopes` are the partial derivatives by path."""
    variances = {path: (d * dimensions[path].standard_uncertainty) ** 2 for path, d in slopes.items()}
    total = sum(variances.values())
    ranked = sorted(variances, key=lambda path: (-variances[path], path))
    return tuple(Driver(path, variances[path] / total, slopes[path]) for path in ranked if total > 0)


def judge(
    check: str,
    number: Number,
    limits: Limits,
    dimensions: Mapping[str, Dimension],
) -> Finding:
    """Turn a sensitivity-carrying number into a finding: worst case, chance and drivers, first order."""
    value, slopes = float(nominal(number)), partials(number)
    spread = sum(abs(d) * dimensions[path].tol for path, d in slopes.items())
    u = math.sqrt(sum((d * dimensions[path].standard_uncertainty) ** 2 for path, d in slopes.items()))
    low, high = value - spread, value + spread
    return Finding(
        check,
        limits.verdict(value, low, high),
        limits,
        value=value,
        low=low,
        high=high,
        chance=limits.chance(value, u),
        drivers=drivers_of(slopes, dimensions),
    )
