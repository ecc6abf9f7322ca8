"""A cut body of the section."""

from dataclasses import dataclass, replace
from itertools import compress
from typing import Literal, TypeAlias

from marquetry.core.fit.plausible import Plausible

Point: TypeAlias = tuple[float, float]
"""(r, z) in millimetres: distance from the axis towards the crown, height above the dial seat."""

Material: TypeAlias = Literal[
    "steel", "glass", "rubber", "brass", "dial", "foot", "hand", "movement", "rotor", "post", "print",
    "spacer", "insert", "void",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Body:
    """One cut face: closed outline, the part's path, its material, and the dimensions it had to assume.

    `label` and `assumed_labels` say the same in a builder's words. `mirrored`: the body goes all round, so it
    is also seen on the side away from the crown.
    """

    part: str
    material: Material
    outline: tuple[Point, ...]
    assumed: tuple[str, ...] = ()
    mirrored: bool = True
    label: str = ""
    assumed_labels: tuple[str, ...] = ()
    planned: bool = False
    """Whether its outline has a size that is only planned."""

    @property
    def kind(self) -> str:
        """The kind of part that it is, or is a thing of: the first word of its path."""
        return self.part.partition(".")[0]

    def of_its_own(self) -> "Body":
        """The same, assumed only where something of the part itself is not known, not of its neighbours."""
        own = [path.partition(".")[0] == self.kind for path in self.assumed]
        return replace(
            self,
            assumed=tuple(compress(self.assumed, own)),
            assumed_labels=tuple(compress(self.assumed_labels, own)),
        )


WITHOUT_ENTRY = {
    "case.tube": "Crown tube",
    "movement.rotor": "Rotor",
    "movement.disc": "Calendar disc beneath",
}
"""Names of what is drawn of a part and is no entry of its description."""


class Drawn(Plausible):
    """The same, closing the bodies of a section."""

    def body(self, part: str, material: Material, *outline: Point, mirrored: bool = True) -> Body:
        """Close a body; what was assumed since the last one is what this one's outline assumes."""
        assumed = tuple(self.missing)
        planned = bool(self.planned)
        self.missing.clear()
        self.planned.clear()
        label_of = self.build.anatomy.label_of
        label = WITHOUT_ENTRY.get(part) or label_of(part)
        points = tuple((float(r), float(z)) for r, z in outline)
        return Body(part, material, points, assumed, mirrored, label, tuple(map(label_of, assumed)), planned)


def ring(inner: float, outer: float, low: float, high: float) -> tuple[Point, ...]:
    """Outline of a plain ring or disc in section, mm."""
    return ((inner, low), (outer, low), (outer, high), (inner, high))
