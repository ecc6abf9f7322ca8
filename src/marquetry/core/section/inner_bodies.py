"""Ring, dial, spacers, hands, movement and holder in section."""

from collections.abc import Iterator, Mapping

import numpy as np

from marquetry.core.fit.checks.hands import levels_of
from marquetry.core.fit.levels import (
    back_plane,
    crystal_ledge,
    dial_top,
    ledge,
    movement_back,
    movement_face,
    stem_axis,
)
from marquetry.core.fit.stack import chains_of, heights, terms_of
from marquetry.core.section.body import Body, Drawn, ring
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.described.words import HANDS

ROTOR_ZONE, RIM = 1.05, 0.8
PIPE_WALL = 0.22
FEATURE_WIDTH = 0.9


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


def spacers(p: Drawn) -> Iterator[Body]:
    """Spacers one below the other, on their side of the dial."""
    below = {"dial": 0.0, "movement": float(dial_top(p) - p["dial.thickness"])}
    p.missing.clear()
    for index in range(p.count(SPACERS.key)):
        path = f"{SPACERS.key}.{index}"
        side = p.word(f"{path}.side")
        if side in below:
            top = below[side]
            below[side] = top - float(p[f"{path}.thickness"])
            inner, outer = p[f"{path}.inner_diameter"] / 2, p[f"{path}.outer_diameter"] / 2
            yield p.body(path, "spacer", *ring(inner, outer, below[side], top))


def dial(p: Drawn) -> Iterator[Body]:
    """The dial with what is raised on it, and its feet turned into the plane of the section."""
    if not p.has("dial"):
        return
    top = float(dial_top(p))
    under = top - p["dial.thickness"]
    yield p.body("dial", "dial", *ring(p["dial.centre_hole"] / 2, p["dial.diameter"] / 2, under, top))
    for index in range(p.count("dial.features")):
        path = f"dial.features.{index}"
        inner = p[f"{path}.inner_radius"]
        outline = ring(inner, inner + FEATURE_WIDTH, top, top + p[f"{path}.height"])
        yield p.body(path, "dial", *outline)
    for index in range(p.count("dial.feet")):
        path = f"dial.feet.{index}"
        radius, half = p[f"{path}.radius"], p[f"{path}.diameter"] / 2
        yield p.body(path, "foot", *ring(radius - half, radius + half, under - p[f"{path}.length"], under))


def movement(p: Drawn) -> Iterator[Body]:
    """Plate and bridges as one body with the holes for feet and stem, the posts, and the rotor behind."""
    if not p.has("movement"):
        return
    face, back, edge = float(movement_face(p)), float(movement_back(p)), float(p["movement.diameter"]) / 2
    inside = back + ROTOR_ZONE
    yield p.body("movement", "movement", *ring(0.0, edge, inside, face))
    for index in range(p.count("movement.foot_holes")):
        path = f"movement.foot_holes.{index}"
        radius, half = p[f"{path}.radius"], p[f"{path}.diameter"] / 2
        outline = ring(radius - half, radius + half, face - p["movement.foot_hole_depth"], face)
        yield p.body(path, "void", *outline)
    axis, tip = float(stem_axis(p)), float(p["movement.centre_to_stem_tip"])
    yield p.body("movement", "void", *ring(tip - 0.1, edge, axis - 0.6, axis + 0.6), mirrored=False)
    yield from _rotor(p, back, edge)
    yield from _posts(p, face)


def _rotor(p: Drawn, back: float, edge: float) -> Iterator[Body]:
    if p.has("rotor"):
        edge = float(p["rotor.diameter"]) / 2 + 0.4
    rim, web = edge - 3.2, back + 0.45
    thick = float(p["rotor.rim_thickness"]) if p.has("rotor") else RIM
    p.missing.clear()
    for path in ("rotor.diameter", "rotor.rim_thickness") if p.has("rotor") else ("movement.face_to_back",):
        p[path]
    yield p.body(
        "movement.rotor",
        "rotor",
        (0.0, back),
        (1.6, back),
        (1.8, back + 0.3),
        (rim, back + 0.3),
        (rim, back),
        (edge - 0.4, back),
        (edge - 0.4, back + thick),
        (rim, back + thick),
        (rim - 0.3, web + 0.15),
        (1.6, web + 0.15),
        (1.6, back + ROTOR_ZONE),
        (0.0, back + ROTOR_ZONE),
    )


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


def holder(p: Drawn) -> Iterator[Body]:
    """The holder round the movement, from its face to the rim that the back presses."""
    if not p.has("holder"):
        return
    face = float(movement_face(p))
    rim = face - float(p["holder.face_to_rim"])
    inner, outer = p["holder.inner_diameter"] / 2, p["holder.outer_diameter"] / 2
    narrow, shoulder = p["holder.rim_outer_diameter"] / 2, max(rim + 0.6, float(back_plane(p)) + 0.2)
    yield p.body(
        "holder",
        "print",
        (inner, rim),
        (narrow, rim),
        (narrow, shoulder),
        (outer, shoulder),
        (outer, face),
        (inner, face),
    )
    axis = float(stem_axis(p))
    yield p.body("holder", "void", *ring(inner, outer, axis - 0.7, axis + 0.7), mirrored=False)
