"""A toleranced number: value, half width of its tolerance, and where it comes from.

Standard uncertainty follows the GUM (JCGM 100:2008): a tolerance that was measured is an expanded
uncertainty with k = 2 (clause 6.2), any other is the half width of a rectangular distribution (4.3.7).
"""

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from marquetry.core.values.errors import DimensionError

Unit = Literal["mm", "°"]

FURTHEST = 1e6
"""Millimetres or degrees: far beyond any part, and far from where sums of squares overflow."""
COVERAGE_FACTOR = 2.0
RECTANGULAR_DIVISOR = math.sqrt(3.0)


class Source(StrEnum):
    """Where a dimension comes from; each kind brings its own usual tolerance and distribution."""

    EXACT = "exact"
    MEASURED = "measured"
    LISTED = "listed"
    ASSUMED = "assumed"


USUAL_TOLERANCE: dict[Unit, dict[Source, float]] = {
    "mm": {Source.EXACT: 0.0, Source.MEASURED: 0.02, Source.LISTED: 0.05, Source.ASSUMED: 0.15},
    "°": {Source.EXACT: 0.0, Source.MEASURED: 0.25, Source.LISTED: 0.5, Source.ASSUMED: 2.0},
}


@dataclass(frozen=True, slots=True)
class Dimension:
    """A length in millimetres or an angle in degrees, true within `value` ± `tol`.

    Raises DimensionError where value or tolerance is not finite or beyond reason, or the latter negative.
    """

    value: float
    tol: float
    source: Source

    def __post_init__(self) -> None:
        if not abs(self.value) <= FURTHEST:  # NaN is not either
            raise DimensionError("value", self.value, "", f"a number of at most {FURTHEST:,.0f}")
        if not 0 <= self.tol <= FURTHEST:
            raise DimensionError("tol", self.tol, "", f"a tolerance of 0 or more, at most {FURTHEST:,.0f}")

    @property
    def standard_uncertainty(self) -> float:
        """Standard uncertainty u, in the dimension's own unit."""
        divisor = COVERAGE_FACTOR if self.source is Source.MEASURED else RECTANGULAR_DIVISOR
        return self.tol / divisor

    @classmethod
    def of(
        cls,
        value: float,
        tol: float | None = None,
        source: Source = Source.LISTED,
        unit: Unit = "mm",
    ) -> "Dimension":
        """Make a dimension, its tolerance being the usual one of its source where `tol` is left out."""
        return cls(value, USUAL_TOLERANCE[unit][source] if tol is None else tol, source)
