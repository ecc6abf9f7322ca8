"""The parts nobody sells: solids, drawings, where sizes come from, what a printer makes of them."""

DOOR = (
    "shape",
    "kernel",
    "outline",
    "sizes",
    "measures",
    "proposals",
    "notes",
    "support",
    "features",
    "kinds",
    "parts",
    "views",
    "body",
    "printer",
    "version",
    "allowance",
    "words",
    "way_on",
    "both_sides",
    "batch",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
