"""Measuring from a picture: arrays in, findings with their doubt out."""

DOOR = ("card", "refusal", "found", "plane", "measure")
"""What other rooms may use, in the order a reader wants; a test holds it."""
