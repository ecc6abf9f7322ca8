"""How dimensions are measured: for each way what an instrument must reach, the steps, and the usual slips."""

from marquetry.core.sheet.schema import Way

TURNED = "Take three readings, the part turned by a third each time."
ZERO = "Wipe the jaws, close them, set zero; zero again when you are done."
FLAT = "Stand the gauge's foot flat: a rocking foot reads too deep."
PARALLAX = "Look straight down; a slanted look shifts the line by a tenth."

JAWS = Way(
    "inside",
    "Inside jaws of the caliper, three readings turned by a third, the smallest counts.",
    (ZERO, "Inside jaws, as deep as they go; rock them to the largest reading.", TURNED),
    ("The flats of the jaws read a small bore too small: use pins below 3 mm.", "A burr at the edge."),
)
OUTSIDE = Way(
    "outside",
    "Outside jaws of the caliper, three readings turned by a third, the largest counts.",
    (ZERO, "Outside jaws, with as little force as holds the part.", TURNED),
    ("A radius noted for a diameter.", "Jaws across a nick or on a chamfer."),
)
DEPTH = Way(
    "depth",
    "Depth rod or depth gauge, its foot flat on the upper face; three places.",
    (ZERO, FLAT, "Lower the rod until it just touches; three places, a third of a turn apart."),
    ("The rod on a fillet instead of the ledge.", "The foot on a chamfer or a burr."),
)
THICK = Way(
    "thickness",
    "Outside jaws or a micrometer, at three places, burrs taken off.",
    (ZERO, "Take burrs off. Close with the ratchet, or let the jaws just hold.", "Three places."),
    ("A raised print, a foot or a burr between the jaws.", "Inches read for millimetres."),
)
PLAN = Way(
    "plan",
    "Under the loupe with a reticle, or three caliper readings between edges; from the centre.",
    (PARALLAX, "Or three caliper readings between edges: the worksheet computes the place."),
    ("Measured from the edge instead of the centre.", "The scale of another loupe.", PARALLAX),
)
ANGLE = Way(
    "angle",
    "On a printed protractor under the loupe, clockwise from 12 o'clock seen from the crystal.",
    ("Print the protractor at 100 %, check its 100 mm bar.", "Lay the part on its centre, 12 o'clock up."),
    ("Read from the back: the angle counts the other way round.", "Given from the crown, not from 12."),
)
PINS = Way(
    "pins",
    "Pin gauges: the largest that enters by itself.",
    ("Clean the hole.", "Find the largest pin that enters by its weight and the next that does not."),
    ("A pin pushed in with force opens the hole.",),
)
TIP = Way(
    "plan",
    "Loupe with reticle, boss to tip.",
    ("Lay the hand flat on paper, do not hold it at the tip.", "From the middle of the bore to the tip."),
    (PARALLAX, "The whole length noted, counterweight included."),
)
LIGHT = Way(
    "thickness",
    "Micrometer, with a light touch.",
    (ZERO, "Ratchet only; the post bends.", "Two readings, a quarter turn apart."),
    ("Measured on the shoulder instead of where the hand grips.",),
)
POST = Way(
    "depth",
    "Depth rod from the post to the face.",
    (
        FLAT,
        "Rest the foot on the post, lower the rod to the dial-side face.",
        "Or with a dial on: worksheet.",
    ),
    ("The face of a calendar plate taken for the movement's face.",),
)
SIDE = Way(
    "plan",
    "Loupe with reticle, from the side.",
    ("Stand the part on edge before a light ground.", "Count divisions from top to shoulder."),
    (PARALLAX,),
)
FROM_BACK = Way(
    "worksheet",
    "Worksheet: from the back plane.",
    ("It cannot be reached directly: take the readings of the worksheet, each three times.",),
    ("Depth taken to the far edge of the tube's hole.",),
)
HALVED = Way(
    "outside",
    "Tube end to tube end, halved.",
    ("Outside jaws over both tube ends, or over tube end and opposite flank.", "Halve what you read."),
    ("Not halved.", "Measured over the crown."),
)
LOUPE = Way(
    "plan", "Loupe with reticle.", (PARALLAX, "Three places round the part."), ("A chamfer counted in.",)
)
SOFT = Way(
    "plan",
    "Unloaded, loupe with reticle; it gives under jaws.",
    ("Lay it free, clean and dry.", "Three places round the ring."),
    ("Read between jaws: rubber gives, and the reading is too small.", "An old ring that has set."),
)
STEM_SEATED = Way(
    "worksheet",
    "Worksheet: stem seated.",
    ("Seat the stem until it clicks.", "Outside jaws from the movement's far edge to a mark on the stem."),
    ("The setting lever released: the stem stands further out.",),
)
LAID = Way(
    "plan",
    "Laid flat on a printed circle.",
    ("Lay the ring free on printed circles, find the one it just covers.",),
    ("Stretched while it was laid.",),
)
