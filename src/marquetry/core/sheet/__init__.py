"""Parts described once; one watch in its sheet; what differs between two of them."""

DOOR = (
    "schema",
    "described.words",
    "described.looks",
    "described.colours",
    "described.faces",
    "described.holder",
    "described.made",
    "anatomy",
    "parts",
    "kind",
    "part",
    "plain",
    "statements",
    "spreads",
    "entries",
    "build",
    "date_window",
    "change",
    "difference",
    "second_thought",
    "usual_build",
    "ready_families",
    "families",
    "described.target",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
