"""The case from the front by its plain outline: body, lugs, crown guards, from its dimensions in mm."""

import math

from marquetry.core.face.hand_shapes import Contour, FacePoint

ROUNDNESS = {"round": 2.0, "cushion": 3.4, "barrel": 2.6}
"""Exponent of the superellipse that the body is: 2 is a circle, the more the squarer."""
STRETCH = {"round": 1.0, "cushion": 1.0, "barrel": 1.1}
"""How much longer than wide the body is."""
SIDES = 48
LUG_BASE = {"short": 3.4, "long": 3.0}
LUG_TIP = {"short": 2.5, "long": 1.7}
"""Width of a lug where it leaves the body and at its end, mm."""


def body(outline: str, radius: float) -> Contour:
    """The body as a closed outline; a round one is better drawn as the circle that it is."""
    power, up = 2 / ROUNDNESS[outline], STRETCH[outline]
    return tuple(_on(2 * math.pi * k / SIDES, radius, power, up) for k in range(SIDES))


def _on(angle: float, radius: float, power: float, up: float) -> FacePoint:
    sine, cosine = math.sin(angle), math.cos(angle)
    return (
        radius * math.copysign(abs(sine) ** power, sine),
        radius * up * math.copysign(abs(cosine) ** power, cosine),
    )


def lugs(style: str, radius: float, reach: float, between: float) -> tuple[Contour, ...]:
    """The four lugs: `reach` is half the length lug to lug, `between` half the width between them, mm."""
    inner, base, tip = between, LUG_BASE[style], LUG_TIP[style]
    root = 0.45 * radius
    shoulder = min(inner + base + 1.4, 0.93 * radius)
    right = (
        (inner, root),
        (inner, reach - 0.35),
        (inner + 0.35, reach),
        (inner + tip - 0.5, reach),
        (inner + tip, reach - 0.6),
        (inner + base, 0.5 * (reach + root) + 0.12 * radius),
        (shoulder, root),
    )
    return tuple(tuple((side * x, way * y) for x, y in right) for side in (-1, 1) for way in (-1, 1))


def guards(radius: float, crown_reach: float, crown_half: float) -> tuple[Contour, ...]:
    """Two shoulders beside the crown, drawn as if it stood at twelve; both to be turned to its place."""
    out = min(crown_reach - 0.6, radius + 2.2)
    right = (
        (crown_half + 0.25, 0.8 * radius),
        (crown_half + 0.25, out - 0.5),
        (crown_half + 0.8, out),
        (crown_half + 2.6, radius + 0.1),
        (crown_half + 5.2, 0.86 * radius),
    )
    return (right, tuple((-x, y) for x, y in right))
