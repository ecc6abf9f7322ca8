"""What is made here, as a builder describes it: windows, the dial adapter, the press support."""

from marquetry.core.sheet.described.looks import COLOUR, FINISH, MATERIAL, NAME
from marquetry.core.sheet.schema import Choice, Count, Entry, Group, Many, Quantity, Text
from marquetry.core.sheet.ways import ANGLE, DEPTH, JAWS, OUTSIDE, PLAN, THICK

CUT_FOR = ("date", "day", "h24", "open")
"""What a cut-out is for; one for the date is the date window."""
RECESS, SPIGOT = FORMS = ("recess", "spigot")
"""How a case stands on its press support: in a seat, or with the support in the opening of its back."""
CUT_SHAPES = ("round", "rectangle", "arc")
"""What a window may be; each uses its own sizes of those below."""
MOST_CUTS = 24

_CUT: tuple[Entry, ...] = (
    Choice("shape", "Shape", CUT_SHAPES),
    Quantity("at_radius", "From the centre", 10.3, (0, 21), PLAN, "radius", floor="zero"),
    Quantity("angle", "Place", 90.0, (-360, 360), ANGLE, "angle", floor="signed"),
    Quantity("diameter", "Ø, round", 2.0, (0.3, 24), JAWS, "diameter"),
    Quantity("width", "Across, rectangle", 2.6, (0.2, 24), JAWS, "width"),
    Quantity("height", "Along the ray, rectangle", 2.0, (0.2, 24), JAWS, "height"),
    Quantity("inner_radius", "Inner radius, arc", 8.0, (0, 21), PLAN, "radius", floor="zero"),
    Quantity("outer_radius", "Outer radius, arc", 10.0, (0.2, 22), PLAN, "radius"),
    Quantity("from", "Begins at, arc", 330.0, (-360, 360), ANGLE, "angle", floor="signed"),
    Quantity("to", "Ends at, clockwise, arc", 30.0, (-360, 360), ANGLE, "angle", floor="signed"),
)

CUTOUTS = Many("cutouts", "Cut-outs", "cut-out", (Choice("for", "For", CUT_FOR), *_CUT), most=MOST_CUTS)
WINDOWS = Many("windows", "Windows", "window", _CUT, most=MOST_CUTS)

MARKS = Group(
    "marks",
    "Marks to be drawn",
    (
        Count("count", "How many"),
        Quantity("inner_radius", "From radius", 11.6, (0, 21), PLAN, "radius", floor="zero"),
        Quantity("outer_radius", "To radius", 12.8, (0.5, 22), PLAN, "radius"),
    ),
)

NOTCH = Group(
    "notch",
    "Notch in its edge",
    (
        Quantity("angle", "Place", 90.0, (-360, 360), ANGLE, "angle", floor="signed"),
        Quantity("width", "Width", 2.0, (0.3, 12), JAWS, "width"),
        Quantity("depth", "Depth inwards", 0.6, (0.1, 8), DEPTH, "depth"),
    ),
)

GAP = Group(
    "gap",
    "Gap right through",
    (
        Quantity("angle", "Place", 90.0, (-360, 360), ANGLE, "angle", floor="signed"),
        Quantity("width", "Width", 1.5, (0.1, 12), JAWS, "width"),
    ),
)

DIAL_ADAPTER = Group(
    "dial_adapter",
    "Dial adapter",
    (
        NAME,
        Quantity("thickness", "Plate thickness", 0.4, (0.1, 2.0), THICK, "thickness"),
        Quantity(
            "outer_diameter", "Outer Ø", 28.4, (14, 45), OUTSIDE, "diameter", near=("dial.diameter", -0.1)
        ),
        Quantity("opening_diameter", "Opening Ø", 4.0, (0.5, 40), JAWS, "diameter"),
        WINDOWS,
        Quantity("slit_width", "Sighting slits, width", 0.4, (0.1, 3), JAWS, "width"),
        Quantity("slit_inner_radius", "Sighting slits begin at", 12.4, (1, 21), PLAN, "radius"),
        Quantity("peg_play", "Peg play in its hole", 0.06, (0, 0.4), OUTSIDE, "width", floor="zero"),
        Quantity("peg_length", "Peg length", 1.2, (0.2, 4), DEPTH, "length"),
        Quantity(
            "grip_play", "Skirt play round the movement", 0.05, (0, 0.5), OUTSIDE, "width", floor="zero"
        ),
        Quantity("grip_wall", "Skirt wall", 0.8, (0.2, 3), THICK, "thickness"),
        Quantity("grip_height", "Skirt height", 1.0, (0, 5), DEPTH, "height", floor="zero"),
        Quantity("stem_opening", "Skirt open for the stem", 4.0, (0.5, 14), JAWS, "width"),
    ),
    looks=(FINISH, COLOUR, MATERIAL),
)

PRESS_SUPPORT = Group(
    "press_support",
    "Press support",
    (
        NAME,
        Choice("form", "Form", FORMS),
        Quantity(
            "seat_diameter",
            "Seat Ø for the case",
            37.4,
            (15, 60),
            JAWS,
            "diameter",
            near=("case.underside_diameter", 0.20),
        ),
        Quantity("shoulder", "Rim above the seat", 2.0, (0.3, 15), DEPTH, "height"),
        Quantity("wall", "Wall round the seat", 3.0, (0.5, 20), THICK, "thickness"),
        Quantity(
            "spigot_diameter",
            "Spigot Ø",
            29.75,
            (8, 50),
            OUTSIDE,
            "diameter",
            near=("case.back_opening_diameter", -0.15),
        ),
        Quantity("spigot_height", "Spigot height", 1.5, (0.3, 8), DEPTH, "height"),
        Quantity(
            "rim_diameter",
            "Rim Ø under the case",
            37.2,
            (12, 60),
            OUTSIDE,
            "diameter",
            near=("case.underside_diameter", 0.0),
        ),
        Quantity("floor", "Floor below the seat", 8.0, (1, 60), THICK, "thickness"),
        Quantity("relief_diameter", "Relief Ø for the rotor", 27.0, (5, 58), JAWS, "diameter"),
        Quantity("relief_depth", "Relief depth below the seat", 1.0, (0, 20), DEPTH, "depth", floor="zero"),
        Text("thread", "Thread of the press"),
        Text("bar", "Bar at hand, Ø"),
    ),
    looks=(MATERIAL,),
)
