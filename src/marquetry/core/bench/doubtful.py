"""Figures typed at the bench that are asked about before they are kept: a slip of the finger, a wrong field.

What was typed is kept while it is asked; said again, it counts. Readings that merely disagree are not asked
about here: the ledger holds them, since a builder who is asked says yes.
"""

from collections.abc import Mapping

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.stem import StemLedger, StemTerms
from marquetry.core.sheet.described.words import HAND_LABELS
from marquetry.core.values.figures import figure

WIDEST_GAP = 12.0
"""mm from crown to tube: the longest stems that are sold stand out by less."""
FURTHEST_FROM_SHIM = 0.8
"""mm between a hand's height and its shim, from which on it was hardly pressed onto that shim."""


def doubted(entry: LogEntry, ledger: StemLedger, terms: StemTerms, shims: Mapping[str, float]) -> str:
    """What is asked of a figure before it is kept; empty where it is plausible."""
    value = entry.value
    if value is None:
        return ""
    if entry.what in {"cut", "file"}:
        return _too_much(value, entry.what, ledger, terms)
    if entry.what == "gap" and value > WIDEST_GAP:
        return f"A gap of {figure(value, 2, 'mm')}? Over {figure(WIDEST_GAP, 0, 'mm')} no stem stands out."
    if entry.what == "height":
        hand = entry.step.removeprefix("check_")
        shim = shims.get(hand)
        if shim is not None and abs(value - shim) > FURTHEST_FROM_SHIM:
            name = HAND_LABELS.get(hand, hand)
            told = f"The {name} hand at {figure(value, 2, 'mm')}? Its shim is {figure(shim, 2, 'mm')}"
            return f"{told}: read the blade's underside over the dial."
    return ""


def _too_much(value: float, what: str, ledger: StemLedger, terms: StemTerms) -> str:
    """A cut that is longer than what remains; a file that would leave the stem too short."""
    now = ledger.now
    if now is None:
        return ""
    most = now.r if what == "cut" else now.r - (terms.window.low or 0.0)
    if value <= most:
        return ""
    off, left = figure(value, 2, "mm"), figure(now.r, 2, "mm")
    doing = "Cut" if what == "cut" else "Filed"
    return f"{doing} {off}? Only {left} remains: was it a gap, or the stem's length?"
