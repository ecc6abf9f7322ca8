"""What is wanted of a watch as a whole, described once: plain numbers, each with its unit in its key."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Wish:
    """One plain number of a sheet's target, in the unit that ends its key; `most` is beyond reason."""

    key: str
    label: str
    unit: str
    most: float


WISHES = (
    Wish("wrist_circumference_mm", "Round the wrist", "mm", 300.0),
    Wish("water_depth_m", "Water depth wanted", "m", 2000.0),
    Wish("max_height_mm", "At most so high", "mm", 40.0),
    Wish("max_diameter_mm", "At most so wide", "mm", 70.0),
    Wish("max_lug_to_lug_mm", "At most so long, lug to lug", "mm", 80.0),
)
