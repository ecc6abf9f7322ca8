"""A closed band that a quantity should lie in, and the verdict for a value beside its worst case.

Limits meet exactly in this trade and binary fractions do not, so every comparison with a limit goes
through `Limits`, with one slack (docs/decisions/0001-one-slack-for-limits.md).
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.values.verdict import Verdict

SLACK = 1e-9


@dataclass(frozen=True, slots=True)
class Limits:
    """A closed band; None is an open end."""

    low: float | None
    high: float | None

    def admit(self, value: float) -> bool:
        """Whether the value lies in the band, give or take the slack."""
        return self.shortfall(value) <= SLACK and self.excess(value) <= SLACK

    def admits(self, values: NDArray[np.float64]) -> NDArray[np.bool_]:
        """The same for many values at once."""
        low = -np.inf if self.low is None else self.low
        high = np.inf if self.high is None else self.high
        return (values >= low - SLACK) & (values <= high + SLACK)

    def shortfall(self, value: float) -> float:
        """How much the value is under the lower limit, in the check's unit; negative, over it."""
        return -math.inf if self.low is None else self.low - value

    def excess(self, value: float) -> float:
        """How much the value is over the upper limit, in the check's unit; negative, under it."""
        return -math.inf if self.high is None else value - self.high

    def verdict(self, value: float, low: float, high: float) -> Verdict:
        """Clear, tight or clash for a nominal value and its worst cases."""
        if not self.admit(value):
            return Verdict.CLASH
        return Verdict.CLEAR if self.admit(low) and self.admit(high) else Verdict.TIGHT

    def chance(self, value: float, u: float) -> float:
        """Probability that a normal quantity with standard uncertainty `u` lies in the band."""
        if u <= 0:
            return 1.0 if self.admit(value) else 0.0
        return _normal_cdf(-self.excess(value) / u) - _normal_cdf(self.shortfall(value) / u)


def _normal_cdf(z: float) -> float:
    return 0.5 * math.erfc(-z / math.sqrt(2.0))
