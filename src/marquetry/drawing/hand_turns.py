"""Where hands point at a time of day."""


def turns_of(time: str) -> dict[str, float]:
    """Angle of each hand at `HH:MM:SS`; what cannot be read counts as midnight."""
    parts = [int(part) if part.isdecimal() else 0 for part in [*time.split(":"), "0", "0", "0"][:3]]
    hours = parts[0] + parts[1] / 60 + parts[2] / 3600
    return {
        "h24": 15 * hours % 360,
        "hour": 30 * hours % 360,
        "minute": 6 * (parts[1] + parts[2] / 60),
        "seconds": 6.0 * parts[2],
    }
