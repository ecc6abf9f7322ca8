"""A moment in the story of a watch: when, of which trade, in words, and the place that it speaks of.

Moments are never stored: each follows from what the program keeps anyway. Only a note by hand is its own.
They are named tuples: a story has thousands, and a frozen dataclass takes four times as long to make.
"""

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Literal, NamedTuple, get_args

Trade = Literal[
    "parts", "measuring", "decision", "order", "money", "making", "bench", "mishap", "proof", "picture",
    "note", "life",
]  # fmt: skip
TRADES: tuple[Trade, ...] = get_args(Trade)
TRADE_LABELS: dict[Trade, str] = {
    "parts": "Parts",
    "measuring": "Measured",
    "decision": "Decided",
    "order": "Ordered",
    "money": "Money",
    "making": "Made",
    "bench": "Bench",
    "mishap": "Mishaps",
    "proof": "Proved",
    "picture": "Pictures",
    "note": "Notes",
    "life": "Out and back",
}
"""What moments are filtered by, in the order in which a watch meets them."""
PlaceKind = Literal[
    "", "part", "step", "proof", "order", "made", "money", "quote", "brief", "series", "variant", "lesson",
    "life",
]  # fmt: skip


class StoryPlace(NamedTuple):
    """What of the program a moment speaks of: a kind of page, and which of them."""

    kind: PlaceKind = ""
    key: str = ""


NOWHERE = StoryPlace()


class Moment(NamedTuple):
    """One thing that happened. `at_ms` counts from 1970 in UTC; without a `clock` only its day is known.

    `undone`: it was taken back later. `photo` is the digest of a picture, `note` the number of one by hand.
    """

    at_ms: int
    trade: Trade
    words: str
    place: StoryPlace = NOWHERE
    clock: bool = True
    undone: bool = False
    photo: str = ""
    note: int = 0
    by: str = ""


def in_order(moments: Iterable[Moment]) -> list[Moment]:
    """The newest first; of one moment, as they were told."""
    return sorted(moments, key=lambda moment: -moment.at_ms)


def counted(moments: Iterable[Moment]) -> dict[Trade, int]:
    """How many there are of each trade, in the trades' order; trades without any are left out."""
    found = Counter(moment.trade for moment in moments)
    return {trade: found[trade] for trade in TRADES if found[trade]}


def of_trades(moments: Sequence[Moment], trades: Iterable[str]) -> list[Moment]:
    """Those of the chosen trades; all of them where none is chosen."""
    chosen = set(trades)
    return [moment for moment in moments if not chosen or moment.trade in chosen]
