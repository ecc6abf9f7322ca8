"""What stays of a watch, and what the workshop learns of all of them."""

DOOR = (
    "moment",
    "fates",
    "told",
    "card",
    "handover",
    "student",
    "worth",
    "foretold",
    "calibration",
    "times",
    "years",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
