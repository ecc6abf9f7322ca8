"""Searches in progress: shown while they run, stopped when told."""

import logging
from collections.abc import Mapping
from dataclasses import dataclass, field
from itertools import islice

from marquetry.core.finder.misses import Miss, how_many, nearest_misses
from marquetry.core.finder.search import Filling, Search
from marquetry.core.sheet.build import Build
from marquetry.store.finder_parts import ShelfCandidate

MOST_FOUND = 50
log = logging.getLogger("marquetry")


@dataclass(frozen=True, slots=True)
class Relaxed:
    """A search with one thing more accepted: what in words, the address's query, and the search."""

    words: str
    query: str
    search: Search


@dataclass(slots=True)
class Find:
    """One search and what it found so far. `again` is the address that starts it anew."""

    watch_id: int
    search: Search
    shelf: Mapping[tuple[str, int], ShelfCandidate]
    again: str
    otherwise: tuple["Relaxed", ...] = ()
    """The same search with one thing more accepted, each told in words, for when nothing is found."""
    found: list[Filling] = field(default_factory=list)
    misses: list[Miss] = field(default_factory=list)
    would_pass: list[tuple["Relaxed", int]] = field(default_factory=list)
    """What each relaxation would let through, the most first."""
    finished: bool = False
    fault: str = ""

    @property
    def build(self) -> Build:
        """The watch as it is."""
        return self.search.build

    def ranked(self) -> list[Filling]:
        """What was found so far: by room left, then by chance, then as the search found it."""
        return sorted(self.found, key=lambda filling: (-filling.room, -round(filling.chance, 2)))

    def run(self) -> None:
        """Search until enough is found, nothing more is, or it is stopped."""
        try:
            for filling in islice(self.search.best(), MOST_FOUND):
                self.found.append(filling)
            if not self.found and not self.search.stop:
                self._explain()
        except Exception:  # whatever it is, the page that waits must be told
            log.exception("unforeseen error in a search")
            self.fault = "The program met something it did not expect."
        finally:
            self.finished = True

    def _explain(self) -> None:
        """What came nearest, and what one thing more accepted would let through."""
        self.misses = nearest_misses(self.search)
        counted = ((relaxed, how_many(relaxed.search)) for relaxed in self.otherwise)
        self.would_pass = sorted((one for one in counted if one[1]), key=lambda one: -one[1])

    def stop(self) -> None:
        """End after what is looked at now; what was found stays."""
        self.search.stop = True
