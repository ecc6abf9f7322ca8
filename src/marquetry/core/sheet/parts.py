"""Every part of a watch: the one place that collects them. Handed in as an `Anatomy`, never reached for."""

from dataclasses import replace

from marquetry.core.sheet.described import bezel, holder, inside, made, outside, seals, works, wrist
from marquetry.core.sheet.schema import Group, Many, Names

SOLD_FOR = Names("suits", "Sold for calibre", ())
"""Calibres that a part is sold for; a movement says which it is by instead (`calibres`)."""


def _sold(part: Group | Many) -> Group | Many:
    """The part with what it is sold for; a spacer is made for one watch and sold for none."""
    if isinstance(part, Many) or part is works.MOVEMENT:
        return part
    return replace(part, entries=(*part.entries, SOLD_FOR))


_DESCRIBED: tuple[Group | Many, ...] = (
    outside.CASE,
    outside.CASE_BACK,
    outside.CRYSTAL,
    seals.CRYSTAL_GASKET,
    outside.CHAPTER_RING,
    inside.DIAL,
    inside.HANDS,
    works.MOVEMENT,
    works.ROTOR,
    works.CALENDAR_DISC,
    holder.HOLDER,
    holder.SPACERS,
    made.DIAL_ADAPTER,
    outside.CROWN,
    seals.CROWN_GASKET,
    outside.STEM,
    seals.BACK_GASKET,
    bezel.BEZEL,
    bezel.BEZEL_INSERT,
    wrist.STRAP,
    wrist.SPRING_BARS,
    made.PRESS_SUPPORT,
)
PARTS = tuple(_sold(part) for part in _DESCRIBED)
