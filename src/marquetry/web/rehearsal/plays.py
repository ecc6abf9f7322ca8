"""Plays kept for a moment: a move needs the one before it, which was made just now; others are replayed."""

from collections import OrderedDict
from threading import Lock

from marquetry.core.rehearsal.play import Play
from marquetry.store.database import Connection
from marquetry.store.rehearsals import StoredRehearsal

MOST_KEPT = 40


class Plays:
    """Plays by the number of their rehearsal. Older ones are forgotten, and replayed from their record."""

    def __init__(self) -> None:
        self._held: OrderedDict[int, tuple[str, Play]] = OrderedDict()
        self._guard = Lock()

    def of(self, connection: Connection, stored: StoredRehearsal) -> Play:
        """The play of a rehearsal as far as its record goes."""
        with self._guard:
            mark, known = self._held.get(stored.id, ("", None))
        if known is not None and mark == _mark(stored) and known.moves == stored.moves:
            return known
        play = stored.begun_play(connection).replayed(stored.moves)
        self.keep(stored, play)
        return play

    def keep(self, stored: StoredRehearsal, play: Play) -> None:
        """Keep it in mind as it stands now, so that its next move need not be found out from the first."""
        with self._guard:
            self._held[stored.id] = (_mark(stored), play)
            self._held.move_to_end(stored.id)
            while len(self._held) > MOST_KEPT:
                self._held.popitem(last=False)


def _mark(stored: StoredRehearsal) -> str:
    """What tells one rehearsal from another of the same number, in another workshop."""
    return f"{stored.exercise}/{stored.seed}/{hash(stored.sheet)}"
