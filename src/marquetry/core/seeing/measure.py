"""A picture, what lies on it and what is known of it; finds with their doubt come back."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.arrays import Light
from marquetry.core.seeing.camera import stand_of
from marquetry.core.seeing.card import CHECK_LENGTH
from marquetry.core.seeing.dial import dial
from marquetry.core.seeing.found import AskedOf, Findings, PictureFind, PictureKind
from marquetry.core.seeing.hands import hands
from marquetry.core.seeing.markers import find_markers, rough_markers
from marquetry.core.seeing.movement import movement
from marquetry.core.seeing.outline import no_part
from marquetry.core.seeing.plane import Plane, Scan, plane_of
from marquetry.core.seeing.profiles import LightWindow
from marquetry.core.seeing.ring import ring

MM_PER_INCH = 25.4
DIAL_THICKNESS, HAND_THICKNESS, FOOT_LENGTH = 0.4, 0.2, 1.4
SCAN_BLUR_PX = 0.9


@dataclass(frozen=True, slots=True)
class PictureTold:
    """What is known of a picture: kind, print, scanner, heights in mm, the stem's pixel, the window's °.

    `focal` is the focal length in pixels where the picture tells it, `post` the outermost post's name.
    """

    kind: PictureKind
    printed: float = CHECK_LENGTH
    dpi: float | None = None
    thickness: float | None = None
    camera: float | None = None
    foot_length: float = FOOT_LENGTH
    window_at: float | None = None
    stem_at: tuple[float, float] | None = None
    focal: float | None = None
    post: str = "hour"

    def on(self, shrunk: float, focal: float | None) -> "PictureTold":
        """The same for a picture of which one pixel stands for `shrunk`, with its lens in pixels."""
        stem_at = self.stem_at and (self.stem_at[0] / shrunk, self.stem_at[1] / shrunk)
        return replace(self, dpi=self.dpi and self.dpi / shrunk, stem_at=stem_at, focal=focal)


@dataclass(frozen=True, slots=True)
class Seen:
    """What a picture came to; `tilt` in degrees, `plane` what it was found on."""

    kind: PictureKind
    scale_from: str
    tilt: float
    finds: tuple[PictureFind, ...]
    asks: tuple[AskedOf, ...]
    plane: Plane

    def as_dict(self) -> dict[str, Any]:
        """As the command prints it."""
        scale = {
            "from": self.scale_from,
            "mm_per_px": round(self.plane.picture_step, 5),
            "tilt_deg": round(self.tilt, 2),
        }
        return {
            "kind": self.kind,
            "scale": scale,
            "fields": [find.as_dict() for find in self.finds],
            "asks": [ask.as_dict() for ask in self.asks],
        }


def measure(picture: NDArray[np.uint8], told: PictureTold) -> Seen:
    """Measure a picture (rows × columns × RGB, sRGB). PictureError where it has no answer."""
    plane, scale_from, tilt = _scanned(picture, told) if told.dpi else _on_card(picture, told)
    found = Findings(plane)
    _read(found, told)
    return Seen(told.kind, scale_from, tilt, tuple(found.finds), tuple(found.asks), plane)


def _read(found: Findings, told: PictureTold) -> None:
    if told.kind in {"dial-back", "dial-front"}:
        thickness = DIAL_THICKNESS if told.thickness is None else told.thickness
        dial(
            found,
            back=told.kind == "dial-back",
            thickness=thickness,
            foot_length=told.foot_length,
            window_at=told.window_at,
        )
    elif told.kind == "movement":
        movement(found, face=told.thickness, stem_at=told.stem_at, post=told.post)
    elif told.kind == "hands":
        hands(found, thickness=HAND_THICKNESS if told.thickness is None else told.thickness)
    elif told.kind == "ring":
        ring(found, thickness=DIAL_THICKNESS if told.thickness is None else told.thickness)


def _on_card(picture: NDArray[np.uint8], told: PictureTold) -> tuple[Plane, str, float]:
    import cv2  # noqa: PLC0415  # as in profiles

    rough = rough_markers(np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), np.uint8))
    size = picture.shape[1], picture.shape[0]
    left, top, right, bottom = rough.around(size)
    window = LightWindow(linear(picture[top:bottom, left:right]), (left, top))
    markers = find_markers(rough, window)
    camera = stand_of(markers, size, printed=told.printed, focal=told.focal, height=told.camera)
    return plane_of(window, camera, markers.blur), "card", camera.tilt


def _scanned(picture: NDArray[np.uint8], told: PictureTold) -> tuple[Plane, str, float]:
    """The plane of a scan, about what lies in it."""
    light = linear(picture)
    scan = Scan(MM_PER_INCH / float(told.dpi or 1), (picture.shape[1], picture.shape[0]))
    every = max(int(0.2 / scan.mm_per_px), 1)
    small = light[::every, ::every].mean(axis=2)
    edge = np.concatenate(
        [small[:3].ravel(), small[-3:].ravel(), small[:, :3].ravel(), small[:, -3:].ravel()]
    )
    ground = float(np.median(edge))
    away = np.abs(small - ground) > 0.1 * max(ground, 0.3)
    if float(away.sum()) * (every * scan.mm_per_px) ** 2 < 3.0:  # mm²
        raise no_part(plane_of(LightWindow(light), scan, SCAN_BLUR_PX))
    rows, columns = np.nonzero(away)
    middle = scan.to_card(np.array([[np.median(columns) * every, np.median(rows) * every]], float))[0]
    return plane_of(LightWindow(light), scan, SCAN_BLUR_PX, (float(middle[0]), float(middle[1]))), "dpi", 0.0


def linear(picture: NDArray[np.uint8]) -> Light:
    """Linear light of sRGB levels; edges blur in light, not in levels."""
    levels = np.arange(256) / 255
    table = np.where(levels <= 0.04045, levels / 12.92, ((levels + 0.055) / 1.055) ** 2.4).astype(
        np.float32
    )  # sRGB
    return np.asarray(table[picture], np.float32)
