"""A stem under nippers and file: what a gap reads, what a cut and a stroke take off, what a burr does."""

import random
from collections.abc import Callable
from dataclasses import dataclass, replace

from marquetry.core.bench.stem import (
    BY_EYE_U,
    PITCH,
    USUAL_U,
    StemEvent,
    StemLedger,
    StemOf,
    StemTerms,
    stem_ledger,
)
from marquetry.core.bench.stem_words import remaining_told
from marquetry.core.rehearsal.exercise import At
from marquetry.core.values.figures import figure

JAWS_A_SECOND, SHORT_OF_MARK = 1.2, 1.0
"""How fast the jaws walk along the stem, mm a second, and how far outside a mark they begin, mm."""
FILED_A_SECOND = 0.06
NICKED_MS = 80.0
GUIDED = 0.15
"""Let go so near the mark, mm, the jaws fall into it."""
NOT_HOME, NOT_HOME_MM = 0.5, (0.15, 0.45)
"""How often a stem that nobody pushed home stands out, and by how much, mm: so much too large a gap is read."""
TURNS_SHORT = (1.0, 3.0)
"""By how many turns a crown that nobody screwed home stands out: all of it is read as gap."""
ON_BURR_MM = (0.05, 0.15)
CROSSED = 0.6
"""How often a crown is forced askew over a burr that was left on the thread."""


@dataclass(frozen=True, slots=True, kw_only=True)
class StemAt(At):
    """`whole` is what had to come off in truth, `off` what did, `mark` where the next cut is marked; mm."""

    of: StemOf
    terms: StemTerms
    whole: float
    off: float = 0.0
    events: tuple[StemEvent, ...] = ()
    mark: float = 0.0
    is_home: bool = False
    is_screwed: bool = False
    has_burr: bool = False

    @property
    def left(self) -> float:
        """What has still to come off, in truth, mm."""
        return self.whole - self.off

    @property
    def ledger(self) -> StemLedger:
        """The player's account."""
        return stem_ledger(self.events, self.terms, self.of)


def jaws(mark: float) -> Callable[[float], float]:
    """How far from the stem's end the jaws stand after so many ms, mm: from the end, or from short of a mark."""
    start = max(mark - SHORT_OF_MARK, 0.0)
    return lambda ms: start + JAWS_A_SECOND * ms / 1000


def filed(ms: float) -> float:
    """What a file takes off in so long, mm."""
    return FILED_A_SECOND * ms / 1000


def kept(at: StemAt, event: StemEvent, words: str, **also: object) -> StemAt:
    """The same with an entry more in the ledger, and what it says now."""
    now = replace(at, events=(*at.events, event), **also)  # type: ignore[arg-type]  # fields by name
    return replace(now, notes=(*at.notes, f"{words} By the ledger {remaining_told(now.ledger.now)} remain."))


def read_gap(at: StemAt, draw: random.Random) -> StemAt:
    """Crown to tube on the caliper: too much where stem or crown is not home, or the crown rides on a burr."""
    too_much = draw.uniform(*NOT_HOME_MM) if draw.random() < NOT_HOME and not at.is_home else 0.0
    too_much += draw.uniform(*ON_BURR_MM) if at.has_burr else 0.0
    too_much += 0.0 if at.is_screwed else draw.uniform(*TURNS_SHORT) * PITCH
    read = round(
        max(draw.gauss(at.left + too_much, USUAL_U["gap"]), 0.0), 2
    )  # a crown on its tube shows none
    return kept(at, StemEvent("gap", read), f"Gap {figure(read, 2, 'mm')}.", is_home=False)


def cut(at: StemAt, ms: float, draw: random.Random) -> StemAt:
    """At the mark where the jaws feel it, else where they slip to."""
    stands = jaws(at.mark)(ms)
    if ms < NICKED_MS:
        return replace(at, notes=(*at.notes, "Let go before the jaws closed: nothing was cut."))
    is_guided = at.mark > 0 and abs(stands - at.mark) <= GUIDED
    meant = at.mark if is_guided else stands
    came_off = max(draw.gauss(meant, USUAL_U["cut"] if is_guided else BY_EYE_U), 0.0)
    how = "at the mark" if is_guided else "without a mark under the jaws"
    event = StemEvent("cut", round(meant, 4), None if is_guided else BY_EYE_U)
    shorter = replace(at, off=at.off + came_off, mark=0.0, has_burr=True)
    words = f"Cut {figure(meant, 2, 'mm')}, {how}."
    return watched(
        kept(shorter, event, words, is_home=False, is_screwed=False),
        _too_short(f"That cut took {figure(came_off)} off"),
    )


def file_off(at: StemAt, meant: float, draw: random.Random) -> StemAt:
    """So many mm filed, give or take."""
    came_off = max(draw.gauss(meant, USUAL_U["file"]), 0.0) if meant > 0 else 0.0
    event = StemEvent("file", round(meant, 4))
    now = replace(at, off=at.off + came_off)
    words = f"Filed {figure(meant, 2, 'mm')}."
    return watched(
        kept(now, event, words, is_home=False, is_screwed=False), _too_short("The file went on too long")
    )


def _too_short(why: str) -> str:
    return f"{why}: the stem is too short. Nothing can be added to a stem; it is scrap, or wants an extender."


def watched(at: StemAt, why: str) -> StemAt:
    """Note the moment at which the stem became too short; the player learns of it at the end."""
    return at if at.spoilt or at.terms.window.shortfall(at.left) <= 0 else replace(at, spoilt=why)


def seat(at: StemAt, draw: random.Random) -> StemAt:
    """The crown screwed on and home: what was done to the stem shows."""
    crossed = at.has_burr and draw.random() < CROSSED
    why = at.spoilt or ("Screwed on over the burr: the crown's thread is crossed." if crossed else "")
    return replace(at, done=True, spoilt=why)
