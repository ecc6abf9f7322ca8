"""What can be done about a clash or a tight fit, each tried by the whole report."""

DOOR = (
    "idea",
    "offers",
    "patch",
    "feet",
    "fits",
    "made_here",
    "spacers",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
