"""What lies between the dial seat and the movement, and the two things that shift it: ring and gasket.

The heights that both the fit and what is assumed need; all other heights are the fit's (`fit/levels.py`).
"""

from typing import Protocol

from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.described.made import DIAL_ADAPTER
from marquetry.core.values.number import Number

ADAPTER = DIAL_ADAPTER.key
HOLDER_RING = "holder.dial_ring"
"""A holder's ring in one piece with it: it lies between dial and movement as a spacer does."""
EDGE = "dial.edge_thickness"
HELD_BY, PADS = "dial.fastening.kind", "dial.fastening.thickness"


class SeatReader(Protocol):
    """A watch being read: sizes in mm and degrees by path, and a note of what is missing."""

    def __getitem__(self, path: str) -> Number: ...

    def has(self, path: str) -> bool:
        """Whether the part is there."""

    def known(self, path: str) -> bool:
        """Whether the entry is there."""

    def count(self, path: str) -> int:
        """How many things the list holds."""

    def word(self, path: str) -> str | None:
        """The word at the path."""

    def lack(self, path: str) -> None:
        """Note that something is not known."""


def drop(r: SeatReader) -> Number:
    """How far the chapter ring's underside, the dial seat, is below the case's ledge, mm; 0 without one."""
    return r["chapter_ring.drop"] if r.has("chapter_ring") else 0.0


def flange(r: SeatReader) -> Number:
    """What of the gasket lies under the crystal, mm: nothing without a gasket."""
    return r["crystal_gasket.flange"] if r.has("crystal_gasket") else 0.0


def spacer_height(r: SeatReader, side: str) -> Number:
    """Sd or Sm: all spacers on the dial side or on the movement side together, mm."""
    total: Number = 0.0
    for index in range(r.count(SPACERS.key)):
        spacer = f"{SPACERS.key}.{index}"
        its_side = r.word(f"{spacer}.side")
        if its_side is None:
            r.lack(f"{spacer}.side")
        if its_side == side:
            total = total + r[f"{spacer}.thickness"]
    return total


def behind_dial(r: SeatReader) -> Number:
    """Sm: all that lies between the dial and the movement, mm: spacers, a plate, a holder's ring, pads."""
    height = spacer_height(r, "movement")
    if r.has(ADAPTER):
        height = height + r[f"{ADAPTER}.thickness"]
    if r.has(HOLDER_RING):
        height = height + r[f"{HOLDER_RING}.thickness"]
    return height + r[PADS] if r.known(PADS) and r.word(HELD_BY) == "pads" else height


def seated_thickness(r: SeatReader) -> Number:
    """What of the dial lies between seat and movement, mm: its edge, where that differs from the middle."""
    return r[EDGE] if r.known(EDGE) else r["dial.thickness"]


def stack(r: SeatReader) -> Number:
    """From the dial seat down to the movement's dial-side face, mm."""
    return spacer_height(r, "dial") + seated_thickness(r) + behind_dial(r)
