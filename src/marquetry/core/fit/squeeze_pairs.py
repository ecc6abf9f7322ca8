"""Crystal and gasket for one bore: every pair of diameter and wall, with the squeeze it gives."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from marquetry.core.fit.columns import CODES, Column
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.sheet.build import Build
from marquetry.core.values.verdict import Verdict

CHECK = "crystal_squeeze"
DIAMETER, WALL = "crystal.diameter", "crystal_gasket.wall"
DIAMETER_STEP, WALL_STEP = 0.1, 0.05
REACH = 4


@dataclass(frozen=True, slots=True)
class Size:
    """A diameter or a wall in mm, and what on the shelf has it; standard steps have no name."""

    value: float
    name: str = ""


@dataclass(frozen=True, slots=True)
class Pairs:
    """`rows` for each diameter: its size, then squeeze in per cent and verdict for each wall."""

    walls: tuple[Size, ...]
    rows: tuple[tuple[Size, tuple[tuple[float, Verdict], ...]], ...]


def steps_around(value: float, step: float) -> list[Size]:
    """Standard sizes around a value, `step` apart, in mm."""
    middle = round(value / step)
    return [Size(round((middle + k) * step, 4)) for k in range(-REACH, REACH + 1) if middle + k > 0]


def squeeze_pairs(
    build: Build, rules: Rules, diameters: Sequence[Size] = (), walls: Sequence[Size] = ()
) -> Pairs | None:
    """The chart around this watch's own sizes, with the shelf's; None where a size or the bore is missing."""
    check = rules.model.check(CHECK)
    finding = check.find(build, rules)
    if finding.value is None or finding.low is None:
        return None
    rows = _ordered(steps_around(build.dimensions[DIAMETER].value, DIAMETER_STEP), diameters)
    columns = _ordered(steps_around(build.dimensions[WALL].value, WALL_STEP), walls)
    doubt = {path: build.dimensions[path].tol for path in (DIAMETER, WALL)}
    moved = {
        DIAMETER: _column(np.array([[size.value] for size in rows]), doubt[DIAMETER]),
        WALL: _column(np.array([[size.value for size in columns]]), doubt[WALL]),
    }
    found = check.over(build, rules, moved)
    if found is None or found.values is None:
        return None
    verdicts = [[CODES[code] for code in row] for row in found.verdict_codes()]
    judged = [
        tuple(zip(map(float, row), told, strict=True))
        for row, told in zip(found.values, verdicts, strict=True)
    ]
    return Pairs(tuple(columns), tuple(zip(rows, judged, strict=True)))


def _column(values: Floats, tol: float) -> Column:
    return Column(values, np.full_like(values, tol))


def _ordered(standard: list[Size], own: Sequence[Size]) -> list[Size]:
    """Standard steps and the shelf's sizes by size; a shelf's name stands for its step."""
    named = {round(size.value, 3): size for size in own}
    merged = {**{round(size.value, 3): size for size in standard}, **named}
    return [merged[key] for key in sorted(merged)]
