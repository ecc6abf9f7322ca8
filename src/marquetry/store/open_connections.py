"""Connections that are used again: to open one costs two milliseconds, most of it to read the schema anew.

Each serves one request at a time, as if it had been opened for it: what a request left unread is closed, what
it left unfinished is taken back.
"""

import sqlite3
from pathlib import Path
from threading import Lock

from marquetry.core.fit.model import Model
from marquetry.store.database import Connection, connect
from marquetry.store.statecache import StateCache

MOST_IDLE = 8
"""As many as a busy moment needs; one more is opened where none is idle, and closed after its request."""


class OpenConnections:
    """The connections of one program to its workshop, with what it keeps in mind of it."""

    def __init__(self, database: Path, model: Model, kept: StateCache) -> None:
        self._opens = database, model, kept
        self._idle: list[Connection] = []
        self._guard = Lock()

    def take(self) -> Connection:
        """One that nobody else has, until it is given back."""
        with self._guard:
            found = self._idle.pop() if self._idle else None
        return connect(*self._opens) if found is None else found

    def give_back(self, connection: Connection) -> None:
        """Let another request have it."""
        try:
            connection.let_go()
        except sqlite3.Error:
            connection.close()
            return
        with self._guard:
            if len(self._idle) < MOST_IDLE:
                self._idle.append(connection)
                return
        connection.close()

    def close(self) -> None:
        """Close those that are idle: the last one that closes folds the log into the file."""
        with self._guard:
            idle, self._idle = self._idle, []
        for connection in idle:
            connection.close()
