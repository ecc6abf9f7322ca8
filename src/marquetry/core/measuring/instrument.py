"""What a workshop measures with, and which dimensions each instrument reaches."""

from dataclasses import dataclass

from marquetry.core.sheet.schema import Quantity
from marquetry.core.values.dimension import Unit

WAYS = {
    "inside": "inside jaws, bores",
    "outside": "outside jaws, diameters and lengths",
    "depth": "depth rod, steps and heights",
    "thickness": "thicknesses",
    "plan": "places seen from above, under the loupe",
    "angle": "angles",
    "pins": "small bores, by pins",
    "worksheet": "what is computed from other readings",
}
ANGLE_AT_RADIUS_MM = 10.0
"""An angle is read where it stands this far from the centre: uncertainty in mm becomes degrees there."""


@dataclass(frozen=True, slots=True)
class Instrument:
    """An instrument: resolution and expanded uncertainty (k = 2) in millimetres, and what it reaches."""

    name: str
    resolution: float
    uncertainty: float
    ways: tuple[str, ...]

    def tolerance_in(self, unit: Unit) -> float:
        """Half width it gives a reading, in the unit of the quantity."""
        return self.uncertainty if unit == "mm" else self.uncertainty / ANGLE_AT_RADIUS_MM * 57.3


USUAL_INSTRUMENTS = (
    Instrument("Digital caliper", 0.01, 0.02, ("inside", "outside", "depth", "thickness", "worksheet")),
    Instrument("Micrometer", 0.001, 0.004, ("thickness", "outside")),
    Instrument("Depth gauge", 0.01, 0.01, ("depth",)),
    Instrument("Loupe with reticle", 0.05, 0.03, ("plan", "angle", "thickness")),
    Instrument("Pin gauges", 0.01, 0.005, ("pins",)),
)


def best_for(quantity: Quantity, instruments: tuple[Instrument, ...]) -> Instrument | None:
    """The instrument with the least uncertainty that reaches the quantity, or None."""
    able = [instrument for instrument in instruments if quantity.way in instrument.ways]
    return min(able, key=lambda instrument: instrument.uncertainty, default=None)
