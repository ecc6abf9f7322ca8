"""What is wanted and by whom: wishes from open to agreed, the client's answer, the sign-off."""

DOOR = (
    "topics",
    "wish",
    "answer",
    "since_signed",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
