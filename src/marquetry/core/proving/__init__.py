"""What a finished watch is proved by: sound, wrist, water, hands, light, and what stands before it is handed over."""

DOOR = (
    "pressure",
    "pressure_words",
    "sound.recording",
    "sound.rhythm",
    "sound.timing",
    "sound.words",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
