"""What is drawn of a made part and not cut: centre marks, divisions, the stem's direction; where it is cut open."""

from collections.abc import Callable, Iterator
from typing import TypeAlias

from marquetry.core.making.adapter import ADAPTER
from marquetry.core.making.adapter import HOLES as PEG_HOLES
from marquetry.core.making.dial import FEET, has_feet
from marquetry.core.making.holder import TABS
from marquetry.core.making.outline import Edge, StraightEdge
from marquetry.core.making.shape import PlanePoint, spot_at
from marquetry.core.making.sizes import Sizes

CROSS = 0.8
"""Half a centre mark's width, mm."""
STEM_OUT = 4.0
"""How far a stem's direction is drawn beyond the edge, mm."""
NamedSpot: TypeAlias = tuple[PlanePoint, str]
Aside: TypeAlias = tuple[float, str]
"""Where a part is cut open left of its axis, degrees from 12, and what is seen there."""
SpotsOf = Callable[[Sizes], Iterator[NamedSpot]]
AsideOf = Callable[[Sizes], Aside | None]


def cross(at: PlanePoint) -> Iterator[Edge]:
    """A centre mark."""
    x, y = at
    yield StraightEdge((x - CROSS, y), (x + CROSS, y), "CENTRE")
    yield StraightEdge((x, y - CROSS), (x, y + CROSS), "CENTRE")


def stem_line(s: Sizes, reach: float) -> Iterator[Edge]:
    """The stem's direction at the edge of a part that reaches so far from the axis, mm."""
    yield StraightEdge(spot_at(reach - 2.0, s.crown), spot_at(reach + STEM_OUT, s.crown), "STEM")


def no_spots(_: Sizes) -> Iterator[NamedSpot]:
    """Nothing beside the axis has a centre."""
    return iter(())


def feet_spots(s: Sizes) -> Iterator[NamedSpot]:
    """The dial's feet by their numbers."""
    for index in range(s.count(FEET) if has_feet(s) else 0):
        foot = f"{FEET}.{index}"
        if s.known(f"{foot}.radius") and s.known(f"{foot}.angle"):
            yield spot_at(s[f"{foot}.radius"], s[f"{foot}.angle"]), f"foot {index + 1}"


def peg_spots(s: Sizes) -> Iterator[NamedSpot]:
    """The adapter's pegs by their numbers."""
    for index in range(s.count(PEG_HOLES) if s.known(f"{ADAPTER}.peg_length") else 0):
        hole = f"{PEG_HOLES}.{index}"
        yield spot_at(s[f"{hole}.radius"], s[f"{hole}.angle"] + s.crown), f"peg {index + 1}"


def divisions(s: Sizes) -> Iterator[Edge]:
    """The dial's marks, drawn and not cut."""
    if not s.build.has("dial.marks"):
        return
    count = int(s.build.at("dial.marks.count") or 0)
    inner, outer = s["dial.marks.inner_radius"], s["dial.marks.outer_radius"]
    for number in range(count):
        angle = 360.0 * number / count
        yield StraightEdge(spot_at(inner, angle), spot_at(outer, angle), "MARK")


def across(s: Sizes) -> Aside:
    """Across from the stem, where nothing else is more worth seeing."""
    return s.crown + 180.0, "across from it"


def at_tab(s: Sizes) -> Aside:
    """Through the holder's first tab."""
    return (s.crown + s[f"{TABS}.0.angle"], "at tab 1") if s.count(TABS) else across(s)


def at_foot(s: Sizes) -> Aside:
    """Through the dial's first foot."""
    return (s[f"{FEET}.0.angle"], "at foot 1") if has_feet(s) else across(s)


def at_peg(s: Sizes) -> Aside:
    """Through the adapter's first peg."""
    pegs = s.known(f"{ADAPTER}.peg_length") and s.count(PEG_HOLES)
    return (s.crown + s[f"{PEG_HOLES}.0.angle"], "at peg 1") if pegs else across(s)


def no_stem(_: Sizes) -> None:
    """The part knows nothing of a stem: it is round, and cut anywhere."""
