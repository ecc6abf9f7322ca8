"""A dial from behind or from the front: outline, centre hole, feet, date window, minute track."""

import math

import numpy as np

from marquetry.core.seeing.circles import SeenCircle
from marquetry.core.seeing.discs import fit_disc
from marquetry.core.seeing.found import Findings, Placed, circle_mark
from marquetry.core.seeing.outline import outline_of
from marquetry.core.seeing.plane import Plane
from marquetry.core.seeing.posts import Post, fit_top
from marquetry.core.seeing.settled import settle
from marquetry.core.seeing.spots import spots
from marquetry.core.seeing.track import track_of
from marquetry.core.seeing.window import window_of

HOLE_RADII = (1.0, 0.6, 1.5)
HOLE_OFF = 0.8
"""mm by which a centre hole may lie off the outline's middle."""
SURE_ROUND = 0.35
FROM_RIM = 0.9
FROM_MIDDLE = 0.55
"""Share of the radius within which no dial has its feet: the movement's wheels are there."""
ALIKE, THICKNESS_ALIKE = 0.4, 0.25
NO_SHADOW = 0.15
FOOT_RADIUS = 0.37
FOOT_LEAST, FOOT_MOST = 0.26, 0.54
"""Radii of feet, mm."""
FOOT_PLACE, FOOT_DOUBT = 0.02, 0.03
"""What flank and shadow leave in doubt of a tip's place and diameter, mm, standard."""
APART = 1.1
FOOT_CONTRAST = 0.08
FOOT_EXPLAINED = 0.68
FOOT_UNLIKE = 0.16
"""What a foot's picture may leave unexplained, as a share of its contrast."""


def dial(
    found: Findings, *, back: bool, thickness: float, foot_length: float, window_at: float | None
) -> None:
    """Read a dial lying on its face (`back`) or on its back."""
    plane = found.plane
    outline = outline_of(plane, thickness)
    rim = rim_of(found, "diameter", outline, thickness)
    centre = _centre(found, outline, rim, thickness)
    window = window_of(plane, outline, thickness)
    turn = 0.0
    if window is not None and window_at is not None:
        seen = math.degrees(math.atan2(*(window.place - centre.place)))
        turn = seen + window_at if back else seen - window_at
    if window is not None:
        found.place("date_window_", window, centre, turn, mirrored=back)
    if back:
        _feet(found, outline, centre, thickness, thickness + foot_length, turn)
    else:
        track_of(found, outline, thickness)


def rim_of(found: Findings, path: str, outline: SeenCircle, above: float) -> Placed:
    """The outline as a diameter, and as the middle that it has."""
    plane = found.plane
    mark = circle_mark(outline.middle, outline.radius)
    found.length(
        path,
        2 * outline.radius,
        2 * outline.radius * (1 - plane.shrunk(above)),
        2 * outline.doubt,
        mark,
        sure=outline.support > SURE_ROUND,
    )
    if outline.support <= SURE_ROUND:
        found.ask(
            path,
            f"Only {outline.support:.0%} of the outline is seen sharp: drag its edge where it is wrong, or "
            f"light it from two sides.",
            outline.middle,
        )
    seen = outline.middle + plane.displaced(outline.middle, above)
    return Placed(seen, outline.middle, outline.doubt_middle, mark)


def _centre(found: Findings, outline: SeenCircle, rim: Placed, thickness: float) -> Placed:
    """The dial's middle: of its centre hole and its outline, each by how well it is known."""
    hole = _hole(found.plane, outline, thickness)
    if hole is None:
        found.ask(
            "centre_hole", "No centre hole is seen: point at it, or measure it by hand.", outline.middle
        )
        return rim
    off = float(np.hypot(*(hole.middle - outline.middle)))
    found.length(
        "centre_hole",
        2 * hole.radius,
        2 * hole.radius * (1 - found.plane.shrunk(thickness)),
        2 * hole.doubt,
        circle_mark(hole.middle, hole.radius),
        sure=off < 0.15,
    )
    if off > 0.15:  # mm: no dial's hole is drilled as far off
        found.ask(
            "centre_hole",
            f"The centre hole lies {off:.2f} mm off the outline's middle: is the dial whole, and flat?",
            hole.middle,
        )
    # The hole's own shadow draws its middle aside, which its scatter does not show.
    one, other = 1 / (2 * hole.doubt_middle) ** 2, 1 / rim.doubt**2
    place = (hole.middle * one + rim.place * other) / (one + other)
    return Placed(
        place + found.plane.displaced(place, thickness),
        place,
        math.sqrt(1 / (one + other)),
        circle_mark(hole.middle, hole.radius),
    )


def _hole(plane: Plane, outline: SeenCircle, thickness: float) -> SeenCircle | None:
    """The centre hole: the disc near the middle that explains the light best, then its rim."""
    tried = [
        fit_disc(plane, outline.middle, radius, above=thickness, rim="hole", harmonics=1)
        for radius in HOLE_RADII
    ]
    likely = [
        disc
        for disc in tried
        if disc
        and disc.contrast > 0.08
        and float(np.hypot(*(disc.middle - outline.middle))) < HOLE_OFF
        and disc.left < 0.35 * disc.contrast
    ]  # shares of the paper's light
    disc = min(likely, key=lambda disc: disc.left / disc.contrast, default=None)
    if disc is None:
        return None
    return settle(plane, SeenCircle(disc.middle, disc.radius, 1.0, disc.contrast), thickness, "hole")


def _feet(
    found: Findings, outline: SeenCircle, centre: Placed, thickness: float, tip: float, turn: float
) -> None:
    """Feet by their tips, sorted by angle."""
    feet = feet_of(found.plane, outline, thickness, tip)
    placed = []
    for disc in feet:
        mark = circle_mark(disc.middle, disc.radius)
        placed.append(
            (
                Placed(
                    disc.middle,
                    found.plane.lowered(disc.middle, tip),
                    math.hypot(disc.doubt, FOOT_PLACE),
                    mark,
                ),
                disc,
            )
        )

    def angle(thing: Placed) -> float:
        apart = thing.place - centre.place
        return (turn - math.degrees(math.atan2(*apart))) % 360

    for number, (thing, disc) in enumerate(sorted(placed, key=lambda one: angle(one[0]))):
        found.place(f"feet.{number}.", thing, centre, turn, mirrored=True)
        found.length(
            f"feet.{number}.diameter",
            2 * disc.radius * found.plane.shrunk(tip),
            2 * disc.radius * (1 - found.plane.shrunk(tip)),
            1.6 * disc.doubt + FOOT_DOUBT,
            thing.mark,
        )


def feet_of(plane: Plane, outline: SeenCircle, thickness: float, tip: float) -> list[Post]:
    """Discs that are feet: as wide as feet are, round, and standing off the back."""
    seen = spots(plane, outline.middle, FROM_MIDDLE * outline.radius, outline.radius - FROM_RIM)
    fitted = [fit_top(plane, spot, FOOT_RADIUS, (thickness, tip)) for spot in seen]
    found: list[Post] = []
    for post in sorted(
        (post for post in fitted if _is_foot(post)), key=lambda post: -post.contrast * post.explained
    ):
        if all(float(np.hypot(*(post.middle - other.middle))) > APART for other in found) and _as_others(
            post, found
        ):
            found.append(post)
    return found


def _as_others(post: Post, plainer: list[Post]) -> bool:
    """Whether a post looks like the plainest: as strong and as thick, its shadow to the same side."""
    if not plainer:
        return True
    first = plainer[0]
    long = [float(np.hypot(*one.shadow)) for one in (post, first)]
    aligned = float(post.shadow @ first.shadow) / max(long[0] * long[1], 1e-9)
    alike = abs(post.radius - first.radius) < THICKNESS_ALIKE * first.radius
    return alike and post.contrast > ALIKE * first.contrast and (aligned > ALIKE or max(long) < NO_SHADOW)


def _is_foot(post: Post) -> bool:
    return (
        FOOT_LEAST < post.radius < FOOT_MOST
        and post.contrast > FOOT_CONTRAST
        and post.explained > FOOT_EXPLAINED
        and post.left < FOOT_UNLIKE * post.contrast
    )
