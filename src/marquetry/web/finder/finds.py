"""Searches in progress: each in a thread of its own, shown while it runs, stopped when told."""

import logging
from collections.abc import Mapping
from dataclasses import dataclass, field
from itertools import islice
from threading import Thread

from marquetry.core.finder.search import Filling, Search
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import NotFoundError
from marquetry.store.finder_parts import ShelfCandidate

MOST_FOUND = 50
MOST_KEPT = 20
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
        self.finished = True


@dataclass(slots=True)
class Finds:
    """The latest searches by number."""

    held: dict[int, Find] = field(default_factory=dict)
    last: int = 0

    def start(self, find: Find) -> int:
        """Begin a search and return its number; the oldest is stopped and forgotten."""
        self.last += 1
        self.held[self.last] = find
        for old in list(self.held)[:-MOST_KEPT]:
            self.held.pop(old).search.stop = True
        Thread(target=find.run, daemon=True).start()
        return self.last

    def find(self, number: int) -> Find:
        """One search; NotFoundError where it was before the program started."""
        if number not in self.held:
            raise NotFoundError(f"search {number}; the program was started since, or many were made after it")
        return self.held[number]
