"""Flat shapes that made parts are put together from, in the plane seen from the crystal: x to 3, y to 12, mm.

A shape stands at an angle clockwise from 12 o'clock: `along` is measured outwards on that ray, `across`
square to it, clockwise positive. Each says whether a point lies in it; `kernel.py` makes polygons of them.
"""

import math
from dataclasses import dataclass
from typing import Literal, TypeAlias

PlanePoint: TypeAlias = tuple[float, float]
"""(x, y) in mm from the axis."""
Layer = Literal["OUTLINE", "CUT", "HOLE", "CENTRE", "MARK", "STEM", "TEXT"]
"""What an edge means to whoever cuts along it; the names of a DXF's layers."""


def spot_at(radius: float, angle: float) -> PlanePoint:
    """The point at a radius in mm and an angle in degrees clockwise from 12."""
    turned = math.radians(angle)
    return radius * math.sin(turned), radius * math.cos(turned)


def along_across(x: float, y: float, angle: float) -> PlanePoint:
    """A point, mm, as it lies to a ray at the angle, °: outwards along it, and clockwise across it."""
    turned = math.radians(angle)
    return x * math.sin(turned) + y * math.cos(turned), x * math.cos(turned) - y * math.sin(turned)


@dataclass(frozen=True, slots=True)
class Annulus:
    """The ring between two radii, mm; a disc where the inner one is 0."""

    inner: float
    outer: float

    def holds(self, x: float, y: float) -> bool:
        """Whether the point, mm, lies in it."""
        return self.inner <= math.hypot(x, y) <= self.outer


@dataclass(frozen=True, slots=True)
class Bar:
    """A strip along a ray: |across| ≤ width/2, from `start` to `end` along it; angle in degrees, else mm.

    `inner` and `outer` bound its distance from the axis, as a round edge cuts a strip off.
    """

    angle: float
    width: float
    start: float = 0.0
    end: float = math.inf
    inner: float = 0.0
    outer: float = math.inf

    def holds(self, x: float, y: float) -> bool:
        """Whether the point, mm, lies in it."""
        along, across = along_across(x, y, self.angle)
        in_strip = abs(across) <= self.width / 2 and self.start <= along <= self.end
        return in_strip and self.inner <= math.hypot(x, y) <= self.outer


@dataclass(frozen=True, slots=True)
class RoundSpot:
    """A disc of that radius about a point off the axis, no further out than `outer`, mm and degrees."""

    at_radius: float
    angle: float
    radius: float
    outer: float = math.inf

    def holds(self, x: float, y: float) -> bool:
        """Whether the point, mm, lies in it."""
        cx, cy = spot_at(self.at_radius, self.angle)
        return math.hypot(x - cx, y - cy) <= self.radius and math.hypot(x, y) <= self.outer


@dataclass(frozen=True, slots=True)
class BentBand:
    """A piece of a ring, clockwise from `start` to `end` in degrees, across 12 where the end is less."""

    inner: float
    outer: float
    start: float
    end: float

    @property
    def sweep(self) -> float:
        """How far it reaches round, degrees, over 0 to 360."""
        return (self.end - self.start) % 360.0 or 360.0

    def holds(self, x: float, y: float) -> bool:
        """Whether the point, mm, lies in it."""
        angle = math.degrees(math.atan2(x, y))
        return self.inner <= math.hypot(x, y) <= self.outer and (angle - self.start) % 360.0 <= self.sweep


FlatShape: TypeAlias = Annulus | Bar | RoundSpot | BentBand


@dataclass(frozen=True, slots=True)
class Step:
    """One thing put on or taken away between two depths below the part's dial-side face, mm."""

    shape: FlatShape
    top: float
    bottom: float
    adds: bool = True
    layer: Layer = "OUTLINE"

    def reaches(self, depth: float) -> bool:
        """Whether the depth, mm, lies within it."""
        return self.top <= depth <= self.bottom


@dataclass(frozen=True, slots=True)
class Solid:
    """A made part: steps in the order in which they are put on and taken away, z = −depth."""

    steps: tuple[Step, ...]

    def holds(self, x: float, y: float, z: float) -> bool:
        """Whether the point, mm, lies in the part: the last step that has it decides."""
        inside = False
        for step in self.steps:
            if step.reaches(-z) and step.shape.holds(x, y):
                inside = step.adds
        return inside

    @property
    def depths(self) -> tuple[float, ...]:
        """Depths in mm at which its outline changes, from its dial-side face down."""
        return tuple(sorted({depth for step in self.steps for depth in (step.top, step.bottom)}))
