"""Where things lie in section: bodies, stations, and each check's gap between two of them."""

DOOR = (
    "body",
    "extent",
    "lay_out",
    "stations",
    "undrawable",
    "case_bodies",
    "inner_bodies",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
