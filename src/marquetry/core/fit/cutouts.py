"""A dial's cut-outs as checks and drawings read them: where the date shows, and how far each outline reaches.

Every figure asks only for the sizes that it needs: how far out a window reaches hangs on no angle. Outlines
are taken exactly, a rectangle to its corner and an arc to its edge: a bounding circle was rejected, since
half a millimetre decides whether a foot or the ledge is cut.
"""

import math
from collections.abc import Iterator
from typing import Protocol

import numpy as np
from uncertainties import umath

from marquetry.core.sheet.described.made import CUTOUTS as DESCRIBED
from marquetry.core.values.number import Number, greatest, least, nominal, square_root

CUTOUTS = f"dial.{DESCRIBED.key}"
ANGLE, RADIUS, NAMES = "dial.date_window_angle", "dial.date_window_radius", "dial.windows"
CALENDAR = ("date", "day")
FULL_TURN = 360.0
DEGREE = math.pi / 180


class CutReader(Protocol):
    """A watch being read: sizes in mm and degrees by path, words, counts, and a note of what is missing."""

    def __getitem__(self, path: str) -> Number: ...

    def known(self, path: str) -> bool:
        """Whether the entry is there."""

    def count(self, path: str) -> int:
        """How many things the list holds."""

    def word(self, path: str) -> str | None:
        """The word at the path."""

    def names(self, path: str) -> list[str]:
        """The list of words at the path."""

    def lack(self, path: str) -> None:
        """Note that something is not known."""


def cutouts(r: CutReader, purpose: str = "") -> Iterator[str]:
    """Paths of the dial's cut-outs, or of those for one purpose: `date`, `day`, `h24`, `open`."""
    for number in range(r.count(CUTOUTS)):
        path = f"{CUTOUTS}.{number}"
        if not purpose or r.word(f"{path}.for") == purpose:
            yield path


def windows_shown(r: CutReader) -> list[str]:
    """What of the calendar the dial shows: by its words, and by what is cut into it."""
    cut = {r.word(f"{path}.for") for path in cutouts(r)}
    named = r.names(NAMES)
    return [*named, *(name for name in CALENDAR if name in cut and name not in named)]


def has_date_window(r: CutReader) -> bool:
    """Whether the dial's date window has its place: cut into it, or told by an angle."""
    return any([next(cutouts(r, "date"), None) is not None, r.known(ANGLE)])


def date_window_angle(r: CutReader) -> Number:
    """Where the date window's middle stands, ° from 12: the cut-out's where there is one."""
    cut = next(cutouts(r, "date"), None)
    return r[ANGLE] if cut is None else _middle_angle(r, cut)


def date_window_radius(r: CutReader) -> Number:
    """How far from the axis the date window's middle stands, mm: the cut-out's where there is one."""
    cut = next(cutouts(r, "date"), None)
    return r[RADIUS] if cut is None else _middle_radius(r, cut)


def middle(r: CutReader, path: str) -> tuple[Number, Number]:
    """Where a cut-out's middle stands: from the axis, mm, and ° from 12."""
    return _middle_radius(r, path), _middle_angle(r, path)


def _middle_angle(r: CutReader, path: str) -> Number:
    if r.word(f"{path}.shape") != "arc":
        return r[f"{path}.angle"]
    begin, end = r[f"{path}.from"], r[f"{path}.to"]
    return begin + _clockwise(begin, end) / 2


def _middle_radius(r: CutReader, path: str) -> Number:
    if r.word(f"{path}.shape") != "arc":
        return r[f"{path}.at_radius"]
    return (r[f"{path}.inner_radius"] + r[f"{path}.outer_radius"]) / 2


def _clockwise(begin: Number, end: Number) -> Number:
    """From one angle clockwise to another, °, across 12 where the other is less."""
    turn = end - begin
    return turn - FULL_TURN * np.floor(nominal(turn) / FULL_TURN)


def nearest(r: CutReader, path: str) -> Number:
    """How near a cut-out comes to the axis, mm; 0 where it holds the axis."""
    shape = _shape(r, path)
    if shape == "arc":
        return r[f"{path}.inner_radius"]
    size = f"{path}.height" if shape == "rectangle" else f"{path}.diameter"
    return _or_zero(r[f"{path}.at_radius"] - r[size] / 2)


def furthest(r: CutReader, path: str) -> Number:
    """How far from the axis a cut-out reaches, mm: of a rectangle to its corners."""
    shape = _shape(r, path)
    if shape == "arc":
        return r[f"{path}.outer_radius"]
    if shape == "rectangle":
        return _hypotenuse(r[f"{path}.at_radius"] + r[f"{path}.height"] / 2, r[f"{path}.width"] / 2)
    return r[f"{path}.at_radius"] + r[f"{path}.diameter"] / 2


def distance(r: CutReader, path: str, radius: Number, angle: Number) -> Number:
    """From a point at a radius, mm, and an angle, ° from 12, to a cut-out, mm; 0 inside it."""
    shape = _shape(r, path)
    if shape == "arc":
        return _from_arc(r, path, radius, angle)
    along, across = _to_ray(radius, angle - r[f"{path}.angle"])
    along = along - r[f"{path}.at_radius"]
    if shape == "rectangle":
        beyond = _or_zero(_size(along) - r[f"{path}.height"] / 2)
        beside = _or_zero(_size(across) - r[f"{path}.width"] / 2)
        return _hypotenuse(beyond, beside)
    return _or_zero(_hypotenuse(along, across) - r[f"{path}.diameter"] / 2)


def _from_arc(r: CutReader, path: str, radius: Number, angle: Number) -> Number:
    """In its sector along the ray, else to the nearer of its two straight ends."""
    inner, outer = r[f"{path}.inner_radius"], r[f"{path}.outer_radius"]
    begin, end = r[f"{path}.from"], r[f"{path}.to"]
    if nominal(_clockwise(begin, angle)) <= nominal(_clockwise(begin, end)):
        return greatest([inner - radius, radius - outer, 0.0])
    ends = [_to_ray(radius, angle - edge) for edge in (begin, end)]
    return least([_hypotenuse(a - _within(a, inner, outer), b) for a, b in ends])


def _shape(r: CutReader, path: str) -> str:
    found = r.word(f"{path}.shape")
    if found is None:
        r.lack(f"{path}.shape")
    return found or ""


def _to_ray(radius: Number, turned: Number) -> tuple[Number, Number]:
    """A point as it lies to a ray that it is turned from by so many degrees: along it and across, mm."""
    return radius * umath.cos(turned * DEGREE), radius * umath.sin(turned * DEGREE)


def _within(value: Number, low: Number, high: Number) -> Number:
    return least([greatest([value, low]), high])


def _or_zero(number: Number) -> Number:
    """The number, mm, or 0 where it is negative: what lies inside is not away."""
    return greatest([number, 0.0])


def _size(number: Number) -> Number:
    """The number without its sign, mm, doubt and all."""
    return greatest([number, -number])


def _hypotenuse(a: Number, b: Number) -> Number:
    """Of two lengths, mm; a corner's own slope is not defined at 0, so it is told without one there."""
    squares = a**2 + b**2
    return square_root(squares) if nominal(squares) else 0.0
