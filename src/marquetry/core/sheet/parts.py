"""Every part of a watch: the one place that collects them. Handed in as an `Anatomy`, never reached for."""

from marquetry.core.sheet.described import inside, outside, seals, wrist
from marquetry.core.sheet.schema import Group, Many

PARTS: tuple[Group | Many, ...] = (
    outside.CASE,
    outside.CASE_BACK,
    outside.CRYSTAL,
    seals.CRYSTAL_GASKET,
    outside.CHAPTER_RING,
    inside.DIAL,
    inside.HANDS,
    inside.MOVEMENT,
    inside.ROTOR,
    inside.CALENDAR_DISC,
    inside.HOLDER,
    inside.SPACERS,
    outside.CROWN,
    seals.CROWN_GASKET,
    outside.STEM,
    seals.BACK_GASKET,
    outside.BEZEL,
    outside.BEZEL_INSERT,
    wrist.STRAP,
    wrist.SPRING_BARS,
)
