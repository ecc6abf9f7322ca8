"""Watches and their revisions: read, add, save, undo, redo, remove.

Every save is a new revision with a higher version. Undo brings back an earlier sheet as a new revision,
so that nothing is ever lost and a version never means two things.
"""

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from marquetry.core.evidence.lapse import settled
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import MarquetryError, NotFoundError, StaleVersionError
from marquetry.store import pieces_in_watch, readings
from marquetry.store.database import Connection, transaction
from marquetry.store.sheets import Unreadable, read_sheet, sheet_text, unreadable

CURRENT = """
    SELECT watch.id, revision.version, sheet, change, undo_to, saved_at,
           (SELECT later.change FROM revision AS later
             WHERE later.watch_id = watch.id AND later.version = revision.redo_to) AS redo
      FROM watch JOIN revision ON revision.watch_id = watch.id AND revision.version = watch.version
"""


@dataclass(frozen=True, slots=True)
class StoredWatch:
    """A watch as it is on disk. `undo` and `redo` tell in words what they would take back or bring back."""

    id: int
    version: int
    build: Build
    saved_at: str
    undo: str | None
    redo: str | None


def all_watches(connection: Connection) -> list[StoredWatch]:
    """Every watch on the bench, in the order they were added."""
    return [found for found in watches_or_faults(connection) if isinstance(found, StoredWatch)]


def watch_names(connection: Connection) -> list[tuple[int, str]]:
    """Number and name of every watch of the bench, the newest first, without reading their sheets."""
    rows = connection.execute(
        """SELECT watch.id, json_extract(sheet, '$.name') AS name FROM watch JOIN revision
             ON revision.watch_id = watch.id AND revision.version = watch.version
            WHERE removed_at IS NULL ORDER BY watch.id DESC"""
    )
    return [(row["id"], row["name"]) for row in rows]


def watches_of(connection: Connection, numbers: Sequence[int]) -> list[StoredWatch]:
    """Those of these watches that are in use and can be read, without reading any other."""
    rows = connection.execute(
        f"{CURRENT} WHERE removed_at IS NULL AND watch.id IN (SELECT value FROM json_each(:ids))",  # noqa: S608  # ours, no value among it
        {"ids": json.dumps(list(numbers))},
    )
    found = (_stored_or_fault(connection, row) for row in rows)
    return [watch for watch in found if isinstance(watch, StoredWatch)]


def numbers_in_use(connection: Connection) -> list[int]:
    """The number of every watch that was not taken off, without reading their sheets."""
    rows = connection.execute("SELECT id FROM watch WHERE removed_at IS NULL ORDER BY id")
    return [row["id"] for row in rows]


def watches_or_faults(connection: Connection) -> list[StoredWatch | Unreadable]:
    """The same, with those that cannot be read told as that."""
    rows = connection.execute(f"{CURRENT} WHERE removed_at IS NULL ORDER BY watch.id")
    return [_stored_or_fault(connection, row) for row in rows]


def _stored_or_fault(connection: Connection, row: sqlite3.Row) -> StoredWatch | Unreadable:
    try:
        return _stored(connection, row)
    except MarquetryError as error:
        return unreadable(row["id"], row["sheet"], error)


def mend(connection: Connection, watch_id: int) -> StoredWatch:
    """Bring back the newest version of a watch that can be read, as a new one.

    NotFoundError where no version can be.
    """
    query = "SELECT version, sheet, change FROM revision WHERE watch_id = :id ORDER BY version DESC"
    rows = connection.execute(query, {"id": watch_id}).fetchall()
    for row in rows:
        try:
            build = read_sheet(connection, row["sheet"])
        except MarquetryError:
            continue
        with transaction(connection):
            newest = rows[0]["version"] + 1
            _add_revision(connection, watch_id, newest, row["sheet"], "brought back as it was", None, None)
            pieces_in_watch.sync(connection, watch_id, build)
        return watch(connection, watch_id)
    raise NotFoundError(f"version of watch {watch_id} that can be read; take it off the bench")


def raw_sheet(connection: Connection, watch_id: int) -> str:
    """The newest sheet of a watch as it stands on disk, readable or not."""
    row = connection.execute(f"{CURRENT} WHERE watch.id = :id", {"id": watch_id}).fetchone()
    if row is None:
        raise NotFoundError(f"watch {watch_id} on the bench")
    return str(row["sheet"])


def watch(connection: Connection, watch_id: int) -> StoredWatch:
    """One watch; NotFoundError where there is none or it was removed."""
    row = connection.execute(
        f"{CURRENT} WHERE watch.id = :id AND removed_at IS NULL", {"id": watch_id}
    ).fetchone()
    if row is None:
        raise NotFoundError(f"watch {watch_id} on the bench")
    return _stored(connection, row)


def add_watch(connection: Connection, build: Build) -> int:
    """Put a watch on the bench and return its number; what is assumed of it is settled."""
    build = settled(None, build, connection.model.dry_fit_by_key)
    with transaction(connection):
        cursor = connection.execute("INSERT INTO watch (version) VALUES (1)")
        watch_id = int(cursor.lastrowid or 0)
        _add_revision(connection, watch_id, 1, sheet_text(connection, build), "put on the bench", None, None)
        readings.note_changes(connection, "watch", watch_id, {}, build.dimensions)
        pieces_in_watch.sync(connection, watch_id, build)
    return watch_id


def save(  # noqa: PLR0913, PLR0917  # one argument a thing that a save is about
    connection: Connection,
    watch_id: int,
    based_on: int,
    build: Build,
    change: str,
    known: StoredWatch | None = None,
) -> StoredWatch:
    """Save an edit of version `based_on`; StaleVersionError, and nothing written, if it is not the newest.

    `known` is that version, where the caller has read it already. What is assumed is settled anew, and what
    was tried with a part that is another one now, or was altered, lapses.
    """
    with transaction(connection):
        row = connection.execute(NEWEST, {"id": watch_id}).fetchone()
        if known is None or row is None or row["version"] != based_on or known.version != based_on:
            known = _refuse_stale(connection, watch_id, based_on)
        build = settled(known.build, build, connection.model.dry_fit_by_key)
        sheet = sheet_text(connection, build)
        at = _add_revision(connection, watch_id, based_on + 1, sheet, change, based_on, None)
        readings.note_changes(connection, "watch", watch_id, known.build.dimensions, build.dimensions)
        pieces_in_watch.sync(connection, watch_id, build, known.build)
    return StoredWatch(watch_id, based_on + 1, build, at, change, None)


NEWEST = "SELECT version FROM watch WHERE id = :id AND removed_at IS NULL"


def undo(connection: Connection, watch_id: int, based_on: int) -> StoredWatch:
    """Bring back the sheet from before the last change; without one, nothing happens."""
    return _bring_back(connection, watch_id, based_on, "undo_to")


def redo(connection: Connection, watch_id: int, based_on: int) -> StoredWatch:
    """Bring back what the last undo took away; without one, nothing happens."""
    return _bring_back(connection, watch_id, based_on, "redo_to")


def remove(connection: Connection, watch_id: int) -> None:
    """Take a watch off the bench; its revisions stay and `restore` puts it back."""
    raw_sheet(connection, watch_id)
    connection.execute(
        "UPDATE watch SET removed_at = strftime('%Y-%m-%dT%H:%M:%SZ', 'now') WHERE id = :id", {"id": watch_id}
    )


def restore(connection: Connection, watch_id: int) -> StoredWatch:
    """Put a removed watch back on the bench."""
    connection.execute("UPDATE watch SET removed_at = NULL WHERE id = :id", {"id": watch_id})
    return watch(connection, watch_id)


def _bring_back(connection: Connection, watch_id: int, based_on: int, way: str) -> StoredWatch:
    with transaction(connection):
        before = _refuse_stale(connection, watch_id, based_on)
        now = _revision(connection, watch_id, based_on)
        if now[way] is not None:
            past = _revision(connection, watch_id, now[way])
            # After an undo, redo leads to where it came from; after a redo, to what was undone before that.
            redo_to = based_on if way == "undo_to" else past["redo_to"]
            values = (past["sheet"], past["change"], past["undo_to"], redo_to)
            _add_revision(connection, watch_id, based_on + 1, *values)
            after = read_sheet(connection, past["sheet"])
            readings.note_return(connection, "watch", watch_id, before.build.dimensions, after.dimensions)
            pieces_in_watch.sync(connection, watch_id, after)
    return watch(connection, watch_id)


def _refuse_stale(connection: Connection, watch_id: int, based_on: int) -> StoredWatch:
    newest = watch(connection, watch_id)
    if newest.version != based_on:
        raise StaleVersionError(based_on, newest.version)
    return newest


def _revision(connection: Connection, watch_id: int, version: int) -> sqlite3.Row:
    row: sqlite3.Row = connection.execute(
        "SELECT * FROM revision WHERE watch_id = :id AND version = :version",
        {"id": watch_id, "version": version},
    ).fetchone()
    return row


def _add_revision(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection,
    watch_id: int,
    version: int,
    sheet: str,
    change: str,
    undo_to: int | None,
    redo_to: int | None,
) -> str:
    """Write one revision and return when it was saved."""
    row = connection.execute(
        """
        INSERT INTO revision (watch_id, version, sheet, change, undo_to, redo_to)
        VALUES (:id, :version, :sheet, :change, :undo_to, :redo_to) RETURNING saved_at
        """,
        {
            "id": watch_id,
            "version": version,
            "sheet": sheet,
            "change": change,
            "undo_to": undo_to,
            "redo_to": redo_to,
        },
    ).fetchone()
    connection.execute(
        "UPDATE watch SET version = :version WHERE id = :id", {"id": watch_id, "version": version}
    )
    return str(row["saved_at"])


def _stored(connection: Connection, row: sqlite3.Row) -> StoredWatch:
    build = read_sheet(connection, row["sheet"])
    undo_words = row["change"] if row["undo_to"] is not None else None
    return StoredWatch(row["id"], row["version"], build, row["saved_at"], undo_words, row["redo"])
