"""The one place that opens a database: pragmas and transactions."""

import sqlite3
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from threading import Lock
from time import monotonic, sleep

from marquetry.core.fit.model import Model
from marquetry.store.migrating import migrate
from marquetry.store.recording import NotingConnection
from marquetry.store.statecache import StateCache

BUSY_MILLISECONDS = 5_000
"""A writer waits this long for another; nothing here holds the lock for more than about half a second."""
MOST_GIVEN_WAY_S = 1.0
"""Long work goes on after so long, whoever may still be waiting."""


class Connection(NotingConnection):
    """A connection that knows the model by which its database's sheets are read, and what is kept in mind."""

    model: Model
    kept: StateCache
    file: str


def connect(path: Path, model: Model, kept: StateCache | None = None) -> Connection:
    """Open the workshop's database. The caller closes it; one connection serves one request.

    `kept` is what a program has in mind of this very database; without it the connection begins with nothing.

    FastAPI may run a dependency and its handler in different threads, one after the other, hence
    `check_same_thread=False`. FULL: what was acknowledged survives a loss of power too.
    """
    connection = sqlite3.connect(path, isolation_level=None, check_same_thread=False, factory=Connection)
    connection.model, connection.kept = model, StateCache() if kept is None else kept
    connection.file = str(path)
    connection.row_factory = sqlite3.Row
    connection.execute(f"PRAGMA busy_timeout = {BUSY_MILLISECONDS}")
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


class _Waiting:
    """How many threads of this program wait for the lock of each file, by its name.

    SQLite's own waiting is no queue: a writer that goes on and on keeps out one that looks again in 0.1 s.
    """

    guard = Lock()
    by_file: Counter[str] = Counter()  # noqa: RUF012  # of the program, as the lock is


def give_way(connection: Connection) -> None:
    """Between two short transactions of long work: let whoever waits for the lock have it first."""
    until = monotonic() + MOST_GIVEN_WAY_S
    while _Waiting.by_file[connection.file] and monotonic() < until:
        sleep(0.002)


@contextmanager
def transaction(connection: Connection) -> Iterator[None]:
    """All or nothing, and nobody else writes meanwhile; within another it is a part of that one."""
    if connection.in_transaction:
        yield
        return
    with _waiting(connection):
        connection.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


@contextmanager
def snapshot(connection: Connection) -> Iterator[None]:
    """Questions that see one state, without the lock: a third of the time that each alone would take."""
    connection.execute("BEGIN")
    try:
        yield
    finally:
        connection.execute("ROLLBACK")


@contextmanager
def _waiting(connection: Connection) -> Iterator[None]:
    with _Waiting.guard:
        _Waiting.by_file[connection.file] += 1
    try:
        yield
    finally:
        with _Waiting.guard:
            _Waiting.by_file[connection.file] -= 1


def open_workshop(path: Path, model: Model) -> None:
    """Create the database where there is none, and migrate it."""
    path.parent.mkdir(parents=True, exist_ok=True)
    connection = connect(path, model)
    try:
        migrate(connection)
    finally:
        connection.close()
