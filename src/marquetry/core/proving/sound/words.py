"""What a recording says, in words: each figure with its doubt."""

from marquetry.core.proving.sound.timing import Timing
from marquetry.core.values.figures import figure


def timing_words(found: Timing) -> list[str]:
    """A line a figure."""
    swing = (
        "not told: the unlocking is lost in the ground"
        if found.amplitude is None
        else f"{found.amplitude:.0f}°"
    )
    return [
        f"{found.beats_per_hour} beats an hour",
        f"rate {rate_words(found.rate)}, u {found.rate_u:.2f} s/d",
        f"beat error {found.beat_error_ms:.2f} ms",
        f"amplitude {swing}",
        f"{found.beats} beats heard in {found.seconds:.1f} s, {found.gaps} missing",
        f"drop over ground {figure(found.noise_db, 0, 'dB')}",
    ]


def rate_words(rate: float) -> str:
    """A rate with its sign: +12.0 s/d."""
    return figure(rate, 1, "s/d", signed=True)
