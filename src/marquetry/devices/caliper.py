"""A simulated digital caliper with a data cable that types: digits, then Enter, as a keyboard wedge does.

Its noise has two parts, as a real one's: a zero that is off by the same amount all session, and the hand
that holds it a little differently each time. Together they are its stated uncertainty.
"""

import math
import random
from dataclasses import dataclass, field

from marquetry.core.measuring.instrument import Instrument
from marquetry.core.values.dimension import COVERAGE_FACTOR
from marquetry.core.values.errors import DimensionError

STAND_IN = Instrument("Caliper stand-in (simulated)", 0.01, 0.02, ("inside", "outside", "depth", "thickness"))
WIDEST = 150.0
ZERO_SHARE = 0.3
"""The zero's share of the variance; the rest is the hand's."""


@dataclass(slots=True)
class Caliper:
    """A simulated caliper; the same `seed` gives the same readings in the same order."""

    seed: int | None = None
    instrument: Instrument = STAND_IN
    _chance: random.Random = field(init=False)
    _zero: float = field(init=False)

    def __post_init__(self) -> None:
        self._chance = random.Random(self.seed)  # noqa: S311  # noise, no secret
        self._zero = self._chance.gauss(0.0, self._sigma * math.sqrt(ZERO_SHARE))

    @property
    def _sigma(self) -> float:
        return self.instrument.uncertainty / COVERAGE_FACTOR

    def read(self, size: float) -> float:
        """A reading of a true size in mm, on the display's steps. DimensionError beyond the jaws."""
        if not 0.0 <= size <= WIDEST:
            raise DimensionError("size", f"{size:g}", "mm", f"0 to {WIDEST:g} mm between the jaws")
        shown = size + self._zero + self._chance.gauss(0.0, self._sigma * math.sqrt(1.0 - ZERO_SHARE))
        steps = round(shown / self.instrument.resolution)
        return round(steps * self.instrument.resolution, 4)


def keys_of(reading: float) -> str:
    """What the cable types for a reading."""
    return f"{reading:.2f}\n"
