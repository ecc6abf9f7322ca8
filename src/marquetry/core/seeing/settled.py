"""A circle settled on its rim by least squares: an outline, a hole, a ring's inner edge.

What lies on paper darkens it, and a shadow's own rise runs into the rim's; each side has its way round
that.
"""

from typing import Literal

import numpy as np

from marquetry.core.seeing.arrays import PlanPlaces, Reals
from marquetry.core.seeing.circles import LUMA, SeenCircle, directions
from marquetry.core.seeing.plane import Plane
from marquetry.core.seeing.profiles import strongest
from marquetry.core.seeing.rims import ABOUT, GRID, SECTORS, shaded_rims

FLOOR = {"outline": 0.014, "hole": 0.028}
"""Standard uncertainty of a radius, mm, that no scatter shows: what is left of shadows."""
RimSide = Literal["outline", "hole"]


def settle(
    plane: Plane, rough: SeenCircle, above: float, side: RimSide, room: tuple[float, float] = (0.55, 0.9)
) -> SeenCircle:
    """The circle by least squares on its edges, for a rim `above` the card, mm; as it is, not as seen.

    An outline shows its upper edge where that is displaced outwards and its lower edge elsewhere; a hole
    the other way round. `room` is how far from the rim there is nothing but the part, and nothing but
    paper, mm.
    """
    around = directions().reshape(SECTORS, -1, 2).mean(axis=1)
    around /= np.hypot(*around.T)[:, None]
    middle, radius = rough.middle, rough.radius
    design = np.column_stack([around, np.ones(SECTORS)])
    sign = 1.0 if side == "outline" else -1.0
    dark = darker_towards(plane, rough) if side == "outline" else None
    off, spread, weights, steps = np.zeros(SECTORS), 0.0, np.ones(SECTORS), np.ones(SECTORS)
    for _ in range(4):
        edges = _sharp if side == "outline" else _shaded
        found, told, steps = edges(plane, middle, radius, _share(plane, above), side, room)
        solved, off, weights, spread = _least(around, found, told, sign, dark)
        middle, radius = middle + solved[:2], radius + float(solved[2])
    square = (
        np.linalg.inv(design.T @ (design * weights[:, None]) + 1e-9 * np.eye(3))
        * spread**2
        * float(weights.max())
    )
    floor = FLOOR[side]
    support = float(np.mean((np.abs(off) < max(4 * spread, 0.10)) & (steps > 0.25 * np.median(steps))))
    return SeenCircle(
        middle,
        radius,
        support,
        float(np.median(steps)),
        float(np.sqrt(square[2, 2] + floor**2)),
        float(np.sqrt(square[:2, :2].trace() / 2 + floor**2)),
    )


def _across(plane: Plane, middle: Reals, radius: float, share: float, side: RimSide, offsets: Reals) -> Reals:
    """Light across the rim where it is seen, from the part to the paper: rays × offsets × 3."""
    around = directions()
    shift = _shown((middle + radius * around - plane.view.foot) * share, around, side)
    sign = 1.0 if side == "outline" else -1.0
    return plane.light_at(
        middle + around[:, None, :] * ((radius + shift)[:, None] + sign * offsets)[..., None]
    ).astype(float)


def _sharp(
    plane: Plane, middle: Reals, radius: float, share: float, side: RimSide, _: tuple[float, float]
) -> tuple[Reals, Reals, Reals]:
    """By sector: where the edge lies outwards of the circle, how much it counts, and its step.

    A shadow beside an edge softens it and draws it outwards, by half a pixel and more: soft sectors hardly
    count.
    """
    reach = max(6 * plane.blur, 0.5)
    offsets = np.arange(-reach, reach, plane.step)
    light = _as_number(_across(plane, middle, radius, share, side, offsets))
    light = light.reshape(SECTORS, -1, light.shape[1]).mean(axis=1)
    edges = strongest(light, max(plane.blur / plane.step, 1.2), 1.0)
    half, off = light.shape[1] // 2, int(4.5 * plane.blur / plane.step)
    steps = np.abs(light[:, half + off :].mean(axis=1) - light[:, : half - off].mean(axis=1))
    sharp = edges.rise / np.maximum(steps, 0.02)
    best = float(np.quantile(sharp, 0.85))
    usual = max(float(np.median(steps)), 1e-6)
    told = np.clip(steps / usual, 0, 1) ** 2 * np.maximum(np.clip(sharp / best, 0, 1) ** SOFTENED, 0.002)
    return offsets[0] + edges.at * plane.step, told, steps


SOFTENED = 10
"""Power of an edge's sharpness, as a share of the round's best, that it counts with: at 0.8 a tenth."""


def _shaded(
    plane: Plane, middle: Reals, radius: float, share: float, side: RimSide, room: tuple[float, float]
) -> tuple[Reals, Reals, Reals]:
    """The same for a hole: the paper in it lies in its own shadow, which is told apart from the rim."""
    offsets = np.arange(-room[0], min(room[1], 0.8 * radius), plane.step)
    rims = shaded_rims(_as_number(_across(plane, middle, radius, share, side, offsets)), offsets, plane.blur)
    sound = np.where(
        (rims.step > 0.25 * float(np.median(rims.step))) & (np.abs(rims.at) < ABOUT - 2 * GRID), 1.0, 1e-3
    )
    return -rims.at, sound / (1 + (rims.shade / (SHADED * np.maximum(rims.step, 1e-3))) ** 2), rims.step


def _least(
    sector: PlanPlaces, found: Reals, told: Reals, sign: float, dark: Reals | None
) -> tuple[Reals, Reals, Reals, float]:
    """Middle and radius that leave least of the rims, beside what a shadow pushes them by on one side.

    A shadow falls to one side alone: by half a round's cosine, outwards from an outline and inwards into a
    hole. `dark` is that side where it is seen beside the part.
    """
    plain = np.column_stack([sector, np.ones(SECTORS)])
    best: tuple[float, Reals, Reals, Reals, float] | None = None
    ways = [dark] if dark is not None else list(directions(DIRECTIONS))
    for way in ways:
        push = sign * np.maximum(sector @ way, 0)
        design = np.column_stack([plain, push])
        weights = told.copy()
        for _ in range(5):
            root = np.sqrt(weights)
            solved = np.linalg.lstsq(design * root[:, None], found * root, rcond=None)[0]
            if solved[3] < 0:
                solved = np.append(np.linalg.lstsq(plain * root[:, None], found * root, rcond=None)[0], 0.0)
            off = found - design @ solved
            spread = max(
                1.48 * float(np.median(np.abs(off[told > 0.05]))) if (told > 0.05).any() else 1.0, 0.002
            )
            weights = told / (1 + (off / (1.5 * spread)) ** 2) ** 2
        cost = float((told * np.minimum(np.abs(off), 0.1)).sum())
        if best is None or cost < best[0]:
            best = cost, solved, off, weights, spread
    assert best is not None  # noqa: S101  # there are directions
    return best[1:]


DIRECTIONS = 24
SHADED = 0.5
"""Share of the step that the paper's shadow may have before a sector counts half."""


def _share(plane: Plane, above: float) -> float:
    height = plane.view.height
    return 0.0 if np.isinf(height) else above / (height - above)


def _shown(moved: PlanPlaces, around: PlanPlaces, side: RimSide) -> Reals:
    """How far outwards the rim is seen, mm."""
    outwards = (moved * around).sum(axis=1)
    if side == "outline":
        return np.asarray(np.maximum(outwards, 0))
    return np.asarray(np.minimum(outwards, 0))


def _as_number(light: Reals) -> Reals:
    """Light along each ray as one number, rising from part to paper: brightness, or else colour.

    A JPEG keeps brightness by the pixel and colour by fours, a lens spreads colours: brightness is the
    sharper.
    """
    quarter = max(light.shape[1] // 4, 1)
    apart = np.median(light[:, -quarter:], axis=(0, 1)) - np.median(light[:, :quarter], axis=(0, 1))
    length = float(np.linalg.norm(apart))
    told = float(LUMA @ apart)
    if length < 1e-6 or abs(told) > 0.35 * length:  # a third of the difference is brightness
        return np.asarray(light @ LUMA * (1 if told >= 0 else -1))
    return np.asarray(light @ (apart / length))


def darker_towards(plane: Plane, outline: SeenCircle) -> Reals:
    """Where things cast their shadow, a unit vector: where the paper beside the outline is darkest."""
    around = directions(180)
    near, far = (
        (
            plane.light_at(outline.middle + around[:, None, :] * (outline.radius + radii)[None, :, None])
            @ LUMA
        ).mean(axis=1)
        for radii in (np.arange(0.25, 0.6, 2 * plane.step), np.arange(1.2, 1.8, 2 * plane.step))
    )
    # Against the paper a millimetre further out: the lamp's own fall over the card is no shadow.
    lost = far - near
    lost = lost - np.quantile(lost, 0.2)
    towards = (around * np.maximum(lost, 0)[:, None]).sum(axis=0)
    length = float(np.hypot(*towards))
    return np.asarray(towards / length) if length > 1e-9 else np.array([0.0, 1.0])  # no shadow at all
