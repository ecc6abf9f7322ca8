"""What a number is, how it is typed, and how it is told."""

DOOR = (
    "errors",
    "dimension",
    "number",
    "limits",
    "verdict",
    "figures",
    "entry",
    "money",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
