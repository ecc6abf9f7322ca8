"""What `marquetry timing --json` prints of a recording, and what a watch keeps of one: one document."""

from marquetry.core.proving.sound.timing import Timing
from marquetry.core.sheet.entries import Json


def timing_document(found: Timing) -> dict[str, Json]:
    """The result with its trace: time in s, deviation in ms, 0 or 1 for even and odd."""
    return {
        "beats_per_hour": found.beats_per_hour,
        "rate_s_per_day": round(found.rate, 4),
        "rate_u": round(found.rate_u, 4),
        "beat_error_ms": round(found.beat_error_ms, 4),
        "amplitude_deg": None if found.amplitude is None else round(found.amplitude, 2),
        "beats": found.beats,
        "gaps": found.gaps,
        "seconds": round(found.seconds, 4),
        "noise_db": round(found.noise_db, 2),
        "trace": [[round(each.time, 6), round(each.deviation, 4), each.odd] for each in found.trace],
    }
