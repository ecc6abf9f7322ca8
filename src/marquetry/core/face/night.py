"""How a paste glows on: its brightness some minutes after light, and how bright that looks in the dark.

Long afterglow falls as a power of time. What each colour starts with stands in data/lume.csv with its
source; readings of a watch's own lume take its place once it has been proved.
"""

import csv
import math
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

from marquetry.core.sheet.described.colours import GLOWS

FIRST = 1.0
"""Minutes: the law has no value at nothing; what is told at once is told after the first minute."""
DARK = 0.3
"""mcd/m²: where DIN 67510-1 counts afterglow as over, a hundred times what the rested eye just sees."""
AFTER = (0.0, 10.0, 60.0)
"""Minutes after light at which a face is usually looked at."""
LONGEST = 720.0
"""Minutes: a night; nobody asks further."""


@dataclass(frozen=True, slots=True)
class Paste:
    """A luminous paste: brightness after ten minutes in mcd/m², and the exponent that it falls by."""

    glow: str
    at_ten: float
    exponent: float
    source: str

    @property
    def colour(self) -> str:
        """What it glows in, as #rrggbb."""
        return GLOWS[self.glow]

    def brightness(self, minutes: float) -> float:
        """Luminance so many minutes after light: thousandths of the unit, cd/m²."""
        return self.at_ten * float((max(minutes, FIRST) / 10.0) ** -self.exponent)

    def seen(self, minutes: float) -> float:
        """How bright it looks to a rested eye: a share from 0 (gone) to 1 (green at once)."""
        brightest = pastes()["green"].brightness(0.0)
        share = math.log(self.brightness(minutes) / DARK) / math.log(brightest / DARK)
        return min(max(share, 0.0), 1.0)


@lru_cache(maxsize=1)
def pastes() -> dict[str, Paste]:
    """Every paste by the colour it glows in; sources are in the file."""
    text = files("marquetry.core").joinpath("data/lume.csv").read_text("utf-8")
    rows = csv.DictReader(line for line in text.splitlines() if not line.startswith("#"))
    return {
        row["glow"]: Paste(row["glow"], float(row["at_ten"]), float(row["exponent"]), row["source"])
        for row in rows
    }
