"""The bench, step by step: what a watch's steps wait for, the stem's ledger, hands as pressed, mishaps."""

DOOR = (
    "situation",
    "step",
    "steps",
    "procedure",
    "stem",
    "stem_words",
    "pressed",
    "log",
    "clock",
    "run",
    "mishap",
    "failures",
    "mishap_kinds",
    "doubtful",
    "written",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
