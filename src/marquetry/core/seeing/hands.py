"""Hands lying side by side: the bore of each and the length from its middle to the tip."""

import math
from dataclasses import dataclass, replace

import numpy as np

from marquetry.core.seeing.arrays import Reals
from marquetry.core.seeing.circles import LUMA, SeenCircle
from marquetry.core.seeing.discs import Disc, fit_disc
from marquetry.core.seeing.found import Findings, FindMark, circle_mark, pair
from marquetry.core.seeing.outline import no_part, part_mask
from marquetry.core.seeing.plane import Plane
from marquetry.core.seeing.settled import settle

LEAST_LENGTH, LEAST_AREA = 4.0, 0.7
BORE_RADII = (0.75, 0.45, 0.25, 0.13)
NEAR = 0.03
"""mm by which rim and disc may differ."""
GLINT = 0.06
"""Radius, mm, of what is no bore but a glint on a closed boss."""
BORE_DOUBT, TIP_DOUBT = 0.016, 0.034
SMALL = 0.32
"""Radius, mm, below which the light in a bore is taken from the larger ones: two pixels tell no level."""
NAMES = {
    1: ("hour",),
    2: ("hour", "minute"),
    3: ("hour", "minute", "seconds"),
    4: ("hour", "h24", "minute", "seconds"),
}


@dataclass(frozen=True, slots=True)
class _Hand:
    boss: Reals
    bore: Disc | None
    tip: Reals
    length: float
    doubt: float


def hands(found: Findings, *, thickness: float) -> None:
    """Read hands whose upper face is `thickness` above the card; the shortest is the hour hand."""
    plane = found.plane
    blobs = _blobs(plane)
    if not blobs:
        raise no_part(plane)
    bores = [_bore(plane, boss, radius, thickness, None) for boss, radius, _ in blobs]
    level = [bore.inside for bore in bores if bore and bore.radius > SMALL]
    if level:
        within = np.mean(level, axis=0)
        bores = [
            bore if bore and bore.radius > SMALL else _bore(plane, boss, radius, thickness, within)
            for bore, (boss, radius, _) in zip(bores, blobs, strict=True)
        ]
    bores = [
        _settled(plane, bore, radius, thickness) for bore, (_, radius, _) in zip(bores, blobs, strict=True)
    ]
    read = [_hand(plane, blob, bore) for blob, bore in zip(blobs, bores, strict=True)]
    read.sort(key=lambda hand: hand.length)
    names = NAMES.get(len(read), ())
    if not names:
        found.ask(
            "", f"{len(read)} long things lie on the card: four hands at most, nothing else beside them."
        )
    for name, hand in zip(names, read, strict=False):
        _tell(found, name, hand, thickness)
    if len(read) == 1:
        found.ask("hour", "One hand alone: which one is it? It is taken for the hour hand.", read[0].boss)


def _tell(found: Findings, name: str, hand: _Hand, thickness: float) -> None:
    shrunk = found.plane.shrunk(thickness)
    if hand.bore is None:
        found.ask(
            f"{name}.bore", "Its bore is closed, or too small to be seen: measure it with pins.", hand.boss
        )
    else:
        size = 2 * hand.bore.radius
        found.length(
            f"{name}.bore",
            size,
            size * (1 - shrunk),
            math.hypot(1.4 * hand.bore.doubt, BORE_DOUBT),
            circle_mark(hand.bore.middle, hand.bore.radius),
        )
    mark = FindMark("line", pair(hand.boss), to=pair(hand.tip))
    found.length(f"{name}.length", hand.length * shrunk, hand.length * (1 - shrunk), hand.doubt, mark)


def _blobs(plane: Plane) -> list[tuple[Reals, float, Reals]]:
    """Boss (mm), its radius and the outline's places of each long thing on the card."""
    import cv2  # noqa: PLC0415  # as in profiles

    mask = (part_mask(plane) & (np.abs(plane.light - 1).max(axis=2) > 0.22)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask)
    found = []
    for number in range(1, count):
        if stats[number, cv2.CC_STAT_AREA] * plane.step**2 < LEAST_AREA:
            continue
        one = (labels == number).astype(np.uint8)
        contours, _ = cv2.findContours(one, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
        outer = max(contours, key=len)
        filled = cv2.drawContours(np.zeros_like(one), [outer], -1, 1, -1)
        deep = cv2.distanceTransform(filled, cv2.DIST_L2, 5)
        row, column = np.unravel_index(int(np.argmax(deep)), deep.shape)
        rim = plane.places(outer[:, 0].astype(float))
        boss = plane.places(np.array([column, row], float))
        if float(np.hypot(*(rim - boss).T).max()) > LEAST_LENGTH:
            found.append((boss, float(deep.max()) * plane.step, rim))
    return found


def _bore(plane: Plane, boss: Reals, radius: float, thickness: float, within: Reals | None) -> Disc | None:
    """The bore in a boss: lighter than it, the paper seen through."""
    best: Disc | None = None
    for start in BORE_RADII:
        if start > 0.92 * radius:
            continue
        # Nothing but boss may lie round the bore: what lies beyond is the hand or the paper.
        margin = max(min(0.45, radius - start - 0.3 * plane.blur), 0.15) - 2.2 * plane.blur
        disc = fit_disc(
            plane, boss, start, above=thickness, rim="hole", harmonics=1, margin=margin, within=within
        )
        if (
            disc is None
            or disc.radius > 0.95 * radius
            or float(np.hypot(*(disc.middle - boss))) > 0.6 * radius
        ):
            continue
        if float((disc.inside - disc.outside) @ LUMA) < 0.12:
            continue
        if best is None or disc.left / disc.contrast < 0.97 * best.left / best.contrast:
            best = disc
    if best is not None and within is not None and best.radius < GLINT:
        return None
    return best


def _settled(plane: Plane, bore: Disc | None, boss: float, thickness: float) -> Disc | None:
    """A bore that is wide enough settled on its rim, beside the shadow that lies in it."""
    if bore is None or bore.radius < SMALL:
        return bore
    room = (max(min(0.5, boss - bore.radius - plane.blur), 0.12), 0.9)
    rim = settle(plane, SeenCircle(bore.middle, bore.radius, 1.0, bore.contrast), thickness, "hole", room)
    near = abs(rim.radius - bore.radius) < NEAR and float(np.hypot(*(rim.middle - bore.middle))) < NEAR
    return replace(bore, middle=rim.middle, radius=rim.radius) if near else bore


def _hand(plane: Plane, blob: tuple[Reals, float, Reals], bore: Disc | None) -> _Hand:
    boss, radius, rim = blob
    if bore is not None:
        boss = bore.middle
    else:
        outer = fit_disc(plane, boss, radius, harmonics=2)
        boss = boss if outer is None else outer.middle
    out = np.hypot(*(rim - boss).T)
    far = rim[int(np.argmax(out))]
    length, tip = _tip(plane, boss, far)
    return _Hand(boss, bore, tip, length, math.hypot(TIP_DOUBT, 0.02 if bore is None else bore.doubt))


def _tip(plane: Plane, boss: Reals, far: Reals) -> tuple[float, Reals]:
    """How far the hand reaches from its boss: where its darkness, summed across, breaks off."""
    rough = float(np.hypot(*(far - boss)))
    along = (far - boss) / rough
    across = np.array([along[1], -along[0]])
    at = np.arange(rough - 2.2, rough + 0.9, plane.step)
    beside = np.arange(-1.1, 1.1, plane.step)
    places = boss + at[:, None, None] * along + beside[None, :, None] * across
    light = plane.light_at(places).astype(float)
    body = np.median(light[: len(at) // 3, len(beside) // 2], axis=0) - 1
    told = (light - 1) @ (body / float(body @ body))
    edge = max(int(0.25 / plane.step), 2)
    told = told - (told[:, :edge].mean(axis=1) + told[:, -edge:].mean(axis=1))[:, None] / 2
    wide = told.sum(axis=1) * plane.step
    best, found = math.inf, rough
    blur = plane.blur
    for end in np.arange(rough - 0.5, rough + 0.5, 0.005):
        kept = _share((end - at) / blur)
        design = np.column_stack([kept, kept * (end - at)])
        solved = np.linalg.lstsq(design, wide, rcond=None)[0]
        off = float(((wide - design @ solved) ** 2).sum())
        if off < best:
            best, found = off, float(end)
    return found, boss + found * along


def _share(depth: Reals) -> Reals:
    return np.asarray(0.5 * (1 + np.tanh(0.7978845608 * (depth + 0.044715 * depth**3))))
