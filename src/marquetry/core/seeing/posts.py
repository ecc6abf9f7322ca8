"""What stands up: feet and posts, seen as a lit top, the flank under it, and the shadow that it casts.

A top is often of the very metal it stands on, and a shadow darker than either; a plain disc would settle on
the shadow. So all three are laid over the light together: where the flank lies is known from where the
camera stands, and the shadow is begun where it is darkest.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.arrays import Reals
from marquetry.core.seeing.discs import FLOOR_PX, Patch, patch_about, straight
from marquetry.core.seeing.plane import Plane

AROUND = 0.95
"""mm beyond a post's radius that are looked at."""
HOPELESS = 0.4
"""Share of the light's unrest below which a few turns have shown that no post is there."""
SHADOW = 0.6
"""How long a foot's shadow is as a rule, mm."""


@dataclass(frozen=True, slots=True)
class Post:
    """A post's top in the plane's mm, as seen; `contrast` of top, flank or shadow against the ground."""

    middle: Reals
    radius: float
    contrast: float
    left: float
    doubt: float
    explained: float
    top: float
    shadow: Reals


def fit_top(plane: Plane, spot: Reals, radius: float, heights: tuple[float, float]) -> Post:
    """The post whose top caught the eye at a spot, from the lower to the upper of two heights (mm)."""
    model, patch = _begin(plane, spot, radius, heights, 0.0)
    towards = _darkest(patch, spot)
    begun = [
        _fit(
            model, patch, np.array([*(spot - off * towards), radius, *(SHADOW * towards)]), (spot, radius), 6
        )
        for off in (0.0, 0.15)
    ]
    best = min(begun, key=lambda fit: fit.square)
    if 1 - best.square / max(best.plain, 1e-9) > HOPELESS:
        best = _fit(model, patch, best.values, (spot, radius), 16)
    return _told(plane, best)


def _darkest(patch: Patch, spot: Reals) -> Reals:
    """The direction from a spot to where its surroundings are darkest, as a unit vector."""
    beside = patch.at - spot
    out = np.hypot(*beside.T)
    brightness = patch.light.mean(axis=1)
    lost = np.maximum(np.median(brightness) - brightness - 0.01, 0) * (out < SHADOW + 0.35)
    towards = (beside * lost[:, None]).sum(axis=0)
    length = float(np.hypot(*towards))
    return np.asarray(towards / length) if length > 1e-9 else np.array([0.0, 1.0])  # no shadow


def fit_post(
    plane: Plane, middle: Reals, radius: float, heights: tuple[float, float], dark: Reals, *, core: float
) -> Post:
    """The post about a middle known within some tenths; light nearer to it than `core` is another's.

    `dark` is where its shadow falls, as a guess.
    """
    model, patch = _begin(plane, middle, radius, heights, core)
    return _told(plane, _fit(model, patch, np.array([*middle, radius, *(0.5 * dark)]), (middle, radius), 12))


def _begin(
    plane: Plane, spot: Reals, radius: float, heights: tuple[float, float], core: float
) -> "tuple[_Model, Patch]":
    flank = plane.displaced(spot, heights[0]) - plane.displaced(spot, heights[1])
    patch = patch_about(plane, spot, radius + AROUND, 0.0)
    every = _thin(plane)
    return _Model(plane.blur, flank, core), Patch(patch.at[::every], patch.light[::every])


def _thin(plane: Plane) -> int:
    """Every how many samples one is taken: about two a pixel of the picture."""
    return max(round((plane.picture_step / plane.step) ** 2 / 1.6), 1)


@dataclass(frozen=True, slots=True)
class _Model:
    blur: float
    flank: Reals
    core: float


@dataclass(frozen=True, slots=True)
class _Fit:
    values: Reals
    square: float
    slopes: Reals
    colours: Reals
    plain: float
    used: int


def _design(model: _Model, at: Reals, values: Reals) -> tuple[Reals, NDArray[np.bool_]]:
    """Columns: top, flank, shadow, ground and its two slopes; and which places count."""
    beside = at - values[:2]
    out = np.hypot(*beside.T)
    radius = float(values[2])
    top = straight(radius - out, radius, model.blur)
    whole = np.maximum(_strip(beside, radius, model.flank, model.blur), top)
    foot = beside - model.flank
    shadow = _strip(
        foot, radius, values[3:5], math.hypot(model.blur, SOFT * float(np.hypot(*values[3:5])))
    ) * (1 - whole)
    open_ = 1 - whole
    columns = np.stack([top, whole - top, shadow, open_, open_ * beside[:, 0], open_ * beside[:, 1]], axis=1)
    return columns, out >= model.core


BRIGHTENS = 4.0
STEPS = (0.004, 0.004, 0.004, 0.02, 0.02)
"""Steps of top, radius and shadow, mm, by which slopes are taken."""
SOFT = 0.12
"""How soft a shadow's rim is, mm a mm of its length."""


def _strip(beside: Reals, radius: float, along: Reals, blur: float) -> Reals:
    """Blurred share of what a disc covers that is drawn along a way."""
    length = max(float(along @ along), 1e-9)
    share = np.clip(beside @ along / length, 0, 1)
    return straight(radius - np.hypot(*(beside - share[:, None] * along).T), radius, blur)


RIDGE = np.diag([1e-3, 3e-2, 3e-2, 1e-6, 1e-3, 1e-3])
"""Columns that show little, a flank of a hundredth, are held near the ground's colour."""


def _off(model: _Model, patch: Patch, values: Reals) -> tuple[Reals, Reals]:
    columns, used = _design(model, patch.at, values)
    columns[np.logical_not(used)] = 0
    light = patch.light * used[:, None]
    ground = np.median(patch.light, axis=0)
    # Colours are sought as differences to the ground, so that the ridge draws to it.
    left = light - columns[:, [0, 1, 2, 3]].sum(axis=1)[:, None].clip(0, 1) * ground
    solved = np.linalg.solve(columns.T @ columns + RIDGE, columns.T @ left)
    off = left - columns @ solved
    # A shadow darkens: one that brightens is the top itself, taken for it.
    return off * (1.0 + BRIGHTENS * max(float(solved[2].sum()), 0.0)), solved


def _fit(model: _Model, patch: Patch, values: Reals, about: tuple[Reals, float], turns: int) -> _Fit:
    spot, usual = about
    off, colours = _off(model, patch, values)
    square, damp = float((off**2).sum()), 1e-2
    slopes = np.zeros((off.size, 5))
    for _ in range(turns):
        for number, step in enumerate(STEPS):
            there = values.copy()
            there[number] += step
            slopes[:, number] = (_off(model, patch, there)[0] - off).ravel() / step
        # The radius is known to be a foot's within a quarter: else a faint top swallows its own flank.
        normal = slopes.T @ slopes
        pull = np.array([0, 0, (values[2] - usual) / 0.10**2, 0, 0]) * square / max(off.size, 1)
        normal[2, 2] += square / max(off.size, 1) / 0.10**2
        move = np.linalg.solve(
            normal + damp * np.diag(np.diag(normal)) + 1e-9 * np.eye(5), -slopes.T @ off.ravel() - pull
        )
        tried = values + np.clip(move, -0.15, 0.15)
        long = float(np.hypot(*tried[3:5]))
        tried[3:5] *= min(1.0, 2.5 / max(long, 1e-9))
        if (
            not 0.45 * usual < tried[2] < 1.8 * usual or float(np.hypot(*(tried[:2] - spot))) > 1.0
        ):  # shares of a foot; mm
            break
        new, new_colours = _off(model, patch, tried)
        new_square = float((new**2).sum())
        if new_square < square:
            small = float(np.abs(tried - values)[:3].max()) < 4e-4  # mm
            values, off, colours, square, damp = tried, new, new_colours, new_square, damp / 4
            if small:
                break
        else:
            damp *= 8
            if damp > 1e5:  # nothing smaller helps
                break
    plain = patch.light - np.median(patch.light, axis=0)
    return _Fit(values, square, slopes, colours, float((plain**2).sum()), off.size)


def _told(plane: Plane, fit: _Fit) -> Post:
    left = math.sqrt(fit.square / max(fit.used - 20, 1))
    differences = np.linalg.norm(fit.colours[:3] - fit.colours[3], axis=1)
    spread = np.linalg.inv(fit.slopes.T @ fit.slopes + 1e-9 * np.eye(5)) * left**2 * 3
    doubt = math.sqrt(max(float(spread[:2, :2].trace()) / 2, 0) + (FLOOR_PX * plane.picture_step) ** 2)
    return Post(
        fit.values[:2],
        float(fit.values[2]),
        float(differences.max()),
        left,
        doubt,
        1 - fit.square / max(fit.plain, 1e-9),
        float(differences[0]),
        fit.values[3:5],
    )
