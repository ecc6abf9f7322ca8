"""What a made part is made from: nominal sizes of a build, and a refusal that names what is not known."""

import math

from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import DimensionError

CROWN = "case.crown_angle"
USUAL_CROWN = 90.0
"""A part is turned to its crown; where nothing is said the crown stands at three o'clock."""
UNTOLD = "nothing"
"""What stands in for a size that is not known, and without which a part cannot be made."""


class Sizes:
    """A build's dimensions as plain nominal numbers, mm and degrees."""

    def __init__(self, build: Build) -> None:
        self.build = build

    def __getitem__(self, path: str) -> float:
        """The nominal value at the path; DimensionError, naming it, where it is not known."""
        dimension = self.build.dimensions.get(path)
        if dimension is None:
            raise DimensionError(path, UNTOLD, "", "a size: the part cannot be made without it")
        return dimension.value

    def known(self, path: str) -> bool:
        """Whether the dimension at the path is known."""
        return path in self.build.dimensions

    def or_none(self, path: str) -> float | None:
        """The nominal value in mm or degrees, or None where it is not known."""
        dimension = self.build.dimensions.get(path)
        return None if dimension is None else dimension.value

    def count(self, path: str) -> int:
        """How many things the list at the path holds."""
        return self.build.count(path)

    def word(self, path: str) -> str:
        """The word at the path, or nothing."""
        found = self.build.at(path)
        return found if isinstance(found, str) else ""

    @property
    def crown(self) -> float:
        """Where the stem points, degrees from 12; three o'clock where the sheet does not say."""
        found = self.or_none(CROWN)
        return USUAL_CROWN if found is None else found


def refuse(path: str, value: float, unit: str, limit: str) -> DimensionError:
    """The refusal of a size that no part could be made to."""
    return DimensionError(path, f"{value:g}", unit, limit)


def refuse_thin(sizes: Sizes, inner: str, outer: str) -> None:
    """Raise DimensionError where a ring's inner Ø, mm, leaves nothing inside its outer Ø."""
    if sizes[inner] >= sizes[outer]:
        raise refuse(inner, sizes[inner], "mm", f"less than {outer}, {sizes[outer]:g} mm")


def half_angle(width: float, radius: float) -> float:
    """Half the angle in degrees under which a strip of that width, mm, cuts a circle of that radius, mm."""
    return math.degrees(math.asin(min(width / (2 * radius), 1.0)))
