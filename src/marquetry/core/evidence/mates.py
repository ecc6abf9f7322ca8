"""What suits what: pairs of sizes that go by each other, as parts that are made for each other measure.

One table, read in its order. It is no check: it says where a size that nobody gave would lie if the part
suited the one beside it, and its rows are what builders expect of a pair, not limits.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from marquetry.core.evidence.seat import SeatReader, behind_dial, drop, flange, stack
from marquetry.core.sheet.build import Build
from marquetry.core.values.number import Number

Term = Callable[[SeatReader], Number]


@dataclass(frozen=True, slots=True)
class Mate:
    """Two sizes by path, mm or °: b = `scale`·a + `plus` + what other sizes add (`more`)."""

    a: str
    b: str
    plus: float = 0.0
    scale: float = 1.0
    more: Term | None = None
    when: Callable[[Build], bool] | None = None

    def b_from(self, a: float, r: SeatReader) -> float:
        """What b would be beside a, both in mm or °; NaN where another size of the row is missing."""
        return self.scale * a + self._offset(r)

    def a_from(self, b: float, r: SeatReader) -> float:
        """What a would be beside b, both in mm or °; NaN likewise."""
        return (b - self._offset(r)) / self.scale

    def _offset(self, r: SeatReader) -> float:
        return self.plus + (float(self.more(r)) if self.more else 0.0)


def _size(path: str, times: float = 1.0) -> Term:
    return lambda r: times * r[path]


def _stack_and_drop(r: SeatReader) -> Number:
    return stack(r) + drop(r)


def _crown(r: SeatReader) -> Number:
    return r["case.crown_angle"]


def _holder_under_lip(r: SeatReader) -> Number:
    """The rim to the back's lip: what lies under it is stack and holder, less a lip that reaches in."""
    return stack(r) + drop(r) - r["case_back.lip_recess"]


def _insert_under_crystal(r: SeatReader) -> Number:
    bezel = r["bezel.seat_to_channel"] + r["bezel_insert.thickness"] + r["bezel_insert.adhesive"]
    return flange(r) - bezel


def _has_h24(build: Build) -> bool:
    return build.has("movement.posts.h24")


_POSTS = tuple(
    Mate(f"movement.posts.{hand}.diameter", f"hands.{hand}.bore", -0.02)
    for hand in ("h24", "hour", "minute", "seconds")
)
_BEFORE_FEET = (
    *_POSTS,
    Mate("movement.posts.h24.diameter", "dial.centre_hole", 0.50, when=_has_h24),
    Mate("movement.posts.hour.diameter", "dial.centre_hole", 0.50, when=lambda b: not _has_h24(b)),
    Mate("case.crown_angle", "calendar_disc.crown_angle"),
)


def _foot(number: int) -> tuple[Mate, ...]:
    hole, foot = f"movement.foot_holes.{number}", f"dial.feet.{number}"
    return (
        Mate(f"{hole}.radius", f"{foot}.radius"),
        Mate(f"{hole}.angle", f"{foot}.angle", more=_crown),
        Mate(f"{hole}.diameter", f"{foot}.diameter", -0.10),
        Mate("movement.foot_hole_depth", f"{foot}.length", -0.40, more=behind_dial),
    )


_AFTER_FEET = (
    Mate("movement.date_angle", "dial.date_window_angle", more=_crown),
    Mate("movement.date_radius", "dial.date_window_radius"),
    Mate("calendar_disc.numeral_radius", "movement.date_radius"),
    Mate("movement.diameter", "holder.inner_diameter", 0.08),
    Mate("case_back.lip_inner_diameter", "holder.rim_outer_diameter", -0.40),
    Mate("movement.diameter", "holder.rim_outer_diameter", 0.80),
    Mate("movement.diameter", "rotor.diameter", -1.20),
    Mate("movement.face_to_back", "movement.face_to_rotor", -0.80),
    Mate("movement.rotor_bearing_diameter", "rotor.bore", 0.02),
    Mate("holder.face_to_rim", "case.seat_to_back_plane", -0.12, more=_holder_under_lip),
    Mate("movement.face_to_back", "holder.face_to_rim"),
    Mate("movement.face_to_stem", "case.seat_to_tube", more=_stack_and_drop),
    Mate("movement.posts.seconds.top", "case.seat_to_crystal", 0.85, more=lambda r: -_stack_and_drop(r)),
    Mate(
        "movement.posts.minute.top",
        "case.seat_to_crystal",
        1.35,
        more=lambda r: -_stack_and_drop(r),
        when=lambda build: not build.has("movement.posts.seconds"),
    ),
    Mate("case.dial_bore", "dial.diameter", -0.12),
    Mate("case.movement_bore", "holder.outer_diameter", -0.15),
    Mate("case.dial_bore", "case.movement_bore", 0.70),
    Mate("case.back_groove_inner_diameter", "back_gasket.inner_diameter", -0.60),
    Mate("case.movement_bore", "case.back_groove_inner_diameter", 1.10),
    Mate("case.movement_bore", "case_back.lip_inner_diameter", -1.10),
    Mate("case.back_groove_depth", "back_gasket.cord", scale=1 / 0.78),
    Mate("back_gasket.cord", "case.back_groove_width", 0.35),
    Mate("case.dial_bore", "case.opening_diameter", -1.50),
    Mate("case.opening_diameter", "chapter_ring.inner_diameter", -0.30),
    Mate("case.crystal_bore", "crystal.diameter", more=_size("crystal_gasket.wall", -1.8)),
    Mate("crystal.diameter", "crystal.inner_aperture", -3.00),
    Mate("case.dial_bore", "case.crystal_bore", 2.30),
    Mate("case.crystal_bore", "case.crystal_aperture", -2.50),
    Mate("case.bezel_seat_diameter", "bezel.inner_diameter", 0.06),
    Mate("bezel.inner_diameter", "bezel.turning_inner_diameter", 0.14),
    Mate("bezel.channel_outer_diameter", "bezel_insert.outer_diameter", -0.08),
    Mate("bezel.channel_inner_diameter", "bezel_insert.inner_diameter", 0.10),
    Mate("bezel.channel_depth", "bezel_insert.thickness", -0.05, more=_size("bezel_insert.adhesive", -1.0)),
    Mate("case.crystal_bore", "case.bezel_seat_diameter", 2.50),
    Mate("case.bezel_seat_diameter", "bezel.channel_outer_diameter", 4.60),
    Mate("case.crystal_bore", "bezel.channel_inner_diameter", 0.10),
    Mate("crystal.edge_thickness", "case.ledge_to_bezel_seat", -0.15, more=_insert_under_crystal),
    Mate("case.diameter", "case_back.outer_diameter", -3.00),
    Mate("case.diameter", "case.centre_to_tube_end", -1.20, scale=0.5),
    Mate("case.diameter", "case.lug_to_lug", 7.00),
    Mate("case.lug_width", "strap.width"),
    Mate("case.lug_width", "spring_bars.length", 2.50),
    Mate("case.lug_hole_diameter", "spring_bars.tip_diameter", -0.20),
    Mate("strap.thickness", "case.bar_to_case", 0.70, scale=0.5),
    Mate("crown.gasket_cord", "crown_gasket.cord"),
    Mate("case.tube_outer_diameter", "crown.gasket_bore", more=_size("crown.gasket_cord", 1.6)),
    Mate("case.tube_outer_diameter", "crown_gasket.inner_diameter", -0.10),
    Mate("dial.diameter", "hands.minute.length", -2.25, scale=0.5),
    Mate("hands.minute.length", "hands.seconds.length", 0.50),
    Mate("hands.minute.length", "hands.hour.length", -4.00),
    Mate("hands.minute.length", "hands.h24.length", -1.50),
    Mate("hands.minute.length", "dial.track_radius", 0.90),
)


def mates_of(build: Build) -> Iterator[Mate]:
    """The rows that are about something in this watch, in the table's order; feet and holes one by one."""
    feet = min(build.count("dial.feet"), build.count("movement.foot_holes"))
    rows = (*_BEFORE_FEET, *(row for number in range(feet) for row in _foot(number)), *_AFTER_FEET)
    return (row for row in rows if row.when is None or row.when(build))
