"""What to buy where and what it costs. So far a part's terms; orders and plans are to come."""

DOOR = ("terms",)
"""What other rooms may use, in the order a reader wants; a test holds it."""
