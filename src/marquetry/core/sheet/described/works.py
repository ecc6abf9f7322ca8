"""Movement, rotor and calendar disc, as a builder describes them."""

from marquetry.core.sheet.described import faces
from marquetry.core.sheet.described.looks import COLOUR, FINISH, MATERIAL, NAME, NUMERALS
from marquetry.core.sheet.described.words import ARRIVING, DRIVES, FUNCTIONS, HAND_LABELS
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


MOVEMENT = Group(
    "movement",
    "Movement",
    (
        NAME,
        Names("calibres", "Calibre, by every name", ()),
        Choice("drive", "Driven by", DRIVES),
        Names("arrives_with", "Arrives with these on it", ARRIVING),
        Flag("arrives_stays", "They stay on it", default=None),
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
        Quantity("rotor_bearing_diameter", "Rotor bearing Ø", 3.18, (0.5, 10), OUTSIDE, "diameter"),
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
        Many(
            "recesses",
            "Recesses for tabs",
            "recess",
            (
                Quantity("angle", "Place from the stem", 75.0, (-360, 360), ANGLE, "angle", floor="signed"),
                Quantity("width", "Width", 3.1, (0.5, 12), JAWS, "width"),
                Quantity("reach", "Centre to its bottom", 12.3, (4, 20), PLAN, "radius"),
                Quantity("from", "Begins below the face", 2.6, (0, 8), DEPTH, "depth", floor="zero"),
                Quantity("to", "Ends below the face", 3.9, (0.2, 9), DEPTH, "depth"),
            ),
        ),
        Quantity("clamp_face", "Face to the screws' shoulder", 4.2, (0.5, 8.0), OUTSIDE, "height"),
        Group(
            "h24_disc",
            "24-hour disc",
            (
                Quantity("inner_radius", "Inner radius", 5.7, (0.5, 20), PLAN, "radius"),
                Quantity("outer_radius", "Outer radius", 7.9, (1, 21), PLAN, "radius"),
            ),
        ),
        Flag("remove_seconds_post", "Its seconds post to be taken out", default=None),
        Choice("dial_fixing", "Holds the dial by", ("pressed", "screws", "clamps")),
        Choice("stem_release", "Lets the stem go by", ("lever", "screw", "button")),
    ),
    looks=(FINISH, COLOUR),
)

ROTOR = Group(
    "rotor",
    "Rotor",
    (
        NAME,
        Quantity(
            "diameter", "Diameter", 25.8, (10, 42), OUTSIDE, "diameter", near=("movement.diameter", -1.2)
        ),
        Quantity("bore", "Bore on the bearing Ø", 3.2, (0.5, 10), PINS, "diameter"),
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
    face=faces.CALENDAR_DISC,
)
