"""Every part of a watch and every entry that describes it: the one place that lists them."""

from marquetry.core.errors import NotFoundError
from marquetry.core.schema import Choice, Count, Entry, Flag, Group, Many, Names, Quantity, Text, Way

HANDS = ("h24", "hour", "minute", "seconds")
"""Hands and posts from the dial upwards."""

HAND_LABELS = {"h24": "24-hour", "hour": "hour", "minute": "minute", "seconds": "seconds"}
FUNCTIONS = ("hours", "minutes", "seconds", "date", "day", "h24", "hacking", "hand_winding")

_NAME = Text("name", "Name")
_JAWS = Way("inside", "Inside jaws of the caliper, three readings turned by a third, the smallest counts.")
_OUTSIDE = Way(
    "outside", "Outside jaws of the caliper, three readings turned by a third, the largest counts."
)
_DEPTH = Way("depth", "Depth rod or depth gauge, its foot flat on the upper face; three places.")
_THICK = Way("thickness", "Outside jaws or a micrometer, at three places, burrs taken off.")
_PLAN = Way(
    "plan", "Under the loupe with a reticle, or three caliper readings between edges; from the centre."
)
_ANGLE = Way(
    "angle", "On a printed protractor under the loupe, clockwise from 12 o'clock seen from the crystal."
)
_PINS = Way("pins", "Pin gauges: the largest that enters by itself.")
_TIP = Way("plan", "Loupe with reticle, boss to tip.")
_LIGHT = Way("thickness", "Micrometer, with a light touch.")
_POST = Way("depth", "Depth rod from the post to the face.")
_SIDE = Way("plan", "Loupe with reticle, from the side.")
_FROM_BACK = Way("worksheet", "Worksheet: from the back plane.")
_HALVED = Way("outside", "Tube end to tube end, halved.")
_LOUPE = Way("plan", "Loupe with reticle.")
_SOFT = Way("plan", "Unloaded, loupe with reticle; it gives under jaws.")
_STEM_SEATED = Way("worksheet", "Worksheet: stem seated.")
_LAID = Way("plan", "Laid flat on a printed circle.")


def _hand(key: str, bore: float, length: float) -> Group:
    return Group(
        key,
        f"{HAND_LABELS[key].capitalize()} hand",
        (
            Quantity("bore", "Bore Ø", bore, (0.10, 2.50), _PINS),
            Quantity("pipe", "Pipe below the blade", 0.25, (0.0, 1.20), _THICK, floor="zero"),
            Quantity("thickness", "Blade at the boss", 0.15, (0.05, 0.60), _THICK),
            Quantity("length", "Centre to tip", length, (2.0, 20.0), _TIP),
            Flag("through", "Bore open on top", default=key != "seconds"),
        ),
        optional=True,
    )


def _post(key: str, diameter: float, top: float) -> Group:
    return Group(
        key,
        f"{HAND_LABELS[key].capitalize()} post",
        (
            Quantity("diameter", "Post Ø", diameter, (0.10, 2.60), _LIGHT),
            Quantity("top", "Top above the face", top, (0.20, 4.50), _POST),
            Quantity("grip", "Grip, top to shoulder", 0.5, (0.10, 1.50), _SIDE),
        ),
        optional=True,
    )


_CASE = Group(
    "case",
    "Case",
    (
        _NAME,
        Quantity("crown_angle", "Crown place", 90.0, (0, 360), _ANGLE, unit="°", floor="signed"),
        Quantity("dial_bore", "Dial bore Ø", 28.6, (15, 45), _JAWS),
        Quantity(
            "opening_diameter", "Opening of the ledge Ø", 27.1, (14, 44), _JAWS, near=("case.dial_bore", -1.5)
        ),
        Quantity("seat_to_tube", "Seat to tube axis", 2.6, (1.0, 5.0), _FROM_BACK),
        Quantity("seat_to_back_plane", "Seat to back plane", 5.9, (2.5, 10.0), _DEPTH),
        Quantity("seat_to_crystal", "Seat to crystal ledge", 2.6, (0.5, 6.0), _DEPTH),
        Quantity("centre_to_tube_end", "Centre to tube end", 18.3, (10, 26), _HALVED),
        Quantity("tube_outer_diameter", "Tube outer Ø", 2.5, (1.0, 4.5), _OUTSIDE),
        Quantity("crystal_bore", "Crystal bore Ø", 30.9, (15, 45), _JAWS, near=("case.dial_bore", 2.3)),
        Quantity(
            "crystal_aperture", "Unsupported glass Ø", 28.4, (14, 44), _JAWS, near=("case.crystal_bore", -2.5)
        ),
        Quantity("movement_bore", "Movement bore Ø", 29.3, (15, 45), _JAWS, near=("case.dial_bore", 0.7)),
        Quantity(
            "bezel_seat_diameter", "Bezel seat Ø", 33.4, (18, 50), _OUTSIDE, near=("case.crystal_bore", 2.5)
        ),
        Quantity("ledge_to_bezel_seat", "Crystal ledge to bezel seat", 0.4, (-2, 4), _DEPTH, floor="signed"),
        Quantity("back_groove_depth", "Back groove depth", 0.62, (0.2, 2.0), _DEPTH),
        Quantity("back_groove_width", "Back groove width", 1.15, (0.3, 3.0), _LOUPE),
        Quantity(
            "back_groove_inner_diameter",
            "Back groove inner Ø",
            30.4,
            (15, 46),
            _OUTSIDE,
            near=("case.movement_bore", 1.1),
        ),
        Quantity("lug_width", "Between the lugs", 20.0, (8, 30), _JAWS),
        Quantity("lug_to_lug", "Lug to lug", 46.0, (25, 65), _OUTSIDE),
    ),
)

_CASE_BACK = Group(
    "case_back",
    "Case back",
    (
        _NAME,
        Quantity("inner_recess", "Inner face, outwards", 1.0, (-1, 4), _DEPTH, floor="signed"),
        Quantity("lip_recess", "Lip, outwards", -0.4, (-3, 3), _DEPTH, floor="signed"),
        Quantity(
            "lip_inner_diameter", "Lip inner Ø", 28.2, (12, 45), _JAWS, near=("case.movement_bore", -1.1)
        ),
    ),
)

_CRYSTAL = Group(
    "crystal",
    "Crystal",
    (
        _NAME,
        Choice("material", "Material", ("sapphire", "mineral", "acrylic")),
        Quantity("diameter", "Diameter", 30.0, (12, 45), _OUTSIDE, near=("case.crystal_bore", -0.9)),
        Quantity("edge_thickness", "Thickness at the edge", 2.0, (0.5, 6.0), _THICK),
        Quantity("centre_thickness", "Thickness at the centre", 2.4, (0.5, 6.0), _THICK),
        Quantity("inner_dome", "Rise of the underside", 0.0, (0, 4), _DEPTH, floor="zero"),
        Quantity(
            "inner_aperture", "Ø the inner dome spans", 27.0, (10, 45), _JAWS, near=("crystal.diameter", -3.0)
        ),
    ),
)

_CRYSTAL_GASKET = Group(
    "crystal_gasket",
    "Crystal gasket",
    (
        _NAME,
        Quantity("wall", "Wall", 0.5, (0.2, 1.5), _SOFT),
        Quantity("flange", "Flange under the crystal", 0.0, (0, 1.0), _THICK, floor="zero"),
    ),
)

_CHAPTER_RING = Group(
    "chapter_ring",
    "Chapter ring",
    (
        _NAME,
        Quantity(
            "inner_diameter",
            "Inner Ø, lower edge",
            26.8,
            (14, 44),
            _JAWS,
            near=("case.opening_diameter", -0.3),
        ),
        Quantity("drop", "Underside below the ledge", 0.0, (-0.5, 2.0), _DEPTH, floor="signed"),
    ),
)

_DIAL = Group(
    "dial",
    "Dial",
    (
        _NAME,
        Quantity("diameter", "Diameter", 28.5, (14, 44), _OUTSIDE, near=("case.dial_bore", -0.12)),
        Quantity("thickness", "Thickness", 0.4, (0.15, 2.0), _THICK),
        Quantity("centre_hole", "Centre hole Ø", 2.0, (0.5, 4.0), _JAWS),
        Many(
            "feet",
            "Feet",
            "foot",
            (
                Quantity("radius", "From the centre", 12.6, (4, 20), _PLAN),
                Quantity("angle", "Place", 33.0, (-360, 360), _ANGLE, unit="°", floor="signed"),
                Quantity("diameter", "Foot Ø", 0.7, (0.3, 1.6), _OUTSIDE),
                Quantity("length", "Length below the dial", 1.4, (0.3, 4.0), _DEPTH),
            ),
        ),
        Quantity("date_window_angle", "Date window place", 90.0, (0, 360), _ANGLE, unit="°", floor="signed"),
        Quantity("date_window_radius", "Date window from the centre", 10.3, (4, 18), _PLAN),
        Names("windows", "Windows", ("date", "day")),
        Many(
            "features",
            "Raised features",
            "feature",
            (
                Quantity("inner_radius", "Begins at radius", 9.4, (0, 20), _PLAN, floor="zero"),
                Quantity("height", "Height above the face", 0.3, (0, 2.0), _DEPTH, floor="zero"),
            ),
        ),
    ),
)

_HANDS = Group(
    "hands",
    "Hands",
    (
        _NAME,
        _hand("h24", 1.88, 10.5),
        _hand("hour", 1.48, 8.0),
        _hand("minute", 0.88, 12.0),
        _hand("seconds", 0.18, 12.5),
    ),
)

_MOVEMENT = Group(
    "movement",
    "Movement",
    (
        _NAME,
        Names("functions", "Functions", FUNCTIONS),
        Quantity("diameter", "Diameter", 27.0, (13, 42), _OUTSIDE),
        Quantity("face_to_stem", "Dial face to stem axis", 2.2, (0.6, 4.5), _DEPTH),
        Quantity("face_to_back", "Dial face to rotor", 5.2, (1.8, 9.0), _OUTSIDE),
        Quantity("centre_to_stem_tip", "Centre to stem tip", 4.1, (1.0, 12), _STEM_SEATED),
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
                Quantity("radius", "From the centre", 12.6, (4, 20), _PLAN),
                Quantity(
                    "angle", "Place from the stem", -57.0, (-360, 360), _ANGLE, unit="°", floor="signed"
                ),
                Quantity("diameter", "Hole Ø", 0.8, (0.3, 1.8), _PINS),
            ),
        ),
        Quantity("foot_hole_depth", "Foot hole depth", 1.8, (0.4, 5.0), _DEPTH),
        Quantity(
            "date_angle", "Date place from the stem", 0.0, (-360, 360), _ANGLE, unit="°", floor="signed"
        ),
        Quantity("date_radius", "Date from the centre", 10.3, (4, 18), _PLAN),
    ),
)

_HOLDER = Group(
    "holder",
    "Movement holder",
    (
        _NAME,
        Quantity("outer_diameter", "Outer Ø", 29.1, (14, 45), _OUTSIDE, near=("case.movement_bore", -0.15)),
        Quantity("inner_diameter", "Inner Ø", 27.1, (13, 44), _JAWS, near=("movement.diameter", 0.08)),
        Quantity(
            "rim_outer_diameter", "Rim outer Ø", 27.8, (13, 45), _OUTSIDE, near=("movement.diameter", 0.8)
        ),
        Quantity(
            "face_to_rim",
            "Movement face to back rim",
            5.2,
            (1.0, 9.0),
            _DEPTH,
            near=("movement.face_to_back", 0.0),
        ),
    ),
)

_SPACERS = Many(
    "spacers",
    "Spacers",
    "spacer",
    (
        Choice("side", "Side", ("dial", "movement")),
        Quantity("thickness", "Thickness", 0.5, (0.03, 2.5), _THICK),
        Quantity("outer_diameter", "Outer Ø", 28.5, (14, 45), _OUTSIDE, near=("dial.diameter", 0.0)),
        Quantity("inner_diameter", "Inner Ø", 27.0, (10, 44), _JAWS, near=("dial.diameter", -1.5)),
    ),
)

_CROWN = Group(
    "crown",
    "Crown",
    (
        _NAME,
        Text("thread", "Thread"),
        Quantity("seat_to_bottom", "Seat to bottom of the bore", 2.35, (0.5, 6.0), _DEPTH),
        Quantity("gasket_cord", "Gasket cord", 0.5, (0.2, 1.2), _SOFT),
        Quantity("gasket_bore", "Gasket bore Ø", 3.3, (1.0, 6.0), _JAWS),
    ),
)

_STEM = Group(
    "stem",
    "Stem",
    (
        _NAME,
        Text("thread", "Thread"),
        Quantity("length", "Length", 24.6, (5, 45), _OUTSIDE),
        Quantity("thread_length", "Threaded length", 11.0, (0.5, 30), _OUTSIDE),
    ),
)

_BACK_GASKET = Group(
    "back_gasket",
    "Back gasket",
    (
        _NAME,
        Quantity("cord", "Cord", 0.8, (0.2, 2.0), _SOFT),
        Quantity(
            "inner_diameter",
            "Inner Ø",
            29.8,
            (14, 46),
            _LAID,
            near=("case.back_groove_inner_diameter", -0.6),
        ),
    ),
)

_BEZEL = Group(
    "bezel",
    "Bezel",
    (
        _NAME,
        Count("clicks", "Clicks a turn"),
        Quantity("index_offset", "Index off its place", 0.0, (-4, 4), _ANGLE, unit="°", floor="signed"),
        Quantity(
            "inner_diameter", "Inner Ø", 33.46, (18, 50), _JAWS, near=("case.bezel_seat_diameter", 0.06)
        ),
        Quantity("seat_to_channel", "Seat to channel floor", 0.55, (0, 4), _DEPTH, floor="signed"),
        Quantity(
            "channel_outer_diameter",
            "Channel outer Ø",
            38.0,
            (18, 50),
            _JAWS,
            near=("case.bezel_seat_diameter", 4.6),
        ),
        Quantity(
            "channel_inner_diameter",
            "Channel inner Ø",
            31.0,
            (15, 48),
            _OUTSIDE,
            near=("case.crystal_bore", 0.1),
        ),
        Quantity("channel_depth", "Channel depth", 0.95, (0.2, 3.0), _DEPTH),
    ),
)

_BEZEL_INSERT = Group(
    "bezel_insert",
    "Bezel insert",
    (
        _NAME,
        Quantity(
            "outer_diameter",
            "Outer Ø",
            37.92,
            (18, 50),
            _OUTSIDE,
            near=("bezel.channel_outer_diameter", -0.08),
        ),
        Quantity(
            "inner_diameter", "Inner Ø", 31.1, (15, 48), _JAWS, near=("bezel.channel_inner_diameter", 0.1)
        ),
        Quantity("thickness", "Thickness", 0.75, (0.2, 3.0), _THICK),
        Quantity("adhesive", "Adhesive under it", 0.15, (0, 0.6), _THICK, floor="zero"),
    ),
)

_STRAP = Group(
    "strap",
    "Strap",
    (
        _NAME,
        Quantity("width", "Width at the case", 20.0, (8, 30), _OUTSIDE),
        Quantity("end_link_overhang", "End link past the lug", 0.0, (0, 12), _OUTSIDE, floor="zero"),
    ),
)

PARTS: tuple[Group | Many, ...] = (
    _CASE,
    _CASE_BACK,
    _CRYSTAL,
    _CRYSTAL_GASKET,
    _CHAPTER_RING,
    _DIAL,
    _HANDS,
    _MOVEMENT,
    _HOLDER,
    _SPACERS,
    _CROWN,
    _STEM,
    _BACK_GASKET,
    _BEZEL,
    _BEZEL_INSERT,
    _STRAP,
)
PART_BY_KEY = {part.key: part for part in PARTS}


def entry_at(path: str) -> tuple[Entry, ...]:
    """The entries from the part down to `path`, such as (Movement, Posts, Minute post, Top above the face).

    A number in the path stands for one of a list. Raises NotFoundError where no such entry is described.
    """
    steps = [step for step in path.split(".") if not step.isdigit()]
    entries: tuple[Entry, ...] = PARTS
    trail: list[Entry] = []
    for step in steps:
        found = next((entry for entry in entries if entry.key == step), None)
        if found is None:
            raise NotFoundError(f"entry {path!r} in a build sheet")
        trail.append(found)
        entries = found.entries if isinstance(found, Group | Many) else ()
    return tuple(trail)


def quantity_at(path: str) -> Quantity:
    """The description of the dimension at `path`; NotFoundError where the path names something else."""
    last = entry_at(path)[-1]
    if not isinstance(last, Quantity):
        raise NotFoundError(f"dimension {path!r} in a build sheet")
    return last


def label_of(path: str) -> str:
    """The path in a builder's words: `dial.feet.0.radius` is «Dial, foot 1, from the centre»."""
    trail = iter(entry_at(path))
    words: list[str] = []
    previous: Entry | None = None
    for step in path.split("."):
        if step.isdigit():
            singular = previous.singular if isinstance(previous, Many) else ""
            words[-1] = f"{singular} {int(step) + 1}"
        else:
            previous = next(trail)
            words.append(previous.label)
    tail = [word if "Ø" in word[:2] else word[0].lower() + word[1:] for word in words[1:]]
    return ", ".join([words[0][0].upper() + words[0][1:], *tail])
