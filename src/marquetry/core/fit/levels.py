"""Heights along the watch's axis: z in millimetres, 0 at the dial seat, up towards the crystal.

Each is written once, as fit-model.md defines it; checks subtract them, the section draws them.
"""

import numpy as np

from marquetry.core.evidence.seat import EDGE, drop, flange, seated_thickness, spacer_height, stack
from marquetry.core.fit.trace import Trace
from marquetry.core.values.number import Number, greatest, nominal


def opening(r: Trace) -> Number:
    """Diameter through which the dial is seen: the chapter ring's, else the case's own ledge's, mm."""
    return r["chapter_ring.inner_diameter"] if r.has("chapter_ring") else r["case.opening_diameter"]


def dial_rise(r: Trace) -> Number:
    """How far the dial's face in the middle stands above its edge, its back being one plane, mm."""
    differs = all([r.known(EDGE), r.known("dial.thickness")])
    return r["dial.thickness"] - r[EDGE] if differs else 0.0


def ledge(r: Trace) -> Number:
    """The case's own ledge, from which its depths and heights are measured: z, mm."""
    return drop(r)


def dial_top(r: Trace) -> Number:
    """The dial's face in the middle: z, mm."""
    return dial_rise(r) - spacer_height(r, "dial")


def dial_under(r: Trace) -> Number:
    """The dial's underside, one plane: z, mm."""
    return -spacer_height(r, "dial") - seated_thickness(r)


def movement_face(r: Trace) -> Number:
    """The movement's dial-side face: z, mm."""
    return -stack(r)


def stem_axis(r: Trace) -> Number:
    """The axis of the stem in the movement: z, mm."""
    return movement_face(r) - r["movement.face_to_stem"]


def tube_axis(r: Trace) -> Number:
    """The axis of the crown tube in the case: z, mm."""
    return drop(r) - r["case.seat_to_tube"]


def movement_back(r: Trace) -> Number:
    """The highest point at the movement's back: the rotor of its own where there is one, z in mm."""
    if r.has_rotor() and r.has("rotor") and r.known("movement.face_to_rotor"):
        return rotor_underside(r) - r["rotor.rim_thickness"]
    return movement_face(r) - r["movement.face_to_back"]


def rotor_underside(r: Trace) -> Number:
    """The dial-side surface of the rotor's rim: z, mm."""
    return movement_face(r) - r["movement.face_to_rotor"]


def back_plane(r: Trace) -> Number:
    """The plane the case back closes on: z, mm."""
    return drop(r) - r["case.seat_to_back_plane"]


def rotor_proud(r: Trace) -> Number:
    """How far the movement's highest point stands beyond the plane the back closes on, mm; within it < 0."""
    return back_plane(r) - movement_back(r)


def back_inner(r: Trace) -> Number:
    """The case back's inner face: z, mm."""
    return back_plane(r) - r["case_back.inner_recess"]


def back_outside(r: Trace) -> Number:
    """The outermost face of the case back: z, mm."""
    return back_plane(r) - r["case_back.outer_height"]


def top_over_ledge(r: Trace) -> Number:
    """The highest point above the crystal's ledge, mm: crystal, or the bezel's rim where higher."""
    crystal = flange(r) + r["crystal.inner_dome"] + r["crystal.centre_thickness"]
    return (
        greatest([crystal, channel_over_ledge(r) + r["bezel.channel_depth"]]) if r.has("bezel") else crystal
    )


def watch_height(r: Trace) -> Number:
    """From the outermost face of the back to the highest point of crystal or bezel, mm."""
    case = r["case.seat_to_crystal"] + r["case.seat_to_back_plane"]
    return case + top_over_ledge(r) + r["case_back.outer_height"]


def dial_to_crystal(r: Trace) -> Number:
    """From the dial's face to the crystal's underside at the centre, mm."""
    return crystal_seat(r) + r["crystal.inner_dome"] - dial_top(r)


def back_lip(r: Trace) -> Number:
    """The case back's lip, which presses the holder: z, mm."""
    return back_plane(r) - r["case_back.lip_recess"]


def holder_rim(r: Trace) -> Number:
    """The holder's rim towards the back: z, mm."""
    return movement_face(r) - r["holder.face_to_rim"]


def bezel_seat(r: Trace) -> Number:
    """The plane the bezel rests on: z, mm."""
    return crystal_ledge(r) + r["case.ledge_to_bezel_seat"]


def channel_floor(r: Trace) -> Number:
    """The floor of the bezel's channel: z, mm."""
    return crystal_ledge(r) + channel_over_ledge(r)


def insert_top(r: Trace) -> Number:
    """The upper face of the bezel insert on its adhesive: z, mm."""
    return crystal_ledge(r) + insert_over_ledge(r)


def insert_over_ledge(r: Trace) -> Number:
    """The same above the crystal's ledge, mm: what no depth of the case is needed for."""
    return channel_over_ledge(r) + r["bezel_insert.thickness"] + r["bezel_insert.adhesive"]


def channel_over_ledge(r: Trace) -> Number:
    """The floor of the bezel's channel above the crystal's ledge, mm."""
    return r["case.ledge_to_bezel_seat"] + r["bezel.seat_to_channel"]


def crystal_ledge(r: Trace) -> Number:
    """The ledge the crystal or its gasket's flange rests on: z, mm."""
    return drop(r) + r["case.seat_to_crystal"]


def crystal_seat(r: Trace) -> Number:
    """The underside of the crystal's edge: on the gasket's flange: z, mm."""
    return crystal_ledge(r) + flange(r)


def crystal_shoulder(r: Trace) -> Number:
    """The upper side of the crystal's edge: z, mm."""
    return crystal_seat(r) + r["crystal.edge_thickness"]


def crystal_underside(r: Trace, radius: Number) -> Number:
    """The crystal's underside at a radius: its seat, and the rise of the inner dome there: z, mm."""
    dome = r["crystal.inner_dome"]
    spans = "crystal.inner_aperture" if r.known("crystal.inner_aperture") else "crystal.diameter"
    return crystal_seat(r) + dome * cap_shape(radius, nominal(r[spans]) / 2, nominal(dome))


def cap_shape(radius: Number, aperture_radius: Number, rise: Number) -> Number:
    """Height of a spherical cap at a radius, as a share of its rise at the centre; 0 outside it.

    Written so that it stays exact as the rise goes to 0, where the sphere's radius goes to infinity.
    Takes floats or numpy columns. Derivation: with q = 1 − (r/a)² and k = rise/a, the cap's height is
    rise · q / (½(1 − k²) + √(¼(1 + k²)² − k²(r/a)²)).
    """
    columns = any(isinstance(given, np.ndarray) for given in (radius, aperture_radius, rise))
    # numpy takes ten times as long for one number, and a drawing asks for fifty.
    least, most = (np.minimum, np.maximum) if columns else (min, max)
    ratio = least((radius / aperture_radius) ** 2, 1.0)
    k_squared = (rise / aperture_radius) ** 2
    under_root = most((1 + k_squared) ** 2 / 4 - k_squared * ratio, 0.0) ** 0.5
    # At the rim of a cap higher than half a sphere both sides are 0; the height there is 0 too.
    return (1 - ratio) / most((1 - k_squared) / 2 + under_root, 1e-12)
