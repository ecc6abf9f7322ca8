"""Parts described once; one watch in its sheet; what differs between two of them."""

DOOR = (
    "schema",
    "ways",
    "described.words",
    "described.looks",
    "parts",
    "kind",
    "build",
    "part",
    "change",
    "difference",
    "second_thought",
    "usual_build",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
