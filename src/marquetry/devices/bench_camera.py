"""The stand-in for a camera over the bench: a card and what lies on it, seen in perspective, as a JPEG.

Each pixel's ray is followed down to every height at which something was painted, so that what stands above
the card is displaced as a lens displaces it; light is linear until the very end, when noise, the eight bits
and the JPEG's blocks come over it. It shares the card's sizes with what measures the pictures, and nothing
else.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from io import BytesIO

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.card import (
    CELLS,
    CHECK_AT,
    CHECK_LENGTH,
    HEIGHT,
    MARKER_BITS,
    MARKER_MIDDLES,
    MARKER_SIDE,
    RING_DIAMETER,
    RING_LINE,
    WIDTH,
)  # fmt: skip

Points = NDArray[np.float64]
PaintShape = Callable[[Points], NDArray[np.float64]]
"""How far a place lies outside a shape, mm; negative within."""
Rgb = tuple[float, float, float]
Colour = Rgb | Callable[[Points], NDArray[np.float64]]


ROWS = 60
"""Rows of pixels worked on at a time: a whole picture's rays are a gigabyte."""


@dataclass(frozen=True, slots=True)
class Paint:
    """A flat shape at a height above the card, mm, in linear light; painted in the order given."""

    height: float
    shape: PaintShape
    colour: Colour


@dataclass(frozen=True, slots=True)
class Shade:
    """A shadow on what lies at a height: a shape moved by the light, with a soft rim `soft` mm wide."""

    height: float
    shape: PaintShape
    depth: float
    soft: float
    within: PaintShape | None = None


@dataclass(frozen=True, slots=True)
class BenchCamera:
    """A telephone on a stand: where it looks from and what its picture suffers. mm, degrees, pixels.

    `turn` is the card's in the picture, `leans` the direction towards which the camera stands off,
    clockwise from up.
    """

    size: tuple[int, int] = (3000, 2250)
    field: float = 65.0
    height: float = 255.0
    tilt: float = 4.0
    leans: float = 60.0
    turn: float = 2.0
    distortion: float = 0.0
    blur: float = 0.9
    read: float = 0.0025
    shot: float = 0.007
    gradient: float = 0.08
    bend: float = 0.0
    printed: float = CHECK_LENGTH
    quality: int = 90
    seed: int = 1
    hidden: tuple[int, ...] = ()
    ground: float = 0.86
    samples: int = 2

    def picture(self, things: tuple[Paint | Shade, ...]) -> bytes:
        """The picture of things on the card, as a JPEG."""
        from PIL import Image  # noqa: PLC0415  # wanted only where a picture is made

        light = self.light(things)
        coded = np.where(
            light <= 0.0031308, 12.92 * light, 1.055 * np.maximum(light, 1e-9) ** (1 / 2.4) - 0.055
        )  # sRGB
        picture = Image.fromarray((np.clip(coded, 0, 1) * 255 + 0.5).astype(np.uint8))
        file = BytesIO()
        picture.save(file, "JPEG", quality=self.quality)
        return file.getvalue()

    def light(self, things: tuple[Paint | Shade, ...]) -> NDArray[np.float32]:
        """Linear light by pixel, with blur and noise."""
        from scipy.ndimage import gaussian_filter  # noqa: PLC0415  # as above

        random = np.random.default_rng(self.seed)
        width, height = self.size
        light = self._table(random)
        left, top, right, bottom = self._card_in_picture()
        fine = self.samples
        xs = (np.arange((right - left) * fine) + 0.5) / fine + left - 0.5
        for begin in range(top, bottom, ROWS):
            rows = min(ROWS, bottom - begin)
            ys = (np.arange(rows * fine) + 0.5) / fine + begin - 0.5
            places = self.on_card(np.stack(np.meshgrid(xs, ys), axis=-1).reshape(-1, 2))
            colour = (
                light[begin : begin + rows, left:right].repeat(fine, 0).repeat(fine, 1).reshape(-1, 3).copy()
            )
            self._lay(places, colour, self._card())
            near = np.nonzero(np.abs(places).max(axis=1) < RING_DIAMETER / 2 + 4)[0]
            if len(near):
                laid = colour[near]
                self._lay(places[near], laid, things)
                colour[near] = laid
            light[begin : begin + rows, left:right] = colour.reshape(rows, fine, right - left, fine, 3).mean(
                axis=(1, 3)
            )
        x, y = np.meshgrid(np.linspace(-1, 1, width), np.linspace(-1, 1, height))
        lamp = 1 + self.gradient * (0.8 * x - 0.6 * y) - 0.06 * (x * x + y * y)
        light *= lamp.astype(np.float32)[..., None]
        light = gaussian_filter(light, (self.blur, self.blur, 0), truncate=3)
        spread = np.sqrt(self.read**2 + self.shot**2 * np.maximum(light, 0))
        return np.asarray(light + spread * random.standard_normal(light.shape, np.float32), np.float32)

    def _table(self, random: np.random.Generator) -> NDArray[np.float32]:
        """Dark wood, with a grain."""
        from scipy.ndimage import gaussian_filter  # noqa: PLC0415  # as above

        width, height = self.size
        grain = gaussian_filter(random.standard_normal((height, width // 8 + 1), np.float32), (1.2, 1.8)) * 2
        grain = grain.repeat(8, axis=1)[:, :width]
        return np.asarray(
            np.clip(np.array([0.30, 0.16, 0.08]) * (1 + 0.16 * grain)[..., None], 0.01, 1), np.float32
        )

    def _lay(self, places: Points, colour: NDArray[np.float32], things: tuple[Paint | Shade, ...]) -> None:
        """Card and things over the colours of places, in their order."""
        height, near = 0.0, places
        for thing in things:
            if thing.height != height or self.bend:
                height, near = thing.height, self._at(places, thing.height)
            away = thing.shape(near)
            if isinstance(thing, Shade):
                dark = thing.depth * np.clip(-away / max(thing.soft, 1e-6), 0, 1)
                if thing.within is not None:
                    dark = np.where(thing.within(near) < 0, dark, 0)
                colour *= (1 - dark)[:, None]
                continue
            inside = away < 0
            colour[inside] = thing.colour(near[inside]) if callable(thing.colour) else thing.colour

    def _at(self, places: Points, above: float) -> Points:
        eye = self.eye
        bent = above + self.bend * (places[:, :1] / 50) ** 2 if self.bend else above
        return np.asarray(eye[:2] + (places - eye[:2]) * (1 - bent / eye[2]))

    def _card(self) -> tuple[Paint | Shade, ...]:
        grow = self.printed / CHECK_LENGTH
        ink, grey = (0.02, 0.02, 0.022), (0.42, 0.42, 0.42)
        white = (self.ground, self.ground, self.ground * 0.985)
        flat: list[Paint | Shade] = [Paint(0, box(0, -4, WIDTH, HEIGHT), white)]
        flat += [Paint(0, marker(number, grow), ink) for number in range(4) if number not in self.hidden]
        ring = RING_DIAMETER / 2 * grow
        flat.append(Paint(0, band(0, 0, ring - RING_LINE / 2, ring + RING_LINE / 2), grey))
        flat.append(Paint(0, box(0, CHECK_AT * grow, CHECK_LENGTH * grow, 0.2), grey))
        return tuple(flat)

    @property
    def eye(self) -> Points:
        """Where the camera is, mm about the card's middle."""
        off = self.height * math.tan(math.radians(self.tilt))
        leans = math.radians(self.leans)
        return np.array([off * math.sin(leans), off * math.cos(leans), self.height])

    def _axes(self) -> Points:
        """Right, down and forwards of the camera, looking at the card's middle."""
        forwards = -self.eye / np.linalg.norm(self.eye)
        turn = math.radians(self.turn)
        up = np.array([math.sin(turn), math.cos(turn), 0.0])
        right = np.cross(forwards, up)
        right /= np.linalg.norm(right)
        return np.array([right, np.cross(forwards, right), forwards])

    @property
    def _focal(self) -> float:
        return max(self.size) / 2 / math.tan(math.radians(self.field / 2))

    def on_card(self, pixels: Points) -> Points:
        """Where the rays of pixels meet the card's plane, mm."""
        bent = (pixels - np.array([(self.size[0] - 1) / 2, (self.size[1] - 1) / 2])) / self._focal
        plain = bent
        for _ in range(6 if self.distortion else 0):
            plain = bent / (1 + self.distortion * (plain**2).sum(axis=1, keepdims=True))
        rays = np.column_stack([plain, np.ones(len(plain))]) @ self._axes()
        return np.asarray(self.eye[:2] - rays[:, :2] * (self.eye[2] / rays[:, 2:]))

    def in_picture(self, place: tuple[float, float, float]) -> tuple[float, float]:
        """The pixel of a place above the card, mm."""
        seen = self._axes() @ (np.array(place) - self.eye)
        plain = seen[:2] / seen[2]
        x, y = plain * (1 + self.distortion * float((plain**2).sum())) * self._focal
        return float(x + (self.size[0] - 1) / 2), float(y + (self.size[1] - 1) / 2)

    def _card_in_picture(self) -> tuple[int, int, int, int]:
        ends = [self.in_picture((x, y, 0)) for x in (-58, 58) for y in (-84, 76)]
        xs, ys = [x for x, _ in ends], [y for _, y in ends]
        return (
            max(int(min(xs)) - 3, 0),
            max(int(min(ys)) - 3, 0),
            min(int(max(xs)) + 3, self.size[0]),
            min(int(max(ys)) + 3, self.size[1]),
        )


def marker(number: int, grow: float) -> PaintShape:
    """The black of one of the card's markers; `grow` is the print's scale."""
    left, top = (
        MARKER_MIDDLES[number][axis] * grow + side * MARKER_SIDE / 2 * grow
        for axis, side in ((0, -1), (1, 1))
    )
    rows = ["0" * CELLS, *(f"0{row}0" for row in MARKER_BITS[number]), "0" * CELLS]
    black = np.array([[bit == "0" for bit in row] for row in rows])
    cell = MARKER_SIDE / CELLS * grow

    def away(at: Points) -> NDArray[np.float64]:
        u, v = (at[:, 0] - left) / cell, (top - at[:, 1]) / cell
        found = np.ones(len(at))
        on = np.nonzero((u > 0) & (u < CELLS) & (v > 0) & (v < CELLS))[0]
        found[on] = np.where(black[v[on].astype(int), u[on].astype(int)], -1, 1)
        return found

    return away


def disc(x: float, y: float, radius: float) -> PaintShape:
    """A round shape, mm."""
    return lambda at: np.hypot(at[:, 0] - x, at[:, 1] - y) - radius


def band(x: float, y: float, inner: float, outer: float) -> PaintShape:
    """A ring between two radii, mm."""

    def away(at: Points) -> NDArray[np.float64]:
        out = np.hypot(at[:, 0] - x, at[:, 1] - y)
        return np.maximum(out - outer, inner - out)

    return away


def box(x: float, y: float, width: float, height: float, turn: float = 0.0) -> PaintShape:
    """A rectangle about a place, mm, turned clockwise by degrees."""
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))

    def away(at: Points) -> NDArray[np.float64]:
        u, v = at[:, 0] - x, at[:, 1] - y
        return np.maximum(np.abs(u * c - v * s) - width / 2, np.abs(u * s + v * c) - height / 2)

    return away


def taper(begin: tuple[float, float], end: tuple[float, float], wide: float, narrow: float) -> PaintShape:
    """A strip from one place to another, mm, its half widths changing evenly; cut square at its ends."""
    length = math.hypot(end[0] - begin[0], end[1] - begin[1])
    ux, uy = (end[0] - begin[0]) / length, (end[1] - begin[1]) / length

    def away(at: Points) -> NDArray[np.float64]:
        u, v = at[:, 0] - begin[0], at[:, 1] - begin[1]
        along, across = u * ux + v * uy, np.abs(u * uy - v * ux)
        half = wide + (narrow - wide) * np.clip(along / length, 0, 1)
        return np.maximum(across - half, np.maximum(-along, along - length))

    return away


def without(shape: PaintShape, *taken: PaintShape) -> PaintShape:
    """A shape with others cut out."""
    return lambda at: np.maximum.reduce([shape(at), *(-one(at) for one in taken)])
