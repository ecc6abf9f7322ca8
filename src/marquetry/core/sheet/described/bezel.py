"""Bezel and insert, as a builder describes them."""

from marquetry.core.sheet.described import faces
from marquetry.core.sheet.described.looks import COLOUR, FINISH, LUME, MATERIAL, NAME, SHAPE
from marquetry.core.sheet.described.words import CLICKS
from marquetry.core.sheet.schema import Choice, Count, Group, Quantity
from marquetry.core.sheet.ways import ANGLE, DEPTH, JAWS, OUTSIDE, THICK

BEZEL = Group(
    "bezel",
    "Bezel",
    (
        NAME,
        Count("clicks", "Clicks a turn"),
        Quantity("index_offset", "Index off its place", 0.0, (-4, 4), ANGLE, "angle", floor="signed"),
        Quantity(
            "inner_diameter",
            "Inner Ø",
            33.46,
            (18, 50),
            JAWS,
            "diameter",
            near=("case.bezel_seat_diameter", 0.06),
        ),
        Quantity("outer_diameter", "Outer Ø", 40.0, (20, 56), OUTSIDE, "diameter", differs=True),
        Quantity("seat_to_channel", "Seat to channel floor", 0.55, (0, 4), DEPTH, "height", floor="signed"),
        Quantity(
            "channel_outer_diameter",
            "Channel outer Ø",
            38.0,
            (18, 50),
            JAWS,
            "diameter",
            near=("case.bezel_seat_diameter", 4.6),
        ),
        Quantity(
            "channel_inner_diameter",
            "Channel inner Ø",
            31.0,
            (15, 48),
            OUTSIDE,
            "diameter",
            near=("case.crystal_bore", 0.1),
        ),
        Quantity("channel_depth", "Channel depth", 0.95, (0.2, 3.0), DEPTH, "depth"),
        Quantity(
            "turning_inner_diameter",
            "Turning part's inner Ø",
            33.6,
            (18, 50),
            JAWS,
            "diameter",
            near=("bezel.inner_diameter", 0.14),
            differs=True,
        ),
        Choice("click", "Click", CLICKS),
    ),
    looks=(FINISH, COLOUR, MATERIAL),
    face=faces.BEZEL,
)

BEZEL_INSERT = Group(
    "bezel_insert",
    "Bezel insert",
    (
        NAME,
        Quantity(
            "outer_diameter",
            "Outer Ø",
            37.92,
            (18, 50),
            OUTSIDE,
            "diameter",
            near=("bezel.channel_outer_diameter", -0.08),
        ),
        Quantity(
            "inner_diameter",
            "Inner Ø",
            31.1,
            (15, 48),
            JAWS,
            "diameter",
            near=("bezel.channel_inner_diameter", 0.1),
        ),
        Quantity("thickness", "Thickness", 0.75, (0.2, 3.0), THICK, "thickness"),
        Quantity("adhesive", "Adhesive under it", 0.15, (0, 0.6), THICK, "thickness", floor="zero"),
    ),
    looks=(FINISH, COLOUR, MATERIAL, SHAPE, *LUME),
    face=faces.BEZEL_INSERT,
)
