"""Edges to a fraction of a pixel: the light along a line across them, and where it changes most.

The derivative of a Gaussian as wide as the picture's own blur is the filter that tells an edge best from
noise; its peak does not move where the light rises evenly on either side, as half of a level between two
means would.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.arrays import Light, PlanPlaces, Reals


@dataclass(frozen=True, slots=True)
class Edges:
    """By line: how far along it the edge lies, in steps' unit, and how much light changes there."""

    at: Reals
    rise: Reals


@dataclass(frozen=True, slots=True)
class LightWindow:
    """A part of a picture in linear light; `corner` is the picture's column and row of its first pixel.

    Three numbers of four bytes a pixel are eight times what a telephone's twelve megapixels take as a
    file's own bytes: only what the card covers is kept so.
    """

    light: Light
    corner: tuple[int, int] = (0, 0)

    def at(self, places: PlanPlaces) -> NDArray[np.float32]:
        """Light at places in the picture's pixels (… × 2); … × 3."""
        return light_at(self.light, places - np.array(self.corner, float))


def light_at(light: Light, places: PlanPlaces) -> NDArray[np.float32]:
    """Light at places in pixels (… × 2), by a cubic between pixels; … × 3."""
    import cv2  # noqa: PLC0415  # half a second, wanted only where a picture is measured

    flat = places.reshape(-1, places.shape[-2], 2).astype(np.float32)
    seen = cv2.remap(light, flat[..., 0], flat[..., 1], cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(seen, np.float32).reshape(*places.shape[:-1], -1)


def slope_filter(width: float, reach: int) -> Reals:
    """Derivative of a Gaussian of `width` samples, over 2·reach + 1 samples."""
    at = np.arange(-reach, reach + 1, dtype=float)
    kernel = at * np.exp(-0.5 * (at / width) ** 2)
    return np.asarray(kernel / np.abs(kernel * at).sum())


def slopes(profiles: Reals, width: float) -> Reals:
    """Change of light a sample along each line (lines × samples), smoothed by `width` samples."""
    reach = max(int(np.ceil(3 * width)), 1)
    kernel = slope_filter(width, reach)
    padded = np.pad(profiles, ((0, 0), (reach, reach)), mode="edge")
    views = np.lib.stride_tricks.sliding_window_view(padded, 2 * reach + 1, axis=1)
    return np.asarray(views @ kernel)


def peaks(values: Reals, columns: NDArray[np.intp]) -> Reals:
    """Where a parabola through a peak and its neighbours is highest, in samples."""
    rows = np.arange(len(values))
    inner = np.clip(columns, 1, values.shape[1] - 2)
    left, middle, right = (values[rows, inner + step] for step in (-1, 0, 1))
    bend = left - 2 * middle + right
    shift = np.where(
        np.abs(bend) > 1e-12, 0.5 * (left - right) / np.where(bend == 0, 1, bend), 0.0
    )  # no bend, no peak
    return np.asarray(inner + np.clip(shift, -1, 1))


def strongest(profiles: Reals, width: float, sign: float) -> Edges:
    """On each line the edge with the greatest change in the direction `sign`, in samples."""
    along = sign * slopes(profiles, width)
    columns = np.argmax(along, axis=1)
    rise = along[np.arange(len(along)), columns]
    return Edges(peaks(along, columns), np.asarray(rise))
