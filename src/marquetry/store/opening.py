"""Opening a workshop for a whole program: locked against a second one, and looked at before it is touched."""

import fcntl
import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from marquetry.core.values.errors import SheetError, TakenError
from marquetry.store.migrating import migrations

OWN_ONLY = 0o600
OURS = {"watch", "revision"}
"""Tables that every workshop has since its first version."""


@contextmanager
def locked(database: Path) -> Iterator[None]:
    """Hold the workshop for this program alone, by whatever link. TakenError while another serves it."""
    database = database.resolve()
    database.parent.mkdir(parents=True, exist_ok=True)
    with database.with_name(f"{database.name}.lock").open("w", encoding="utf-8") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise TakenError(
                f"{database} is served by another Marquetry; stop that one, or name another --database."
            ) from None
        yield


def refuse_foreign(database: Path) -> None:
    """Raise SheetError for a file that is no workshop, damaged, or a newer program's; it stays as it is."""
    if not database.exists():
        return
    if database.is_dir():
        raise SheetError(str(database), "a workshop's file", "a folder")
    if database.stat().st_size == 0:
        return
    try:
        # Read only: nothing of the file changes while it is looked at.
        uri = f"{database.resolve().as_uri()}?mode=ro"
        with closing(sqlite3.connect(uri, uri=True)) as connection:
            version = int(connection.execute("PRAGMA user_version").fetchone()[0])
            query = "SELECT name FROM sqlite_master WHERE type = 'table'"
            tables = {row[0] for row in connection.execute(query)}
            whole = connection.execute("PRAGMA quick_check(1)").fetchone()[0] == "ok"
    except sqlite3.DatabaseError as error:
        raise SheetError(str(database), "a workshop's file", str(error)) from None
    if not whole:
        raise SheetError(
            str(database), "a workshop's file that is whole", "a damaged one; take a copy of it first"
        )
    newest = migrations()[-1][0]
    if version > newest:
        raise SheetError(
            str(database),
            f"a workshop of version {newest} or older",
            f"version {version}: a newer Marquetry's",
        )
    if tables and not (tables >= OURS and version > 0):
        raise SheetError(str(database), "a workshop's file", "another program's database")


def keep_private(database: Path) -> None:
    """Let nobody but its owner read the workshop's files."""
    for suffix in ("", "-wal", "-shm", ".lock"):
        file = database.with_name(database.name + suffix)
        if file.exists():
            os.chmod(file, OWN_ONLY)  # noqa: PTH101  # Path.chmod follows the same call
