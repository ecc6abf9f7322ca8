"""Ring, dial, spacers, hands and movement in section."""

from collections.abc import Iterator, Mapping

import numpy as np

from marquetry.core.evidence.seat import ADAPTER, EDGE
from marquetry.core.fit.checks.feet import feet_of
from marquetry.core.fit.checks.hands import levels_of
from marquetry.core.fit.checks.ring import CASE as CASE_NOTCH
from marquetry.core.fit.checks.ring import CASE_KEY, RING_KEY
from marquetry.core.fit.checks.ring import RING as RING_NOTCH
from marquetry.core.fit.checks.tabs import RECESSES
from marquetry.core.fit.checks.windows import DISC
from marquetry.core.fit.cutouts import cutouts, furthest, nearest
from marquetry.core.fit.levels import (
    crystal_ledge,
    dial_top,
    dial_under,
    ledge,
    movement_back,
    movement_face,
    opening,
    stem_axis,
)
from marquetry.core.fit.stack import chains_of, heights, terms_of
from marquetry.core.section.body import Body, Drawn, ring
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.described.words import HANDS
from marquetry.core.values.number import nominal

ROTOR_ZONE, RIM, RIM_INSIDE = 1.05, 0.8, 0.4
PIPE_WALL = 0.22
FEATURE_WIDTH = 0.9
NOTCH_DEPTH, NOTCH_SHARE = 0.5, 0.6
BENEATH, NUMERAL = 0.2, 1.1
"""How thick a disc under the dial is drawn, and half its band of numerals, mm."""
EDGE_SHOWN = 0.4
"""How much of a dial's thinner edge is seen inside the opening, mm."""


def chapter_ring(p: Drawn) -> Iterator[Body]:
    """The ring between dial and crystal; what drops below the ledge reaches out into the dial bore."""
    if not p.has("chapter_ring"):
        return
    inner, outer = p["chapter_ring.inner_diameter"] / 2, p["case.opening_diameter"] / 2 - 0.02
    wide = p["case.crystal_aperture"] / 2 - 0.05
    high, shelf = crystal_ledge(p) - 0.05, ledge(p) + min(0.4, (crystal_ledge(p) - ledge(p)) / 2)
    foot = ((outer, 0.0),) if ledge(p) <= 0 else ((p["case.dial_bore"] / 2 - 0.1, 0.0),)
    low = () if ledge(p) <= 0 else ((p["case.dial_bore"] / 2 - 0.1, ledge(p)), (outer, ledge(p)))
    upper = min(inner + 0.5, (inner + wide) / 2)
    yield p.body(
        "chapter_ring",
        "brass",
        (inner, 0.0),
        *foot,
        *low,
        (outer, shelf),
        (max(wide, outer), shelf),
        (max(wide, outer), high),
        (upper, high),
        (inner, 0.3),
    )
    yield from _notch(p, max(wide, outer), shelf, high)


def _notch(p: Drawn, edge: float, low: float, high: float) -> Iterator[Body]:
    """What keeps the ring upright, turned into the plane of the crown: notch over pin, nib in recess."""
    top = low + (high - low) * NOTCH_SHARE
    pinned = low + (top - low) * 0.8
    ring_key = p.word(RING_KEY) or ("notch" if p.flag(RING_NOTCH) else "")
    case_key = p.word(CASE_KEY) or ("pin" if p.flag(CASE_NOTCH) else "")
    if ring_key == "notch":
        yield p.body("chapter_ring.notch", "void", *ring(edge - NOTCH_DEPTH, edge, low, top), mirrored=False)
    if case_key == "recess":
        yield p.body("case.ring_key", "void", *ring(edge, edge + NOTCH_DEPTH, low, top), mirrored=False)
    if case_key == "pin":
        outline = ring(edge - NOTCH_DEPTH * 0.8, edge + 0.3, low, pinned)
        yield p.body("case.ring_notch", "steel", *outline, mirrored=False)
    if ring_key == "nib":
        outline = ring(edge - 0.1, edge + NOTCH_DEPTH * 0.8, low, pinned)
        yield p.body("chapter_ring.key", "brass", *outline, mirrored=False)


def spacers(p: Drawn) -> Iterator[Body]:
    """Spacers one below the other, on their side of the dial."""
    below = {"dial": 0.0, "movement": float(dial_under(p))}
    p.missing.clear()
    for index in range(p.count(SPACERS.key)):
        path = f"{SPACERS.key}.{index}"
        side = p.word(f"{path}.side")
        if side in below:
            top = below[side]
            below[side] = top - float(p[f"{path}.thickness"])
            inner, outer = p[f"{path}.inner_diameter"] / 2, p[f"{path}.outer_diameter"] / 2
            yield p.body(path, "spacer", *ring(inner, outer, below[side], top))


def adapter(p: Drawn) -> Iterator[Body]:
    """A dial adapter's plate on the movement, its skirt round it, its first peg turned into the plane."""
    if not p.has(ADAPTER):
        return
    face = float(movement_face(p))
    high = face + float(p[f"{ADAPTER}.thickness"])
    inner, outer = p[f"{ADAPTER}.opening_diameter"] / 2, p[f"{ADAPTER}.outer_diameter"] / 2
    yield p.body(ADAPTER, "spacer", *ring(inner, outer, face, high))
    if p.known(f"{ADAPTER}.grip_height") and p[f"{ADAPTER}.grip_height"] > 0:
        inside = p["movement.diameter"] / 2 + p[f"{ADAPTER}.grip_play"]
        low = face - p[f"{ADAPTER}.grip_height"]
        yield p.body(ADAPTER, "spacer", *ring(inside, inside + p[f"{ADAPTER}.grip_wall"], low, face))
    if p.known(f"{ADAPTER}.peg_length") and p.count("movement.foot_holes"):
        half = (p["movement.foot_holes.0.diameter"] - p[f"{ADAPTER}.peg_play"]) / 2
        middle, low = p["movement.foot_holes.0.radius"], face - p[f"{ADAPTER}.peg_length"]
        yield p.body(ADAPTER, "spacer", *ring(middle - half, middle + half, low, face))


def dial(p: Drawn) -> Iterator[Body]:
    """The dial with what is raised on it, and its feet turned into the plane of the section."""
    if not p.has("dial"):
        return
    top = float(dial_top(p))
    under = float(dial_under(p))
    hole, edge = p["dial.centre_hole"] / 2, p["dial.diameter"] / 2
    outline = ring(hole, edge, under, top)
    if p.known(EDGE):
        rim, step = under + p[EDGE], opening(p) / 2 - EDGE_SHOWN
        outline = ((hole, under), (edge, under), (edge, rim), (step, rim), (step, top), (hole, top))
    yield p.body("dial", "dial", *outline)
    yield from _cut_through(p, under, top)
    for index in range(p.count("dial.features")):
        path = f"dial.features.{index}"
        inner = p[f"{path}.inner_radius"]
        outline = ring(inner, inner + FEATURE_WIDTH, top, top + p[f"{path}.height"])
        yield p.body(path, "dial", *outline)
    for index in feet_of(p):
        path = f"dial.feet.{index}"
        radius, half = p[f"{path}.radius"], p[f"{path}.diameter"] / 2
        yield p.body(path, "foot", *ring(radius - half, radius + half, under - p[f"{path}.length"], under))


def _cut_through(p: Drawn, under: float, top: float) -> Iterator[Body]:
    """The dial's cut-outs, turned into the plane of the section, and what of the movement lies beneath."""
    face = float(movement_face(p)) if p.has("movement") else under
    for path in cutouts(p):
        if p.word(f"{path}.shape") is not None:
            inner, outer = (float(nominal(reach(p, path))) for reach in (nearest, furthest))
            yield p.body(path, "void", *ring(inner, outer, under, top))
    if p.has(DISC):
        inner, outer = (float(p[f"{DISC}.{edge}_radius"]) for edge in ("inner", "outer"))
        yield p.body(DISC, "dial", *ring(inner, outer, face - BENEATH, face))
    if next(cutouts(p, "date"), None) is not None and p.known("movement.date_radius"):
        middle = float(p["movement.date_radius"])
        outline = ring(middle - NUMERAL, middle + NUMERAL, face - BENEATH, face)
        yield p.body("movement.disc", "dial", *outline)


def movement(p: Drawn) -> Iterator[Body]:
    """Plate and bridges as one body with the holes for feet and stem, the posts, and the rotor behind."""
    if not p.has("movement"):
        return
    face, back, edge = float(movement_face(p)), float(movement_back(p)), float(p["movement.diameter"]) / 2
    yield p.body("movement", "movement", *ring(0.0, edge, plate_back(p), face))
    for index in range(p.count("movement.foot_holes")):
        path = f"movement.foot_holes.{index}"
        radius, half = p[f"{path}.radius"], p[f"{path}.diameter"] / 2
        outline = ring(radius - half, radius + half, face - p["movement.foot_hole_depth"], face)
        yield p.body(path, "void", *outline)
    axis, tip = float(stem_axis(p)), float(p["movement.centre_to_stem_tip"])
    yield p.body("movement", "void", *ring(tip - 0.1, edge, axis - 0.6, axis + 0.6), mirrored=False)
    yield from _recesses(p, face, edge)
    if p.has_rotor():
        yield from _rotor(p, back, edge)
    yield from _posts(p, face)


def _recesses(p: Drawn, face: float, edge: float) -> Iterator[Body]:
    """The recesses for a holder's tabs, turned into the plane of the section."""
    for index in range(p.count(RECESSES)):
        path = f"{RECESSES}.{index}"
        high, low = (face - float(p[f"{path}.{depth}"]) for depth in ("from", "to"))
        yield p.body(path, "void", *ring(p[f"{path}.reach"], edge, low, high))


def _rotor(p: Drawn, back: float, edge: float) -> Iterator[Body]:
    own = p.has("rotor")
    if own:
        edge = float(p["rotor.diameter"]) / 2 + RIM_INSIDE
    hub, thick = (float(p["rotor.bore"]) / 2, float(p["rotor.rim_thickness"])) if own else (0.0, RIM)
    rim, web, upper = edge - 3.2, back + 0.45, plate_back(p)
    p.missing.clear()
    for path in (
        ("rotor.diameter", "rotor.rim_thickness", "rotor.bore") if own else ("movement.face_to_back",)
    ):
        p[path]
    outer, boss = edge - RIM_INSIDE, max(1.6, hub + 0.5)
    yield p.body(
        "movement.rotor",
        "rotor",
        (hub, back),
        (boss, back),
        (boss + 0.2, back + 0.3),
        (rim, back + 0.3),
        (rim, back),
        (outer, back),
        (outer, back + thick),
        (rim, back + thick),
        (rim - 0.3, web + 0.15),
        (boss, web + 0.15),
        (boss, upper),
        (hub, upper),
    )
    if own:
        bearing = float(p["movement.rotor_bearing_diameter"]) / 2
        yield p.body("movement", "post", *ring(0.0, bearing, back + 0.1, upper))


def plate_back(p: Drawn) -> float:
    """Where the works end and the rotor's zone begins: z, mm; a thick rim of its own pushes it up."""
    back = float(movement_back(p))
    if not p.has_rotor():
        return back
    thick = float(p["rotor.rim_thickness"]) + 0.1 if p.has("rotor") else 0.0
    return back + max(ROTOR_ZONE, thick)


def _posts(p: Drawn, face: float) -> Iterator[Body]:
    inner = 0.0
    for hand in reversed(HANDS):
        path = f"movement.posts.{hand}"
        if p.has(path):
            radius = float(p[f"{path}.diameter"]) / 2
            yield p.body(path, "post", *ring(inner, radius, face, face + p[f"{path}.top"]))
            inner = radius + 0.04


def hand_heights(p: Drawn) -> dict[str, float]:
    """Underside of every blade: as the press plan has it, or in the middle of its grip where none exists."""
    levels = levels_of(p)
    if not levels:
        return {}
    values = np.array([float(term.z) for term in terms_of(levels)])
    chains = chains_of(levels)
    plan = heights(levels, values, float(chains.shares(chains.signs @ values).min()))
    return plan or {
        level.hand: sum(float(b.z) for b in (level.floors[0], level.ceilings[0])) / 2 for level in levels
    }


def hands(p: Drawn, places: Mapping[str, float]) -> Iterator[Body]:
    """The hands with their undersides at the given heights, all pointing at the crown."""
    p.missing.clear()
    for hand, under in places.items():
        path = f"hands.{hand}"
        bore = float(p[f"{path}.bore"]) / 2
        open_to = bore if p.flag(f"{path}.through") else 0.0
        thickness, length, pipe = (float(p[f"{path}.{key}"]) for key in ("thickness", "length", "pipe"))
        wall, top = bore + PIPE_WALL, under + thickness
        p[f"movement.posts.{hand}.top"]
        yield p.body(
            path,
            "hand",
            (bore, under - pipe),
            (wall, under - pipe),
            (wall, under),
            (length, under),
            (length - 0.6, top),
            (open_to, top),
            *(((0.0, under), (bore, under)) if open_to == 0.0 else ()),
            mirrored=False,
        )
