"""Outlines of hands by their plain names, in proportion to length and width.

Every shape is a half profile along the hand: how wide it is at which share of its length. Points are
(x, y) in mm, y along the hand from the centre towards the tip, the hand pointing to twelve.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from typing import TypeAlias

FacePoint: TypeAlias = tuple[float, float]
"""A point of a face, mm: across and up from the watch's centre, as the crystal side sees it."""
Contour: TypeAlias = tuple[FacePoint, ...]
Profile: TypeAlias = tuple[tuple[float, float], ...]
"""(share of the length, share of the half width) from the boss to the tip."""

BOSS = {"h24": 1.25, "hour": 1.15, "minute": 0.95, "seconds": 0.62}
"""Radius of the round part over the pipe, mm, in a set for a watch of usual size."""
WIDTHS = {"h24": 0.105, "hour": 0.19, "minute": 0.105, "seconds": 0.024}
"""Widest place of a baton hand as a share of its length."""
FULLNESS = {
    "baton": 1.0, "leaf": 1.2, "sword": 1.3, "pencil": 1.0, "lozenge": 1.35, "arrow": 1.5,
    "ring-tipped": 1.35, "skeleton": 1.25, "plain": 0.5,
}  # fmt: skip
"""How much wider or slimmer than a baton each shape is usually made."""
SECONDS_HEAD = 0.085
"""Widest place of a seconds hand that carries a head, as a share of its length."""
RIM = 0.16
"""Metal left round a lume field or an opening, mm."""
STOPS = 6
"""Places along a hand at which its lume field's width is found, beside the profile's own."""
CURVE = 7
"""Points along one side of a curve: at ten times its size a hand still looks smooth."""


@dataclass(frozen=True, slots=True)
class HandShape:
    """A hand lying flat: its outline, openings through it, its lume field, and whether a ridge runs along."""

    outline: Contour
    openings: tuple[Contour, ...]
    lume: Contour
    is_ridged: bool
    boss: float


def _baton(_: float) -> Profile:
    return ((0.0, 1.0), (0.955, 1.0), (1.0, 0.35))


def _leaf(_: float) -> Profile:
    shares = [k / CURVE for k in range(1, CURVE)]
    blade = [(0.14 + 0.86 * s, 0.3 * (1 - s) + 0.88 * math.sin(math.pi * s**0.85)) for s in shares]
    widest = max(across for _, across in blade)
    return ((0.0, 0.3), (0.14, 0.3), *((along, across / widest) for along, across in blade), (1.0, 0.0))


def _sword(_: float) -> Profile:
    return ((0.0, 0.42), (0.1, 0.42), (0.74, 1.0), (1.0, 0.0))


def _pencil(_: float) -> Profile:
    return ((0.0, 1.0), (0.84, 1.0), (1.0, 0.0))


def _lozenge(_: float) -> Profile:
    return ((0.0, 0.24), (0.46, 0.2), (0.7, 1.0), (1.0, 0.0))


def _arrow(_: float) -> Profile:
    return ((0.0, 0.24), (0.66, 0.24), (0.66, 1.0), (1.0, 0.0))


def _ring(half: float) -> Profile:
    """A stem, a ring as wide as the hand, a slender point."""
    shares = [math.pi * k / CURVE for k in range(CURVE + 1)]
    ring = ((0.7 - half * math.cos(a), max(math.sin(a), 0.28)) for a in shares)
    return ((0.0, 0.3), *ring, (0.94, 0.26), (1.0, 0.0))


def _skeleton(_: float) -> Profile:
    return ((0.0, 0.55), (0.6, 1.0), (0.86, 0.86), (1.0, 0.0))


def _plain(_: float) -> Profile:
    return ((0.0, 1.0), (1.0, 0.7))


PROFILES: dict[str, Callable[[float], Profile]] = {
    "baton": _baton,
    "leaf": _leaf,
    "sword": _sword,
    "pencil": _pencil,
    "lozenge": _lozenge,
    "arrow": _arrow,
    "ring-tipped": _ring,
    "skeleton": _skeleton,
    "plain": _plain,
}
FIELDS: dict[str, tuple[float, float]] = {
    "baton": (0.3, 0.93),
    "leaf": (0.3, 0.86),
    "sword": (0.32, 0.95),
    "pencil": (0.3, 0.93),
    "lozenge": (0.5, 0.96),
    "arrow": (0.69, 0.95),
    "ring-tipped": (0.5, 0.9),
    "skeleton": (0.28, 0.92),
    "plain": (0.35, 0.9),
}
"""Between which shares of its length a shape has its lume field, or its opening."""
RIDGED = frozenset({"leaf", "sword", "lozenge", "pencil"})


def usual_width(hand: str, shape: str, length: float) -> float:
    """How wide a hand of this shape and length (mm) is usually made, at its widest place, mm."""
    if hand == "seconds" and shape not in {"plain", "baton"}:
        return SECONDS_HEAD * length
    return WIDTHS[hand] * length * (FULLNESS[shape] if hand != "seconds" else 1.0)


def hand_shape(hand: str, shape: str, length: float, width: float, counterweight: str) -> HandShape:
    """The hand's outline from its measures in mm; a lume field as large as its rim leaves room for."""
    half = width / 2
    profile = PROFILES[shape](half / length)
    right = tuple((half * across, length * along) for along, across in profile)
    tail = _tail(hand, length, half, counterweight)
    outline = (*right, *((-x, y) for x, y in reversed(right) if x > 0), *tail)
    start, end = FIELDS[shape]
    inside = _inset(profile, half, length, (start, end))
    openings = (inside,) if shape == "skeleton" and inside else ()
    return HandShape(outline, openings, inside, shape in RIDGED, min(BOSS[hand], 0.12 * length))


def _tail(hand: str, length: float, half: float, counterweight: str) -> Contour:
    """The short end beyond the boss, from the left side round to the right."""
    long = {"seconds": 0.3}.get(hand, 0.13) * length
    if counterweight == "none":
        return ()
    slim = half if hand == "seconds" else half * 0.55
    if counterweight == "lozenge":
        left = ((-slim, 0.0), (-slim, -0.5 * long), (-4 * slim, -0.75 * long))
        return (*left, (0.0, -long), *((-x, y) for x, y in reversed(left)))
    if counterweight == "tail":
        return ((-slim, 0.0), (-1.9 * slim, -long), (1.9 * slim, -long), (slim, 0.0))
    return ((-slim, 0.0), (-slim, -long), (slim, -long), (slim, 0.0))


def counterweight_ring(length: float, half: float) -> tuple[FacePoint, float]:
    """Centre and radius (mm) of the disc or ring that a seconds hand carries at its short end."""
    return (0.0, -0.24 * length), max(0.055 * length, 2 * half)


def _inset(profile: Profile, half: float, length: float, field: tuple[float, float]) -> Contour:
    """The profile between two shares of the length, a rim narrower; nothing where no room is left."""
    start, end = field
    # A slender head has room in its middle only: looked for between the profile's own points too.
    between = [start + (end - start) * k / STOPS for k in range(STOPS + 1)]
    stops = sorted({*between, *(along for along, _ in profile if start < along < end)})
    right = []
    for along in stops:
        reach = half * _across(profile, along) - RIM
        if reach > 0.04:  # noqa: PLR2004  # a line of paste thinner than a hair is none
            right.append((reach, length * along))
    return (*right, *((-x, y) for x, y in reversed(right))) if len(right) > 1 else ()


def _across(profile: Profile, along: float) -> float:
    for (a, one), (b, other) in pairwise(profile):
        if a <= along <= b and b > a:
            return one + (other - one) * (along - a) / (b - a)
    return profile[-1][1]


def turned(outline: Contour, turn_deg: float) -> Contour:
    """The outline turned clockwise about the centre, as the crystal side sees it."""
    angle = math.radians(turn_deg)
    cos, sin = math.cos(angle), math.sin(angle)
    return tuple((x * cos + y * sin, y * cos - x * sin) for x, y in outline)


def shifted(outline: Contour, by: FacePoint) -> Contour:
    """The outline moved by (across, up), mm."""
    return tuple((x + by[0], y + by[1]) for x, y in outline)
