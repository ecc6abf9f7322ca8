"""Which thread it is, from its outside diameter and the length of a few pitches."""

import csv
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

from marquetry.core.values.dimension import Dimension

CLOSE = 0.06
"""An outside diameter runs up to this much under its nominal: crests are worn or made short."""


@dataclass(frozen=True, slots=True)
class Thread:
    """A standard thread: nominal diameter and pitch in millimetres."""

    nominal: float
    pitch: float

    @property
    def name(self) -> str:
        """As a build sheet names it: the nominal diameter with two decimals."""
        return f"{self.nominal:.2f}"


@dataclass(frozen=True, slots=True)
class ThreadMatch:
    """A thread that may be meant, and how far the readings are off it."""

    thread: Thread
    diameter_off: float
    pitch_off: float
    fits: bool


@lru_cache(maxsize=1)
def threads() -> tuple[Thread, ...]:
    """The published table; its source is in the file's first line."""
    text = files("marquetry.core").joinpath("data/threads.csv").read_text("utf-8")
    rows = csv.DictReader(line for line in text.splitlines() if not line.startswith("#"))
    return tuple(Thread(float(row["nominal"]), float(row["pitch"])) for row in rows)


def thread_matches(outside: Dimension, over: Dimension, pitches: int) -> tuple[ThreadMatch, ...]:
    """Threads by how well they match; `over` is the length over `pitches` whole pitches.

    One fits where pitch and outside diameter lie within their doubt of it, the diameter at most CLOSE under.
    """
    pitch, pitch_tol = over.value / pitches, over.tol / pitches
    made = []
    for thread in threads():
        off, pitch_off = outside.value - thread.nominal, pitch - thread.pitch
        fits = -CLOSE - outside.tol <= off <= outside.tol + 0.01 and abs(pitch_off) <= pitch_tol + 0.005
        made.append(ThreadMatch(thread, off, pitch_off, fits))
    return tuple(
        sorted(made, key=lambda c: (not c.fits, abs(c.pitch_off) / 0.02 + abs(c.diameter_off) / 0.1))
    )
