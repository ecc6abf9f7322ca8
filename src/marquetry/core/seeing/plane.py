"""The card's middle seen square: light by place, mm, with the paper's own light divided out.

All finding is done here. What stands h above the card is seen displaced, by (P − C)·h/(H − h) away from the
point C under the camera; the plane keeps C and H so that every find can be brought back to where it is.
"""

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.arrays import Light, PlanPlaces, Reals
from marquetry.core.seeing.card import MARKER_MIDDLES, MARKER_SIDE, RING_DIAMETER
from marquetry.core.seeing.profiles import LightWindow, light_at

REACH = 29.0
"""Half width of what is looked at, mm."""
WITHIN = 24.2
"""Radius within the ring line where the part lies, mm."""
FINEST, COARSEST = 0.045, 0.12


class Eye(Protocol):
    """What sees the plane: a camera over the card, or a scanner."""

    def to_picture(self, places: PlanPlaces) -> PlanPlaces:
        """Pixels of places in the plane, mm."""

    def to_card(self, pixels: PlanPlaces) -> PlanPlaces:
        """Places in the plane, mm, of pixels."""

    @property
    def height(self) -> float:
        """Height of the eye, mm; infinite for a scanner."""

    @property
    def foot(self) -> Reals:
        """The point under the eye, mm."""

    @property
    def doubt_height(self) -> float:
        """Standard uncertainty of the height, mm."""

    @property
    def doubt_scale(self) -> float:
        """Relative standard uncertainty of lengths, a share."""


@dataclass(frozen=True, slots=True)
class Plane:
    """Light in the plane about `middle` (mm), 1 the paper's; `step` mm a sample, `blur` σ in mm."""

    light: Light
    step: float
    middle: tuple[float, float]
    blur: float
    noise: float
    ground: float
    view: Eye
    picture_step: float

    @property
    def reach(self) -> float:
        """Half width, mm."""
        return float((self.light.shape[0] - 1) / 2 * self.step)

    def samples(self, places: PlanPlaces) -> PlanPlaces:
        """Columns and rows of places, mm."""
        x = (places[..., 0] - self.middle[0] + self.reach) / self.step
        y = (self.reach - places[..., 1] + self.middle[1]) / self.step
        return np.stack([x, y], axis=-1)

    def places(self, samples: PlanPlaces) -> PlanPlaces:
        """Places, mm, of columns and rows."""
        x = samples[..., 0] * self.step - self.reach + self.middle[0]
        y = self.reach - samples[..., 1] * self.step + self.middle[1]
        return np.stack([x, y], axis=-1)

    def light_at(self, places: PlanPlaces) -> NDArray[np.float32]:
        """Light at places, mm; … × 3."""
        return light_at(self.light, self.samples(places))

    def displaced(self, place: Reals, above: float) -> Reals:
        """By how much, mm, what stands `above` the card at a place is seen away from it."""
        height = self.view.height
        if math.isinf(height):
            return np.zeros(2)
        return np.asarray((place - self.view.foot) * (above / (height - above)))

    def lowered(self, seen: Reals, above: float) -> Reals:
        """Where a thing `above` the card is that is seen at a place, mm."""
        height = self.view.height
        if math.isinf(height):
            return np.asarray(seen)
        return np.asarray(self.view.foot + (seen - self.view.foot) * (1 - above / height))

    def shrunk(self, above: float) -> float:
        """Factor from a length seen to the length of a thing `above` the card, mm to mm."""
        return 1.0 if math.isinf(self.view.height) else 1 - above / self.view.height


def plane_of(
    window: LightWindow, view: Eye, blur_px: float, middle: tuple[float, float] = (0.0, 0.0)
) -> Plane:
    """The plane that a view sees, about `middle` mm; `blur_px` is the picture's blur, σ in pixels."""
    about = np.array(middle)
    there = view.to_picture(np.array([[0.0, 0.0], [10.0, 0.0], [0.0, 10.0]]) + about)
    picture_step = 20.0 / float(np.hypot(*(there[1] - there[0])) + np.hypot(*(there[2] - there[0])))
    step = min(max(picture_step / 2, FINEST), COARSEST)
    count = 2 * int(REACH / step) + 1
    reach = (count - 1) / 2 * step
    line = np.linspace(-reach, reach, count)
    places = np.stack(np.meshgrid(line + about[0], -line + about[1]), axis=-1)
    seen = window.at(view.to_picture(places.reshape(-1, 2)).reshape(places.shape))
    paper, ground, noise = _paper(seen, places - about)
    even = np.asarray(np.clip(seen / paper, -0.2, 4.0), np.float32)
    return Plane(even, step, middle, max(blur_px, 0.5) * picture_step, noise, ground, view, picture_step)


def _paper(seen: Light, places: PlanPlaces) -> tuple[NDArray[np.float32], float, float]:
    """The paper's light everywhere, by a quadratic in x and y; its level, and the noise as a share of it."""
    small = slice(None, None, 4)
    x, y = places[small, small, 0], places[small, small, 1]
    out = np.hypot(x, y)
    line = np.abs(out - RING_DIAMETER / 2) < 0.8
    marker = np.zeros(x.shape, bool)
    for left, up in MARKER_MIDDLES:
        marker |= (np.abs(x - left) < MARKER_SIDE / 2 + 1) & (np.abs(y - up) < MARKER_SIDE / 2 + 1)
    paper = (out > 20.5) & ~line & ~marker  # mm: a part is rarely as large, shadows are clipped below
    light = seen[small, small].astype(float)
    terms = _terms(x, y)
    brightness = light.mean(axis=2)
    kept = paper
    fitted = brightness
    for _ in range(6):
        weights, *_ = np.linalg.lstsq(terms[kept], brightness[kept], rcond=None)
        fitted = terms @ weights
        off = brightness - fitted
        spread = max(1.48 * float(np.median(np.abs(off[kept]))), 1e-4)
        kept = paper & (off > -2.0 * spread) & (off < 3.5 * spread)
    by_colour = np.stack(
        [np.linalg.lstsq(terms[kept], light[..., c][kept], rcond=None)[0] for c in range(3)], axis=1
    )
    everywhere = _terms(places[..., 0], places[..., 1]) @ by_colour
    ground = float(np.median(brightness[kept]))
    noise = 1.48 * float(np.median(np.abs(brightness[kept] - fitted[kept]))) / max(ground, 1e-3)
    return np.asarray(np.maximum(everywhere, 0.02), np.float32), ground, max(noise, 0.002)


def _terms(x: Reals, y: Reals) -> Reals:
    u, v = x / REACH, y / REACH
    return np.stack([np.ones_like(u), u, v, u * u, u * v, v * v], axis=-1)


@dataclass(frozen=True, slots=True)
class Scan:
    """A scanner: so many mm a pixel, straight down everywhere, its picture's middle the origin."""

    mm_per_px: float
    size: tuple[int, int]
    doubt_scale: float = 0.0015
    doubt_height: float = 0.0

    @property
    def height(self) -> float:
        """Infinite, mm: nothing is displaced by its height."""
        return math.inf

    @property
    def foot(self) -> Reals:
        """No point is under a scanner; the origin."""
        return np.zeros(2)

    @property
    def tilt(self) -> float:
        """A scanner looks straight down: 0°."""
        return 0.0

    def to_picture(self, places: PlanPlaces) -> PlanPlaces:
        """Pixels of places, mm."""
        middle = np.array([(self.size[0] - 1) / 2, (self.size[1] - 1) / 2])
        return np.asarray(places / self.mm_per_px * np.array([1.0, -1.0]) + middle)

    def to_card(self, pixels: PlanPlaces) -> PlanPlaces:
        """Places, mm, of pixels."""
        middle = np.array([(self.size[0] - 1) / 2, (self.size[1] - 1) / 2])
        return np.asarray((pixels - middle) * self.mm_per_px * np.array([1.0, -1.0]))
