"""The movement holder in section: its ring with step and stem slot, its lugs, its tabs in the recesses."""

from collections.abc import Iterator

from marquetry.core.evidence.seat import HOLDER_RING
from marquetry.core.fit.checks.tabs import TABS, tab_at
from marquetry.core.fit.levels import back_plane, movement_face, stem_axis
from marquetry.core.section.body import Body, Drawn, ring

SLOT_HALF = 0.7
"""Half the height of a stem slot that nobody described, mm."""


def holder(p: Drawn) -> Iterator[Body]:
    """The ring round the movement, from its face to the rim that the back presses."""
    if not p.has("holder"):
        return
    face = float(movement_face(p))
    rim = face - float(p["holder.face_to_rim"])
    inner, outer = float(p["holder.inner_diameter"]) / 2, float(p["holder.outer_diameter"]) / 2
    narrow = float(p["holder.rim_outer_diameter"]) / 2
    known = p.known("holder.step")
    shoulder = face - float(p["holder.step"]) if known else max(rim + 0.6, float(back_plane(p)) + 0.2)
    base = rim + (float(p["holder.lugs.height"]) if p.known("holder.lugs.height") else 0.0)
    shoulder = max(shoulder, base)
    yield p.body(
        "holder",
        "print",
        (inner, base),
        (narrow, base),
        (narrow, shoulder),
        (outer, shoulder),
        (outer, face),
        (inner, face),
    )
    if p.has(HOLDER_RING):
        high = face + float(p[f"{HOLDER_RING}.thickness"])
        within = float(p[f"{HOLDER_RING}.inner_diameter"]) / 2
        yield p.body(HOLDER_RING, "print", *ring(within, outer, face, high))
    if base > rim:
        yield p.body("holder.lugs", "print", *ring(inner, narrow, rim, base))
    low, high = _slot(p, face, base)
    yield p.body("holder", "void", *ring(inner, outer, low, high), mirrored=False)


def _slot(p: Drawn, face: float, base: float) -> tuple[float, float]:
    """Lower and upper end of the slot for the stem: z, mm."""
    axis = float(stem_axis(p))
    half = float(p["holder.slot.height"]) / 2 if p.known("holder.slot.height") else SLOT_HALF
    towards = p.word("holder.slot.open")
    low = base if towards == "back" else axis - half
    return low, face if towards == "dial" else axis + half


def tabs(p: Drawn) -> Iterator[Body]:
    """The holder's tabs, turned into the plane of the section; painted after the movement's recesses."""
    face, inner = float(movement_face(p)), float(p["holder.inner_diameter"]) / 2 if p.has("holder") else 0.0
    p.missing.clear()
    for index in range(p.count(TABS)):
        path = f"{TABS}.{index}"
        reach = float(tab_at(p, index, whole=False).reach)
        high, low = (face - float(p[f"{path}.{depth}"]) for depth in ("from", "to"))
        yield p.body(path, "print", *ring(reach, inner, low, high))
