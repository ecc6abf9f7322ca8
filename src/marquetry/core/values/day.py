"""Days of the calendar, written as `2027-01-15`: read, counted on, never asked of the clock."""

import re
from calendar import monthrange
from datetime import UTC, date, datetime, timedelta

from marquetry.core.values.errors import DimensionError

_DAY = re.compile(r"[12][0-9]{3}-[0-9]{2}-[0-9]{2}")
MOST_DAYS = 36_500


def parse_day(field: str, text: str) -> str:
    """The day as it is kept. DimensionError, naming the field, where it is none."""
    typed = text.strip()
    try:
        if _DAY.fullmatch(typed):
            return date.fromisoformat(typed).isoformat()
    except ValueError:
        pass
    raise DimensionError(field, f"“{typed[:40]}”", "", "a day such as 2027-01-15")


def later(day: str, days: int) -> str:
    """The day so many days after it, or before it where `days` is negative."""
    return (date.fromisoformat(day) + timedelta(days=days)).isoformat()


def months_later(day: str, months: int) -> str:
    """The same day so many months later; the month's last where it has no such day."""
    first = date.fromisoformat(day)
    year, month = divmod(first.year * 12 + first.month - 1 + months, 12)
    return date(year, month + 1, min(first.day, monthrange(year, month + 1)[1])).isoformat()


def day_of_ms(at_ms: int) -> str:
    """The day of a moment in milliseconds since 1970, in UTC."""
    return datetime.fromtimestamp(at_ms / 1000.0, UTC).date().isoformat()


def days_between(first: str, last: str) -> int:
    """Whole count of days from the first to the last; negative where the last comes first."""
    return (date.fromisoformat(last) - date.fromisoformat(first)).days
