"""The card's markers in a picture: their corners to hundredths of a pixel, and how sharp the picture is."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.arrays import PlanPlaces
from marquetry.core.seeing.card import CELLS
from marquetry.core.seeing.profiles import LightWindow, strongest
from marquetry.core.seeing.refusal import PictureError

FEWEST = 3
MOST_EDGE_PX = 6.0
"""Widest edge, 10 to 90 %, pixels: beyond it a foot of seven pixels is a smear."""
STEP = 0.25
MARGIN = 0.1
"""Of the markers' spread, what is kept beyond them: room for the paper beside their edges."""
NO_EDGE = 40.0
"""Pixels beyond which what was measured is no edge of a square."""
EDGE_OF_SIGMA = 2.563
"""10 to 90 % of an edge blurred by a Gaussian, in its standard deviations."""


@dataclass(frozen=True, slots=True)
class Markers:
    """Numbers of the whole markers, edge points by marker and side, and the blur (σ), in pixels."""

    numbers: tuple[int, ...]
    sides: tuple[tuple[PlanPlaces, ...], ...]
    blur: float


@dataclass(frozen=True, slots=True)
class RoughMarkers:
    """Corners of markers by their number, to a pixel or so, and of squares that no number was read in."""

    corners: dict[int, PlanPlaces]
    squares: list[PlanPlaces]

    def around(self, size: tuple[int, int]) -> tuple[int, int, int, int]:
        """Left, top, right and bottom, pixels, of what the card may cover in a picture of this size."""
        places = [*self.corners.values(), *([] if len(self.corners) >= FEWEST else self.squares)]
        if not places:
            return 0, 0, *size
        ends = np.concatenate(places)
        low, high = ends.min(axis=0), ends.max(axis=0)
        wide = MARGIN * float((high - low).max())
        left, top = (max(int(x - wide), 0) for x in low)
        right, bottom = (min(int(x + wide) + 1, most) for x, most in zip(high, size, strict=True))
        return left, top, right, bottom


def find_markers(rough: RoughMarkers, window: LightWindow) -> Markers:
    """The card's markers to hundredths. PictureError for fewer than three, or for edges too soft."""
    found, squares = rough.corners, rough.squares
    if len(found) < FEWEST and len(squares) >= FEWEST:
        # Squares that nothing can be read in: the picture is soft, and says so itself.
        soft = [width for quad in squares[:12] if (width := _width(_sides(window, quad)[1])) < NO_EDGE]
        if len(soft) >= FEWEST:
            _refuse_soft(float(np.median(soft)))
    if not found:
        raise PictureError(
            "card", "No card is seen. Lay the part on the printed card and have all of it in the picture."
        )
    if len(found) < FEWEST:
        raise PictureError(
            "card",
            f"Only {len(found)} of the card's four markers are whole: fewer than three. "
            "Have the whole card in the picture, nothing on its corners.",
        )
    sides, shapes = [], []
    for number in sorted(found):
        lines, profiles = _sides(window, found[number])
        sides.append(lines)
        shapes.extend(profiles)
    width = _width(shapes)
    _refuse_soft(width)
    return Markers(tuple(sorted(found)), tuple(sides), width / EDGE_OF_SIGMA)


def _refuse_soft(width: float) -> None:
    if width > MOST_EDGE_PX:
        raise PictureError(
            "blur",
            f"The picture is too blurred: edges are {width:.1f} pixels wide, {MOST_EDGE_PX:g} would do. "
            "Hold the camera still, wait until it is in focus, and give more light.",
        )


def rough_markers(grey: NDArray[np.uint8]) -> RoughMarkers:
    """Where markers 0 to 3 lie in a grey picture."""
    import cv2  # noqa: PLC0415  # as in profiles

    dictionary = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
    detector = cv2.aruco.ArucoDetector(dictionary, cv2.aruco.DetectorParameters())
    found: dict[int, PlanPlaces] = {}
    squares: list[PlanPlaces] = []
    for shrunk in (1, 2, 4):
        small = (
            grey
            if shrunk == 1
            else cv2.resize(grey, None, fx=1 / shrunk, fy=1 / shrunk, interpolation=cv2.INTER_AREA)
        )
        quads, numbers, others = detector.detectMarkers(small)
        for quad, number in zip(quads, [] if numbers is None else numbers.ravel(), strict=True):
            if number < 4:  # the card has four
                found.setdefault(int(number), (np.asarray(quad[0], float) + 0.5) * shrunk - 0.5)
        if shrunk == 1:
            squares = [np.asarray(quad[0], float) for quad in others]
        if len(found) >= FEWEST:
            break
    return RoughMarkers(found, squares)


def _sides(window: LightWindow, quad: PlanPlaces) -> tuple[tuple[PlanPlaces, ...], list[NDArray[np.float64]]]:
    """Points on each of a marker's four sides, pixels, and the mean profile across each."""
    points, shapes = [], []
    for number in range(4):
        begin, end = quad[number], quad[(number + 1) % 4]
        length = float(np.hypot(*(end - begin)))
        along = (end - begin) / length
        outward = np.array([along[1], -along[0]])
        reach = min(max(0.8 * length / CELLS, 3.0), 24.0)
        at = np.linspace(0.14, 0.86, max(int(0.72 * length), 8))
        offsets = np.arange(-reach, reach + STEP / 2, STEP)
        base = begin + at[:, None] * (end - begin)
        for _ in range(2):  # the second time about the line that the first one found
            lines = base[:, None, :] + offsets[None, :, None] * outward
            profiles = window.at(lines).mean(axis=2).astype(float)
            edges = strongest(profiles, 1.2 / STEP, 1.0)
            found = offsets[0] + edges.at * STEP
            slope, middle = np.polyfit(at, found, 1)
            base = base + (middle + slope * at)[:, None] * outward
        left = found - (middle + slope * at)
        kept = np.abs(left) < max(3 * 1.48 * float(np.median(np.abs(left))), 0.15)
        points.append(base[kept] + left[kept][:, None] * outward)
        shapes.append(np.mean(profiles[kept], axis=0))
    return tuple(points), shapes


def _width(shapes: list[NDArray[np.float64]]) -> float:
    """Median width of the edges, 10 to 90 % of the step from black to white, pixels."""
    widths = []
    for shape in shapes:
        black, white = float(shape[:4].mean()), float(shape[-4:].mean())
        if white - black < 1e-3:  # no edge at all
            continue
        rise = np.maximum.accumulate((shape - black) / (white - black))
        widths.append((np.searchsorted(rise, 0.9) - np.searchsorted(rise, 0.1)) * STEP)
    return float(np.median(widths)) if widths else NO_EDGE
