"""Crystal and gasket for one bore: every pair of diameter and wall, with the squeeze it gives."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from marquetry.core.fit.columns import CODES, Column
from marquetry.core.fit.rules import Rules
from marquetry.core.fit.stack import Floats
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import Part
from marquetry.core.values.dimension import Source
from marquetry.core.values.verdict import Verdict

CHECK = "crystal_squeeze"
DIAMETER, WALL, BORE = "crystal.diameter", "crystal_gasket.wall", "case.crystal_bore"
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


@dataclass(frozen=True, slots=True)
class GasketWanted:
    """What a gasket for this crystal and bore has to measure, mm: limits of its free wall, and the rest."""

    low: float
    high: float
    inner: float
    bore: float

    @property
    def outer_low(self) -> float:
        """Its least outer Ø, free, mm."""
        return self.inner + 2 * self.low

    @property
    def outer_high(self) -> float:
        """Its greatest outer Ø, free, mm."""
        return self.inner + 2 * self.high


def gasket_wanted(build: Build, rules: Rules) -> GasketWanted | None:
    """The walls whose squeeze lies within the limits at nominal; None where bore or crystal is not known.

    From squeeze s = (Ø + 2w − bore)/(2w): w = (bore − Ø)/(2(1 − s)). None too where the crystal fills it.
    """
    bore, crystal = build.dimensions.get(BORE), build.dimensions.get(DIAMETER)
    limits = rules.limits(CHECK, rules.model.check(CHECK).limits)
    if bore is None or crystal is None or bore.value <= crystal.value:
        return None
    gap = bore.value - crystal.value
    low, high = (gap / (2 * (1 - (percent or 0.0) / 100)) for percent in (limits.low, limits.high))
    return GasketWanted(low, high, crystal.value, bore.value)


def wall_of(gasket: Part) -> float | None:
    """A gasket's wall, mm: its own, else half of what its outer Ø has over its inner; None if not known."""
    sizes = gasket.dimensions
    if "wall" in sizes:
        return sizes["wall"].value
    if "outer_diameter" in sizes and "inner_diameter" in sizes:
        return (sizes["outer_diameter"].value - sizes["inner_diameter"].value) / 2
    return None


def steps_around(value: float, step: float) -> list[Size]:
    """Standard sizes around a value, `step` apart, in mm."""
    middle = round(value / step)
    return [Size(round((middle + k) * step, 4)) for k in range(-REACH, REACH + 1) if middle + k > 0]


def squeeze_pairs(
    build: Build, rules: Rules, diameters: Sequence[Size] = (), walls: Sequence[Size] = ()
) -> Pairs | None:
    """The chart around this watch's own sizes, with the shelf's; None where a size or the bore is missing."""
    if WALL not in build.dimensions:  # a gasket is what is looked for: any will do to draw the chart around
        usual: Json = {"value": build.anatomy.quantity_at(WALL).usual, "source": Source.ASSUMED.value}
        build = build.with_entry(WALL, usual)
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
