"""Rehearsal: a simulated watch, exercises on it, plays replayed from their record, practice coming back."""

DOOR = ("twin", "exercise", "actions", "exercises", "play", "pieces", "practice")
"""What other rooms may use, in the order a reader wants; a test holds it."""
