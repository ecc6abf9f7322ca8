"""Pictures of the demo's proofs: hands at noon seen from the front, and lume in the dark as it fades."""

import math
from io import BytesIO
from typing import TYPE_CHECKING

from marquetry.core.proving.lume_decay import linear

if TYPE_CHECKING:  # pictures are drawn only where a demo is begun
    from PIL import ImageDraw

SIDE = 900
CENTRE = (SIDE / 2, SIDE / 2)
MARKER = (SIDE / 2, 96.0)
TIPS = {"hour": (0.6, 190.0), "minute": (-0.4, 290.0)}
"""How far each hand stands beside noon in degrees, and its length in pixels."""
LAMP = (70.0, 70.0)
PATCHES = {"dial": (450.0, 130.0), "hands": (450.0, 300.0), "insert": (450.0, 40.0)}
GLOWING = {"dial": (0.62, 0.93), "hands": (0.5, 1.02), "insert": (0.55, 0.9)}
"""Brightness over the lamp one minute after light, and the exponent it falls by."""
LAMP_LEVEL = 200


def tip_of(hand: str) -> tuple[float, float]:
    """Where a hand's tip lies in the picture taken at noon."""
    degrees, length = TIPS[hand]
    turned = math.radians(degrees)
    return CENTRE[0] + length * math.sin(turned), CENTRE[1] - length * math.cos(turned)


def noon() -> bytes:
    """The dial with both hands at twelve, as a PNG file."""
    from PIL import Image, ImageDraw  # noqa: PLC0415  # as above

    picture = Image.new("RGB", (SIDE, SIDE), "#8c8a84")
    draw = ImageDraw.Draw(picture)
    draw.ellipse((40, 40, SIDE - 40, SIDE - 40), fill="#2f3640")
    draw.ellipse((80, 80, SIDE - 80, SIDE - 80), fill="#24457a")
    for hour in range(12):
        turned = math.radians(30 * hour)
        ends = [
            (CENTRE[0] + long * math.sin(turned), CENTRE[1] - long * math.cos(turned)) for long in (354, 315)
        ]
        draw.line(ends, fill="#efe8d2", width=12 if hour % 3 == 0 else 7)
    for hand, width in (("hour", 20), ("minute", 13)):
        draw.line((CENTRE, tip_of(hand)), fill="#f4f1e6", width=width)
    draw.ellipse((436, 436, 464, 464), fill="#f4f1e6")
    return _png(picture)


def dark(minutes: float) -> bytes:
    """Patches of lume so many minutes after light, beside a lamp that stays the same, as a PNG file."""
    from PIL import Image, ImageDraw  # noqa: PLC0415  # as above

    picture = Image.new("RGB", (SIDE, SIDE), "#050608")
    draw = ImageDraw.Draw(picture)
    _disc(draw, LAMP, LAMP_LEVEL)
    for name, (first, exponent) in GLOWING.items():
        light = first * minutes**-exponent * linear(LAMP_LEVEL)
        _disc(draw, PATCHES[name], _level(light))
    return _png(picture)


def _disc(draw: "ImageDraw.ImageDraw", at: tuple[float, float], level: int) -> None:
    draw.ellipse((at[0] - 22, at[1] - 22, at[0] + 22, at[1] + 22), fill=(level, level, level))


def _level(light: float) -> int:
    """The level of sRGB nearest to a linear light."""
    return min(range(256), key=lambda level: abs(linear(level) - light))


def _png(picture: object) -> bytes:
    file = BytesIO()
    picture.save(file, "PNG")  # type: ignore[attr-defined]  # a picture of Pillow's
    return file.getvalue()
