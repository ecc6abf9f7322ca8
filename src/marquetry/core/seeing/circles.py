"""Large circles, an outline or a ring's inner edge: found by rays, settled by least squares."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from marquetry.core.seeing.arrays import PlanPlaces, Reals
from marquetry.core.seeing.plane import WITHIN, Plane
from marquetry.core.seeing.profiles import peaks, slopes

RAYS = 720
NEAR = 0.12
"""mm within which an edge belongs to a circle that three others made."""
TRIES = 600
LUMA = np.array([0.27, 0.65, 0.08])
"""What of the three colours of linear light makes brightness; nearly what a JPEG keeps by the pixel."""


@dataclass(frozen=True, slots=True)
class SeenCircle:
    """A circle in the plane's mm: `support` is the share of its round seen, `strength` its change of light.

    `doubt` is the standard uncertainty of its radius, `doubt_middle` that of its centre, mm.
    """

    middle: Reals
    radius: float
    support: float
    strength: float
    doubt: float = 0.0
    doubt_middle: float = 0.0


@dataclass(frozen=True, slots=True)
class _Seen:
    """Edges along rays from a middle: by edge its ray, place (mm) and change of light."""

    ray: NDArray[np.intp]
    at: PlanPlaces
    rise: Reals


def directions(count: int = RAYS) -> PlanPlaces:
    """Unit vectors round, clockwise from up."""
    angles = np.arange(count) * (2 * np.pi / count)
    return np.stack([np.sin(angles), np.cos(angles)], axis=1)


def rays(plane: Plane, middle: Reals, begin: float, end: float, count: int = RAYS) -> tuple[Reals, Reals]:
    """Radii (mm) and light along rays from a middle: rays × radii × 3."""
    radii = np.arange(begin, end, plane.step)
    places = middle + directions(count)[:, None, :] * radii[None, :, None]
    return radii, plane.light_at(places).astype(float)


def circles_about(
    plane: Plane, middle: Reals, begin: float, end: float, *, most: int = 6
) -> list[SeenCircle]:
    """Circles about a middle known to a millimetre or two, strongest first; radii begin … end, mm."""
    seen = _edges(plane, middle, begin, end)
    found: list[SeenCircle] = []
    generator = np.random.default_rng(20)
    left = np.ones(len(seen.ray), bool)
    for _ in range(most):
        circle, inside = _best(seen, left, generator, middle, (begin, end))
        if circle is None:
            break
        found.append(circle)
        left &= ~inside
    return found


def _edges(plane: Plane, middle: Reals, begin: float, end: float) -> _Seen:
    """Every edge worth the name along the rays, at most six a ray."""
    radii, light = rays(plane, middle, begin, end)
    width = max(plane.blur / plane.step, 1.2)
    squared = sum(slopes(light[..., colour], width) ** 2 for colour in range(3))
    strength = np.sqrt(np.asarray(squared) / 3) * width * 2.5
    least = max(6 * plane.noise, 0.025)
    peak = (strength > least) & (strength >= np.roll(strength, 1, 1)) & (strength > np.roll(strength, -1, 1))
    peak[:, [0, -1]] = False
    ranked = np.where(peak, strength, 0)
    limit = np.sort(ranked, axis=1)[:, -6][:, None]
    ray, column = np.nonzero(peak & (strength >= limit))
    place = middle + directions()[ray] * (radii[0] + peaks(strength[ray], column) * plane.step)[:, None]
    inside = np.hypot(*(place - np.array(plane.middle)).T) < WITHIN
    return _Seen(ray[inside], place[inside], np.minimum(strength[ray, column], 0.5)[inside])


def _best(
    seen: _Seen,
    left: NDArray[np.bool_],
    generator: np.random.Generator,
    middle: Reals,
    radii: tuple[float, float],
) -> tuple[SeenCircle | None, NDArray[np.bool_]]:
    """The circle through three of the edges that most others lie on."""
    number = np.nonzero(left)[0]
    if len(number) < RAYS // 8:
        return None, left
    chances = seen.rise[number] / seen.rise[number].sum()
    best, kept = None, left
    score = 0.0
    for _ in range(TRIES):
        three = seen.at[generator.choice(number, 3, p=chances)]
        made = _through(three)
        if (
            made is None or not radii[0] < made[1] < radii[1] or float(np.hypot(*(made[0] - middle))) > 3
        ):  # mm
            continue
        off = np.abs(np.hypot(*(seen.at[number] - made[0]).T) - made[1])
        near = off < NEAR
        told = float(seen.rise[number[near]].sum())
        if told > score:
            score, best = told, made
            kept = np.zeros(len(seen.ray), bool)
            kept[number[near]] = True
    if best is None:
        return None, left
    support = len(np.unique(seen.ray[kept])) / RAYS
    return SeenCircle(best[0], best[1], support, score / RAYS), kept


def _through(three: PlanPlaces) -> tuple[Reals, float] | None:
    """Middle and radius of the circle through three places."""
    first, second, third = three
    across = np.array([second - first, third - first])
    if abs(float(np.linalg.det(across))) < 1.0:
        return None
    middle = first + np.linalg.solve(2 * across, (across**2).sum(axis=1))
    return middle, float(np.hypot(*(first - middle)))
