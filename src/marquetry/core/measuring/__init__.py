"""How a dimension is come by: instruments, repeated readings, worksheets, pictures, threads."""

DOOR = (
    "listing.read",
    "listing.result",
    "listing.taken",
    "listing.line",
    "listing.denial",
    "listing.looks",
    "listing.price",
    "begun",
    "instrument",
    "bench_tools",
    "repeated",
    "worksheet",
    "worksheets",
    "picture_scale",
    "side_picture",
    "thread",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
