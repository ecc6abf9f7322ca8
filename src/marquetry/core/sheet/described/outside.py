"""Case, back, crown, stem, crystal and ring, as a builder describes them."""

from marquetry.core.sheet.described import faces
from marquetry.core.sheet.described.looks import COATING, COLOUR, FINISH, LUME, MATERIAL, NAME, WATER_RATING
from marquetry.core.sheet.described.words import CLICKS, CLOSINGS
from marquetry.core.sheet.schema import Choice, Count, Flag, Group, PlainSize, Quantity, Text
from marquetry.core.sheet.ways import (
    ANGLE,
    DEPTH,
    FROM_BACK,
    HALVED,
    JAWS,
    LOUPE,
    OUTSIDE,
    PINS,
    PLAN,
    SOFT,
    THICK,
)

CASE = Group(
    "case",
    "Case",
    (
        NAME,
        Quantity("crown_angle", "Crown place", 90.0, (0, 360), ANGLE, "angle", floor="signed"),
        Quantity("dial_bore", "Dial bore Ø", 28.6, (15, 45), JAWS, "diameter"),
        Quantity(
            "opening_diameter",
            "Opening of the ledge Ø",
            27.1,
            (14, 44),
            JAWS,
            "diameter",
            near=("case.dial_bore", -1.5),
        ),
        Quantity("seat_to_tube", "Seat to tube axis", 2.6, (1.0, 5.0), FROM_BACK, "height"),
        Quantity("seat_to_back_plane", "Seat to back plane", 5.9, (2.5, 10.0), DEPTH, "height"),
        Quantity("seat_to_crystal", "Seat to crystal ledge", 2.6, (0.5, 6.0), DEPTH, "height"),
        Quantity("centre_to_tube_end", "Centre to tube end", 18.3, (10, 26), HALVED, "length"),
        Quantity("tube_outer_diameter", "Tube outer Ø", 2.5, (1.0, 4.5), OUTSIDE, "diameter"),
        Quantity(
            "crystal_bore", "Crystal bore Ø", 30.9, (15, 45), JAWS, "diameter", near=("case.dial_bore", 2.3)
        ),
        Quantity(
            "crystal_aperture",
            "Unsupported glass Ø",
            28.4,
            (14, 44),
            JAWS,
            "diameter",
            near=("case.crystal_bore", -2.5),
        ),
        Quantity(
            "movement_bore", "Movement bore Ø", 29.3, (15, 45), JAWS, "diameter", near=("case.dial_bore", 0.7)
        ),
        Quantity(
            "bezel_seat_diameter",
            "Bezel seat Ø",
            33.4,
            (18, 50),
            OUTSIDE,
            "diameter",
            near=("case.crystal_bore", 2.5),
        ),
        Quantity(
            "ledge_to_bezel_seat",
            "Crystal ledge to bezel seat",
            0.4,
            (-2, 4),
            DEPTH,
            "height",
            floor="signed",
        ),
        Quantity("back_groove_depth", "Back groove depth", 0.62, (0.2, 2.0), DEPTH, "depth"),
        Quantity("back_groove_width", "Back groove width", 1.15, (0.3, 3.0), LOUPE, "width"),
        Quantity(
            "back_groove_inner_diameter",
            "Back groove inner Ø",
            30.4,
            (15, 46),
            OUTSIDE,
            "diameter",
            near=("case.movement_bore", 1.1),
        ),
        Quantity(
            "diameter",
            "Across, without the crown",
            39.0,
            (20, 55),
            OUTSIDE,
            "diameter",
            near=("case.dial_bore", 10.4),
        ),
        Quantity(
            "underside_diameter",
            "Underside Ø, as it stands",
            37.2,
            (15, 58),
            OUTSIDE,
            "diameter",
            near=("case.diameter", -1.8),
        ),
        Quantity(
            "back_opening_diameter",
            "Opening of the back Ø",
            29.9,
            (14, 50),
            JAWS,
            "diameter",
            near=("case.movement_bore", 0.6),
        ),
        Quantity("seat_to_screw_face", "Seat to the case screws' face", 5.0, (0.5, 9.0), DEPTH, "height"),
        Quantity("lug_width", "Between the lugs", 20.0, (8, 30), JAWS, "width"),
        Quantity("lug_to_lug", "Lug to lug", 46.0, (25, 65), OUTSIDE, "length"),
        Quantity("lug_hole_diameter", "Lug hole Ø", 1.0, (0.5, 2.5), PINS, "diameter"),
        Quantity("bar_to_case", "Bar's axis to flank", 2.2, (0.5, 6), PLAN, "length"),
        Flag("ring_notch", "Ring detent", default=None),
        Choice("ring_key", "Keeps the ring upright by", ("recess", "pin", "none")),
        Flag("refinish", "To be brushed again", default=None),
        Choice("click", "Click", CLICKS),
        Choice(
            "holding",
            "Holds the movement by",
            ("holder pressed by the back", "case screws", "clamps", "cement"),
        ),
        PlainSize("claimed_height", "Height as claimed"),
        Count("water_rating_m", "Water rating as claimed, m"),
    ),
    looks=(FINISH, COLOUR, MATERIAL, WATER_RATING),
    face=faces.CASE,
)

CASE_BACK = Group(
    "case_back",
    "Case back",
    (
        NAME,
        Quantity("outer_height", "Outermost face, outwards", 2.3, (0.2, 8), DEPTH, "height"),
        Quantity("inner_recess", "Inner face, outwards", 1.0, (-1, 4), DEPTH, "height", floor="signed"),
        Quantity("lip_recess", "Lip, outwards", -0.4, (-3, 3), DEPTH, "height", floor="signed"),
        Quantity(
            "lip_inner_diameter",
            "Lip inner Ø",
            28.2,
            (12, 45),
            JAWS,
            "diameter",
            near=("case.movement_bore", -1.1),
        ),
        Quantity(
            "outer_diameter", "Outer Ø", 36.0, (15, 60), OUTSIDE, "diameter", near=("case.diameter", -3.0)
        ),
        Choice("closing", "Closes by", CLOSINGS),
    ),
    looks=(FINISH, COLOUR, MATERIAL),
)

CRYSTAL = Group(
    "crystal",
    "Crystal",
    (
        NAME,
        Choice("material", "Material", ("sapphire", "mineral", "acrylic")),
        Quantity(
            "diameter", "Diameter", 30.0, (12, 45), OUTSIDE, "diameter", near=("case.crystal_bore", -0.9)
        ),
        Quantity("edge_thickness", "Thickness at the edge", 2.0, (0.5, 6.0), THICK, "thickness"),
        Quantity("centre_thickness", "Thickness at the centre", 2.4, (0.5, 6.0), THICK, "thickness"),
        Quantity("inner_dome", "Rise of the underside", 0.0, (0, 4), DEPTH, "height", floor="zero"),
        Quantity(
            "inner_aperture",
            "Ø the inner dome spans",
            27.0,
            (10, 45),
            JAWS,
            "diameter",
            near=("crystal.diameter", -3.0),
        ),
    ),
    looks=(FINISH, COLOUR, COATING),
    face=faces.CRYSTAL,
)

CHAPTER_RING = Group(
    "chapter_ring",
    "Chapter ring",
    (
        NAME,
        Quantity(
            "inner_diameter",
            "Inner Ø, lower edge",
            26.8,
            (14, 44),
            JAWS,
            "diameter",
            near=("case.opening_diameter", -0.3),
        ),
        Quantity("outer_diameter", "Outer Ø", 28.6, (15, 46), OUTSIDE, "diameter", differs=True),
        Quantity("drop", "Underside below the ledge", 0.0, (-0.5, 2.0), DEPTH, "height", floor="signed"),
        Flag("notch", "Notch", default=None),
        Choice("key", "Kept upright by its", ("nib", "notch", "none")),
    ),
    looks=(FINISH, COLOUR, MATERIAL, *LUME),
    face=faces.CHAPTER_RING,
)

CROWN = Group(
    "crown",
    "Crown",
    (
        NAME,
        Text("thread", "Thread"),
        Quantity("diameter", "Diameter", 6.0, (2.5, 10.0), OUTSIDE, "diameter"),
        Quantity("seat_to_bottom", "Seat to bottom of the bore", 2.35, (0.5, 6.0), DEPTH, "height"),
        Quantity("gasket_cord", "Gasket cord", 0.5, (0.2, 1.2), SOFT, "thickness"),
        Quantity("gasket_bore", "Gasket bore Ø", 3.3, (1.0, 6.0), JAWS, "diameter"),
    ),
    looks=(FINISH, COLOUR, MATERIAL),
    face=faces.CROWN,
)

STEM = Group(
    "stem",
    "Stem",
    (
        NAME,
        Text("thread", "Thread"),
        Quantity("length", "Length", 24.6, (5, 45), OUTSIDE, "length"),
        Quantity("thread_length", "Threaded length", 11.0, (0.5, 30), OUTSIDE, "length"),
    ),
    looks=(MATERIAL,),
)
