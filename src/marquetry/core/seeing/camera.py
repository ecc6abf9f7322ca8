"""Where the camera stood: pose, focal length and first-order distortion from the card's corners.

The corners lie in a plane, and a plane seen square says nothing of the focal length; what they do not say
is taken from what telephones have. `--camera`, the height above the card, says it better.
"""

import math
from dataclasses import dataclass

import numpy as np

from marquetry.core.seeing.arrays import PlanPlaces, Reals
from marquetry.core.seeing.card import CHECK_LENGTH, corners
from marquetry.core.seeing.markers import Markers
from marquetry.core.seeing.refusal import PictureError
from marquetry.core.seeing.turning import axis_of, homography, turn_by

USUAL_FIELD = 65.0
FOCAL_DOUBT = 0.12
"""Standard uncertainty of ln(focal length) where no camera told its own: telephones see 58° to 75°."""
TOLD_DOUBT = 0.03
"""The same where the picture's own data tell it."""
HEIGHT_DOUBT = 0.01
"""Relative standard uncertainty of a camera's height that was read with a ruler."""
CORNER_PX = 0.06
DISTORTION_ASKED = 5.0
"""Fall of χ² per √ that a distortion has to bring before it is believed."""
MOST_BENT = 0.15
LENS_LEAVES = 0.06
"""mm: more than this is left of a corner only where something else than a lens is at work."""
ALL_CORNERS = 16


@dataclass(frozen=True, slots=True)
class Camera:
    """A camera over the card: `turn` (3 × 3) and `moved` bring card mm into its axes, `focal` in pixels.

    `middle` is the picture's, pixels; `distortion` the first-order coefficient; `doubt_height` the standard
    uncertainty of its height, mm, `doubt_scale` the relative one of lengths in the card's plane.
    """

    turn: Reals
    moved: Reals
    focal: float
    middle: tuple[float, float]
    distortion: float
    doubt_height: float = 0.0
    doubt_scale: float = 0.0

    @property
    def stands(self) -> Reals:
        """Where the camera is, mm: over the card at x, y, and its height."""
        return np.asarray(-self.turn.T @ self.moved)

    @property
    def height(self) -> float:
        """Height above the card, mm."""
        return float(self.stands[2])

    @property
    def foot(self) -> Reals:
        """The point of the card under the camera, mm."""
        return np.asarray(self.stands[:2])

    @property
    def tilt(self) -> float:
        """Angle between its axis and the card's normal, °."""
        return math.degrees(math.acos(min(1.0, abs(float(self.turn[2, 2])))))

    def to_picture(self, places: PlanPlaces) -> PlanPlaces:
        """Pixels of places (n × 2) in the card's plane, mm."""
        flat = places.reshape(-1, 2)
        seen = np.column_stack([flat, np.zeros(len(flat))]) @ self.turn.T + self.moved
        plain = seen[:, :2] / seen[:, 2:]
        bent = plain * (1 + self.distortion * (plain**2).sum(axis=1, keepdims=True))
        return np.asarray(bent * self.focal + np.array(self.middle)).reshape(places.shape)

    def to_card(self, pixels: PlanPlaces) -> PlanPlaces:
        """Places in the card's plane, mm, of pixels (n × 2)."""
        flat = pixels.reshape(-1, 2)
        plain = self.straightened(flat)
        rays = np.column_stack([plain, np.ones(len(flat))]) @ self.turn
        stands = self.stands
        return np.asarray(stands[:2] + rays[:, :2] * (-stands[2] / rays[:, 2:])).reshape(pixels.shape)

    def straightened(self, pixels: PlanPlaces) -> PlanPlaces:
        """Pixels as a camera of focal length 1 without distortion would see them."""
        bent = (pixels - np.array(self.middle)) / self.focal
        plain = bent.copy()
        for _ in range(8):
            plain = bent / (1 + self.distortion * (plain**2).sum(axis=1, keepdims=True))
        return np.asarray(plain)

    def bend(self, plain: PlanPlaces) -> PlanPlaces:
        """The other way round: pixels of places seen by a camera of focal length 1."""
        return np.asarray(
            plain * (1 + self.distortion * (plain**2).sum(axis=1, keepdims=True)) * self.focal
            + np.array(self.middle)
        )


def stand_of(
    markers: Markers,
    size: tuple[int, int],
    *,
    printed: float = CHECK_LENGTH,
    focal: float | None = None,
    height: float | None = None,
) -> Camera:
    """The camera that saw these markers, in a picture of `size` (width, height) pixels.

    `printed` is the card's check line in mm, `focal` what the picture tells of its focal length in pixels,
    `height` the camera's above the card in mm where it was measured. PictureError for a card that does not
    lie flat.
    """
    known = corners(printed).reshape(-1, 4, 2)[list(markers.numbers)].reshape(-1, 2)
    first = focal or max(size) / 2 / math.tan(math.radians(USUAL_FIELD / 2))
    middle = ((size[0] - 1) / 2, (size[1] - 1) / 2)
    fitting = _Fitting(known, middle, first, TOLD_DOUBT if focal else FOCAL_DOUBT, height)
    camera = Camera(np.eye(3), np.zeros(3), first, middle, 0.0)
    seen = _corners_of(markers, camera)
    start = fitting.begin(seen)
    best = fitting.fit(start, seen, distorted=False)
    if len(known) == ALL_CORNERS:
        best, seen = _with_lens(fitting, markers, best, seen)
    camera = fitting.camera(best.values, best)
    off = _off(camera, seen, known)
    if float(off.max()) > MOST_BENT:
        raise PictureError(
            "bent",
            f"The card is bent: a corner lies {off.max():.2f} mm off its plane. Lay it on something flat, "
            "tape its corners down, and take the picture again.",
        )
    return camera


def _with_lens(
    fitting: "_Fitting", markers: Markers, plain: "_Fit", seen: PlanPlaces
) -> "tuple[_Fit, PlanPlaces]":
    """The fit with a lens's distortion where that explains the corners; else the one without."""
    bent = fitting.fit(plain.values, seen, distorted=True)
    for _ in range(2):  # sides of a marker bow too: their lines are straight once the distortion is known
        through_lens = _corners_of(markers, fitting.camera(bent.values))
        bent = fitting.fit(bent.values, through_lens, distorted=True)
    asked = plain.square - bent.square > DISTORTION_ASKED**2 and abs(bent.values[7]) > 3 * bent.doubts[7]
    # A card that is bent asks for a distortion too, but no lens explains it to the hundredth.
    if asked and float(_off(fitting.camera(bent.values), through_lens, fitting.known).max()) < LENS_LEAVES:
        return bent, through_lens
    straight = _corners_of(markers, fitting.camera(plain.values))
    return fitting.fit(plain.values, straight, distorted=False), straight


def _off(camera: Camera, seen: PlanPlaces, known: PlanPlaces) -> Reals:
    """How far each corner lies off where it is printed, mm."""
    return np.asarray(np.hypot(*(camera.to_card(seen) - known).T))


def _corners_of(markers: Markers, camera: Camera) -> PlanPlaces:
    """Corners where a marker's sides cross, pixels; sides are straight once the distortion is undone."""
    found = []
    for sides in markers.sides:
        lines = [_line(camera.straightened(points)) for points in sides]
        crossed = [np.cross(lines[number - 1], lines[number]) for number in range(4)]
        found.append(camera.bend(np.array([(x / w, y / w) for x, y, w in crossed])))
    return np.concatenate(found)


def _line(points: PlanPlaces) -> Reals:
    """The line through points, homogeneous, by least squares across it."""
    middle = points.mean(axis=0)
    _, _, axes = np.linalg.svd(points - middle)
    normal = axes[1]
    return np.array([normal[0], normal[1], -float(normal @ middle)])


@dataclass(frozen=True, slots=True)
class _Fit:
    values: Reals
    doubts: Reals
    spread: Reals
    square: float


@dataclass(frozen=True, slots=True)
class _Fitting:
    """Least squares over turn (3), place (3), ln focal (1) and distortion (1)."""

    known: PlanPlaces
    middle: tuple[float, float]
    first: float
    focal_doubt: float
    height: float | None

    def camera(self, values: Reals, fit: _Fit | None = None) -> Camera:
        doubt_height = doubt_scale = 0.0
        plain = Camera(
            turn_by(values[:3]), values[3:6], self.first * math.exp(values[6]), self.middle, float(values[7])
        )
        if fit is not None:
            doubt_height, doubt_scale = self._told(plain, values, fit)
        return Camera(
            plain.turn, plain.moved, plain.focal, plain.middle, plain.distortion, doubt_height, doubt_scale
        )

    def _told(self, camera: Camera, values: Reals, fit: _Fit) -> tuple[float, float]:
        """Standard uncertainties of the height (mm) and of lengths in the middle of the card (a share)."""
        ends = camera.to_picture(np.array([[-10.0, 0.0], [10.0, 0.0], [0.0, -10.0], [0.0, 10.0]]))

        def told(at: Reals) -> Reals:
            moved = self.camera(at)
            seen = moved.to_card(ends)
            return np.array(
                [moved.height, np.hypot(*(seen[1] - seen[0])) / 20, np.hypot(*(seen[3] - seen[2])) / 20]
            )

        slopes = _slopes(told, values)
        spread = np.sqrt(np.maximum(np.diag(slopes @ fit.spread @ slopes.T), 0))
        return float(spread[0]), float(spread[1:].max())

    def begin(self, seen: PlanPlaces) -> Reals:
        """Turn and place from the homography that the corners make."""
        view = homography(self.known, (seen - np.array(self.middle)) / self.first)
        view = view * (1 if view[2, 2] > 0 else -1)
        scale = 2 / (np.linalg.norm(view[:, 0]) + np.linalg.norm(view[:, 1]))
        across, up, moved = (view * scale).T
        turn = np.column_stack([across, up, np.cross(across, up)])
        left, _, right = np.linalg.svd(turn)
        return np.concatenate([axis_of(left @ right), moved, [0.0, 0.0]])

    def off(self, values: Reals, seen: PlanPlaces) -> Reals:
        """What is left over, each in its own standard uncertainty."""
        camera = self.camera(values)
        left = (camera.to_picture(self.known) - seen).ravel() / CORNER_PX
        rest = [values[6] / self.focal_doubt, values[7] / 0.15]
        if self.height is not None:
            rest.append((camera.height - self.height) / (HEIGHT_DOUBT * self.height))
        return np.concatenate([left, rest])

    def fit(self, values: Reals, seen: PlanPlaces, *, distorted: bool) -> _Fit:
        free = np.arange(8 if distorted else 7)
        damp = 1e-3
        off = self.off(values, seen)
        for _ in range(60):
            slopes = _slopes(lambda at: self.off(at, seen), values)[:, free]
            square = slopes.T @ slopes
            step = np.linalg.solve(square + damp * np.diag(np.diag(square)), -slopes.T @ off)
            tried = values.copy()
            tried[free] += step
            new = self.off(tried, seen)
            if new @ new < off @ off:
                done = off @ off - new @ new < 1e-9 * (1 + off @ off)
                values, off, damp = tried, new, damp / 5
                if done:
                    break
            else:
                damp *= 6
                if damp > 1e8:  # no step is small enough any more
                    break
        slopes = _slopes(lambda at: self.off(at, seen), values)[:, free]
        spread = np.zeros((8, 8))
        freedom = max(2 * len(seen) - len(free), 1)
        grown = max(1.0, float(off @ off) / freedom)
        spread[np.ix_(free, free)] = np.linalg.inv(slopes.T @ slopes) * grown
        return _Fit(values, np.sqrt(np.diag(spread)), spread, float(off @ off))


def _slopes(function: "object", values: Reals) -> Reals:
    steps = np.array([1e-6, 1e-6, 1e-6, 1e-4, 1e-4, 1e-4, 1e-6, 1e-6])
    columns = []
    for number, step in enumerate(steps):
        there, back = values.copy(), values.copy()
        there[number] += step
        back[number] -= step
        columns.append((function(there) - function(back)) / (2 * step))  # type: ignore[operator]
    return np.array(columns).T
