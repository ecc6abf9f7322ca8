"""The one place that opens a database: pragmas, migrations and transactions."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path

from marquetry.core.fit.model import Model
from marquetry.store.kept import InMind

BUSY_MILLISECONDS = 5_000
"""A writer waits this long for another; nothing here holds the lock for more than about a second."""


class Connection(sqlite3.Connection):
    """A connection that knows the model by which its database's sheets are read, and what is kept in mind."""

    model: Model
    kept: InMind


def connect(path: Path, model: Model, kept: InMind | None = None) -> Connection:
    """Open the workshop's database. The caller closes it; one connection serves one request.

    `kept` is what a program has in mind of this very database; without it the connection begins with nothing.

    FastAPI may run a dependency and its handler in different threads, one after the other, hence
    `check_same_thread=False`. FULL: what was acknowledged survives a loss of power too.
    """
    connection = sqlite3.connect(path, isolation_level=None, check_same_thread=False, factory=Connection)
    connection.model, connection.kept = model, InMind() if kept is None else kept
    connection.row_factory = sqlite3.Row
    connection.execute(f"PRAGMA busy_timeout = {BUSY_MILLISECONDS}")
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


@contextmanager
def transaction(connection: Connection) -> Iterator[None]:
    """All or nothing, and nobody else writes meanwhile; within another it is a part of that one."""
    if connection.in_transaction:
        yield
        return
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


def version_of(connection: Connection) -> int:
    """Number of the last migration that was applied."""
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


MINOR_UNITS = 9
"""The migration that turns hundredths into minor units; an older archive's sums go through it as well."""


def script_of(number: int) -> str:
    """The SQL of one migration."""
    return dict(migrations())[number]


def migrations() -> list[tuple[int, str]]:
    """Every migration as (number, SQL), in order."""
    folder = files("marquetry.store").joinpath("migrations")
    found = sorted(entry.name for entry in folder.iterdir() if entry.name.endswith(".sql"))
    return [(int(name[:4]), folder.joinpath(name).read_text("utf-8")) for name in found]


def migrate(connection: Connection) -> None:
    """Bring the database to the newest version; each step is recorded with its own changes or not at all.

    `executescript` alone leaves what stood before a fault, so each script carries its own transaction.
    """
    for number, script in migrations():
        if number <= version_of(connection):
            continue
        try:
            connection.executescript(f"BEGIN IMMEDIATE;\n{script}\nPRAGMA user_version = {number};\nCOMMIT;")
        except sqlite3.Error:
            if connection.in_transaction:
                connection.execute("ROLLBACK")
            raise


def open_workshop(path: Path, model: Model) -> None:
    """Create the database where there is none, and migrate it."""
    path.parent.mkdir(parents=True, exist_ok=True)
    connection = connect(path, model)
    try:
        migrate(connection)
    finally:
        connection.close()
