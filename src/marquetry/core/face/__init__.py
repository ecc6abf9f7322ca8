"""How a watch looks from the front, by day and by night: looks read, laid out in mm, what goes together."""

DOOR = (
    "face",
    "seen",
    "dress",
    "wording",
    "accord",
    "night",
    "proved_light",
    "on_wrist",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
