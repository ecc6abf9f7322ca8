"""Plays kept in mind: a move needs the one before it, which was made just now; others are replayed."""

from typing import cast

from marquetry.core.rehearsal.play import Play
from marquetry.store.database import Connection
from marquetry.store.rehearsals import StoredRehearsal
from marquetry.store.statecache import CacheKey


def play_of(connection: Connection, stored: StoredRehearsal) -> Play:
    """The play of a rehearsal as far as its record goes."""
    known = cast("Play | None", connection.kept.find(_key(connection, stored)))
    if known is not None and known.moves == stored.moves:
        return known
    play = stored.begun_play(connection).replayed(stored.moves)
    keep_play(connection, stored, play)
    return play


def keep_play(connection: Connection, stored: StoredRehearsal, play: Play) -> None:
    """Keep it as it stands now, in place of how it stood: its next move need not replay those before."""
    connection.kept.keep(_key(connection, stored), play)


def _key(connection: Connection, stored: StoredRehearsal) -> CacheKey:
    """All that a play begins with; how far it has gone its moves tell."""
    begun = (stored.id, stored.exercise, stored.edition, stored.seed, stored.sheet, stored.rules)
    return connection.kept.key(play_of, connection.model, *begun)
