"""What is known, assumed, tried and planned of a watch, and how far a verdict may rest on it."""

DOOR = ("dry_fit", "ruling", "seat", "mates", "follow", "lapse")
"""What other rooms may use, in the order a reader wants; a test holds it."""
