"""Movement holder and spacers, as a builder describes them."""

from marquetry.core.sheet.described import faces
from marquetry.core.sheet.described.looks import COLOUR, FINISH, MATERIAL, NAME
from marquetry.core.sheet.described.made import GAP, NOTCH
from marquetry.core.sheet.schema import Choice, Count, Group, Many, Quantity
from marquetry.core.sheet.ways import ANGLE, DEPTH, JAWS, OUTSIDE, PLAN, THICK

TAB_SHAPES = ("flat", "round")
"""How a tab ends; one without a word is flat."""

HOLDER = Group(
    "holder",
    "Movement holder",
    (
        NAME,
        Quantity(
            "outer_diameter",
            "Outer Ø",
            29.1,
            (14, 45),
            OUTSIDE,
            "diameter",
            near=("case.movement_bore", -0.15),
        ),
        Quantity(
            "inner_diameter", "Inner Ø", 27.1, (13, 44), JAWS, "diameter", near=("movement.diameter", 0.08)
        ),
        Quantity(
            "rim_outer_diameter",
            "Rim outer Ø",
            27.8,
            (13, 45),
            OUTSIDE,
            "diameter",
            near=("movement.diameter", 0.8),
        ),
        Quantity(
            "face_to_rim",
            "Movement face to back rim",
            5.2,
            (1.0, 9.0),
            DEPTH,
            "height",
            near=("movement.face_to_back", 0.0),
        ),
        Quantity("step", "Face to the step", 1.8, (0.3, 8.0), DEPTH, "depth"),
        Group(
            "slot",
            "Stem slot",
            (
                Quantity("width", "Width", 2.4, (0.5, 10), JAWS, "width"),
                Quantity("height", "Height", 2.2, (0.5, 8), JAWS, "height"),
                Choice("open", "Open towards", ("closed", "back", "dial")),
            ),
        ),
        Many(
            "tabs",
            "Tabs into the movement",
            "tab",
            (
                Quantity("angle", "Place from the stem", 75.0, (-360, 360), ANGLE, "angle", floor="signed"),
                Choice("shape", "Shape", TAB_SHAPES),
                Quantity("width", "Width, flat", 2.4, (0.4, 12), OUTSIDE, "width"),
                Quantity("reach", "Centre to its end, flat", 12.7, (4, 20), PLAN, "radius"),
                Quantity("radius", "Radius, round", 1.2, (0.2, 6), PLAN, "length"),
                Quantity("from", "Begins below the face", 2.75, (0, 8), DEPTH, "depth", floor="zero"),
                Quantity("to", "Ends below the face", 3.7, (0.2, 9), DEPTH, "depth"),
            ),
        ),
        Group(
            "lugs",
            "Lugs that crush",
            (
                Count("count", "How many"),
                Quantity("width", "Width", 2.0, (0.3, 8), OUTSIDE, "width"),
                Quantity("height", "Height", 0.3, (0.05, 2.0), DEPTH, "height"),
                Quantity("angle", "First from the stem", 45.0, (-360, 360), ANGLE, "angle", floor="signed"),
            ),
        ),
        Group(
            "dial_ring",
            "Dial ring in one piece",
            (
                Quantity("thickness", "Thickness", 0.3, (0.1, 2.5), THICK, "thickness"),
                Quantity(
                    "inner_diameter", "Inner Ø", 25.8, (8, 44), JAWS, "diameter", near=("dial.diameter", -2.5)
                ),
            ),
        ),
    ),
    looks=(MATERIAL,),
)

SPACERS = Many(
    "spacers",
    "Spacers",
    "spacer",
    (
        NAME,
        Choice("side", "Side", ("dial", "movement")),
        Quantity("thickness", "Thickness", 0.5, (0.03, 2.5), THICK, "thickness"),
        Quantity(
            "outer_diameter", "Outer Ø", 28.5, (14, 45), OUTSIDE, "diameter", near=("dial.diameter", 0.0)
        ),
        Quantity("inner_diameter", "Inner Ø", 27.0, (10, 44), JAWS, "diameter", near=("dial.diameter", -1.5)),
        NOTCH,
        GAP,
    ),
    looks=(FINISH, COLOUR, MATERIAL),
    face=faces.SPACER,
)
