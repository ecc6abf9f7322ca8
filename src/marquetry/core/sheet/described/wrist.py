"""Strap, bracelet and spring bars, as a builder describes them."""

from marquetry.core.sheet.described import faces
from marquetry.core.sheet.described.looks import COLOUR, FINISH, MATERIAL, NAME
from marquetry.core.sheet.schema import Choice, Count, Flag, Group, Quantity, Text
from marquetry.core.sheet.ways import OUTSIDE, THICK

STRAP = Group(
    "strap",
    "Strap or bracelet",
    (
        NAME,
        Quantity("width", "Width at the case", 20.0, (8, 30), OUTSIDE, "width"),
        Choice("make", "Made as", ("strap", "pass-through strap", "bracelet")),
        Quantity("end_link_overhang", "End link past the lug", 0.0, (0, 12), OUTSIDE, "length", floor="zero"),
        Count("links", "Links"),
        Quantity("link_length", "One link's length", 8.0, (2, 25), OUTSIDE, "length"),
        Quantity("clasp_length", "Clasp's length", 38.0, (8, 70), OUTSIDE, "length"),
        Quantity("length", "Length", 115.0, (40, 190), OUTSIDE, "length"),
        Quantity("thickness", "Thickness", 3.0, (0.8, 8.0), THICK, "thickness"),
        Quantity("clasp_width", "Width at clasp or buckle", 18.0, (8, 30), OUTSIDE, "width"),
        Text("clasp", "Clasp or buckle"),
        Flag("quick_release", "Bars to be drawn by hand", default=None),
    ),
    looks=(FINISH, COLOUR, MATERIAL),
    face=faces.STRAP,
)

SPRING_BARS = Group(
    "spring_bars",
    "Spring bars",
    (
        NAME,
        Quantity("length", "Length, free", 22.5, (8, 34), OUTSIDE, "length", near=("case.lug_width", 2.5)),
        Quantity("diameter", "Diameter", 1.5, (0.8, 2.8), OUTSIDE, "diameter"),
        Quantity("tip_diameter", "Tip Ø", 0.8, (0.4, 1.6), OUTSIDE, "diameter"),
        Flag("quick_release", "To be drawn by hand", default=None),
    ),
    looks=(MATERIAL,),
)
