"""Named places of the section, between which checks are drawn: `Check.span` speaks of these.

A z station is a height, an r station a distance from the axis; the pair they make is a point.
"""

from collections.abc import Callable, Mapping

from marquetry.core import levels
from marquetry.core.number import Number
from marquetry.core.readings import Readings
from marquetry.core.section.body import Plausible
from marquetry.core.section.case_bodies import flank_radius

Station = Callable[[Plausible], Number]


def _half(path: str) -> Station:
    return lambda p: p[path] / 2


def _longest_hand(p: Plausible) -> Number:
    return max((p[f"hands.{hand}.length"] for hand in p.hands()), default=p["dial.diameter"] / 3)


def _first(path: str, key: str) -> Station:
    return lambda p: p[f"{path}.0.{key}"] if p.count(path) else p["dial.diameter"] * 0.44


def _seat(_: Readings) -> Number:
    return 0.0


Z_STATIONS: Mapping[str, Station] = {
    "seat": _seat,
    "dial_top": levels.dial_top,
    "dial_middle": lambda p: levels.dial_top(p) - p["dial.thickness"] / 2,
    "movement_face": levels.movement_face,
    "stem_axis": levels.stem_axis,
    "tube_axis": levels.tube_axis,
    "movement_back": levels.movement_back,
    "back_plane": levels.back_plane,
    "back_inner": levels.back_inner,
    "crystal_centre": lambda p: levels.crystal_underside(p, 0.0),
}

R_STATIONS: Mapping[str, Station] = {
    "axis": _seat,
    "opening": lambda p: levels.opening(p) / 2,
    "dial_edge": _half("dial.diameter"),
    "dial_bore": _half("case.dial_bore"),
    "foot": _first("dial.feet", "radius"),
    "foot_hole": _first("movement.foot_holes", "radius"),
    "rotor_rim": lambda p: p["movement.diameter"] / 2 - 1.6,
    "hand_tip": lambda p: _longest_hand(p) * 0.22,
    "case_wall": lambda p: (p["case.movement_bore"] / 2 + flank_radius(p)) / 2,
}
