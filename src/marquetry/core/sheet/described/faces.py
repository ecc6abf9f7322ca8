"""How parts look from the front, in the words that the face is drawn by.

The builder's own words (`colour`, `finish` …) stand beside these and stay as they are: where nothing is
chosen here, the face reads them as far as it can; where they say nothing either, it is drawn quietly.
"""

from marquetry.core.sheet.described.colours import GLOWS, PALETTE
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.sheet.schema import Choice, Count, Entry, Flag, Group, Many, PlainSize, Text, Tint

FACE = "face"
SEEN_AS = "Seen from the front"
FINISHES = (
    "matt", "sunray", "gradient", "brushed along", "brushed round", "polished", "blasted", "coated",
    "textured", "woven", "grained wood", "stone", "enamel", "engine-turned", "hammered",
)  # fmt: skip
HAND_SHAPES = (
    "baton", "leaf", "sword", "pencil", "lozenge", "arrow", "ring-tipped", "skeleton", "plain",
)  # fmt: skip
MARKER_SHAPES = ("baton", "dot", "triangle", "numerals", "roman")
PLACES = (
    "all twelve", "twelve", "quarters", "all but twelve", "all but quarters", "three, six, nine",
    "even hours", "odd hours", "all twenty-four",
)  # fmt: skip
LETTERS = ("upright", "plain", "even")
"""The three faces of type that ship: one with serifs, one for reading, one of even widths."""
COUNTERWEIGHTS = ("none", "tail", "disc", "ring", "lozenge")
SCALES = ("minutes", "twelve", "twenty-four", "none")
PIPS = ("triangle", "dot", "bar", "none")
PRINTINGS = ("none", "minutes", "dots", "hours")
TRACKS = ("none", "ticks", "dots", "railway")
EDGES = ("smooth", "fluted", "coin", "notched")
OUTLINES = ("round", "cushion", "barrel")
SURFACES = ("leather", "suede", "textile", "rubber", "links", "mesh")
BUCKLES = ("pin buckle", "folding clasp", "none")
STITCHINGS = ("none", "along the edges", "at the lugs")
COATINGS = ("none", "blue", "violet", "green", "amber")


def _tint(key: str, label: str) -> Tint:
    return Tint(key, label, tuple(PALETTE))


def _face(*entries: Entry) -> Group:
    return Group(FACE, SEEN_AS, entries)


COLOUR = _tint("colour", "Colour")
SECOND = _tint("second_colour", "Second colour")
FINISH = Choice("finish", "Finish", FINISHES)
GLOW = Choice("glow", "Glows", ("nothing", *GLOWS))
DAYLIGHT = _tint("daylight", "Lume by day")
PRINT = _tint("print_colour", "Printed in")

DIAL = _face(
    COLOUR,
    SECOND,
    FINISH,
    Many(
        "markers",
        "Markers",
        "marker set",
        (
            Choice("shape", "Shape", MARKER_SHAPES),
            Choice("places", "Where", PLACES),
            Choice("made", "Made", ("printed", "applied")),
            PlainSize("inner_radius", "Begins at radius"),
            PlainSize("outer_radius", "Ends at radius"),
            PlainSize("width", "Width", 12.0),
            COLOUR,
            Flag("lume", "Filled with lume", default=False),
            Choice("letters", "Type", LETTERS),
            GLOW,
            DAYLIGHT,
        ),
        most=4,
    ),
    Choice("track", "Minute track", TRACKS),
    _tint("marks_colour", "Marks in"),
    PRINT,
    GLOW,
    DAYLIGHT,
    Choice("window_frame", "Window's frame", ("none", "painted", "applied")),
    Choice("window_shape", "Window's shape", ("upright", "round")),
    PlainSize("inner_ring", "Inner ring at radius"),
    Group(
        "logo",
        "Logo",
        (
            Text("words", "Words or letters"),
            Choice("made", "Made", ("printed", "applied")),
            COLOUR,
            PlainSize("above", "Above the centre"),
            PlainSize("below", "Below the centre"),
            PlainSize("size", "Height", 6.0),
            Choice("letters", "Type", LETTERS),
        ),
        optional=True,
    ),
    Many(
        "lines",
        "Printed lines",
        "line",
        (
            Text("words", "Words"),
            PlainSize("above", "Above the centre"),
            PlainSize("below", "Below the centre"),
            PlainSize("size", "Height of its letters", 6.0),
            Choice("letters", "Type", LETTERS),
        ),
        most=4,
    ),
)


def _hand(key: str) -> Group:
    """What one hand of the set has of its own; what it does not say, it has from the set."""
    return Group(
        key,
        f"{HAND_LABELS[key].capitalize()} hand",
        (
            Choice("shape", "Shape", HAND_SHAPES),
            PlainSize("width", "Width", 8.0),
            COLOUR,
            Flag("lume", "Lume field", default=None),
            Choice("counterweight", "Counterweight", COUNTERWEIGHTS),
        ),
        optional=True,
    )


HANDS = _face(
    Choice("shape", "Shape", HAND_SHAPES),
    COLOUR,
    FINISH,
    _tint("edge", "Edge in another colour"),
    GLOW,
    DAYLIGHT,
    *(_hand(key) for key in HAND_LABELS),
)
BEZEL_INSERT = _face(
    COLOUR,
    SECOND,
    FINISH,
    Choice("scale", "Scale", SCALES),
    PRINT,
    Choice("pip", "Pip at twelve", PIPS),
    GLOW,
    DAYLIGHT,
    Flag("lume", "Scale glows too", default=False),
)
CHAPTER_RING = _face(COLOUR, FINISH, Choice("printing", "Printing", PRINTINGS), PRINT, GLOW, DAYLIGHT)
SPACER = _face(COLOUR, FINISH)
CASE = _face(
    COLOUR,
    FINISH,
    Choice("outline", "Outline", OUTLINES),
    Flag("guards", "Crown guards", default=False),
    Choice("lugs", "Lugs", ("short", "long")),
    Choice("bar", "Spring bar", ("visible", "hidden")),
)
BEZEL = _face(COLOUR, FINISH, Choice("edge", "Edge", EDGES))
CROWN = _face(COLOUR, FINISH, Choice("edge", "Edge", EDGES))
CRYSTAL = _face(Choice("coating", "Coating shines", COATINGS))
CALENDAR_DISC = _face(COLOUR, PRINT)
STRAP = _face(
    Choice("surface", "Made of", SURFACES),
    COLOUR,
    SECOND,
    Choice("stitching", "Stitching", STITCHINGS),
    _tint("stitch_colour", "Stitched in"),
    Count("rows", "Rows of links"),
    Choice("buckle", "Buckle or clasp", BUCKLES),
    _tint("buckle_colour", "Buckle in"),
    Choice("buckle_finish", "Buckle's finish", FINISHES),
)
