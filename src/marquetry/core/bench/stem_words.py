"""The stem's ledger in words: what remains, what to do next, and why."""

from collections.abc import Iterator

from marquetry.core.bench.stem import COVERAGE, Advice, Remaining, StemLedger
from marquetry.core.values.figures import chance, figure

ADVICE: dict[Advice, str] = {
    "measure": "Measure the gap first",
    "short": "Too short",
    "seat": "Seat the crown",
    "file": "File",
    "cut": "Cut",
}
REASONS: dict[Advice, str] = {
    "measure": "What remains is not known well enough to take anything off.",
    "short": "Less than nothing may come off: nothing can be added to a stem. Another stem, or an extender.",
    "seat": "What is left lies within the window, doubt and all: nothing more comes off.",
    "file": "From here a cut could take too much: stop cutting, file a stroke at a time and try.",
    "cut": "At the mark, measured from the thread's end.",
}


def remaining_told(row: Remaining | None) -> str:
    """What remains, with its expanded uncertainty (k = 2, GUM 6.2)."""
    if row is None:
        return "not known yet"
    return f"{figure(row.r, 2)} ±{figure(COVERAGE * row.u, 2, 'mm')}"


def advice_told(ledger: StemLedger) -> Iterator[str]:
    """Why the next thing is to be done, and what it risks."""
    if not ledger.held:
        yield REASONS[ledger.advice]
    if ledger.advice == "cut":
        yield f"Chance that it is then too short: {chance(ledger.chance_short)}."
    if ledger.held and ledger.now:
        yield (
            f"The last reading says {figure(ledger.held.r, 2, 'mm')}, all before it "
            f"{figure(ledger.now.r, 2, 'mm')}: it is held, and counts only where the next one agrees. Stem "
            "pushed home, crown screwed home to the bottom of its bore, then read again."
        )
    if ledger.thread_left is not None:
        yield f"Thread left: {figure(ledger.thread_left, 2, 'mm')}."
