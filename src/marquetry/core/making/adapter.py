"""The dial adapter as a solid: plate under a thin dial, pegs in the foot holes, skirt round the movement."""

from collections.abc import Iterator

from marquetry.core.making.dial import BEYOND, cuts
from marquetry.core.making.shape import Annulus, Bar, RoundSpot, Solid, Step
from marquetry.core.making.sizes import Sizes, refuse, refuse_thin

ADAPTER = "dial_adapter"
HOLES = "movement.foot_holes"
SLITS = (0.0, 180.0)
"""Where the sighting slits stand, degrees from 12."""


def adapter_solid(s: Sizes) -> Solid:
    """Put the adapter together. DimensionError, naming the field, where it cannot be made."""
    inner, outer = f"{ADAPTER}.opening_diameter", f"{ADAPTER}.outer_diameter"
    refuse_thin(s, inner, outer)
    thick = s[f"{ADAPTER}.thickness"]
    plate = [Step(Annulus(s[inner] / 2, s[outer] / 2), 0.0, thick)]
    plate += cuts(s, f"{ADAPTER}.windows", -BEYOND, thick)
    plate += _slits(s, thick)
    return Solid((*plate, *_pegs(s, thick), *_skirt(s, thick)))


def _slits(s: Sizes, thick: float) -> Iterator[Step]:
    if s.known(f"{ADAPTER}.slit_width"):
        for angle in SLITS:
            bar = Bar(angle, s[f"{ADAPTER}.slit_width"], inner=s[f"{ADAPTER}.slit_inner_radius"])
            yield Step(bar, -BEYOND, thick, adds=False, layer="CUT")


def _pegs(s: Sizes, thick: float) -> Iterator[Step]:
    if not s.known(f"{ADAPTER}.peg_length"):
        return
    for index in range(s.count(HOLES)):
        hole = f"{HOLES}.{index}"
        diameter = s[f"{hole}.diameter"] - s[f"{ADAPTER}.peg_play"]
        if diameter <= 0:
            limit = f"less than {hole}.diameter, {s[f'{hole}.diameter']:g} mm"
            raise refuse(f"{ADAPTER}.peg_play", s[f"{ADAPTER}.peg_play"], "mm", limit)
        spot = RoundSpot(s[f"{hole}.radius"], s.crown + s[f"{hole}.angle"], diameter / 2)
        yield Step(spot, thick, thick + s[f"{ADAPTER}.peg_length"], layer="CENTRE")


def has_skirt(s: Sizes) -> bool:
    """Whether it has a skirt: one of no height is none, whatever else is told of it."""
    return (s.or_none(f"{ADAPTER}.grip_height") or 0.0) > 0


def _skirt(s: Sizes, thick: float) -> Iterator[Step]:
    if not has_skirt(s):
        return
    inner = s["movement.diameter"] / 2 + s[f"{ADAPTER}.grip_play"]
    bottom = thick + s[f"{ADAPTER}.grip_height"]
    yield Step(Annulus(inner, inner + s[f"{ADAPTER}.grip_wall"]), thick, bottom)
    if s.known(f"{ADAPTER}.stem_opening"):
        bar = Bar(s.crown, s[f"{ADAPTER}.stem_opening"], inner=inner - BEYOND / 2)
        yield Step(bar, thick, bottom + BEYOND, adds=False, layer="CUT")
