"""Colours as `#rrggbb`, mixed and compared: what a face is painted with, and whether two go together."""

import colorsys
import re
from functools import lru_cache

HEX = re.compile(r"#[0-9a-f]{6}")
STEPS = 16
"""Shades of one colour that are told apart: so many that no edge shows, few enough that faces are joined."""
LINEAR = 0.04045


def is_hex(text: str) -> bool:
    """Whether the text is a colour as `#rrggbb`, in small letters."""
    return HEX.fullmatch(text) is not None


def channels(colour: str) -> tuple[int, int, int]:
    """Red, green and blue of `#rrggbb`, 0 to 255."""
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


@lru_cache(maxsize=4096)
def mixed(colour: str, other: str, share: float) -> str:
    """The colour with a share (0 to 1) of another in it, in steps of a sixteenth."""
    part = round(min(max(share, 0.0), 1.0) * STEPS) / STEPS
    pairs = zip(channels(colour), channels(other), strict=True)
    return "#" + "".join(f"{round(a + (b - a) * part):02x}" for a, b in pairs)


def lit(colour: str, light: float) -> str:
    """The colour as light (−1 in the shade, 0 level, 1 straight towards it) makes it."""
    return mixed(colour, "#ffffff", 0.75 * light) if light >= 0 else mixed(colour, "#000000", -0.62 * light)


@lru_cache(maxsize=1024)
def luminance(colour: str) -> float:
    """Relative luminance, a share of white from 0 to 1, by WCAG 2.2 from sRGB (IEC 61966-2-1)."""
    linear = [
        c / 12.92 if c <= LINEAR else ((c + 0.055) / 1.055) ** 2.4
        for c in (v / 255 for v in channels(colour))
    ]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(colour: str, other: str) -> float:
    """Contrast ratio of two colours, 1 to 21, by WCAG 2.2."""
    high, low = sorted((luminance(colour), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def tone(colour: str) -> tuple[float, float]:
    """Hue in degrees and how much of it there is, 0 to 1: a grey has none."""
    red, green, blue = (value / 255 for value in channels(colour))
    hue, _, depth = colorsys.rgb_to_hsv(red, green, blue)[0] * 360, 0, max(red, green, blue)
    spread = depth - min(red, green, blue)
    return hue, spread
