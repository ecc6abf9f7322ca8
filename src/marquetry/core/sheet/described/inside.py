"""Dial, hands, movement, holder, spacers, rotor and calendar disc, as a builder describes them."""

from marquetry.core.sheet.described.looks import COLOUR, FINISH, LUME, MATERIAL, NAME, NUMERALS
from marquetry.core.sheet.described.words import FUNCTIONS, HAND_LABELS
from marquetry.core.sheet.schema import Choice, Flag, Group, Many, Names, Quantity, Text
from marquetry.core.sheet.ways import (
    ANGLE,
    DEPTH,
    JAWS,
    LIGHT,
    OUTSIDE,
    PINS,
    PLAN,
    POST,
    SIDE,
    STEM_SEATED,
    THICK,
    TIP,
)


def _hand(key: str, bore: float, length: float) -> Group:
    return Group(
        key,
        f"{HAND_LABELS[key].capitalize()} hand",
        (
            Quantity("bore", "Bore Ø", bore, (0.10, 2.50), PINS, "diameter"),
            Quantity("pipe", "Pipe below the blade", 0.25, (0.0, 1.20), THICK, "length", floor="zero"),
            Quantity("thickness", "Blade at the boss", 0.15, (0.05, 0.60), THICK, "thickness"),
            Quantity("length", "Centre to tip", length, (2.0, 20.0), TIP, "length"),
            Flag("through", "Bore open on top", default=key != "seconds"),
        ),
        optional=True,
    )


def _post(key: str, diameter: float, top: float) -> Group:
    return Group(
        key,
        f"{HAND_LABELS[key].capitalize()} post",
        (
            Quantity("diameter", "Post Ø", diameter, (0.10, 2.60), LIGHT, "diameter"),
            Quantity("top", "Top above the face", top, (0.20, 4.50), POST, "height"),
            Quantity("grip", "Grip, top to shoulder", 0.5, (0.10, 1.50), SIDE, "length"),
        ),
        optional=True,
    )


DIAL = Group(
    "dial",
    "Dial",
    (
        NAME,
        Quantity("diameter", "Diameter", 28.5, (14, 44), OUTSIDE, "diameter", near=("case.dial_bore", -0.12)),
        Quantity("thickness", "Thickness", 0.4, (0.15, 2.0), THICK, "thickness"),
        Quantity("centre_hole", "Centre hole Ø", 2.0, (0.5, 4.0), JAWS, "diameter"),
        Many(
            "feet",
            "Feet",
            "foot",
            (
                Quantity("radius", "From the centre", 12.6, (4, 20), PLAN, "radius"),
                Quantity("angle", "Place", 33.0, (-360, 360), ANGLE, "angle", floor="signed"),
                Quantity("diameter", "Foot Ø", 0.7, (0.3, 1.6), OUTSIDE, "diameter"),
                Quantity("length", "Length below the dial", 1.4, (0.3, 4.0), DEPTH, "length"),
            ),
        ),
        Quantity("date_window_angle", "Date window place", 90.0, (0, 360), ANGLE, "angle", floor="signed"),
        Quantity("date_window_radius", "Date window from the centre", 10.3, (4, 18), PLAN, "radius"),
        Names("windows", "Windows", ("date", "day")),
        Many(
            "features",
            "Raised features",
            "feature",
            (
                Quantity("inner_radius", "Begins at radius", 9.4, (0, 20), PLAN, "radius", floor="zero"),
                Quantity("height", "Height above the face", 0.3, (0, 2.0), DEPTH, "height", floor="zero"),
            ),
        ),
    ),
    looks=(FINISH, COLOUR, MATERIAL, *LUME),
)

HANDS = Group(
    "hands",
    "Hands",
    (
        NAME,
        _hand("h24", 1.88, 10.5),
        _hand("hour", 1.48, 8.0),
        _hand("minute", 0.88, 12.0),
        _hand("seconds", 0.18, 12.5),
    ),
    looks=(FINISH, COLOUR, MATERIAL, *LUME),
)

MOVEMENT = Group(
    "movement",
    "Movement",
    (
        NAME,
        Names("functions", "Functions", FUNCTIONS),
        Quantity("diameter", "Diameter", 27.0, (13, 42), OUTSIDE, "diameter"),
        Quantity("face_to_stem", "Dial face to stem axis", 2.2, (0.6, 4.5), DEPTH, "height"),
        Quantity("face_to_back", "Dial face to rotor", 5.2, (1.8, 9.0), OUTSIDE, "height"),
        Quantity(
            "face_to_rotor",
            "Dial face to the rotor's rim",
            4.4,
            (1.5, 8.5),
            OUTSIDE,
            "height",
            near=("movement.face_to_back", -0.8),
        ),
        Quantity("centre_to_stem_tip", "Centre to stem tip", 4.1, (1.0, 12), STEM_SEATED, "length"),
        Group(
            "posts",
            "Posts",
            (
                _post("h24", 1.9, 0.95),
                _post("hour", 1.5, 1.35),
                _post("minute", 0.9, 1.9),
                _post("seconds", 0.2, 2.4),
            ),
        ),
        Many(
            "foot_holes",
            "Foot holes",
            "hole",
            (
                Quantity("radius", "From the centre", 12.6, (4, 20), PLAN, "radius"),
                Quantity("angle", "Place from the stem", -57.0, (-360, 360), ANGLE, "angle", floor="signed"),
                Quantity("diameter", "Hole Ø", 0.8, (0.3, 1.8), PINS, "diameter"),
            ),
        ),
        Quantity("foot_hole_depth", "Foot hole depth", 1.8, (0.4, 5.0), DEPTH, "depth"),
        Quantity("date_angle", "Date place from the stem", 0.0, (-360, 360), ANGLE, "angle", floor="signed"),
        Quantity("date_radius", "Date from the centre", 10.3, (4, 18), PLAN, "radius"),
    ),
    looks=(FINISH, COLOUR),
)

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
    ),
    looks=(FINISH, COLOUR, MATERIAL),
)

ROTOR = Group(
    "rotor",
    "Rotor",
    (
        NAME,
        Quantity(
            "diameter", "Diameter", 25.8, (10, 42), OUTSIDE, "diameter", near=("movement.diameter", -1.2)
        ),
        Quantity("bore", "Bearing Ø", 3.2, (0.5, 10), PINS, "diameter"),
        Quantity("rim_thickness", "Rim thickness", 0.8, (0.2, 3.0), THICK, "thickness"),
        Quantity("web_thickness", "Web thickness", 0.15, (0.05, 1.5), THICK, "thickness"),
    ),
    looks=(FINISH, COLOUR, MATERIAL),
)

CALENDAR_DISC = Group(
    "calendar_disc",
    "Calendar disc",
    (
        NAME,
        Choice("shows", "Shows", ("date", "day", "day and date")),
        Text("language", "Language"),
        Quantity("crown_angle", "Printed for crown place", 90.0, (0, 360), ANGLE, "angle", floor="signed"),
        Quantity("outer_diameter", "Outer Ø", 24.6, (8, 40), OUTSIDE, "diameter"),
        Quantity("inner_diameter", "Inner Ø", 18.0, (4, 38), JAWS, "diameter"),
        Quantity("thickness", "Thickness", 0.2, (0.05, 0.6), THICK, "thickness"),
        Quantity("numeral_radius", "Numerals from the centre", 10.3, (4, 18), PLAN, "radius"),
    ),
    looks=(COLOUR, NUMERALS),
)
