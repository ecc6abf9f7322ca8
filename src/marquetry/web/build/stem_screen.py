"""The stem's ledger on a step's screen: the figure that is asked for, the advice, what was read and cut."""

from dataclasses import dataclass
from functools import cached_property

from marquetry.core.bench.run import Run
from marquetry.core.bench.stem_words import ADVICE, advice_told, remaining_told
from marquetry.core.values.figures import figure, is_told_as_nothing

WHAT_WORDS = {
    "gap": "gap read",
    "length": "length read",
    "cut": "cut",
    "file": "filed",
    "height": "height read",
}
STEM_ENTRIES = {"gap", "cut", "file"}
STEM_SCHOOL = "school_stem"
CUT_BY_LEDGER = {"once": "all at once", "creep": "creeping up"}
"""Ways of cutting that a step offers; by eye is a house rule, and not advised."""


STEM_FIELDS = {
    "gap": ("Gap, crown screwed home, mm", "Save gap"),
    "cut": ("Cut off, mm", "Save cut"),
    "file": ("Filed off, mm", "Save filing"),
    "length": ("Stem's whole length, mm", "Save length"),
}
"""Every figure of a stem's screen, each in a field of its own: its label and its button."""
ASKED_BY = {"measure": "gap", "cut": "cut", "file": "file"}
"""The figure that the ledger's advice asks for."""


@dataclass(frozen=True, slots=True)
class Field:
    """What may be typed on a screen: the entry it makes, its words. It is empty: the advice stands beside it.

    `is_asked`: whether the advice asks for this very figure; the cursor stands there.
    """

    what: str
    label: str
    words: str = "Save"
    is_asked: bool = False


@dataclass(frozen=True)
class StemScreen:
    """What the ledger says at a step; `entry` is what that step reads or takes off: gap, cut or file."""

    run: Run
    entry: str

    @cached_property
    def fields(self) -> list[Field]:
        """What may be read or taken off here, what is asked for first."""
        knows_target = self.run.procedure.situation.stem.target is not None
        asked = self._asked
        found = [
            Field(what, *words, is_asked=what == asked)
            for what, words in STEM_FIELDS.items()
            if what != "length" or knows_target
        ]
        return sorted(found, key=lambda field: (not field.is_asked, field.what != self.entry))

    @property
    def _asked(self) -> str:
        """The figure that is asked for: of the gap's own step nothing but the gap, until it was read."""
        asked = "gap" if self.is_to_read_again else ASKED_BY.get(self.run.ledger.advice, "")
        if self.entry != "gap":
            return asked
        return "gap" if asked == "gap" or self.is_to_read else ""

    @property
    def schools(self) -> list[tuple[str, str, bool]]:
        """The ways of cutting, to be changed at the step: key, words, whether it is this watch's."""
        rules = self.run.procedure.situation.rules
        chosen = rules.school(STEM_SCHOOL)
        return [(key, words, key == chosen) for key, words in CUT_BY_LEDGER.items()]

    @cached_property
    def rows(self) -> list[tuple[str, str]]:
        """Every event of the stem, the newest first: what it was, and what remained after it."""
        pairs = zip(self.run.stem_events, self.run.ledger.rows, strict=True)
        told = [
            (f"{WHAT_WORDS[event.what]} {figure(event.value, 2, 'mm')}", remaining_told(row))
            for event, row in pairs
        ]
        return told[::-1]

    @property
    def is_to_read(self) -> bool:
        """Whether the gap is still to be read here: then what it should be stands large, not what to cut."""
        read = any(event.what in {"gap", "length"} for event in self.run.stem_events)
        return self.entry == "gap" and not read and self.run.ledger.now is not None

    @property
    def is_read_here(self) -> bool:
        """Whether this is the gap's own step and it was read: what comes off is told large by the next."""
        return self.entry == "gap" and not self._asked and self.run.ledger.now is not None

    @property
    def shows_remaining(self) -> bool:
        """Whether what remains stands beside the advice: where the large figure is not that very one."""
        return not self.is_to_read and not self.is_read_here

    @property
    def is_to_read_again(self) -> bool:
        """Whether nothing more should come off, and the doubt alone keeps the crown from being seated."""
        return self.run.ledger.advice == "file" and is_told_as_nothing(self.run.ledger.amount)

    @property
    def advice(self) -> tuple[str, str]:
        """The ledger's next thing to do, and how much of it: told large."""
        ledger = self.run.ledger
        if self.is_to_read and ledger.now:
            return "Expected", figure(ledger.now.r, 2, "mm")
        if self.is_read_here and ledger.now:
            return "Remains", figure(ledger.now.r, 2, "mm")
        if self.is_to_read_again:
            return "Read the gap again", ""
        return ADVICE[ledger.advice], figure(ledger.amount, 2, "mm") if ledger.amount else ""

    @property
    def advice_words(self) -> list[str]:
        """Why, and what it risks."""
        ledger = self.run.ledger
        if self.is_to_read:
            return []
        amount = f" {figure(ledger.amount, 2, 'mm')}" if ledger.amount else ""
        following = [f"Next: {ADVICE[ledger.advice].lower()}{amount}."] if self.is_read_here else []
        return [*following, *advice_told(ledger)]

    @property
    def remaining(self) -> str:
        """What remains, with its doubt."""
        return remaining_told(self.run.ledger.now)
