"""The heights of the hands as a system of difference constraints on a line, solved over its chains.

Every hand's blade has an unknown height u. Bounds hold u from below or above; steps hold one blade over
the next lower one. A chain runs from a bound below, over steps, to a bound above; its room is what is left
between them. Beating every wanted gap by m shrinks a chain's room by m for each wanted gap in it, so the
largest m is the smallest of room / number of wanted gaps: no search, and every figure a sum of terms.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

import numpy as np
from numpy.typing import NDArray

from marquetry.core.values.number import Number

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Bound:
    """A limit on one blade's height, or a step between two: `z` in mm, `wanted` where m is added to it.

    `name` says what it is, such as `minute.crystal_tip`; hard limits of engagement are not `wanted`.
    `air`, mm, is the wanted gap that `z` holds already: without it the parts touch.
    """

    name: str
    z: Number
    wanted: bool
    air: Number = 0.0


@dataclass(frozen=True, slots=True)
class Level:
    """One hand: its bounds from below and above, and the steps up from the hand beneath it."""

    hand: str
    floors: tuple[Bound, ...]
    ceilings: tuple[Bound, ...]
    steps: tuple[Bound, ...]


@dataclass(frozen=True, slots=True)
class Chains:
    """All chains through a stack: each row of `signs` adds up the terms to that chain's room.

    Terms are the bounds in the order of `terms_of`. `counts` is the number of wanted gaps in each chain.
    """

    signs: Floats
    counts: Floats

    def shares(self, rooms: Floats) -> Floats:
        """Room per wanted gap, chain by chain; a chain without any counts only where its room is negative.

        `rooms` has a row a chain, and a column a stack where there are many.
        """
        counts = self.counts.reshape(-1, *(1,) * (rooms.ndim - 1))
        hard = np.where(rooms < 0, rooms, np.inf)
        return np.where(counts > 0, rooms / np.maximum(counts, 1.0), hard)


def terms_of(levels: Sequence[Level]) -> list[Bound]:
    """Every bound and step of the stack, hand by hand."""
    return [bound for level in levels for bound in (*level.floors, *level.ceilings, *level.steps)]


def chains_of(levels: Sequence[Level]) -> Chains:
    """The chains through these levels; stacks of the same shape share one table."""
    shape = tuple(
        (
            tuple(b.wanted for b in lv.floors),
            tuple(b.wanted for b in lv.ceilings),
            tuple(b.wanted for b in lv.steps),
        )
        for lv in levels
    )
    return _chains(shape)


Shape = tuple[tuple[tuple[bool, ...], tuple[bool, ...], tuple[bool, ...]], ...]


@lru_cache(maxsize=64)
def _chains(shape: Shape) -> Chains:
    """Chains for one shape: each hand's floor to every hand's ceiling at or above it, by every step."""
    offsets = np.cumsum([0, *(sum(len(group) for group in level) for level in shape)])
    flat = [wanted for level in shape for group in level for wanted in group]
    rows: list[Floats] = []
    for low in range(len(shape)):
        for high in range(low, len(shape)):
            for members in _routes(shape, offsets, low, high):
                row = np.zeros(len(flat))
                row[list(members[:-1])] = -1.0
                row[members[-1]] = 1.0
                rows.append(row)
    signs = np.array(rows).reshape(len(rows), len(flat))
    return Chains(signs, np.abs(signs) @ np.array(flat, dtype=float))


def _routes(shape: Shape, offsets: NDArray[np.int_], low: int, high: int) -> list[tuple[int, ...]]:
    """Term numbers of every chain from hand `low` to hand `high`; the ceiling stands last."""
    floors = range(int(offsets[low]), int(offsets[low]) + len(shape[low][0]))
    first_ceiling = int(offsets[high]) + len(shape[high][0])
    ceilings = range(first_ceiling, first_ceiling + len(shape[high][1]))
    steps = [
        range(int(offsets[k]) + len(shape[k][0]) + len(shape[k][1]), int(offsets[k + 1]))
        for k in range(low + 1, high + 1)
    ]
    return list(product(floors, *steps, ceilings))


def spare(levels: Sequence[Level], values: Floats) -> Floats:
    """The largest m for many stacks of the same shape at once: `values` has a row a term, a column a stack.

    Of chains with the same ends and the same count only the tightest matters, so the highest floor, the
    lowest ceiling and the larger step of each kind stand for all: 40 chains instead of hundreds.
    """
    groups = _grouped(levels, values)
    least = np.full(values.shape[1:], np.inf)
    for low, (floors, _, _) in enumerate(groups):
        rise: Floats | float = 0.0
        for high in range(low, len(groups)):
            _, ceilings, steps = groups[high]
            rise = rise + steps.get(True, 0.0) if high > low else 0.0
            for (floor_wanted, floor), (ceiling_wanted, ceiling) in product(floors.items(), ceilings.items()):
                count = floor_wanted + ceiling_wanted + high - low
                room = -ceiling - floor - rise
                least = np.minimum(least, room / count if count else np.where(room < 0, room, np.inf))
    return least


Extremes = dict[bool, Floats]


def _grouped(levels: Sequence[Level], values: Floats) -> list[tuple[Extremes, Extremes, Extremes]]:
    """For each hand: highest floors, lowest ceilings (negated) and largest steps, hard and wanted apart."""
    rows = iter(values)
    found: list[tuple[Extremes, Extremes, Extremes]] = []
    for level in levels:
        kinds: list[Extremes] = []
        for sign, bounds in ((1.0, level.floors), (-1.0, level.ceilings), (1.0, level.steps)):
            extremes: Extremes = {}
            for bound in bounds:
                row = sign * next(rows)
                extremes[bound.wanted] = np.maximum(extremes.get(bound.wanted, row), row)
            kinds.append(extremes)
        found.append((kinds[0], kinds[1], kinds[2]))
    return found


def heights(levels: Sequence[Level], values: Floats, m: float) -> dict[str, float]:
    """A height for every blade at which each wanted gap is beaten by m: the middle of what is possible.

    The middle of the lowest and the highest solution is a solution too. Empty where none exists.
    """
    lowest, highest = _sweep(levels, values, m)
    if any(low > high + 1e-9 for low, high in zip(lowest, highest, strict=True)):
        return {}
    return {
        level.hand: float(low + high) / 2 for level, low, high in zip(levels, lowest, highest, strict=True)
    }


def _sweep(levels: Sequence[Level], values: Floats, m: float) -> tuple[list[float], list[float]]:
    """Lowest and highest possible heights: floors pushed upwards, ceilings pushed downwards."""
    terms = iter(values)
    groups = [
        [[next(terms) + (s * m if b.wanted else 0.0) for b in group] for s, group in _signed(level)]
        for level in levels
    ]
    lowest: list[float] = []
    for floors, _, steps in groups:
        pushed = [lowest[-1] + step for step in steps] if lowest else []
        lowest.append(max([*floors, *pushed], default=-math.inf))
    highest: list[float] = []
    steps_above: list[float] = []
    for _, ceilings, steps in reversed(groups):
        pushed = [highest[-1] - step for step in steps_above] if highest else []
        highest.append(min([*ceilings, *pushed], default=math.inf))
        steps_above = steps
    return lowest, highest[::-1]


def _signed(level: Level) -> tuple[tuple[float, tuple[Bound, ...]], ...]:
    """The level's bounds with the sign in which m moves them: floors and steps up, ceilings down."""
    return ((1.0, level.floors), (-1.0, level.ceilings), (1.0, level.steps))
