"""Rehearsal: a simulated watch, ten exercises on it, plays replayed from their record, practice that comes back."""

DOOR = ("twin", "exercise", "play", "exercises", "practice", "pieces")
"""What other rooms may use, in the order a reader wants; a test holds it."""
