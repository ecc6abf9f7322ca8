"""How far an assumed dimension may lie from what would suit: its spread, where no tolerance is written.

The half widths are those of design/evidence.md, in mm or degrees: what such parts on sale differ by, not what
anyone measured. A dimension that no row names spreads by a tenth of itself, or by 5°.
"""

from marquetry.core.values.dimension import Unit, plain_spread

_ROWS: tuple[tuple[float, str], ...] = (
    (180.0, "dial.feet.angle movement.foot_holes.angle"),
    (
        30.0,
        ("case.crown_angle dial.date_window_angle movement.date_angle calendar_disc.crown_angle"),
    ),
    (15.0, "strap.length"),
    (8.0, "strap.clasp_length"),
    (4.0, "case.lug_to_lug"),
    (
        3.0,
        (
            "case.diameter case_back.outer_diameter stem.length stem.thread_length "
            "calendar_disc.inner_diameter strap.end_link_overhang"
        ),
    ),
    (
        2.0,
        (
            "case.bezel_seat_diameter case.back_groove_inner_diameter back_gasket.inner_diameter "
            "bezel.inner_diameter bezel.turning_inner_diameter bezel.channel_outer_diameter "
            "bezel_insert.outer_diameter crystal.inner_aperture case.lug_width strap.width strap.clasp_width "
            "spring_bars.length dial.features.inner_radius hands.h24.length hands.hour.length "
            "hands.minute.length hands.seconds.length calendar_disc.outer_diameter strap.link_length"
        ),
    ),
    (
        1.5,
        (
            "case.dial_bore case.opening_diameter case.crystal_bore case.crystal_aperture case.movement_bore "
            "case_back.lip_inner_diameter case.centre_to_tube_end crystal.diameter movement.diameter "
            "movement.centre_to_stem_tip rotor.diameter holder.outer_diameter holder.inner_diameter "
            "holder.rim_outer_diameter bezel.channel_inner_diameter bezel_insert.inner_diameter"
        ),
    ),
    (1.2, "movement.face_to_back"),
    (
        1.0,
        (
            "strap.thickness dial.diameter chapter_ring.inner_diameter dial.feet.radius "
            "movement.foot_holes.radius dial.date_window_radius movement.date_radius "
            "calendar_disc.numeral_radius dial.track_radius case.seat_to_back_plane movement.face_to_rotor "
            "holder.face_to_rim holder.step crown.diameter bezel.index_offset"
        ),
    ),
    (
        0.8,
        (
            "crystal.edge_thickness crystal.centre_thickness case.ledge_to_bezel_seat case_back.outer_height "
            "crown.seat_to_bottom case.bar_to_case"
        ),
    ),
    (
        0.6,
        (
            "movement.face_to_stem movement.posts.h24.top movement.posts.hour.top movement.posts.minute.top "
            "movement.posts.seconds.top case.seat_to_crystal movement.foot_hole_depth"
        ),
    ),
    (
        0.5,
        (
            "case.seat_to_tube case_back.inner_recess case_back.lip_recess crystal.inner_dome "
            "dial.feet.length case.tube_outer_diameter crown.gasket_bore bezel.seat_to_channel "
            "movement.rotor_bearing_diameter rotor.bore"
        ),
    ),
    (
        0.4,
        (
            "hands.h24.bore hands.hour.bore movement.posts.h24.diameter movement.posts.hour.diameter "
            "dial.centre_hole chapter_ring.drop crown_gasket.inner_diameter"
        ),
    ),
    (
        0.3,
        (
            "hands.minute.bore movement.posts.minute.diameter crystal_gasket.flange dial.features.height "
            "case.lug_hole_diameter bezel.channel_depth case.back_groove_width spring_bars.diameter "
            "rotor.rim_thickness"
        ),
    ),
    (0.25, "bezel_insert.thickness"),
    (
        0.2,
        (
            "hands.h24.pipe hands.hour.pipe hands.minute.pipe hands.seconds.pipe movement.posts.h24.grip "
            "movement.posts.hour.grip movement.posts.minute.grip movement.posts.seconds.grip "
            "dial.feet.diameter"
        ),
    ),
    (
        0.15,
        (
            "dial.thickness dial.edge_thickness crystal_gasket.wall case.back_groove_depth back_gasket.cord "
            "spring_bars.tip_diameter movement.foot_holes.diameter"
        ),
    ),
    (0.1, "crown.gasket_cord crown_gasket.cord calendar_disc.thickness rotor.web_thickness"),
    (0.08, "hands.seconds.bore movement.posts.seconds.diameter bezel_insert.adhesive"),
    (
        0.06,
        ("hands.h24.thickness hands.hour.thickness hands.minute.thickness hands.seconds.thickness"),
    ),
)
SPREADS: dict[str, float] = {path: half for half, paths in _ROWS for path in paths.split()}
"""Half widths by path, numbers of a list left out: `dial.feet.radius`."""


def spread(path: str, value: float, unit: Unit) -> float:
    """How far the dimension at the path may lie from the value that is assumed for it, mm or °."""
    plain = ".".join(step for step in path.split(".") if not step.isdecimal())
    return SPREADS.get(plain, plain_spread(value, unit))
