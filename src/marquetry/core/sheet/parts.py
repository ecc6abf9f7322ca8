"""Every part of a watch: the one place that collects them. Handed in as an `Anatomy`, never reached for."""

from marquetry.core.sheet.described import bezel, holder, inside, made, outside, seals, works, wrist
from marquetry.core.sheet.schema import Group, Many

PARTS: tuple[Group | Many, ...] = (
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
