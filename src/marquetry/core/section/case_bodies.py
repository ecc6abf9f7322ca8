"""Case, back, crystal, gaskets, bezel and crown in section.

What the model has no dimension for (the flank, the crown's outside, wall thicknesses) is drawn as usual.
"""

from collections.abc import Iterator

from marquetry.core.evidence.seat import stack
from marquetry.core.fit.levels import (
    back_inner,
    back_outside,
    back_plane,
    cap_shape,
    crystal_ledge,
    crystal_seat,
    crystal_underside,
    ledge,
    stem_axis,
    tube_axis,
)
from marquetry.core.fit.plausible import Plausible
from marquetry.core.section.body import Body, Drawn, Point, ring

NECK_ABOVE_SEAT = 0.35
FLANK_INSIDE_TUBE_END = 0.6
BACK_WALL = 0.8
TUBE_WALL = 0.4
CROWN_RADIUS, CROWN_LENGTH, CROWN_SKIRT = 2.9, 2.4, 0.45
CURVE_STEPS = 24


def flank_radius(p: Plausible) -> float:
    """Outside of the case at the crown, mm; the tube stands a little proud of it."""
    return float(p["case.centre_to_tube_end"]) - FLANK_INSIDE_TUBE_END


def neck_top(p: Drawn) -> float:
    """Upper end of the wall round the crystal, mm."""
    seat = crystal_ledge(p) + p["case.ledge_to_bezel_seat"]
    return float(seat + NECK_ABOVE_SEAT if p.has("bezel") else seat)


def case_middle(p: Drawn) -> Iterator[Body]:
    """The case's wall, from the bore of the crystal down to the plane of the back."""
    if not p.has("case"):
        return
    flank, bottom, top = flank_radius(p), back_plane(p), neck_top(p)
    shelf, seat = crystal_ledge(p), ledge(p)
    lip = min(0.4, (shelf - seat) / 2)
    bore, opening = p["case.dial_bore"] / 2, p["case.opening_diameter"] / 2
    step = seat - max(0.9, stack(p) + 0.25)
    outside: list[Point] = [(flank, bottom + 0.5), (flank, top - 1.2), (flank - 1.0, top)]
    if p.has("bezel"):
        neck, shoulder = p["case.bezel_seat_diameter"] / 2, shelf + p["case.ledge_to_bezel_seat"]
        outside = [(flank, bottom + 0.5), (flank, shoulder), (neck, shoulder), (neck, top)]
    yield p.body(
        "case",
        "steel",
        (p["case.movement_bore"] / 2, bottom),
        (flank - 0.5, bottom),
        *outside,
        (p["case.crystal_bore"] / 2, top),
        (p["case.crystal_bore"] / 2, shelf),
        (p["case.crystal_aperture"] / 2, shelf),
        (p["case.crystal_aperture"] / 2, seat + lip),
        (opening, seat + lip),
        (opening, seat),
        (bore, seat),
        (bore, step),
        (p["case.movement_bore"] / 2, step),
    )
    yield from _back_gasket(p, bottom)


def _back_gasket(p: Drawn, plane: float) -> Iterator[Body]:
    if not p.has("case.back_groove_depth") and not p.has("back_gasket"):
        return
    inner = p["case.back_groove_inner_diameter"] / 2
    width, depth = p["case.back_groove_width"], p["case.back_groove_depth"]
    yield p.body("case", "void", *ring(inner, inner + width, plane, plane + depth))
    if p.has("back_gasket"):
        cord = p["back_gasket.cord"]
        yield p.body(
            "back_gasket", "rubber", *ring(inner, inner + min(cord * 1.15, width), plane, plane + depth)
        )


def case_back(p: Drawn) -> Iterator[Body]:
    """The back, closed on its plane, with the lip that presses the holder."""
    if not p.has("case_back"):
        return
    plane, inside = back_plane(p), back_inner(p)
    lip, lip_radius = plane - p["case_back.lip_recess"], p["case_back.lip_inner_diameter"] / 2
    bore, rim = p["case.movement_bore"] / 2 - 0.15, flank_radius(p) - 0.6
    bottom = back_outside(p) if p.known("case_back.outer_height") else min(plane, inside) - BACK_WALL
    yield p.body(
        "case_back",
        "steel",
        (0.0, bottom),
        (rim - 1.2, bottom),
        (rim, plane - 0.3),
        (rim, plane),
        (bore, plane),
        (bore, lip),
        (lip_radius, lip),
        (lip_radius, inside),
        (0.0, inside),
    )


def crystal(p: Drawn) -> Iterator[Body]:
    """The crystal with its domes, and its gasket."""
    if p.has("crystal_gasket"):
        yield from _crystal_gasket(p)
    if not p.has("crystal"):
        return
    edge = p["crystal.diameter"] / 2
    radii = [edge * k / CURVE_STEPS for k in range(CURVE_STEPS + 1)]
    under = [(r, float(crystal_underside(p, r))) for r in radii]
    shoulder = crystal_seat(p) + p["crystal.edge_thickness"]
    centre = under[0][1] + p["crystal.centre_thickness"]
    rise = centre - shoulder
    over = [(r, shoulder + rise * cap_shape(r, edge, abs(rise))) for r in reversed(radii)]
    yield p.body("crystal", "glass", *under, *over)


def _crystal_gasket(p: Drawn) -> Iterator[Body]:
    edge, bore = p["crystal.diameter"] / 2, p["case.crystal_bore"] / 2
    low, seat, high = crystal_ledge(p), crystal_seat(p), neck_top(p)
    flange = p["crystal_gasket.flange"]
    foot = ((edge, seat), (p["case.crystal_aperture"] / 2 + 0.1, seat)) if flange > 0 else ((edge, low),)
    inner = foot[-1][0]
    outline = ((inner, low), (bore, low), (bore, high), (edge, high), *foot)
    yield p.body("crystal_gasket", "rubber", *outline)


def bezel(p: Drawn) -> Iterator[Body]:
    """The bezel on its seat and the insert in its channel."""
    if not p.has("bezel"):
        return
    seat = crystal_ledge(p) + p["case.ledge_to_bezel_seat"]
    floor = seat + p["bezel.seat_to_channel"]
    inner, outer = p["bezel.channel_inner_diameter"] / 2, p["bezel.channel_outer_diameter"] / 2
    rim = floor + p["bezel.channel_depth"]
    under = min(neck_top(p) + 0.05, floor - 0.1)
    yield p.body(
        "bezel",
        "brass",
        (p["bezel.inner_diameter"] / 2, seat),
        (outer + 0.5, seat),
        (outer + 0.9, (seat + rim) / 2),
        (outer + 0.4, rim),
        (outer, rim),
        (outer, floor),
        (inner, floor),
        (inner, under),
        (p["bezel.inner_diameter"] / 2, under),
    )
    if p.has("bezel_insert"):
        low = floor + p["bezel_insert.adhesive"]
        inner, outer = p["bezel_insert.inner_diameter"] / 2, p["bezel_insert.outer_diameter"] / 2
        outline = ring(inner, outer, low, low + p["bezel_insert.thickness"])
        yield p.body("bezel_insert", "insert", *outline)


def crown(p: Drawn) -> Iterator[Body]:
    """The hole through the wall, the tube in it, the crown on it and the stem on its own axis."""
    if not p.has("case"):
        return
    axis, end = float(tube_axis(p)), float(p["case.centre_to_tube_end"])
    tube = p["case.tube_outer_diameter"] / 2
    hole = tube - TUBE_WALL
    inside = p["case.movement_bore"] / 2
    yield p.body("case", "void", *ring(inside, end, axis - hole, axis + hole), mirrored=False)
    for low, high in ((hole, tube), (-tube, -hole)):
        outline = ring(inside + 0.5, end, axis + low, axis + high)
        yield p.body("case.tube", "brass", *outline, mirrored=False)
    if p.has("crown"):
        bore, skirt = p["crown.gasket_bore"] / 2, end - CROWN_SKIRT
        yield p.body(
            "crown",
            "steel",
            (skirt, axis + bore),
            (end, axis + bore),
            (end, axis - bore),
            (skirt, axis - bore),
            (skirt, axis - CROWN_RADIUS),
            (end + CROWN_LENGTH - 0.4, axis - CROWN_RADIUS),
            (end + CROWN_LENGTH, axis - CROWN_RADIUS + 0.5),
            (end + CROWN_LENGTH, axis + CROWN_RADIUS - 0.5),
            (end + CROWN_LENGTH - 0.4, axis + CROWN_RADIUS),
            (skirt, axis + CROWN_RADIUS),
            mirrored=False,
        )
        yield from _crown_gasket(p, axis, end)


def _crown_gasket(p: Drawn, axis: float, end: float) -> Iterator[Body]:
    """The ring in the crown's bore, squeezed between it and the tube."""
    if not p.has("crown_gasket"):
        return
    bore, tube = p["crown.gasket_bore"] / 2, p["case.tube_outer_diameter"] / 2
    wide = float(p["crown_gasket.cord"])
    for low, high in ((tube, bore), (-bore, -tube)):
        outline = ring(end - wide - 0.1, end - 0.1, axis + low, axis + high)
        yield p.body("crown_gasket", "rubber", *outline, mirrored=False)


def stem(p: Drawn) -> Iterator[Body]:
    """The stem on the movement's own axis, from its tip to inside the crown."""
    if not (p.has("stem") and p.has("movement")):
        return
    axis, tip = float(stem_axis(p)), float(p["movement.centre_to_stem_tip"])
    end = float(p["case.centre_to_tube_end"]) + 1.4
    pivot = tip + 1.2
    yield p.body(
        "stem",
        "post",
        (tip, axis - 0.25),
        (pivot, axis - 0.25),
        (pivot, axis - 0.45),
        (end, axis - 0.45),
        (end, axis + 0.45),
        (pivot, axis + 0.45),
        (pivot, axis + 0.25),
        (tip, axis + 0.25),
        mirrored=False,
    )
