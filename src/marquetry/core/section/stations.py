"""Named places of the section, between which checks are drawn: `Check.span` speaks of these.

A z station is a height, an r station a distance from the axis; the pair they make is a point.
"""

from collections.abc import Callable, Mapping

from marquetry.core.fit import levels
from marquetry.core.fit.checks.bezel import TURNING
from marquetry.core.fit.checks.dial import outermost_post
from marquetry.core.fit.checks.support import is_spigot
from marquetry.core.fit.checks.tabs import tab_at
from marquetry.core.fit.cutouts import date_window_radius, has_date_window
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.trace import Trace
from marquetry.core.section.case_bodies import flank_radius
from marquetry.core.sheet.described.words import HANDS
from marquetry.core.values.number import Number

Station = Callable[[Plausible], Number]


def _half(path: str) -> Station:
    return lambda p: p[path] / 2


def _longest_hand(p: Plausible) -> Number:
    return max((p[f"hands.{hand}.length"] for hand in p.hands()), default=p["dial.diameter"] / 3)


def _first(path: str, key: str) -> Station:
    return lambda p: p[f"{path}.0.{key}"] if p.count(path) else p["dial.diameter"] * 0.44


def _seat(_: Trace) -> Number:
    return 0.0


def _per_hand(name: str, station: Callable[[Plausible, str], Number]) -> dict[str, Station]:
    def of(hand: str) -> Station:
        return lambda p: station(p, hand)

    return {f"{name}.{hand}": of(hand) for hand in HANDS}


def _post_top(p: Plausible, hand: str) -> Number:
    return levels.movement_face(p) + p[f"movement.posts.{hand}.top"]


def _foot_end(p: Plausible) -> Number:
    length = p["dial.feet.0.length"] if p.count("dial.feet") else 0.0
    return levels.dial_under(p) - length


def _tab(key: str) -> Station:
    return lambda p: levels.movement_face(p) - p[f"holder.tabs.0.{key}"] if p.count("holder.tabs") else 0.0


def _tab_inside(p: Plausible) -> Number:
    return (
        tab_at(p, 0, whole=False).reach + 0.15 if p.count("holder.tabs") else p["holder.inner_diameter"] / 2
    )


def _recess_end(p: Plausible) -> Number:
    deep = p["movement.recesses.0.to"] if p.count("movement.recesses") else 0.0
    return levels.movement_face(p) - deep


def _glued_inner(p: Plausible) -> Number:
    inner = p["bezel_insert.inner_diameter"] / 2
    return max(inner, p[TURNING] / 2) if p.known(TURNING) else inner


def _relief_bottom(p: Plausible) -> Number:
    """A spigot's depth is told from the face that the case stands on, a seat's from its shoulder."""
    return levels.back_plane(p) - p["press_support.relief_depth"]


def _support_shoulder(p: Plausible) -> Number:
    """Half way down what stands round the case's underside, or up the spigot."""
    if is_spigot(p):
        return levels.back_plane(p) + p["press_support.spigot_height"] / 2
    return levels.back_plane(p) + p["press_support.shoulder"] / 2


def _skirt_wall(p: Plausible) -> Number:
    return p["movement.diameter"] / 2 + p["dial_adapter.grip_play"] + p["dial_adapter.grip_wall"]


Z_STATIONS: Mapping[str, Station] = {
    "seat": _seat,
    "dial_top": levels.dial_top,
    "dial_middle": lambda p: levels.dial_top(p) - p["dial.thickness"] / 2,
    "foot_end": _foot_end,
    "foot_hole_bottom": lambda p: levels.movement_face(p) - p["movement.foot_hole_depth"],
    "movement_face": levels.movement_face,
    "stem_axis": levels.stem_axis,
    "stem_lower": lambda p: levels.stem_axis(p) - 0.45,
    "tube_axis": levels.tube_axis,
    "tube_outside": lambda p: levels.tube_axis(p) - p["case.tube_outer_diameter"] / 2,
    "crown_bore": lambda p: levels.tube_axis(p) - p["crown.gasket_bore"] / 2,
    "movement_back": levels.movement_back,
    "holder_upper": lambda p: levels.movement_face(p) - 0.4,
    "holder_lower": lambda p: levels.stem_axis(p) - 1.3,
    "holder_rim": levels.holder_rim,
    "rotor_underside": levels.rotor_underside,
    "rotor_middle": lambda p: levels.movement_back(p) + p["rotor.rim_thickness"] / 2,
    "tab_end": _tab("to"),
    "recess_end": _recess_end,
    "back_outside": levels.back_outside,
    "watch_top": lambda p: levels.crystal_ledge(p) + levels.top_over_ledge(p),
    "back_lip": levels.back_lip,
    "back_plane": levels.back_plane,
    "back_inner": levels.back_inner,
    "rotor_top": lambda p: levels.movement_face(p) - p["movement.face_to_back"],
    "support_relief": _relief_bottom,
    "support_shoulder": _support_shoulder,
    "skirt_middle": lambda p: levels.movement_face(p) - p["dial_adapter.grip_height"] / 2,
    "clamp_face": lambda p: levels.movement_face(p) - p["movement.clamp_face"],
    "screw_face": lambda p: -p["case.seat_to_screw_face"],
    "groove_top": lambda p: levels.back_plane(p) + p["case.back_groove_depth"],
    "groove_half": lambda p: levels.back_plane(p) + p["case.back_groove_depth"] / 2,
    "crystal_ledge": lambda p: levels.crystal_seat(p) + 0.2,
    "crystal_centre": lambda p: levels.crystal_underside(p, 0.0),
    "crystal_top": lambda p: levels.crystal_underside(p, 0.0) + p["crystal.centre_thickness"],
    "crystal_shoulder": levels.crystal_shoulder,
    "bezel_seat": levels.bezel_seat,
    "channel_floor": levels.channel_floor,
    "channel_rim": lambda p: levels.channel_floor(p) + p["bezel.channel_depth"],
    "insert_top": levels.insert_top,
    **_per_hand("post_top", _post_top),
    **_per_hand("post_grip", lambda p, hand: _post_top(p, hand) - 0.12),
}

R_STATIONS: Mapping[str, Station] = {
    "axis": _seat,
    "near_axis": lambda _: 2.0,
    "outer_post": lambda p: p[f"movement.posts.{outermost_post(p)}.diameter"] / 2,
    "centre_hole": _half("dial.centre_hole"),
    "opening": lambda p: levels.opening(p) / 2,
    "dial_edge": _half("dial.diameter"),
    "dial_bore": _half("case.dial_bore"),
    "date_window": lambda p: date_window_radius(p) if has_date_window(p) else p["dial.date_window_radius"],
    "date_numeral": lambda p: p["movement.date_radius"],
    "foot": _first("dial.feet", "radius"),
    "foot_hole": _first("movement.foot_holes", "radius"),
    "rotor_bearing": _half("movement.rotor_bearing_diameter"),
    "rotor_bore": _half("rotor.bore"),
    "rotor_outer": _half("rotor.diameter"),
    "tab_inside": _tab_inside,
    "glued_inner": _glued_inner,
    "overall": lambda _: -0.8,
    "rotor_rim": lambda p: p["movement.diameter"] / 2 - 1.6,
    "movement_edge": _half("movement.diameter"),
    "movement_bore": _half("case.movement_bore"),
    "holder_inner": _half("holder.inner_diameter"),
    "skirt_outer": _skirt_wall,
    "underside": _half("case.underside_diameter"),
    "support_seat": _half("press_support.seat_diameter"),
    "spigot_edge": _half("press_support.spigot_diameter"),
    "back_opening": _half("case.back_opening_diameter"),
    "holder_outer": _half("holder.outer_diameter"),
    "holder_rim_outer": _half("holder.rim_outer_diameter"),
    "holder_rim_edge": lambda p: p["holder.rim_outer_diameter"] / 2 - 0.1,
    "back_lip_inner": _half("case_back.lip_inner_diameter"),
    "ring_inner": _half("back_gasket.inner_diameter"),
    "groove_inner": _half("case.back_groove_inner_diameter"),
    "groove_outer": lambda p: p["case.back_groove_inner_diameter"] / 2 + p["case.back_groove_width"],
    "groove_middle": lambda p: (p["case.back_groove_inner_diameter"] + p["case.back_groove_width"]) / 2,
    "hand_tip": lambda p: _longest_hand(p) * 0.22,
    "case_wall": lambda p: (p["case.movement_bore"] / 2 + flank_radius(p)) / 2,
    "tube_end": lambda p: p["case.centre_to_tube_end"],
    "crown_bottom": lambda p: p["case.centre_to_tube_end"] + p["crown.seat_to_bottom"],
    "crown_skirt": lambda p: p["case.centre_to_tube_end"] - 0.1,
    "crystal_edge": _half("crystal.diameter"),
    "crystal_bore": _half("case.crystal_bore"),
    "bezel_seat_edge": _half("case.bezel_seat_diameter"),
    "bezel_inner": _half("bezel.inner_diameter"),
    "channel_inner": _half("bezel.channel_inner_diameter"),
    "channel_outer": _half("bezel.channel_outer_diameter"),
    "insert_inner": _half("bezel_insert.inner_diameter"),
    "insert_outer": _half("bezel_insert.outer_diameter"),
    **_per_hand("post", lambda p, hand: p[f"movement.posts.{hand}.diameter"] / 2),
    **_per_hand("bore", lambda p, hand: p[f"hands.{hand}.bore"] / 2),
    **_per_hand("tip", lambda p, hand: p[f"hands.{hand}.length"]),
}
