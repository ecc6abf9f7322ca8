"""Repeated readings of one dimension: mean, spread, outliers, and the doubt after the GUM (JCGM 100:2008).

Type A is the standard deviation of the mean (4.2.3); type B the instrument's expanded uncertainty halved
and the rectangle of its resolution (4.3.7); both are added in squares and stated with k = 2.
"""

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from marquetry.core.measuring.instrument import Instrument
from marquetry.core.values.dimension import COVERAGE_FACTOR, Dimension, Source, Unit
from marquetry.core.values.errors import DimensionError

FEW = 3
"""Of fewer readings none can be told to be an outlier."""

MODIFIED_Z = 3.5
"""Iglewicz and Hoaglin (1993): a reading this many scaled median deviations away is suspect."""

SCALE_TO_SIGMA = 0.6745
MOST_READINGS = 50


@dataclass(frozen=True, slots=True)
class Repeated:
    """What the readings say. `outliers` are the numbers of suspect readings; they are told, not dropped."""

    readings: tuple[float, ...]
    mean: float
    spread: float
    outliers: tuple[int, ...]
    type_a: float
    type_b: float

    @property
    def standard_uncertainty(self) -> float:
        """Types A and B together, mm."""
        return math.hypot(self.type_a, self.type_b)

    def dimension(self) -> Dimension:
        """The mean with its expanded uncertainty, as a measured dimension carries it."""
        return Dimension(self.mean, COVERAGE_FACTOR * self.standard_uncertainty, Source.MEASURED)


def repeated(readings: Sequence[float], instrument: Instrument, unit: Unit = "mm") -> Repeated:
    """Evaluate readings of one quantity. DimensionError where there are none, or too many to be typed."""
    if not 1 <= len(readings) <= MOST_READINGS:
        raise DimensionError("readings", f"{len(readings)}", "", f"one to {MOST_READINGS} readings")
    n = len(readings)
    spread = statistics.stdev(readings) if n > 1 else 0.0
    per_mm = instrument.tolerance_in(unit) / instrument.uncertainty
    step = instrument.resolution * per_mm / math.sqrt(12.0)
    type_b = math.hypot(instrument.tolerance_in(unit) / COVERAGE_FACTOR, step)
    type_a = spread / math.sqrt(n)
    return Repeated(tuple(readings), statistics.fmean(readings), spread, _outliers(readings), type_a, type_b)


def _outliers(readings: Sequence[float]) -> tuple[int, ...]:
    """Numbers of the readings too far from the median; the deviations' mean stands in where most agree."""
    if len(readings) <= FEW:
        return ()
    middle = statistics.median(readings)
    away = [abs(reading - middle) for reading in readings]
    scale = statistics.median(away) / SCALE_TO_SIGMA or 1.2533 * statistics.fmean(away)
    return tuple(i for i, far in enumerate(away) if scale > 0 and far / scale > MODIFIED_Z)
