"""What to buy where, what it costs, and what to ask for it."""

DOOR = (
    "terms",
    "shares",
    "rates",
    "offer",
    "basket",
    "plan",
    "landed",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
