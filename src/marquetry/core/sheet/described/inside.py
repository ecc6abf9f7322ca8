"""Dial and hands, as a builder describes them."""

from marquetry.core.sheet.described import faces
from marquetry.core.sheet.described.looks import COLOUR, FINISH, LUME, MATERIAL, NAME
from marquetry.core.sheet.described.made import CUTOUTS, MARKS
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.sheet.schema import Choice, Flag, Group, Many, Names, PlainSize, Quantity
from marquetry.core.sheet.ways import (
    ANGLE,
    DEPTH,
    JAWS,
    OUTSIDE,
    PINS,
    PLAN,
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
            PlainSize("pressed", "Blade over the dial, as pressed"),
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
        Quantity(
            "edge_thickness",
            "Thickness at the edge",
            0.4,
            (0.15, 2.0),
            THICK,
            "thickness",
            near=("dial.thickness", 0.0),
            differs=True,
        ),
        Group(
            "fastening",
            "Held by",
            (
                Choice("kind", "Held by", ("feet", "pads")),
                Quantity("thickness", "Pads' thickness", 0.10, (0.03, 0.6), THICK, "thickness"),
            ),
        ),
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
        Quantity(
            "track_radius",
            "Minute track's outer end",
            12.9,
            (5, 21),
            PLAN,
            "radius",
            near=("hands.minute.length", 0.9),
        ),
        Many(
            "features",
            "Raised features",
            "feature",
            (
                Quantity("inner_radius", "Begins at radius", 9.4, (0, 20), PLAN, "radius", floor="zero"),
                Quantity("height", "Height above the face", 0.3, (0, 2.0), DEPTH, "height", floor="zero"),
            ),
        ),
        CUTOUTS,
        MARKS,
    ),
    looks=(FINISH, COLOUR, MATERIAL, *LUME),
    face=faces.DIAL,
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
    face=faces.HANDS,
)
