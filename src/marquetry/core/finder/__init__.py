"""What goes with what: complete a watch, pairs, the ranges a part must measure."""

DOOR = (
    "candidates",
    "search",
    "misses",
    "pairs",
    "shopping",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
