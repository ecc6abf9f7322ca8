"""A rim beside shaded paper: where the part ends, the paper's shadow beside it taken into account.

Close to anything that lies on it, paper is darker, and more so on the side away from the lamp: its light
rises over some tenths of a millimetre, and blurred together with the rim's own step it draws the edge
outwards by half a pixel. So step and rise are laid over the light together, for one sector of the round at
a time.
"""

from dataclasses import dataclass

import numpy as np

from marquetry.core.seeing.arrays import Reals

SECTORS = 48
RISES = (0.16, 0.40)
"""Lengths over which the paper's light comes back, mm; the better of them counts."""
ABOUT, GRID = 0.34, 0.01
"""mm about the circle so far within which the rim is sought, and how finely."""


@dataclass(frozen=True, slots=True)
class Rims:
    """By sector: where the rim lies along the rays (mm), the step's height and the shade's."""

    at: Reals
    step: Reals
    shade: Reals


def shaded_rims(profiles: Reals, offsets: Reals, blur: float) -> Rims:
    """Rims of light, rays × samples, that goes from the part (low offsets) to the paper; mm."""
    count = len(profiles) // SECTORS
    mean = profiles[: count * SECTORS].reshape(SECTORS, count, -1).mean(axis=1).T
    places = np.arange(-ABOUT, ABOUT + GRID / 2, GRID)
    best = np.full((len(RISES), len(places), SECTORS), np.inf)
    steps, shades = np.zeros_like(best), np.zeros_like(best)
    for row, rise in enumerate(RISES):
        for column, place in enumerate(places):
            square, told = _laid(mean, offsets - place, blur, rise)
            best[row, column], steps[row, column], shades[row, column] = square, told[1], told[2]
    row = np.argmin(best.min(axis=1), axis=0)
    sector = np.arange(SECTORS)
    along = best[row, :, sector]
    column = np.clip(np.argmin(along, axis=1), 1, len(places) - 2)
    left, middle, right = (along[sector, column + by] for by in (-1, 0, 1))
    bend = np.maximum(left - 2 * middle + right, 1e-12)
    at = places[column] + GRID * np.clip(0.5 * (left - right) / bend, -1, 1)
    return Rims(at, steps[row, column, sector], shades[row, column, sector])


def _laid(light: Reals, beyond: Reals, blur: float, rise: float) -> tuple[Reals, Reals]:
    """What is left, squared, of part, step and rise laid over the light by sector, and how much of each."""
    step = _edge(beyond / blur)
    open_ = np.maximum(beyond, 0)
    # The rise begins at the rim and is blurred with it: shifted by what a half blurred ramp lies higher.
    back = step * (1 - np.exp(-np.maximum(open_ + 0.4 * blur * np.exp(-np.abs(beyond) / blur), 0) / rise))
    design = np.stack([np.ones_like(beyond), step, back], axis=1)
    square = design.T @ design
    told = np.linalg.solve(square + 1e-9 * np.eye(3), design.T @ light)
    plain = np.linalg.solve(square[:2, :2] + 1e-9 * np.eye(2), design[:, :2].T @ light)
    # Light only ever rises from part to paper: a fall is the part's other edge, and no rim.
    plain = np.where(plain[1] < 0, np.vstack([light.mean(axis=0), np.zeros(light.shape[1])]), plain)
    lit = (told[2] < 0) | (told[1] < 0)
    told = np.where(lit, np.vstack([plain, np.zeros(light.shape[1])]), told)
    return ((light - design @ told) ** 2).sum(axis=0), told


def _edge(x: Reals) -> Reals:
    """A blurred step, as the normal distribution has it, to 0.0003."""
    return np.asarray(0.5 * (1 + np.tanh(0.7978845608 * (x + 0.044715 * x**3))))
