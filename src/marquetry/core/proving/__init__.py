"""What a finished watch is proved by: sound, wrist, water, hands, light; and whether it may go."""

DOOR = (
    "record",
    "told",
    "ready",
    "asked",
    "rounds",
    "positions",
    "wrist",
    "wrist_records",
    "meeting",
    "angle",
    "lume_decay",
    "lume_records",
    "pressure",
    "pressure_words",
    "water_claim",
    "sound.recording",
    "sound.rhythm",
    "sound.timing",
    "sound.words",
)
"""What other rooms may use, in the order a reader wants; a test holds it."""
