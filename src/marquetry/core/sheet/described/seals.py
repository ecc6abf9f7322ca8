"""Gaskets of all kinds, as a builder describes them."""

from marquetry.core.sheet.described.looks import COLOUR, MATERIAL, NAME
from marquetry.core.sheet.schema import Choice, Count, Group, Quantity
from marquetry.core.sheet.ways import LAID, OUTSIDE, SOFT, THICK

SECTIONS = ("round", "square", "L-shaped")
"""How a gasket looks cut through: a cord, a plain ring, a ring with a flange under the crystal."""
SECTION = Choice("section", "Section", SECTIONS)
PACK = Count("pack", "In a pack")
"""Gaskets are bought by the pack: which one a size came from is half of finding it again."""

CRYSTAL_GASKET = Group(
    "crystal_gasket",
    "Crystal gasket",
    (
        NAME,
        Quantity("wall", "Wall", 0.5, (0.2, 1.5), SOFT, "thickness"),
        Quantity("flange", "Flange under the crystal", 0.0, (0, 1.0), THICK, "thickness", floor="zero"),
        Quantity("inner_diameter", "Inner Ø", 29.9, (12, 45), LAID, "diameter", differs=True),
        Quantity(
            "outer_diameter",
            "Outer Ø",
            31.0,
            (13, 47),
            LAID,
            "diameter",
            near=("case.crystal_bore", 0.1),
            differs=True,
        ),
        Quantity("height", "Height", 2.4, (0.4, 8.0), OUTSIDE, "height", differs=True),
        SECTION,
        PACK,
    ),
    looks=(COLOUR, MATERIAL),
)

BACK_GASKET = Group(
    "back_gasket",
    "Back gasket",
    (
        NAME,
        Quantity("cord", "Cord", 0.8, (0.2, 2.0), SOFT, "thickness"),
        Quantity(
            "inner_diameter",
            "Inner Ø",
            29.8,
            (14, 46),
            LAID,
            "diameter",
            near=("case.back_groove_inner_diameter", -0.6),
        ),
        SECTION,
        PACK,
    ),
    looks=(COLOUR, MATERIAL),
)

CROWN_GASKET = Group(
    "crown_gasket",
    "Crown gasket",
    (
        NAME,
        Quantity("cord", "Cord", 0.5, (0.2, 1.2), SOFT, "thickness", near=("crown.gasket_cord", 0.0)),
        Quantity("inner_diameter", "Inner Ø", 2.4, (0.8, 5.0), LAID, "diameter"),
        SECTION,
        PACK,
    ),
    looks=(COLOUR, MATERIAL),
)
