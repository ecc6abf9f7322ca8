"""What lies under the stand-in camera: dials, movements, hands and rings, painted from their sizes.

Solids are stacks of thin layers in the colour of their flank under a lit top; each casts a soft shadow away
from the lamp and a narrow one where it touches what it lies on.
"""

import math
from collections.abc import Iterator, Mapping, Sequence

import numpy as np

from marquetry.devices.bench_camera import (
    Colour,
    Paint,
    PaintShape,
    Points,
    Rgb,
    Shade,
    band,
    box,
    disc,
    taper,
    without,
)

Thing = Paint | Shade
LAMP = (0.75, 0.65)
"""Where a shadow falls, mm a mm of height."""
BRASS: Rgb = (0.62, 0.44, 0.17)
STEEL: Rgb = (0.42, 0.43, 0.45)
BLACK: Rgb = (0.015, 0.015, 0.018)
COPPER: Rgb = (0.72, 0.45, 0.30)
PAPER: Rgb = (0.80, 0.80, 0.79)
GILT: Rgb = (0.60, 0.40, 0.08)
PartSize = Mapping[str, float]


def brushed(colour: Rgb, depth: float = 0.03, scale: float = 2.3) -> Colour:
    """A colour with soft clouds on it, as metal has."""

    def told(at: Points) -> Points:
        cloud = np.sin(at[:, 0] / scale + 1.3) * np.cos(at[:, 1] / scale * 1.4) + 0.5 * np.sin(
            at[:, 0] * 7 + at[:, 1] * 2
        )
        return np.asarray(np.array(colour) * (1 + depth * cloud)[:, None])

    return told


def solid(
    shape: PaintShape, low: float, high: float, top: Colour, flank: Rgb, *, step: float = 0.15
) -> Iterator[Thing]:
    """A thing with upright walls between two heights, mm."""
    count = max(int((high - low) / step), 1)
    for number in range(count):
        yield Paint(low + (high - low) * number / count, shape, flank)
    yield Paint(high, shape, top)


def shadows(
    shape: PaintShape, low: float, high: float, depth: float = 0.25, within: PaintShape | None = None
) -> Iterator[Thing]:
    """Shadows of a thing between two heights on what lies at the lower."""

    def moved(by: float) -> PaintShape:
        return lambda at: shape(at - np.array(LAMP) * by)

    tall = high - low
    for part in (0.35, 0.8):
        yield Shade(low, moved(part * tall), depth * 0.5, 0.06 + 0.3 * tall, within)
    yield Shade(low, lambda at: shape(at) - 0.45, 0.10, 0.9, within)


def place(
    radius: float,
    angle: float,
    about: tuple[float, float] = (0.0, 0.0),
    turn: float = 0.0,
    *,
    back: bool = False,
) -> tuple[float, float]:
    """Where something at a radius (mm) and an angle (°) lies on the card; mirrored from the back."""
    at = math.radians((-angle if back else angle) + turn)
    return about[0] + radius * math.sin(at), about[1] + radius * math.cos(at)


def dial_back(  # what a dial's back shows
    diameter: float,
    hole: float,
    feet: Sequence[PartSize],
    *,
    about: tuple[float, float] = (0.0, 0.0),
    turn: float = 0.0,
    thickness: float = 0.4,
    length: float = 1.4,
    colour: Rgb = BRASS,
    tip: Rgb = COPPER,
    window: PartSize | None = None,
    specks: int = 6,
    seed: int = 3,
) -> tuple[Thing, ...]:
    """A dial, back up; feet with radius, angle, diameter, a window also with width and height."""
    cuts: list[PaintShape] = [disc(*about, hole / 2)]
    if window:
        middle = place(window["radius"], window["angle"], about, turn, back=True)
        cuts.append(box(*middle, window["width"], window["height"], -window["angle"] + turn + 90))
    plate = without(disc(*about, diameter / 2), *cuts)
    things = [*shadows(plate, 0, thickness), *solid(plate, 0, thickness, brushed(colour), _dark(colour))]
    things += _specks(about, diameter / 2 - 1, thickness, specks, seed)
    for foot in feet:
        rod = disc(*place(foot["radius"], foot["angle"], about, turn, back=True), foot["diameter"] / 2)
        things += shadows(rod, thickness, thickness + length, 0.8, plate)
        things += solid(rod, thickness, thickness + length, tip, _dark(tip), step=0.05)
    return tuple(things)


def dial_front(  # what a dial's face shows
    diameter: float,
    hole: float,
    *,
    track: float | None = None,
    ticks: bool = True,
    window: PartSize | None = None,
    about: tuple[float, float] = (0.0, 0.0),
    turn: float = 0.0,
    thickness: float = 0.4,
    colour: Rgb = BLACK,
) -> tuple[Thing, ...]:
    """A dial, face up, with a minute track that ends at radius `track`."""
    cuts: list[PaintShape] = [disc(*about, hole / 2)]
    if window:
        middle = place(window["radius"], window["angle"], about, turn)
        cuts.append(box(*middle, window["width"], window["height"], window["angle"] + turn - 90))
    plate = without(disc(*about, diameter / 2), *cuts)
    things = [
        *shadows(plate, 0, thickness),
        *solid(plate, 0, thickness, brushed(colour, 0.05), _dark(colour)),
    ]
    if track is not None:
        for minute in range(60):
            long = 1.2 if minute % 5 == 0 else 0.7
            begin, end = (place(track - inset, 6 * minute, about, turn) for inset in (long, 0))
            if ticks:
                things.append(Paint(thickness, taper(begin, end, 0.09, 0.09), PAPER))
        if not ticks:
            things.append(Paint(thickness, band(*about, track - 0.14, track), PAPER))
    for hour in range(12):
        if window and abs((hour * 30 - window["angle"] + 180) % 360 - 180) < 10:  # degrees
            continue
        begin, end = (place(radius, 30 * hour, about, turn) for radius in (diameter * 0.28, diameter * 0.38))
        things.append(Paint(thickness + 0.2, taper(begin, end, 0.4, 0.4), PAPER))
    return tuple(things)


def movement(  # what a dial side shows
    diameter: float,
    holes: Sequence[PartSize],
    post: float,
    *,
    stem_at: float | None = 90.0,
    about: tuple[float, float] = (0.0, 0.0),
    turn: float = 0.0,
    face: float = 4.1,
    colour: Rgb = (0.45, 0.41, 0.35),
    specks: int = 5,
    seed: int = 4,
) -> tuple[Thing, ...]:
    """A movement, dial side up; holes with radius, angle from the stem and diameter."""
    body = disc(*about, diameter / 2)
    things: list[Thing] = [*shadows(body, 0, face, 0.35)]
    at = 90.0 if stem_at is None else stem_at
    if stem_at is not None:
        begin, end = (place(radius, at, about, turn) for radius in (diameter / 2 - 2, diameter / 2 + 9.8))
        stem = taper(begin, end, 0.45, 0.45)
        things += [
            *shadows(stem, 1.6, 2.2, 0.3),
            Paint(2.1, stem, (0.10, 0.10, 0.12)),
            Paint(2.2, taper(begin, end, 0.28, 0.28), (0.5, 0.5, 0.55)),
        ]
    things += solid(body, 0, face, brushed(colour, 0.05, 0.9), _dark(colour))
    red, green, blue = colour
    things.append(Paint(face, disc(*about, diameter / 6), (0.75 * red, 0.75 * green, 0.75 * blue)))
    for radius, angle in ((9.2, 258), (7.5, 40), (11.5, 30), (9.9, 200)):
        middle = place(radius, at + angle, about, turn)
        things += [
            Paint(face + 0.1, disc(*middle, 0.8), (0.55, 0.56, 0.58)),
            Paint(face + 0.1, box(*middle, 1.7, 0.24, angle * 1.7), (0.08, 0.08, 0.1)),
        ]
    for radius, angle in ((6.1, 110), (9.0, 165)):
        middle = place(radius, at + angle, about, turn)
        things += [
            Paint(face, disc(*middle, 0.62), (0.55, 0.45, 0.35)),
            Paint(face, disc(*middle, 0.5), (0.45, 0.01, 0.05)),
        ]
    things += _specks(about, diameter / 2 - 1, face, specks, seed)
    for hole in holes:
        middle = place(hole["radius"], hole["angle"] + at, about, turn)
        things += [Paint(face, disc(*middle, hole["diameter"] / 2), (0.008, 0.008, 0.008))]
    tall = (
        (post / 2, face + 1.5, GILT),
        (post * 0.3, face + 2.0, (0.5, 0.5, 0.52)),
        (post * 0.12, face + 2.4, (0.3, 0.3, 0.32)),
    )
    for radius, top, tone in tall:
        rod = disc(*about, radius)
        things += [*shadows(rod, face, top, 0.3, body), *solid(rod, face, top, tone, _dark(tone), step=0.1)]
    return tuple(things)


def hands(
    hands_: Sequence[PartSize], *, colour: Rgb = BLACK, thickness: float = 0.2, closed: Sequence[int] = ()
) -> tuple[Thing, ...]:
    """Hands side by side, each with bore, length, boss and tail (0 for none), in mm."""
    things: list[Thing] = []
    for number, hand in enumerate(hands_):
        x = (number - (len(hands_) - 1) / 2) * 8.5
        y = -hand["length"] / 2 + 1.5 * number
        tip = place(hand["length"], hand.get("turn", 4 * number - 6), (x, y))
        boss = disc(x, y, hand["boss"] / 2)
        blade = taper((x, y), tip, hand["wide"], hand.get("narrow", 0.07))
        shapes = [boss, blade]
        if hand.get("tail"):
            shapes.append(
                taper(
                    (x, y),
                    place(hand["tail"], 180 + hand.get("turn", 4 * number - 6), (x, y)),
                    hand["wide"],
                    hand["wide"],
                )
            )
        bore = disc(x, y, hand["bore"] / 2)

        def whole(
            at: Points, shapes: list[PaintShape] = shapes, bore: PaintShape = bore, number: int = number
        ) -> Points:
            away = np.minimum.reduce([shape(at) for shape in shapes])
            return away if number in closed else np.maximum(away, -bore(at))

        things += [
            *shadows(whole, 0, thickness, 0.2),
            *solid(whole, 0, thickness, brushed(colour, 0.06, 0.7), _dark(colour)),
        ]
    return tuple(things)


def ring(
    outer: float,
    inner: float,
    *,
    height: float = 0.8,
    colour: Rgb = STEEL,
    about: tuple[float, float] = (0.0, 0.0),
) -> tuple[Thing, ...]:
    """A flat ring, or a disc where `inner` is 0."""
    shape = band(*about, inner / 2, outer / 2) if inner else disc(*about, outer / 2)
    return (*shadows(shape, 0, height), *solid(shape, 0, height, brushed(colour, 0.06), _dark(colour)))


def _dark(colour: Rgb) -> Rgb:
    red, green, blue = (0.45 * tone for tone in colour)
    return red, green, blue


def _specks(
    about: tuple[float, float], radius: float, height: float, count: int, seed: int
) -> Iterator[Thing]:
    """Dust and scratches: what is not to be taken for a foot."""
    random = np.random.default_rng(seed)
    for number in range(count):
        at = place(radius * math.sqrt(random.uniform(0.05, 1)), random.uniform(0, 360), about)
        if number % 3 == 2:  # every third
            end = place(random.uniform(0.6, 2.5), random.uniform(0, 360), at)
            yield Paint(height, taper(at, end, 0.04, 0.03), (0.85, 0.8, 0.7))
        else:
            tone = 0.8 if number % 2 else 0.06
            yield Paint(height, disc(*at, random.uniform(0.05, 0.14)), (tone, tone, tone * 0.9))
