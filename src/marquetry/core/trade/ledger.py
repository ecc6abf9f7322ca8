"""The books of a watch: every entry in home's currency, and sums that are nothing but the entries added."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from marquetry.core.values.money import Money

EntryKind = Literal["piece", "made", "consumable", "material", "spoilt", "loss", "hours", "other"]
ENTRY_KINDS: tuple[tuple[EntryKind, str], ...] = (
    ("piece", "Pieces in it"),
    ("made", "Made parts"),
    ("material", "Material"),
    ("consumable", "Consumables"),
    ("spoilt", "Spoilt"),
    ("loss", "Lost in orders"),
    ("hours", "Hours"),
    ("other", "Other"),
)
BOOKED_BY_HAND: tuple[EntryKind, ...] = ("hours", "consumable", "material", "other")
"""What a builder enters; the rest follows from pieces, versions and orders."""
MINUTES_AN_HOUR = 60


@dataclass(frozen=True, slots=True)
class LedgerEntry:
    """One entry. `minor` in home's currency, below zero where it takes an earlier one back.

    `booking` is its number in the books, 0 where it follows from something else, told by `link`: what kind of
    thing and which. `undone`: it was taken back, or takes one back.
    """

    kind: EntryKind
    words: str
    minor: int
    day: str = ""
    minutes: int = 0
    booking: int = 0
    undone: bool = False
    link: tuple[str, int] | None = None
    told: str = ""


@dataclass(frozen=True, slots=True)
class Ledger:
    """Every entry of a watch, with what could not be told in home's currency by the sum it has."""

    home: str
    entries: tuple[LedgerEntry, ...]
    unpriced: tuple[str, ...] = ()

    @property
    def total(self) -> Money:
        """All entries added."""
        return Money(sum(entry.minor for entry in self.entries), self.home)

    def sum_of(self, kind: EntryKind) -> Money:
        """The entries of one kind added."""
        return Money(sum(entry.minor for entry in self.entries if entry.kind == kind), self.home)

    def kinds(self) -> tuple[tuple[EntryKind, str, Money], ...]:
        """Kinds with anything in them: key, label and sum, in the order of the books."""
        there = {entry.kind for entry in self.entries}
        return tuple((key, label, self.sum_of(key)) for key, label in ENTRY_KINDS if key in there)

    @property
    def minutes(self) -> int:
        """Whole count of minutes that were booked and hold."""
        return sum(entry.minutes for entry in self.entries)


def pay(minutes: int, rate: Money) -> Money:
    """What so many minutes cost at the pay of an hour, rounded half-even by itself."""
    return Money(round(Fraction(minutes * rate.minor, MINUTES_AN_HOUR)), rate.currency)


@dataclass(frozen=True, slots=True)
class OpenCost:
    """What something still open would cost in home's minor units: at the best offer, and the dearest.

    None where nobody offers it.
    """

    name: str
    pieces: int
    best: int | None
    dearest: int | None


def to_finish(open_costs: Sequence[OpenCost]) -> tuple[int, int, tuple[str, ...]]:
    """What is still open in home's minor units, at best and at worst, and names of what has no price."""
    known = [cost for cost in open_costs if cost.best is not None]
    return (
        sum(cost.best or 0 for cost in known),
        sum(cost.dearest or 0 for cost in known),
        tuple(cost.name for cost in open_costs if cost.best is None),
    )
