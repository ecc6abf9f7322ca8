"""Case, crown, bezel, insert, ring, crystal and strap as they are seen, from dimensions and looks."""

from marquetry.core.face.dress import Coat, Dress, Lume, Origin
from marquetry.core.face.seen import SeenCase, SeenCrown, SeenRing, SeenScale, SeenStrap
from marquetry.core.face.shade import contrast
from marquetry.core.fit import levels
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.described.colours import PALETTE
from marquetry.core.sheet.described.faces import FACE
from marquetry.core.sheet.described.holder import SPACERS

CROWN_LENGTH = 3.2
RIM = 0.8
"""What of the bezel stands outside its channel, mm."""
RING_WIDTH = 1.6
INK, CHALK = PALETTE["black"], PALETTE["white"]
QUIET_SURFACE, QUIET_STRAP = "leather", "chestnut"


def case(p: Plausible, dress: Dress) -> SeenCase | None:
    """The case; round, brushed steel where nothing is told."""
    if not p.has("case"):
        return None
    radius = p["case.diameter"] / 2
    return SeenCase(
        dress.coat("case", "steel", "brushed along"),
        dress.word("case", "outline", "round"),
        radius,
        p["case.lug_to_lug"] / 2,
        p["case.lug_width"] / 2,
        dress.word("case", "lugs", "short"),
        dress.flag("case", "guards") is True,
        radius + p["case.bar_to_case"],
        dress.word("case", "bar", "hidden") == "visible",
    )


def crown(p: Plausible, dress: Dress) -> SeenCrown | None:
    """The crown where the tube ends."""
    if not p.has("crown"):
        return None
    flank = min(p["case.diameter"] / 2, p["case.centre_to_tube_end"])
    return SeenCrown(
        dress.coat("crown", "steel", "polished"),
        dress.word("crown", "edge", "fluted"),
        p["case.crown_angle"],
        flank - 0.4,
        p["case.centre_to_tube_end"] + CROWN_LENGTH - 0.6,
        p["crown.diameter"] / 2,
    )


def bezel(p: Plausible, dress: Dress) -> SeenRing | None:
    """The bezel's turning part."""
    if not p.has("bezel"):
        return None
    outer = p["bezel.channel_outer_diameter"] / 2 + RIM
    edge = dress.word("bezel", "edge", "smooth")
    return SeenRing(
        dress.coat("bezel", "steel", "polished"), outer, p["bezel.channel_inner_diameter"] / 2, edge
    )


def insert(p: Plausible, dress: Dress) -> SeenScale | None:
    """The insert with its scale."""
    if not p.has("bezel_insert"):
        return None
    coat = dress.coat("bezel_insert", "charcoal", "matt", two=True)
    lume = dress.lume("bezel_insert")
    return SeenScale(
        coat,
        p["bezel_insert.outer_diameter"] / 2,
        p["bezel_insert.inner_diameter"] / 2,
        dress.word("bezel_insert", "scale", "none"),
        dress.tint("bezel_insert", "print_colour", legible_on(coat.colour)),
        dress.word("bezel_insert", "pip", "triangle" if lume else "none"),
        lume,
        dress.flag("bezel_insert", "lume") is True,
        p["bezel.index_offset"] if p.has("bezel") else 0.0,
    )


def ring(p: Plausible, dress: Dress) -> SeenScale | None:
    """The chapter ring, from the crystal's rim down to the dial."""
    if not p.has("chapter_ring"):
        return None
    coat = dress.coat("chapter_ring", "steel", "polished")
    inner = p["chapter_ring.inner_diameter"] / 2
    outer = p["crystal.diameter"] / 2 - 0.5 if p.has("crystal") else inner + RING_WIDTH
    lume: Lume | None = dress.lume("chapter_ring")
    return SeenScale(
        coat,
        max(outer, inner + 0.4),
        inner,
        dress.word("chapter_ring", "printing", "none"),
        dress.tint("chapter_ring", "print_colour", legible_on(coat.colour)),
        lume=lume,
        scale_glows=lume is not None,
    )


def seen_spacer(p: Plausible) -> str:
    """The path of the spacer whose edge is seen through the crystal; nothing where none is."""
    sides = (f"{SPACERS.key}.{k}" for k in range(p.count(SPACERS.key)))
    return next((path for path in sides if p.word(f"{path}.side") == "dial"), "")


def spacer(p: Plausible, dress: Dress) -> SeenRing | None:
    """What is seen of spacers on the dial's side: their innermost edge, a line inside the ring."""
    seen = [k for k in range(p.count(SPACERS.key)) if p.word(f"{SPACERS.key}.{k}.side") == "dial"]
    if not seen:
        return None
    inner = min(p[f"{SPACERS.key}.{k}.inner_diameter"] for k in seen) / 2
    opening = levels.opening(p) / 2
    coat = dress.coat(f"{SPACERS.key}.{seen[0]}", "brass", "polished")
    return SeenRing(coat, float(opening), min(float(inner), float(opening) - 0.12))


def strap(p: Plausible, dress: Dress) -> SeenStrap | None:
    """Strap or bracelet; a bracelet has links unless told otherwise."""
    if not p.has("strap"):
        return None
    linked = p.word("strap.make") == "bracelet"
    surface = dress.word("strap", "surface", "links" if linked else QUIET_SURFACE)
    coat = dress.coat(
        "strap", "steel" if surface in {"links", "mesh"} else QUIET_STRAP, "brushed along", two=True
    )
    return SeenStrap(
        coat,
        surface,
        p["strap.width"] / 2,
        p["strap.thickness"],
        dress.word("strap", "stitching", "none"),
        dress.tint("strap", "stitch_colour", legible_on(coat.colour)),
        round(dress.size("strap", "rows") or 3),
        p["strap.end_link_overhang"] if linked else 0.0,
        dress.word("strap", "buckle", "folding clasp" if linked else "none"),
        _buckle_coat(dress),
    )


def _buckle_coat(dress: Dress) -> Coat:
    """Colour and finish of buckle or clasp; polished steel where nothing is told."""
    finish = dress.word("strap", "buckle_finish", "polished")
    is_told = dress.origins[f"strap.{FACE}.buckle_finish"] is not Origin.QUIET
    return Coat(dress.tint("strap", "buckle_colour", "steel"), finish, finish_is_told=is_told)


def legible_on(ground: str) -> str:
    """Ink or chalk, whichever is read better on this ground."""
    return INK if contrast(ground, INK) >= contrast(ground, CHALK) else CHALK
