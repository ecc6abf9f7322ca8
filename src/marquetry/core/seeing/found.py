"""What a picture comes to: finds with their doubt, and what the eye has to settle."""

import math
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np

from marquetry.core.seeing.arrays import Reals
from marquetry.core.seeing.plane import Plane
from marquetry.core.values.dimension import Unit

PictureKind = Literal["dial-back", "dial-front", "movement", "hands", "ring", "plain"]
TWICE = 2.0
"""k of the expanded uncertainty."""
MarkShape = Literal["circle", "line", "box"]


@dataclass(frozen=True, slots=True)
class FindMark:
    """What was seen of a find, to be drawn over the plane: middle and radius, or from and to; mm."""

    shape: MarkShape
    at: tuple[float, float]
    radius: float = 0.0
    to: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True, slots=True)
class PictureFind:
    """A dimension read: path within the part, value with tolerance (k = 2), and the pixel of its middle."""

    path: str
    value: float
    tol: float
    unit: Unit
    at: tuple[float, float]
    sure: bool
    mark: FindMark

    def as_dict(self) -> dict[str, Any]:
        """As the command prints it."""
        return {
            "path": self.path,
            "value": round(self.value, 4),
            "tol": round(self.tol, 4),
            "unit": self.unit,
            "at": [round(self.at[0], 2), round(self.at[1], 2)],
            "sure": self.sure,
        }


@dataclass(frozen=True, slots=True)
class AskedOf:
    """What the picture does not settle by itself: the path, words that say what to do, and where."""

    path: str
    words: str
    at: tuple[float, float] | None = None

    def as_dict(self) -> dict[str, Any]:
        """As the command prints it."""
        return {
            "path": self.path,
            "words": self.words,
            "at": None if self.at is None else [round(x, 2) for x in self.at],
        }


@dataclass(slots=True)
class Findings:
    """Finds and questions as they are gathered on one plane."""

    plane: Plane
    finds: list[PictureFind] = field(default_factory=list)
    asks: list[AskedOf] = field(default_factory=list)

    def pixel(self, place: Reals) -> tuple[float, float]:
        """The picture's pixel of a place, mm."""
        x, y = self.plane.view.to_picture(np.asarray(place, float).reshape(1, 2))[0]
        return float(x), float(y)

    def length(
        self, path: str, value: float, corrected: float, doubt: float, mark: FindMark, *, sure: bool = True
    ) -> None:
        """A length, mm; `corrected` is what its height took off it, `doubt` its standard uncertainty."""
        tol = math.hypot(TWICE * doubt, corrected / 2, TWICE * self.plane.view.doubt_scale * value)
        self.finds.append(PictureFind(path, value, tol, "mm", self.pixel(np.array(mark.at)), sure, mark))

    def place(
        self,
        path: str,
        thing: "Placed",
        about: "Placed",
        turn: float,
        *,
        mirrored: bool,
        turn_doubt: float = 0.0,
    ) -> None:
        """Radius and angle of a thing about another, clockwise from `turn`°, itself ± `turn_doubt`."""
        apart = thing.place - about.place
        radius = float(np.hypot(*apart))
        along = apart / max(radius, 1e-9)
        across = np.array([along[1], -along[0]])
        corrected = (thing.seen - thing.place) - (about.seen - about.place)
        doubt = math.hypot(thing.doubt, about.doubt)
        scale = TWICE * self.plane.view.doubt_scale * radius
        angle = math.degrees(math.atan2(apart[0], apart[1])) - turn
        angle = (-angle if mirrored else angle) % 360.0
        out = math.hypot(TWICE * doubt, 0.5 * float(corrected @ along), scale)
        across_doubt = math.hypot(TWICE * doubt, 0.5 * float(corrected @ across))
        round_it = math.hypot(math.degrees(across_doubt / max(radius, 1e-9)), turn_doubt)
        at, mark = self.pixel(thing.seen), thing.mark
        self.finds.append(PictureFind(f"{path}radius", radius, out, "mm", at, thing.sure, mark))
        self.finds.append(PictureFind(f"{path}angle", angle, round_it, "°", at, thing.sure, mark))

    def ask(self, path: str, words: str, place: Reals | None = None) -> None:
        """Ask about what cannot be read by itself."""
        self.asks.append(AskedOf(path, words, None if place is None else self.pixel(place)))


@dataclass(frozen=True, slots=True)
class Placed:
    """A thing in the plane: where it is seen, where it is, and the standard uncertainty of that, mm."""

    seen: Reals
    place: Reals
    doubt: float
    mark: FindMark
    sure: bool = True


def pair(place: Reals) -> tuple[float, float]:
    """A place in mm as two plain numbers."""
    return float(place[0]), float(place[1])


def circle_mark(middle: Reals, radius: float) -> FindMark:
    """The mark of a circle."""
    return FindMark("circle", pair(middle), radius)
