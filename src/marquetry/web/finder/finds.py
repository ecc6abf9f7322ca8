"""Searches in progress: shown while they run, stopped when told."""

import logging
from collections.abc import Mapping
from dataclasses import dataclass, field
from itertools import islice

from marquetry.core.finder.search import Filling, Search
from marquetry.core.sheet.build import Build
from marquetry.store.finder_parts import ShelfCandidate

MOST_FOUND = 50
log = logging.getLogger("marquetry")


@dataclass(slots=True)
class Find:
    """One search and what it found so far. `again` is the address that starts it anew."""

    watch_id: int
    search: Search
    shelf: Mapping[tuple[str, int], ShelfCandidate]
    again: str
    found: list[Filling] = field(default_factory=list)
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
        except Exception:  # whatever it is, the page that waits must be told
            log.exception("unforeseen error in a search")
            self.fault = "The program met something it did not expect."
        finally:
            self.finished = True

    def stop(self) -> None:
        """End after what is looked at now; what was found stays."""
        self.search.stop = True
