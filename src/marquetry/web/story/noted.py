"""When a note by hand happened, as it is typed: a day, or a day and a time of this machine's clock."""

from datetime import UTC, datetime

from marquetry.core.values.errors import DimensionError

TYPED = ("%Y-%m-%dT%H:%M", "%Y-%m-%d %H:%M", "%Y-%m-%d")
FIRST_YEAR = 1970


def noted_at(typed: str) -> str:
    """The moment as it is kept, in UTC; empty for now. DimensionError where it is none."""
    text = " ".join(typed.split())
    if not text:
        return ""
    for pattern in TYPED:
        try:
            at = datetime.strptime(text, pattern).astimezone()
        except (ValueError, OverflowError, OSError):
            continue
        if at.year > FIRST_YEAR:
            return at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
    raise DimensionError("at", f"“{text[:40]}”", "", "a day and a time such as 2027-01-15 09:41")
