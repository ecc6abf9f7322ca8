"""A plane of light back into a picture that people can look at."""

from io import BytesIO

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.plane import Plane

LINEAR_BELOW = 0.0031308
"""Light below which sRGB is a straight line."""


def seen_png(plane: Plane) -> bytes:
    """The plane as it was measured, square, as a PNG."""
    from PIL import Image  # noqa: PLC0415  # wanted only where a picture is measured

    file = BytesIO()
    Image.fromarray(_levels(plane)).save(file, "PNG")
    return file.getvalue()


def _levels(plane: Plane) -> NDArray[np.uint8]:
    light = np.clip(plane.light * 0.9, 0, 1)
    bent = 1.055 * np.maximum(light, 1e-9) ** (1 / 2.4) - 0.055
    coded = np.where(light <= LINEAR_BELOW, 12.92 * light, bent)
    return np.asarray(np.clip(coded, 0, 1) * 255 + 0.5, np.uint8)
