"""The names of hands, posts and functions, in the order from the dial upwards."""

HANDS = ("h24", "hour", "minute", "seconds")
"""Hands and posts from the dial upwards."""

HAND_LABELS = {"h24": "24-hour", "hour": "hour", "minute": "minute", "seconds": "seconds"}
FUNCTIONS = ("hours", "minutes", "seconds", "date", "day", "h24", "hacking", "hand_winding")
