"""The five words of the trade for what a check finds."""

from enum import StrEnum


class Verdict(StrEnum):
    """The five words of the trade for a finding."""

    CLEAR = "clear"
    TIGHT = "tight"
    CLASH = "clash"
    UNMEASURED = "unmeasured"
    SKIPPED = "skipped"

    @property
    def gravity(self) -> int:
        """How urgent: clash 4, tight 3, unmeasured 2, clear 1, skipped 0."""
        return _GRAVITY[self]


_GRAVITY = {
    Verdict.CLASH: 4,
    Verdict.TIGHT: 3,
    Verdict.UNMEASURED: 2,
    Verdict.CLEAR: 1,
    Verdict.SKIPPED: 0,
}
