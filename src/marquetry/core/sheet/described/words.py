"""The names of hands, posts and functions, in the order from the dial upwards."""

HANDS = ("h24", "hour", "minute", "seconds")
"""Hands and posts from the dial upwards."""

HAND_LABELS = {"h24": "24-hour", "hour": "hour", "minute": "minute", "seconds": "seconds"}
FUNCTIONS = ("hours", "minutes", "seconds", "date", "day", "h24", "hacking", "hand_winding")
FUNCTION_LABELS = {"h24": "24-hour hand", "hand_winding": "hand-winding"}


def told_function(name: str) -> str:
    """A function as a builder says it: `h24` is the 24-hour hand."""
    return FUNCTION_LABELS.get(name, name)


CLOSINGS = ("screw-in", "pressed", "screws")
"""How a case back is held."""
DRIVES = ("automatic", "hand-wound", "battery")
"""What drives a movement."""
ARRIVING = ("dial", "hands")
"""What a bought movement may have on it."""
CLICKS = ("ring spring", "leaf springs", "ball", "none")
"""What makes a bezel click; case and bezel have to be made for the same."""
