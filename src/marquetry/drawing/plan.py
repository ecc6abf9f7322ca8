"""Drawing in plan: points by radius and angle, circles, bars along a ray, seen from the front or the back."""

import math
from dataclasses import dataclass

from marquetry.drawing.scene import Dot, Line, Paper
from marquetry.drawing.sheet import FOOT, HEIGHT, MARGIN, WIDTH

ARC_STEP = 6.0


@dataclass(frozen=True, slots=True)
class Plan:
    """A plan on the sheet: scale, and `hand` +1 seen from the crystal side, −1 seen from the back.

    Angles are degrees clockwise from 12 o'clock as the crystal side sees them.
    """

    scale: float
    hand: int = 1
    centre: Paper = (WIDTH / 2, (HEIGHT + FOOT) / 2)

    def at(self, radius: float, angle: float) -> Paper:
        """A point of the watch on paper."""
        turned = math.radians(angle)
        x, y = self.centre
        return (
            x + self.hand * radius * self.scale * math.sin(turned),
            y + radius * self.scale * math.cos(turned),
        )

    def circle(self, diameter: float, classes: str) -> Dot:
        """A circle round the axis."""
        return Dot(self.centre, diameter / 2 * self.scale, classes)

    def round_at(self, radius: float, angle: float, diameter: float, classes: str) -> Dot:
        """A circle round another point."""
        return Dot(self.at(radius, angle), diameter / 2 * self.scale, classes)

    def bar(  # noqa: PLR0913, PLR0917  # a bar has no fewer measures
        self, inner: float, outer: float, angle: float, width: float, classes: str, title: str = ""
    ) -> Line:
        """A rectangle along the ray at the angle."""
        (ax, ay), (bx, by) = self.at(inner, angle), self.at(outer, angle)
        length = math.hypot(bx - ax, by - ay) or 1.0
        half = width / 2 * self.scale / length
        nx, ny = -(by - ay) * half, (bx - ax) * half
        corners = ((ax + nx, ay + ny), (bx + nx, by + ny), (bx - nx, by - ny), (ax - nx, ay - ny))
        return Line(corners, classes, closed=True, title=title)

    def tick(self, inner: float, outer: float, angle: float, classes: str) -> Line:
        """A line along the ray at the angle."""
        return Line((self.at(inner, angle), self.at(outer, angle)), classes)

    def arc(self, radius: float, start: float, end: float, classes: str) -> Line:
        """An arc from one angle to another, the short way they are given."""
        steps = max(2, math.ceil(abs(end - start) / ARC_STEP) + 1)
        angles = [start + (end - start) * k / (steps - 1) for k in range(steps)]
        return Line(tuple(self.at(radius, angle) for angle in angles), classes)


def fitting_scale(reach: float, *, true_size: bool) -> float:
    """The scale at which a plan reaching that far from the axis fills the sheet's height, or 1."""
    return 1.0 if true_size else (HEIGHT - FOOT - 2 * MARGIN) / (2 * reach)
