"""A picture to be measured: its pixels upright, and what it tells of its lens.

Nothing of a picture is trusted: size and pixels are limited before it is decoded, one at a time. One larger
than any measuring needs is taken smaller at once, so that memory stays within a gigabyte.
"""

import math
from dataclasses import dataclass
from io import BytesIO
from threading import Lock

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.refusal import PictureError

MOST_BYTES = 40_000_000
MOST_PIXELS = 60_000_000
USED_PIXELS = 16_000_000
"""Pixels that are measured; four by four thousand tell a card's pixel of six hundredths."""
LEAST_SIDE = 300
FORMATS = ("JPEG", "PNG", "WEBP", "TIFF")
WANTED = "a JPEG, PNG, WebP or TIFF picture of at most 40 MB and 60 megapixels is wanted"
EXIF, FOCAL_35 = 0x8769, 0xA405
FILM_DIAGONAL = math.hypot(36, 24)
SHORTEST, LONGEST = 10, 200
"""Focal lengths for film of 36 × 24 mm, mm, that are believed."""
DECODING = Lock()


@dataclass(frozen=True, slots=True)
class Photograph:
    """Pixels (rows × columns × RGB), how many of the file's one stands for, and the focal length in them."""

    pixels: NDArray[np.uint8]
    shrunk: float
    focal: float | None


def read_photograph(raw: bytes) -> Photograph:
    """The picture in a file. PictureError where it is none, or too large."""
    from PIL import Image, ImageOps, UnidentifiedImageError  # noqa: PLC0415  # heavy, and rarely wanted

    if len(raw) > MOST_BYTES:
        raise PictureError("file", f"The file has {len(raw) / 1e6:.0f} MB: {WANTED}.")
    try:
        with DECODING, Image.open(BytesIO(raw), formats=FORMATS) as picture:
            width, height = picture.size
            if width * height > MOST_PIXELS or min(width, height) < LEAST_SIDE:
                raise PictureError("file", f"The picture has {width} × {height} pixels: {WANTED}.")
            focal = _focal(picture.getexif().get_ifd(EXIF).get(FOCAL_35), width, height)
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        if isinstance(error, PictureError):
            raise
        raise PictureError("file", f"This is no picture, or a damaged one: {WANTED}.") from None
    shrunk = max(math.sqrt(width * height / USED_PIXELS), 1.0)
    if shrunk > 1:
        upright = upright.reduce(math.ceil(shrunk))
        shrunk = float(math.ceil(shrunk))
    return Photograph(np.asarray(upright, np.uint8), shrunk, None if focal is None else focal / shrunk)


def _focal(told: object, width: int, height: int) -> float | None:
    """The focal length in pixels from that for film, as telephones write it."""
    if not isinstance(told, int) or not SHORTEST <= told <= LONGEST:
        return None
    return told / FILM_DIAGONAL * math.hypot(width, height)
