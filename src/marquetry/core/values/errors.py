"""Errors for input that has no answer; a part that does not fit is a finding, never one of these.

MarquetryError
├── DimensionError (ValueError)   a number that cannot be a dimension: not finite, a negative tolerance …
├── SheetError (ValueError)       a build sheet that cannot be read: which path, what was expected
├── FaultsError (ValueError)      a file with several faults, each told by its path
├── RateError (LookupError)       a sum that no rate of exchange is old enough for
├── NotFoundError (LookupError)   a watch or a part of the sheet that is not there
├── TakenError (RuntimeError)     a piece that is elsewhere, and cannot be in two places
├── BusyError (RuntimeError)      so much of it goes on already that more would stop the rest
└── StaleVersionError (RuntimeError)  a save based on a version that is no longer the newest
"""

from collections.abc import Sequence


class MarquetryError(Exception):
    """Root of everything this package raises on purpose; its text is fit to be shown to a builder."""


class DimensionError(MarquetryError, ValueError):
    """A number that cannot be what its field says.

    `field` is the path or name of the field, `value` what was given, `unit` its unit, `limit` what would do.
    """

    def __init__(self, field: str, value: object, unit: str, limit: str) -> None:
        self.field, self.value, self.unit, self.limit = field, value, unit, limit
        given = f"{value} {unit}".strip()
        super().__init__(f"{field}: {given} cannot be; expected {limit}.")


class SheetError(MarquetryError, ValueError):
    """A build sheet that cannot be read, told by `path` in the sheet and by what was `expected` there."""

    def __init__(self, path: str, expected: str, found: str = "") -> None:
        self.path, self.expected, self.found = path, expected, found
        tail = f", found {found}" if found else ""
        super().__init__(f"{path or 'the sheet'}: expected {expected}{tail}.")


class FaultsError(MarquetryError, ValueError):
    """A file with faults; each of `faults` is a path and why what stands there cannot be."""

    def __init__(self, faults: Sequence[tuple[Sequence[str | int], str]]) -> None:
        self.faults = tuple((tuple(path), why) for path, why in faults)
        super().__init__("\n".join(f"{'.'.join(map(str, path))}: {why}" for path, why in self.faults))


class RateError(MarquetryError, LookupError):
    """A sum in `currency` on `day`, for which the workshop has no rate of that day or before it."""

    def __init__(self, currency: str, day: str) -> None:
        self.currency, self.day = currency, day
        super().__init__(f"There is no rate for {currency} of {day} or before. Enter one among the rates.")


class NotFoundError(MarquetryError, LookupError):
    """Something named that is not there; `what` says it in words."""

    def __init__(self, what: str) -> None:
        self.what = what
        super().__init__(f"There is no {what}.")


class TakenError(MarquetryError, RuntimeError):
    """A piece that is wanted in a watch while it is in another, or no longer there: nothing was written."""


class BusyError(MarquetryError, RuntimeError):
    """Something long that cannot be begun now, while others like it go on; nothing was changed."""

    def __init__(self, going_on: str) -> None:
        self.going_on = going_on
        super().__init__(f"Please try again in a few seconds: {going_on}.")


class StaleVersionError(MarquetryError, RuntimeError):
    """A save based on version `based_on` while the newest is `newest`: nothing was written."""

    def __init__(self, based_on: int, newest: int, what: str = "watch") -> None:
        self.based_on, self.newest = based_on, newest
        super().__init__(
            f"This {what} was changed meanwhile, in another tab or by somebody else: you were looking at "
            f"version {based_on}, the newest is {newest}. Your change was not saved."
        )
