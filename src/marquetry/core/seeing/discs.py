"""Small circles of a few pixels: a blurred disc laid over the light until least of it is left.

An edge of such a circle is nowhere without its neighbour's blur in it, so that no ray sees it alone. What
lies outside may differ by direction; inside it is one colour, or two levels in a hole.
"""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from marquetry.core.seeing.arrays import Light, Reals
from marquetry.core.seeing.plane import Plane

FLOOR_PX = 0.05
"""Standard uncertainty of a disc, in pixels, that no noise explains: unevenness, a JPEG's blocks."""
BROAD = 2.2
"""Radius in blurs from which on a disc's edge is as good as straight."""
DiscRim = Literal["plain", "hole"]


@dataclass(frozen=True, slots=True)
class Disc:
    """A disc in the plane's mm: `contrast` of light against its surroundings, `left` what no disc explains.

    `whole` is the least contrast round it as a share of the mean: near 0 where part of its edge is not
    seen.
    """

    middle: Reals
    radius: float
    contrast: float
    left: float
    whole: float
    doubt: float
    inside: Reals
    outside: Reals


@dataclass(frozen=True, slots=True)
class Patch:
    """Places, n × 2 mm, and the light at them, n × 3."""

    at: Reals
    light: Reals


def fit_disc(  # what a disc may be
    plane: Plane,
    middle: Reals,
    radius: float,
    *,
    above: float = 0.0,
    rim: DiscRim = "plain",
    harmonics: int = 2,
    margin: float = 0.35,
    within: Reals | None = None,
    core: float = 0.0,
) -> Disc | None:
    """The disc near a place and a radius (mm); None where none is.

    Light nearer to the middle than `core` is left out: what stands there is another thing. `within` is the
    light inside where it is known: without it a disc of two pixels may be large and faint or small and
    bright. `rim` "hole": a hole through a plate as thick as `above`, which shows its upper or its lower
    edge by direction.
    """
    patch = patch_about(plane, middle, radius + margin + 2.2 * plane.blur, core)
    model = _Seen(plane.blur, harmonics, within)
    values = np.array([middle[0], middle[1], radius])
    moved = plane.displaced(middle, above) if rim == "hole" else np.zeros(2)
    damp = 1e-2
    off, solved = _off(model, patch, values, moved)
    square = float((off**2).sum())
    steps = np.array([0.004, 0.004, 0.004])
    slopes = np.zeros((off.size, 3))
    for _ in range(25):
        for number, step in enumerate(steps):
            there = values.copy()
            there[number] += step
            slopes[:, number] = (_off(model, patch, there, moved)[0] - off).ravel() / step
        normal = slopes.T @ slopes
        try:
            move = np.linalg.solve(normal + damp * np.diag(np.diag(normal)), -slopes.T @ off.ravel())
        except np.linalg.LinAlgError:
            return None
        tried = values + np.clip(move, -0.12, 0.12)
        if (
            tried[2] < 0.4 * radius
            or tried[2] > 2 * radius
            or math.hypot(*(tried[:2] - middle)) > radius + 0.25
        ):
            return None
        new, new_solved = _off(model, patch, tried, moved)
        new_square = float((new**2).sum())
        if new_square < square:
            small = float(np.abs(tried - values).max()) < 2e-4  # mm
            values, off, solved, square, damp = tried, new, new_solved, new_square, damp / 4
            if small:
                break
        else:
            damp *= 8
            if damp > 1e6:  # nothing smaller helps
                break
    left = math.sqrt(square / max(off.size - 12, 1))
    inside, outside = solved[0], solved[1 : 2 + 2 * harmonics]
    round_it = np.asarray(np.arange(24) * (2 * math.pi / 24), np.float64)
    waves = _waves(round_it, harmonics)
    contrast = (waves @ outside) - inside
    mean = contrast.mean(axis=0)
    length = max(float(np.linalg.norm(mean)), 1e-6)
    along = contrast @ (mean / length)
    # Samples overlap by the blur and by the finer step: as many are independent as there are pixels.
    grown = left**2 * (plane.picture_step / plane.step) ** 2 * 2
    spread = np.linalg.inv(slopes.T @ slopes + 1e-9 * np.eye(3)) * grown
    doubt = math.sqrt(max(float(spread[:2, :2].trace()) / 2, 0.0) + (FLOOR_PX * plane.picture_step) ** 2)
    return Disc(
        values[:2],
        float(values[2]),
        float(np.linalg.norm(contrast, axis=1).mean()),
        left,
        float(along.min()) / length,
        doubt,
        inside,
        outside[0],
    )


def patch_about(plane: Plane, middle: Reals, reach: float, core: float) -> Patch:
    """The light within reach of a middle and beyond a core, mm."""
    column, row = plane.samples(middle)
    wide = math.ceil(reach / plane.step)
    rows, columns = plane.light.shape[:2]
    top, bottom = max(int(row) - wide, 0), min(int(row) + wide + 1, rows)
    left, right = max(int(column) - wide, 0), min(int(column) + wide + 1, columns)
    light: Light = plane.light[top:bottom, left:right]
    grid = np.stack(np.meshgrid(np.arange(left, right), np.arange(top, bottom)), axis=-1).astype(float)
    at = plane.places(grid).reshape(-1, 2)
    out = np.hypot(*(at - middle).T)
    near = (out < reach) & (out >= core)
    return Patch(at[near], light.reshape(-1, 3)[near].astype(float))


def _waves(angles: Reals, harmonics: int) -> Reals:
    columns = [np.ones_like(angles)]
    for number in range(1, harmonics + 1):
        columns += [np.cos(number * angles), np.sin(number * angles)]
    return np.stack(columns, axis=1)


@dataclass(frozen=True, slots=True)
class _Seen:
    """What is laid over the light: blur (mm), waves round it, the light inside where it is known."""

    blur: float
    harmonics: int
    within: Reals | None


def _off(model: _Seen, patch: Patch, values: Reals, moved: Reals) -> tuple[Reals, Reals]:
    """What a disc leaves of the light, by place and colour; and the colours that leave least."""
    beside = patch.at - values[:2]
    out = np.hypot(*beside.T)
    angles = np.arctan2(beside[:, 0], beside[:, 1])
    edge = values[2]
    if moved.any():
        edge = edge + np.minimum((beside / np.maximum(out, 1e-6)[:, None]) @ moved, 0)
    inside = blurred(edge - out, edge, model.blur)
    waves = _waves(angles, model.harmonics)
    # Near the middle a direction means nothing: what lies outside shows there only through the blur, as
    # its mean.
    waves[:, 1:] *= np.clip(out / max(1.5 * model.blur, 1e-6), 0, 1)[:, None]
    design = np.column_stack([inside, waves * (1 - inside)[:, None]])
    weight = 1e-6 * np.eye(design.shape[1])
    if model.within is not None:
        rest, light = design[:, 1:], patch.light - np.outer(inside, model.within)
        solved = np.linalg.solve(rest.T @ rest + weight[1:, 1:], rest.T @ light)
        return light - rest @ solved, np.vstack([model.within, solved])
    solved = np.linalg.solve(design.T @ design + weight, design.T @ patch.light)
    return patch.light - design @ solved, np.asarray(solved)


def blurred(depth: Reals, radius: "Reals | float", blur: float) -> Reals:
    """Share of a blurred disc's light at a depth below its edge, mm."""
    plain = float(np.mean(radius))
    if plain > BROAD * blur:
        return straight(depth, plain, blur)
    out = np.linspace(0, plain + 5 * blur, 160)
    s = (np.arange(64) + 0.5) * (plain / 64)
    crossed = np.outer(out, s) / blur**2
    share = np.exp(-((out[:, None] - s) ** 2) / (2 * blur**2)) * np.i0(crossed) * np.exp(-crossed)
    profile = (share * s).sum(axis=1) * (plain / 64) / blur**2
    return np.asarray(np.interp(plain - depth, out, profile))


def straight(depth: Reals, radius: float, blur: float) -> Reals:
    """The same for a disc some blurs wide, whose edge is all but straight; half the work of the other."""
    # A disc blurred by σ loses σ²/2r at its rim: the bend of the edge, to first order.
    return np.asarray(0.5 * (1 + _erf((depth - blur**2 / (2 * max(radius, blur))) / (blur * math.sqrt(2)))))


def _erf(x: Reals) -> Reals:
    """The error function to 1.5e-7 (Abramowitz and Stegun 7.1.26)."""
    sign, x = np.sign(x), np.abs(x)
    t = 1 / (1 + 0.3275911 * x)
    poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))))
    return np.asarray(sign * (1 - poly * np.exp(-x * x)))
