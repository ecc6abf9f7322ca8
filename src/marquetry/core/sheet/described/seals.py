"""Gaskets of all kinds, as a builder describes them."""

from marquetry.core.sheet.described.looks import COLOUR, MATERIAL, NAME
from marquetry.core.sheet.schema import Group, Quantity
from marquetry.core.sheet.ways import LAID, SOFT, THICK

CRYSTAL_GASKET = Group(
    "crystal_gasket",
    "Crystal gasket",
    (
        NAME,
        Quantity("wall", "Wall", 0.5, (0.2, 1.5), SOFT, "thickness"),
        Quantity("flange", "Flange under the crystal", 0.0, (0, 1.0), THICK, "thickness", floor="zero"),
        Quantity("inner_diameter", "Inner Ø", 29.9, (12, 45), LAID, "diameter", differs=True),
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
    ),
    looks=(COLOUR, MATERIAL),
)
