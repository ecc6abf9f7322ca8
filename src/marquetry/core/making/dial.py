"""A dial, its blank or the dial to try as a solid: a disc less hole and cut-outs, with its feet."""

from collections.abc import Iterator

from marquetry.core.making.shape import Annulus, Bar, BentBand, FlatShape, RoundSpot, Solid, Step
from marquetry.core.making.sizes import Sizes, refuse
from marquetry.core.sheet.described.made import CUT_SHAPES
from marquetry.core.values.errors import DimensionError

CARRIER = "dial_adapter"
DIAMETER, THICK, HOLE, FEET = "dial.diameter", "dial.thickness", "dial.centre_hole", "dial.feet"
BEYOND = 1.0
"""Cuts begin and end outside the part, mm, so that no skin is left where two faces meet."""


def dial_solid(s: Sizes, *, feet: bool = True) -> Solid:
    """Put the dial together; without feet it is the dial to try. DimensionError where it cannot be made."""
    radius, thick = s[DIAMETER] / 2, s[THICK]
    steps = [Step(Annulus(0.0, radius), 0.0, thick)]
    if s.known(HOLE):
        if s[HOLE] >= s[DIAMETER]:
            raise refuse(HOLE, s[HOLE], "mm", f"less than {DIAMETER}, {s[DIAMETER]:g} mm")
        steps.append(Step(Annulus(0.0, s[HOLE] / 2), -BEYOND, thick + BEYOND, adds=False, layer="HOLE"))
    steps += cuts(s, "dial.cutouts", -BEYOND, thick + BEYOND)
    return Solid((*steps, *(_feet(s, thick) if feet and has_feet(s) else ())))


def has_feet(s: Sizes) -> bool:
    """Whether feet are drawn and made: on a carrier the dial lies on its plate, and has none."""
    return not s.build.has(CARRIER) and s.count(FEET) > 0


def cuts(s: Sizes, many: str, top: float, bottom: float) -> Iterator[Step]:
    """Each cut-out or window of the list, taken away between two depths, mm."""
    for index in range(s.count(many)):
        yield Step(cut_shape(s, f"{many}.{index}"), top, bottom, adds=False, layer="CUT")


def cut_shape(s: Sizes, path: str) -> FlatShape:
    """The shape of the cut-out or window at the path; DimensionError where its kind or a size is not told."""
    kind = s.word(f"{path}.shape")
    if kind == "round":
        return RoundSpot(s[f"{path}.at_radius"], s[f"{path}.angle"], s[f"{path}.diameter"] / 2)
    if kind == "rectangle":
        middle, half = s[f"{path}.at_radius"], s[f"{path}.height"] / 2
        return Bar(s[f"{path}.angle"], s[f"{path}.width"], start=middle - half, end=middle + half)
    if kind == "arc":
        inner, outer = s[f"{path}.inner_radius"], s[f"{path}.outer_radius"]
        if inner >= outer:
            raise refuse(f"{path}.inner_radius", inner, "mm", f"less than {path}.outer_radius, {outer:g} mm")
        return BentBand(inner, outer, s[f"{path}.from"], s[f"{path}.to"])
    raise DimensionError(f"{path}.shape", kind or "nothing", "", f"one of {', '.join(CUT_SHAPES)}")


def _feet(s: Sizes, thick: float) -> Iterator[Step]:
    for index in range(s.count(FEET)):
        foot = f"{FEET}.{index}"
        spot = RoundSpot(s[f"{foot}.radius"], s[f"{foot}.angle"], s[f"{foot}.diameter"] / 2)
        yield Step(spot, thick, thick + s[f"{foot}.length"], layer="CENTRE")
