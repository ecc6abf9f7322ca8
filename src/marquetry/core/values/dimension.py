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
    PLANNED = "planned"
    """To be made or altered, not real yet: known, as exactly as such work comes out."""
    ASSUMED = "assumed"
    """Nobody said: what would suit the parts that are known. Every other source counts as known."""

    @property
    def is_known(self) -> bool:
        """Whether somebody said it, measured it or plans it."""
        return self is not Source.ASSUMED


USUAL_TOLERANCE: dict[Unit, dict[Source, float]] = {
    "mm": {Source.EXACT: 0.0, Source.MEASURED: 0.02, Source.LISTED: 0.05, Source.PLANNED: 0.05},
    "°": {Source.EXACT: 0.0, Source.MEASURED: 0.25, Source.LISTED: 0.5, Source.PLANNED: 0.5},
}
SPREAD_SHARE, LEAST_SPREAD_MM, SPREAD_DEG = 0.1, 0.10, 5.0


def plain_spread(value: float, unit: Unit) -> float:
    """The spread (half width, mm or °) of an assumed dimension that no table names: a tenth, or 5°."""
    return SPREAD_DEG if unit == "°" else max(abs(value) * SPREAD_SHARE, LEAST_SPREAD_MM)


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
        """Make a dimension, its tolerance being the usual one of its source where `tol` is left out.

        An assumed one has no usual tolerance but a spread (`sheet/spreads.py`); here the plain one.
        """
        if tol is None:
            tol = USUAL_TOLERANCE[unit][source] if source.is_known else plain_spread(value, unit)
        return cls(value, tol, source)
