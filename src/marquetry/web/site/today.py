"""The day it is: asked here alone, so that nothing below the web knows of a clock."""

from datetime import UTC, datetime


def today() -> str:
    """Today as `2027-01-15`."""
    return datetime.now(UTC).date().isoformat()
