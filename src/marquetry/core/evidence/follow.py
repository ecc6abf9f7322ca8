"""What is assumed follows what is known: every assumed size settled by its neighbours, breadth first.

From all known sizes at once, so that the nearest known one decides: of two that both reach an assumed size
in the same round the row that stands first in the table. What no round reaches stays as it was.
"""

import math
from dataclasses import dataclass

from marquetry.core.evidence.mates import Mate, mates_of
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.number import Number

DECIMALS = 4


@dataclass(frozen=True, slots=True)
class Followed:
    """One assumed size that was settled: its path, its value in mm or °, and the known neighbour's path."""

    path: str
    value: float
    suits: str


class _Standing:
    """The sizes of a build as they stand at this moment; what is missing reads as NaN."""

    def __init__(self, build: Build) -> None:
        self._build = build
        self.lacking = False
        self.values = {path: found.value for path, found in build.dimensions.items()}

    def __getitem__(self, path: str) -> Number:
        return self.values.get(path, math.nan)

    def has(self, path: str) -> bool:
        return self._build.has(path)

    def known(self, path: str) -> bool:
        return path in self.values

    def count(self, path: str) -> int:
        return self._build.count(path)

    def word(self, path: str) -> str | None:
        found = self._build.at(path)
        return found if isinstance(found, str) else None

    def is_angle(self, path: str) -> bool:
        return self._build.anatomy.quantity_at(path).unit == "°"

    def is_possible(self, path: str, value: float) -> bool:
        try:
            self._build.anatomy.quantity_at(path).refuse_impossible(path, value)
        except DimensionError:
            return False
        return True

    def lack(self, path: str) -> None:  # noqa: ARG002  # which spacer it is makes no difference
        # A spacer without a side could lie on either: whatever reads it is passed over.
        self.lacking = True


def what_follows(build: Build) -> list[Followed]:
    """Every assumed size that a known one settles, in the order in which they were settled; mm and °."""
    standing, assumed = _Standing(build), assumed_paths(build)
    rows = list(mates_of(build))
    settled = {path: 0 for path in build.dimensions if path not in assumed}
    made: list[Followed] = []
    latest = 1
    while True:
        found = [f for row in rows if (f := _settle(row, standing, assumed, settled, latest))]
        if not found:
            return made
        made += found
        latest += 1


def suited_by(build: Build) -> dict[str, str]:
    """For every assumed size that a known one settles, the path of that one.

    Kept with the build, which never changes: a page of a whole part asks for it row by row.
    """
    kept: dict[str, str] | None = build.__dict__.get(KEPT)
    if kept is None:
        kept = build.__dict__[KEPT] = {found.path: found.suits for found in what_follows(build)}
    return kept


KEPT = "_suited_by"


def suits_told(build: Build, path: str) -> str:
    """What an assumed size goes by, in words: the known one that settles it; empty for one that is known."""
    found = build.dimensions.get(path)
    if found is None or found.source.is_known:
        return ""
    suits = suited_by(build).get(path)
    return f"Assumed to suit: {build.anatomy.label_of(suits)}." if suits else "Assumed as usual."


def assumed_paths(build: Build) -> set[str]:
    """Paths of the sizes that nobody said."""
    return {path for path, found in build.dimensions.items() if not found.source.is_known}


def _settle(
    row: Mate, standing: _Standing, assumed: set[str], settled: dict[str, int], round_: int
) -> Followed | None:
    """Settle one end of the row by the other, where that was known or settled in an earlier round."""
    for source, target, forwards in ((row.a, row.b, True), (row.b, row.a, False)):
        if settled.get(source, round_) >= round_ or target not in assumed or target in settled:
            continue
        standing.lacking, from_value = False, standing.values[source]
        value = row.b_from(from_value, standing) if forwards else row.a_from(from_value, standing)
        if math.isnan(value) or standing.lacking:
            continue
        rounded = round(_wrapped(target, value) if standing.is_angle(target) else value, DECIMALS) + 0.0
        if not standing.is_possible(target, rounded):
            continue
        standing.values[target] = rounded
        settled[target] = round_
        return Followed(target, rounded, source)
    return None


def _wrapped(path: str, value: float) -> float:
    """An angle in −180 … 180 where it is told from the stem, in 0 … 360 where from 12 o'clock."""
    return (value + 180.0) % 360.0 - 180.0 if path.startswith("movement.") else value % 360.0


def followed(build: Build) -> Build:
    """The build with every assumed size settled; tolerances and sources stay as they are."""
    parts: dict[str, Json] = {}
    for found in what_follows(build):
        key = found.path.partition(".")[0]
        if key not in parts:
            parts[key] = build.document["parts"][key]
        _write(parts, found.path, found.value)
    changed = {key: part for key, part in parts.items() if part != build.parts[key]}
    return build.with_parts(changed) if changed else build


def _write(parts: dict[str, Json], path: str, value: float) -> None:
    """Write a value over the one that stands at the path; it is known to be a dimension in braces."""
    *above, last = path.split(".")
    node: Json = parts
    for step in above:
        node = node[int(step)] if isinstance(node, list) else node[step]
    node[last] = {**node[last], "value": value}
