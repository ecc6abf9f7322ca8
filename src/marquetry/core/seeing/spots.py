"""Where small round things may lie: a filter as wide as a foot over the light, and its peaks."""

import numpy as np

from marquetry.core.seeing.arrays import Light, Reals
from marquetry.core.seeing.plane import Plane

CORE, AROUND = 0.22, 0.60
"""Widths (σ, mm) of what counts as the spot and of what counts as its surroundings."""
RIM = 0.2
LEAST = 0.015
APART = 0.55
"""mm within which two peaks are one spot."""


def spots(
    plane: Plane, middle: Reals, inner: float, outer: float, *, most: int = 14, dark: bool = False
) -> list[Reals]:
    """Places between two radii (mm) about a middle where something small stands out, plainest first.

    `dark`: only what is darker than its surroundings.
    """
    import cv2  # noqa: PLC0415  # as in profiles

    rows, columns = np.indices(plane.light.shape[:2])
    places = plane.places(np.stack([columns, rows], axis=-1).astype(float))
    out = np.hypot(*np.moveaxis(places - middle, -1, 0))
    # Beyond the rim the body's own colour goes on, or the rim would be the plainest spot of all.
    rim = outer + RIM
    body = np.median(plane.light[(out < 0.95 * outer) & (out > inner)], axis=0)
    light = np.where((out > rim)[..., None], body, plane.light).astype(np.float32)
    told = (
        _darker(light, plane.step)
        if dark
        else _other(np.asarray(light / np.maximum(body, 0.02), np.float32), plane.step)
    )
    told = np.where((out > inner) & (out < outer), told, 0)
    wide = 2 * int(APART / plane.step) + 1
    peak = (told >= cv2.dilate(told.astype(np.float32), np.ones((wide, wide), np.uint8)) - 1e-9) & (
        told > (0.012 if dark else LEAST)
    )  # of the paper's light
    at = np.argwhere(peak)
    order = np.argsort(-told[peak])[:most]
    return [plane.places(np.array([column, row], float)) for row, column in at[order]]


def _spread(light: Light, step: float) -> Reals:
    """Light of a spot's own width less that of its surroundings."""
    import cv2  # noqa: PLC0415  # as in profiles

    core, around = (cv2.GaussianBlur(light, (0, 0), width / step) for width in (CORE, AROUND))
    return np.asarray(core - around)


def _darker(light: Light, step: float) -> Reals:
    return np.asarray(-_spread(light, step).sum(axis=2))


def _other(share: Light, step: float) -> Reals:
    """What is of another colour than the body, or brighter: a shadow is neither."""
    import cv2  # noqa: PLC0415  # as in profiles

    calm = cv2.GaussianBlur(share.astype(np.float32), (0, 0), 0.08 / step)
    mean = calm.mean(axis=2)
    colour = _spread(calm / np.maximum(mean, 0.05)[..., None], step)
    brighter = np.maximum(_spread(np.maximum(mean - 1, 0), step), 0)
    return np.asarray(np.sqrt((colour**2).sum(axis=2) + brighter**2))
