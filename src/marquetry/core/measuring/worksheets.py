"""Every worksheet: how to come by dimensions that no instrument reaches directly."""

from marquetry.core.measuring.worksheet import Asked, Inputs, Result, Worksheet
from marquetry.core.sheet.described.words import HAND_LABELS, HANDS
from marquetry.core.values.errors import NotFoundError
from marquetry.core.values.number import Number, arc_cosine_deg, square_root

DISC = Asked("disc", "Thickness of the blank disc", "Micrometer or outside jaws, three places.")


def _chord_angle(i: Inputs) -> Number:
    """Angle at the centre between the mark on the edge and the place, by the law of cosines."""
    edge, radius = i["dial"] / 2, _place_radius(i)
    chord = i["chord"] + i["across"] / 2
    return arc_cosine_deg((radius**2 + edge**2 - chord**2) / (2 * radius * edge))


def _place_radius(i: Inputs) -> Number:
    return i["dial"] / 2 - i["edge"] - i["across"] / 2


def _chord_angle_past_six(i: Inputs) -> Number:
    return 360.0 - _chord_angle(i)


def _place(what: str, part: str, path: str, rim: str, *, past_six: bool) -> Worksheet:
    half = "past 6 o'clock" if past_six else "before 6 o'clock"
    return Worksheet(
        f"place-{what}{'-past-six' if past_six else ''}",
        f"Place of a {what} {half}, from three caliper readings",
        part,
        (
            Asked("dial", f"{rim} Ø", "Outside jaws."),
            Asked("across", f"{what.capitalize()} Ø", "Outside jaws, or pins for a hole."),
            Asked("edge", f"Edge to the outer side of the {what}", "Along the radius; the smallest reading."),
            Asked("chord", f"Mark to the near side of the {what}", "From a fine mark at 12 on the edge."),
        ),
        (
            Result(f"{path}.*.radius", _place_radius),
            Result(f"{path}.*.angle", _chord_angle_past_six if past_six else _chord_angle, "°"),
        ),
        (
            "Make a fine mark at 12 o'clock on the edge.",
            "Clockwise seen from the crystal is positive: from the back the halves change sides.",
        ),
    )


def _post(hand: str) -> Worksheet:
    return Worksheet(
        f"post-{hand}",
        f"Height of the {HAND_LABELS[hand]} post with a dial on",
        "movement",
        (
            Asked("above", "Post above the dial", "Depth gauge from the post's top to the dial's face."),
            Asked("dial", "Thickness of that dial", "At its edge or from its listing; three places."),
            Asked("behind", "Spacers behind the dial", "All together; 0 where there are none."),
        ),
        (Result(f"posts.{hand}.top", lambda i: i["above"] + i["dial"] + i["behind"]),),
        ("Press nothing: rest the gauge's foot on the post, not on a hand.",),
    )


def _pins(part: str, path: str, what: str) -> Worksheet:
    return Worksheet(
        f"pins-{part}-{path.replace('.', '-')}",
        f"{what} by pins: goes, goes not",
        part,
        (
            Asked("goes", "Largest pin that enters by itself", "As marked on the pin."),
            Asked("not", "Smallest pin that does not", "As marked on the pin."),
        ),
        (Result(path, lambda i: (i["goes"] + i["not"]) / 2),),
        ("Enter half the step between the pins as the half width where it is more than the pins' own.",),
    )


def _ball(part: str, path: str, what: str) -> Worksheet:
    return Worksheet(
        f"ball-{part}-{path}",
        f"{what}, too deep for the jaws: by a ball on its edge",
        part,
        (
            Asked("ball", "Ball Ø", "Micrometer."),
            Asked("top", "Top of the ball above the face", "Depth gauge, ball resting on the bore's edge."),
        ),
        (Result(path, lambda i: 2 * square_root((i["ball"] - i["top"]) * i["top"])),),
        ("The bore's edge must be sharp: a chamfer reads as a wider bore.",),
    )


SEAT_TO_TUBE = Worksheet(
    "seat-to-tube",
    "Seat to tube axis, from the back plane",
    "case",
    (
        Asked("seat", "Back plane to the dial seat", "Depth rod through the open back to the ledge or ring."),
        Asked("hole", "Back plane to the tube hole's near edge", "Depth rod or loupe, from inside."),
        Asked("bore", "Bore of the tube hole", "Pins."),
    ),
    (Result("seat_to_tube", lambda i: i["seat"] - i["hole"] - i["bore"] / 2),),
    ("Take the edge nearest to the back, not the far one.", "All three from the same back plane."),
)

WORKSHEETS: tuple[Worksheet, ...] = (
    SEAT_TO_TUBE,
    Worksheet(
        "seat-to-back-plane",
        "Seat to back plane, over a blank disc",
        "case",
        (
            Asked("disc_to_plane", "Back plane to the disc", "Depth gauge, disc pushed against the seat."),
            DISC,
        ),
        (Result("seat_to_back_plane", lambda i: i["disc_to_plane"] + i["disc"]),),
        ("Push a flat blank disc of the dial's diameter against the seat.", "Three places round it."),
    ),
    Worksheet(
        "crystal-ledge",
        "Seat to crystal ledge, over the whole height",
        "case",
        (
            Asked("height", "Height of the case middle", "Outside jaws: back plane to the front rim."),
            Asked("rim", "Front rim down to the crystal ledge", "Depth gauge."),
            Asked("seat", "Back plane to the dial seat", "Measured or from its own worksheet."),
        ),
        (Result("seat_to_crystal", lambda i: i["height"] - i["rim"] - i["seat"]),),
        ("Crystal and gasket out; the ledge clean of old gasket.",),
    ),
    *(_post(hand) for hand in HANDS),
    *(_place("foot", "dial", "feet", "Dial", past_six=past) for past in (False, True)),
    *(_place("hole", "movement", "foot_holes", "Movement", past_six=past) for past in (False, True)),
    _ball("case", "movement_bore", "Movement bore"),
    _ball("case", "dial_bore", "Dial bore"),
    _ball("case", "crystal_bore", "Crystal bore"),
    _pins("dial", "centre_hole", "Centre hole"),
    *(_pins("hands", f"{hand}.bore", f"Bore of the {HAND_LABELS[hand]} hand") for hand in HANDS),
    Worksheet(
        "stem-seated",
        "Centre to the stem's inner tip",
        "movement",
        (
            Asked("edge", "Movement's far edge to the stem's end", "Outside jaws, stem seated, over all."),
            Asked("movement", "Movement Ø", "Outside jaws."),
            Asked("stem", "Length of that stem", "Outside jaws, stem out."),
        ),
        (Result("centre_to_stem_tip", lambda i: i["edge"] - i["movement"] / 2 - i["stem"]),),
        ("Seat the stem until it clicks, then measure over all without pulling it.",),
    ),
)


def worksheets_for(path: str) -> tuple[Worksheet, ...]:
    """The worksheets that compute the dimension at the path."""
    return tuple(worksheet for worksheet in WORKSHEETS if worksheet.serves(path))


def worksheet_named(key: str) -> Worksheet:
    """One worksheet; NotFoundError where there is none of that key."""
    found = next((worksheet for worksheet in WORKSHEETS if worksheet.key == key), None)
    if found is None:
        raise NotFoundError(f"worksheet “{key[:40]}”")
    return found
