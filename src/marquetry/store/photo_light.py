"""How bright a patch of a kept photograph is, in linear light."""

from pathlib import Path

import numpy as np

from marquetry.core.proving.lume_decay import linear
from marquetry.core.values.errors import DimensionError, NotFoundError
from marquetry.store.photos import DECODING, Photo, file_of

LUMINANCE = (0.2126, 0.7152, 0.0722)
"""Shares of red, green and blue (IEC 61966-2-1)."""


def patch_light(
    database: Path, photo: Photo, spots: dict[str, tuple[float, float]], radius: int
) -> dict[str, float]:
    """Mean linear luminance, 0 to 1, of round patches by name, each around a pixel.

    DimensionError where a patch leaves the picture; NotFoundError where its file is lost.
    """
    from PIL import Image  # noqa: PLC0415  # heavy, and rarely wanted

    path = file_of(database, photo.digest)
    if not path.exists():
        raise NotFoundError(f"the file of photograph {photo.id}")
    with DECODING, Image.open(path, formats=("JPEG",)) as picture:
        levels = np.asarray(picture.convert("RGB"))
    table = np.array([linear(level) for level in range(256)])
    return {name: _light(levels, table, name, spot, radius) for name, spot in spots.items()}


def _light(levels: np.ndarray, table: np.ndarray, name: str, spot: tuple[float, float], radius: int) -> float:
    high, wide = levels.shape[:2]
    x, y = spot
    if not (radius <= x < wide - radius and radius <= y < high - radius):
        raise DimensionError(
            name, f"{x:.0f}; {y:.0f}", "pixels", "a patch that lies in the picture as a whole"
        )
    rows, columns = np.ogrid[:high, :wide]
    inside = (columns - x) ** 2 + (rows - y) ** 2 <= radius**2
    return float((table[levels[inside]] @ np.array(LUMINANCE)).mean())
