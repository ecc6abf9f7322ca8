"""A movement, dial side up: outline, the stem's direction, foot holes, the outermost post."""

import math

import numpy as np

from marquetry.core.seeing.arrays import Reals
from marquetry.core.seeing.circles import LUMA, SeenCircle, rays
from marquetry.core.seeing.dial import rim_of
from marquetry.core.seeing.discs import Disc, fit_disc
from marquetry.core.seeing.found import Findings, Placed, circle_mark
from marquetry.core.seeing.outline import outline_of
from marquetry.core.seeing.plane import WITHIN, Plane
from marquetry.core.seeing.posts import fit_post
from marquetry.core.seeing.settled import darker_towards
from marquetry.core.seeing.spots import spots

STEM_DOUBT = 0.3
"""How well a stem's direction is seen, °, k = 2."""
STEM_BELOW = 2.0
"""mm from the dial face down to the stem's axis, as movements of this size have it."""
HOLE_LEAST, HOLE_MOST = 0.26, 0.70
HOLE_DOUBT = 0.025
HOLE_DARK = 0.16
"""Most light in a foot hole, paper being 1: it is deep, no screw and no jewel is as dark."""
POST_DOUBT = 0.055
"""What a post's flank and shadow leave in doubt of its diameter, mm, standard."""
POST_ABOVE = (1.4, 1.8)
"""How far the outermost post stands above the face, mm, as a rule."""
POST_CORES = (0.6, 0.8)
POST_RADII = (0.75, 0.95, 0.6)
ROUND = 1440


def movement(found: Findings, *, face: float | None, stem_at: tuple[float, float] | None, post: str) -> None:
    """Read a movement whose dial side stands `face` mm above the card."""
    if face is None:
        found.ask(
            "thickness",
            "How high above the card is the dial side? Measure the movement's thickness where it lies and "
            "enter it: "
            "every size hangs on it.",
        )
    above = USUAL_FACE if face is None else face
    plane = found.plane
    outline = outline_of(plane, above)
    centre = rim_of(found, "diameter", outline, above)
    _post(found, outline, above, post)
    towards = (
        _given(found, centre, stem_at, above)
        if stem_at
        else stem_of(plane, outline, max(above - STEM_BELOW, 0.5))
    )
    holes = _holes(plane, outline, above)
    if towards is None and holes:
        found.ask(
            "foot_holes",
            "No stem is seen: angles count from it. Pull it out so that it shows, or point at where it comes "
            "out.",
            outline.middle,
        )
    placed = [
        Placed(h.middle, plane.lowered(h.middle, above), h.doubt, circle_mark(h.middle, h.radius))
        for h in holes
    ]
    order = sorted(range(len(holes)), key=lambda n: _angle(placed[n], centre, towards or 0.0))
    for number, which in enumerate(order):
        found.place(
            f"foot_holes.{number}.",
            placed[which],
            centre,
            towards or 0.0,
            mirrored=False,
            turn_doubt=STEM_DOUBT,
        )
        if towards is None:
            found.finds.pop()
        size = 2 * holes[which].radius
        found.length(
            f"foot_holes.{number}.diameter",
            size * plane.shrunk(above),
            size * (1 - plane.shrunk(above)),
            1.6 * holes[which].doubt + HOLE_DOUBT,
            placed[which].mark,
        )


USUAL_FACE = 4.0
"""mm: where nothing is told, so that something can be drawn and asked about."""


def _angle(thing: Placed, centre: Placed, towards: float) -> float:
    return (math.degrees(math.atan2(*(thing.place - centre.place))) - towards) % 360


def _given(found: Findings, centre: Placed, stem_at: tuple[float, float], above: float) -> float:
    seen = found.plane.view.to_card(np.array([stem_at], float))[0]
    apart = found.plane.lowered(seen, above) - centre.place
    return math.degrees(math.atan2(*apart))


def _holes(plane: Plane, outline: SeenCircle, above: float) -> list[Disc]:
    """Deep, dark, round holes in the outer third."""
    middle = outline.middle + plane.displaced(outline.middle, above)
    found: list[Disc] = []
    for spot in spots(plane, middle, 0.6 * outline.radius, outline.radius - 0.5, dark=True):
        discs = [fit_disc(plane, spot, radius) for radius in (0.42, 0.32)]
        likely = [disc for disc in discs if disc and _is_hole(disc)]
        best = min(likely, key=lambda disc: disc.left, default=None)
        if best is not None and all(float(np.hypot(*(best.middle - other.middle))) > 1.0 for other in found):
            found.append(best)
    return found


def _is_hole(disc: Disc) -> bool:
    return (
        HOLE_LEAST < disc.radius < HOLE_MOST
        and float(disc.inside @ LUMA) < HOLE_DARK
        and float(disc.inside.max()) < 1.6 * HOLE_DARK
        and disc.contrast > 0.08
        and disc.left < 0.3 * disc.contrast
        and disc.whole > 0.4  # shares of light
    )


def _post(found: Findings, outline: SeenCircle, face: float, post: str) -> None:
    """The outermost post by its top, seen from above."""
    plane = found.plane
    dark = darker_towards(plane, outline)
    fits = []
    for above in (face + by for by in POST_ABOVE):
        middle = outline.middle + plane.displaced(outline.middle, above)
        for radius in POST_RADII:
            for core in POST_CORES:
                post_ = fit_post(plane, middle, radius, (face, above), dark, core=core * radius)
                if post_.contrast > 0.06 and float(np.hypot(*(post_.middle - middle))) < 0.5:
                    fits.append((2 * post_.radius * plane.shrunk(above), post_))
    path = f"posts.{post}.diameter"
    if not fits or float(np.median([one.left / one.contrast for _, one in fits])) > 0.4:
        found.ask(
            path,
            "The posts' rim glints or is not told from what lies below: measure it by hand.",
            outline.middle,
        )
        return
    # Each fit settles on its own share of flank and shadow; the middle one of them all is the steadier.
    fits.sort(key=lambda fit: fit[0])
    size, best = fits[len(fits) // 2]
    mark = circle_mark(best.middle, best.radius)
    found.length(path, size, size * (1 - plane.shrunk(face + POST_ABOVE[0])), POST_DOUBT, mark)


def stem_of(plane: Plane, outline: SeenCircle, above: float) -> float | None:
    """The stem's direction, ° clockwise from the card's up; None where no stem shows."""
    middle = outline.middle + plane.displaced(outline.middle, above)
    begin = outline.radius + 1.6
    end = min(outline.radius + 12, WITHIN - float(np.hypot(*(middle - np.array(plane.middle)))) - 0.3)
    if end - begin < 1.0:
        return None
    radii, light = rays(plane, middle, begin, end, ROUND)
    dark = 1 - light @ LUMA
    near = dark[:, : max(int(1.6 / plane.step), 3)].mean(axis=1)
    width = int(ROUND * 2.2 / (2 * math.pi * begin))
    ground = np.minimum(np.roll(near, width), np.roll(near, -width))
    tall = np.convolve(np.concatenate([near[-9:], near, near[:9]]), np.ones(19) / 19, "valid") - ground
    at = int(np.argmax(tall))
    if tall[at] < 0.10:  # of the paper's light: a stem is steel, half as bright
        return None
    return _axis(radii, dark, at, middle, outline, plane)


def _axis(
    radii: Reals, dark: Reals, at: int, middle: Reals, outline: SeenCircle, plane: Plane
) -> float | None:
    """Direction of the line through the stem's middles."""
    points = []
    for column in range(0, len(radii), 2):
        wide = int(ROUND * 1.3 / (2 * math.pi * radii[column]))
        index = (at + np.arange(-wide, wide + 1)) % ROUND
        line = dark[index, column]
        line = np.maximum(
            line
            - np.interp(np.arange(len(line)), [0, len(line) - 1], [line[:3].mean(), line[-3:].mean()])
            - 0.05,
            0,
        )
        if float(line.max()) < 0.12:  # the stem's end
            break
        share = float((line * np.arange(-wide, wide + 1)).sum() / line.sum())
        turn = (at + share) * 2 * math.pi / ROUND
        points.append(middle + radii[column] * np.array([math.sin(turn), math.cos(turn)]))
    if len(points) < 12:  # too short for a direction
        return None
    places = np.array(points)
    mean = places.mean(axis=0)
    _, _, axes = np.linalg.svd(places - mean)
    line = axes[0] if axes[0] @ (mean - middle) > 0 else -axes[0]
    off = (places - mean) @ np.array([-line[1], line[0]])
    spread = max(float(np.std(off)), 0.015)
    long = float(np.std((places - mean) @ line))
    by_line = math.degrees(spread / max(long, 0.1)) / math.sqrt(len(points) / 6)
    apart = mean - middle
    by_middle = math.degrees(
        math.hypot(0.03, 0.25 * float(np.hypot(*plane.displaced(outline.middle, 1.0))))
        / float(np.hypot(*apart))
    )
    one, other = math.atan2(*line), math.atan2(*apart)
    weight = by_middle**2 / (by_line**2 + by_middle**2)
    between = math.remainder(one - other, 2 * math.pi)
    return math.degrees(other + weight * between) % 360
