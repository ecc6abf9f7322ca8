"""What a cutter is told of a dial's windows: each with every radius and place, and a solid of them."""

from collections.abc import Iterator

from marquetry.core.making.dial import BEYOND, DIAMETER, cuts
from marquetry.core.making.shape import Annulus, PlanePoint, Solid, Step, spot_at
from marquetry.core.making.sizes import Sizes
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import figure

CUTOUTS = "dial.cutouts"
PURPOSES = {"date": "date", "day": "day", "h24": "24-hour disc", "open": "open"}
"""What a cut-out is for, in a builder's words."""


def windows_alone(s: Sizes) -> Solid:
    """A disc of the blank's Ø, 1 mm thick, less its windows; DimensionError where there is none to cut."""
    if not s.count(CUTOUTS):
        raise DimensionError(CUTOUTS, "nothing", "", "a cut-out: without one there is nothing to cut")
    disc = Step(Annulus(0.0, s[DIAMETER] / 2), 0.0, 1.0)
    return Solid((disc, *cuts(s, CUTOUTS, -BEYOND, 1.0 + BEYOND)))


def window_places(s: Sizes) -> Iterator[tuple[int, PlanePoint]]:
    """The number of each window, from 1, and where its middle is, mm."""
    for index in range(s.count(CUTOUTS)):
        path = f"{CUTOUTS}.{index}"
        if s.word(f"{path}.shape") == "arc":
            begin, end = s[f"{path}.from"], s[f"{path}.to"]
            radius = (s[f"{path}.inner_radius"] + s[f"{path}.outer_radius"]) / 2
            yield index + 1, spot_at(radius, begin + (end - begin) % 360.0 / 2)
        else:
            yield index + 1, spot_at(s[f"{path}.at_radius"], s[f"{path}.angle"])


def windows_told(s: Sizes) -> Iterator[str]:
    """Each window in words: its shape, every radius of it, and where it stands; mm and degrees from 12."""
    for index in range(s.count(CUTOUTS)):
        path = f"{CUTOUTS}.{index}"
        purpose = PURPOSES.get(s.word(f"{path}.for"), "open")
        yield f"Window {index + 1}, {purpose}: {_shape_told(s, path)}"


def _shape_told(s: Sizes, path: str) -> str:
    if s.word(f"{path}.shape") == "arc":
        inner, outer = figure(s[f"{path}.inner_radius"]), figure(s[f"{path}.outer_radius"], 2, "mm")
        begin, end = figure(s[f"{path}.from"], 1), figure(s[f"{path}.to"], 1, "°")
        return f"a bent band between R {inner} and R {outer}, clockwise from {begin} to {end}"
    place = (
        f"{figure(s[f'{path}.at_radius'], 2, 'mm')} from the centre at {figure(s[f'{path}.angle'], 1, '°')}"
    )
    if s.word(f"{path}.shape") == "round":
        size = s[f"{path}.diameter"]
        return f"round, Ø {figure(size)} (R {figure(size / 2, 2, 'mm')}), {place}"
    width, height = figure(s[f"{path}.width"]), figure(s[f"{path}.height"], 2, "mm")
    return f"{width} across by {height} along its ray, its middle {place}"
