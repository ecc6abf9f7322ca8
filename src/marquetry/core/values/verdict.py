"""The words for what a check finds: those of the trade, and one for what nobody knows yet."""

from enum import StrEnum


class Verdict(StrEnum):
    """The words for a finding, the gravest last but for skipped."""

    CLEAR = "clear"
    TIGHT = "tight"
    CLASH = "clash"
    ASSUMED = "assumed"
    """It reads something that nobody knows: open, and never a reason to call a watch red."""
    UNMEASURED = "unmeasured"
    SKIPPED = "skipped"

    @property
    def gravity(self) -> int:
        """How urgent: clash 5, tight 4, assumed 3, unmeasured 2, clear 1, skipped 0."""
        return _GRAVITY[self]


_GRAVITY = {
    Verdict.CLASH: 5,
    Verdict.TIGHT: 4,
    Verdict.ASSUMED: 3,
    Verdict.UNMEASURED: 2,
    Verdict.CLEAR: 1,
    Verdict.SKIPPED: 0,
}
NOT_TOLD = frozenset({Verdict.ASSUMED, Verdict.UNMEASURED})
"""Verdicts that say only that something is not known."""
