"""What a number is, how it is typed, and how it is told."""

DOOR = (
    "errors",
    "dimension",
    "number",
    "limits",
    "verdict",
    "figures",
    "entry",
    "currency",
    "money",
    "day",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
