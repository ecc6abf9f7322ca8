"""A cut body of the section, and readings that put what is not measured at a plausible place."""

from dataclasses import dataclass
from typing import Literal, TypeAlias

from marquetry.core.number import Number
from marquetry.core.parts import quantity_at
from marquetry.core.readings import Readings

Point: TypeAlias = tuple[float, float]
"""(r, z) in millimetres: distance from the axis towards the crown, height above the dial seat."""

Material: TypeAlias = Literal[
    "steel", "glass", "rubber", "brass", "dial", "foot", "hand", "movement", "rotor", "post", "print",
    "spacer", "insert", "void",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Body:
    """One cut face: closed outline, the part's path, its material, and the dimensions it had to assume.

    `mirrored`: the body goes all round, so it is also seen on the side away from the crown.
    """

    part: str
    material: Material
    outline: tuple[Point, ...]
    assumed: tuple[str, ...] = ()
    mirrored: bool = True


class Plausible(Readings):
    """Readings for drawing: plain nominal numbers, and a usual one wherever a dimension is missing."""

    def __getitem__(self, path: str) -> Number:
        self.uses[path] = None
        dimension = self.build.dimensions.get(path)
        return self._usual(path) if dimension is None else dimension.value

    def _usual(self, path: str) -> float:
        self.lack(path)
        quantity = quantity_at(path)
        if quantity.near is None:
            return quantity.usual
        neighbour, offset = quantity.near
        return float(self[neighbour]) + offset

    def body(self, part: str, material: Material, *outline: Point, mirrored: bool = True) -> Body:
        """Close a body; what was assumed since the last one is what this one's outline assumes."""
        assumed = tuple(self.missing)
        self.missing.clear()
        points = tuple((float(r), float(z)) for r, z in outline)
        return Body(part, material, points, assumed, mirrored)


def ring(inner: float, outer: float, low: float, high: float) -> tuple[Point, ...]:
    """Outline of a plain ring or disc in section."""
    return ((inner, low), (outer, low), (outer, high), (inner, high))
