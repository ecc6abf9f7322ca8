"""The one date window of a dial: the cut-out for the date and what the sheet says of its place are one thing.

A seller tells an angle and a radius, a cutter gets an outline. Kept as two, a window was moved in the one and
cut by the other; so whichever of them an edit changes, the other follows.
"""

import math

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.made import CUTOUTS
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.values.dimension import Dimension

ANGLE, RADIUS = "dial.date_window_angle", "dial.date_window_radius"
FULL_TURN = 360.0
ALIKE = 1e-6
"""Sizes that differ by less are one size, mm and degrees."""


def with_one_date_window(before: Build, after: Build) -> Build:
    """The sheet after an edit, its date cut-out and its date window at one place, mm and degrees.

    What the edit changed is followed; where it changed both, the cut-out counts.
    """
    cut = date_cutout(after)
    if cut is None:
        return after
    if _outline(after, cut) != _outline(before, date_cutout(before)):
        return _window_follows(after, cut)
    moved = [path for path in (ANGLE, RADIUS) if after.dimensions.get(path) != before.dimensions.get(path)]
    return _cut_follows(after, cut) if moved else after


def date_cutout(build: Build) -> str | None:
    """The path of the first cut-out for the date; None where there is none."""
    return next((path for path in cutouts_of(build) if build.at(f"{path}.for") == "date"), None)


def cutouts_of(build: Build) -> list[str]:
    """Paths of what is cut into the dial."""
    return [f"dial.{CUTOUTS.key}.{number}" for number in range(build.count(f"dial.{CUTOUTS.key}"))]


def _outline(build: Build, cut: str | None) -> Json:
    return None if cut is None else build.at(cut)


def _place(build: Build, cut: str) -> tuple[Dimension | None, Dimension | None]:
    """Angle and radius of the cut-out's middle, ° and mm; an arc's lies half way between its ends."""
    known = build.dimensions
    if build.at(f"{cut}.shape") != "arc":
        return known.get(f"{cut}.angle"), known.get(f"{cut}.at_radius")
    begin, end = known.get(f"{cut}.from"), known.get(f"{cut}.to")
    inner, outer = known.get(f"{cut}.inner_radius"), known.get(f"{cut}.outer_radius")
    angle = begin and end and _middle(begin, end, (end.value - begin.value) % FULL_TURN)
    radius = inner and outer and _middle(inner, outer, outer.value - inner.value)
    return angle, radius


def _middle(one: Dimension, other: Dimension, apart: float) -> Dimension:
    """Half way from one to the other; its tolerance is as if both had their own."""
    tol = math.hypot(one.tol, other.tol) / 2
    return Dimension(one.value + apart / 2, tol, one.source)


def _window_follows(build: Build, cut: str) -> Build:
    for path, found in zip((ANGLE, RADIUS), _place(build, cut), strict=True):
        if found is not None:
            value = found.value % FULL_TURN if path == ANGLE else found.value
            told = Dimension(round(value, 6), found.tol, found.source)
            if build.dimensions.get(path) != told:
                build = build.with_entry(path, dimension_as_json(told))
    return build


def _cut_follows(build: Build, cut: str) -> Build:
    """The cut-out brought to where the window was put; its width and height stay as they are."""
    was = _place(build, cut)
    for path, old in zip((ANGLE, RADIUS), was, strict=True):
        new = build.dimensions.get(path)
        if new is None:
            continue
        by = None if old is None else new.value - old.value
        for entry, value in _moved(build, cut, path, new.value, by):
            known = build.dimensions.get(entry)
            if known is None or abs(known.value - value) > ALIKE:
                told = Dimension(round(value, 6), new.tol, new.source)
                build = build.with_entry(entry, dimension_as_json(told))
    return build


def _moved(build: Build, cut: str, path: str, value: float, by: float | None) -> list[tuple[str, float]]:
    """Which of the cut-out's sizes move, and to what, mm or degrees."""
    if build.at(f"{cut}.shape") != "arc":
        return [(f"{cut}.angle" if path == ANGLE else f"{cut}.at_radius", value)]
    keys = ("from", "to") if path == ANGLE else ("inner_radius", "outer_radius")
    if by is None:
        return []
    values = [(f"{cut}.{key}", build.dimensions[f"{cut}.{key}"].value + by) for key in keys]
    return [(entry, there % FULL_TURN) for entry, there in values] if path == ANGLE else values
