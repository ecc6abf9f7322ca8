"""A file of parts brought in: read row by row into a waiting room, looked over, then taken in one step.

Nothing touches the shelf before the builder takes it; then all rows go in within one transaction, each
worked out again on the shelf as it is then.
"""

import json
import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from typing import IO, Literal

from marquetry.core.sheet.difference import told
from marquetry.core.values.errors import MarquetryError, NotFoundError
from marquetry.formats.shelf_csv import FileRow, read
from marquetry.formats.shelf_row import Read, cells_of, kind_of, read_row, words_of
from marquetry.store import shelf
from marquetry.store.database import Connection, give_way, snapshot, transaction
from marquetry.store.part_changes import PartChanges
from marquetry.store.pieces import add_piece
from marquetry.store.progress import Progress
from marquetry.store.shelf import StoredPart

Fate = Literal["new", "changed", "same", "refused"]
FATES: tuple[Fate, ...] = ("new", "changed", "same", "refused")
BATCH = 100
"""Rows written while the lock is held, some 40 ms: a tap at the bench may wait for that."""
PAGE = 100
MOST_TOLD = 6


@dataclass(frozen=True, slots=True)
class PlannedRow:
    """One row as the preview shows it."""

    line: int
    fate: Fate
    kind: str
    name: str
    told: str


@dataclass(frozen=True, slots=True)
class Import:
    """A file waiting to be taken: `counts` by fate."""

    id: int
    file_name: str
    state: str
    told: str
    at: str
    counts: dict[str, int]

    @property
    def total(self) -> int:
        """Rows that were read."""
        return sum(self.counts.values())

    @property
    def wanted(self) -> int:
        """Rows that taking the file would put on the shelf."""
        return self.counts["new"] + self.counts["changed"]

    def pages(self, fate: str) -> int:
        """Pages that its rows fill, all of them or those of one fate."""
        return max(-(-(self.counts[fate] if fate else self.total) // PAGE), 1)


def begin(connection: Connection, file_name: str) -> int:
    """Open a waiting room for a file and return its number."""
    cursor = connection.execute(
        "INSERT INTO import (file_name, state) VALUES (:name, 'reading')", {"name": file_name[:200]}
    )
    return int(cursor.lastrowid or 0)


def read_in(connection: Connection, number: int, file: IO[bytes], progress: Progress) -> None:
    """Read the file into the waiting room, all of it or, where it cannot be read, nothing."""
    seen: set[tuple[str, str]] = set()
    lines = read(file, connection.model.anatomy)
    try:
        while batch := list(islice(lines, BATCH)):
            # Worked out before the lock is taken: what is looked at here is looked at again when it is taken.
            with snapshot(connection):
                rows = [_planned(connection, number, line, seen) for line in batch]
            with transaction(connection):
                connection.executemany(
                    "INSERT INTO import_row (import_id, line, fate, told, row)"
                    " VALUES (:id, :line, :fate, :told, :row)",
                    rows,
                )
            give_way(connection)
            progress(batch[-1].number)
    except MarquetryError as error:
        fail(connection, number, f"{error} Nothing was changed.")
    except BaseException:
        fail(connection, number, "The file could not be read to its end. Nothing was changed.")
        raise
    else:
        connection.execute("UPDATE import SET state = 'ready' WHERE id = ?", (number,))


def fail(connection: Connection, number: int, words: str) -> None:
    """Empty a file's waiting room and say why; the shelf was never touched."""
    connection.execute("UPDATE import SET state = 'failed', told = ? WHERE id = ?", (words, number))
    _empty_waiting_room(connection, number)


def _planned(
    connection: Connection, number: int, line: FileRow, seen: set[tuple[str, str]]
) -> dict[str, object]:
    fate, words = _fate(connection, line, seen)
    cells = json.dumps(line.cells, ensure_ascii=False)
    return {"id": number, "line": line.number, "fate": fate, "told": words, "row": cells}


def _fate(connection: Connection, line: FileRow, seen: set[tuple[str, str]]) -> tuple[Fate, str]:
    """What a row would do, and in words why or what."""
    if line.fault:
        return "refused", line.fault
    try:
        known, found = _worked_out(connection, line)
    except MarquetryError as error:
        return "refused", str(error)
    key = (found.part.kind.key, found.part.name)
    if key in seen:
        return "refused", "an earlier row of this file is about the same part"
    seen.add(key)
    if known is None:
        return "new", found.part.headline()
    changes = changes_of(known, found)
    return ("changed", "; ".join(changes[:MOST_TOLD])) if changes else ("same", "")


def _worked_out(connection: Connection, line: FileRow) -> tuple[StoredPart | None, Read]:
    anatomy = connection.model.anatomy
    kind = kind_of(anatomy, line.cells)
    known = shelf.part_named(connection, kind.key, words_of("name", line.cells["name"]))
    return known, read_row(anatomy, line.cells, (known.part, known.terms) if known else None)


def changes_of(known: StoredPart, found: Read) -> list[str]:
    """What a row changes of a part, in words."""
    changes = told(known.part.build, found.part.build)
    for name in ("supplier", "price", "order_link", "notes"):
        old, new = getattr(known.terms, name), getattr(found.terms, name)
        if old != new:
            changes.append(f"{name.replace('_', ' ')}: {old or 'none'} → {new or 'none'}")
    return changes


def take(connection: Connection, number: int, progress: Progress) -> int:
    """Put every new and changed row on the shelf, all of them or none; return how many.

    New parts are written a batch at a time where nobody sees them yet, and whoever waits for the lock goes
    first between two batches; one short step then shows them all and writes the changed ones, which lie ready
    in a table of this connection's own. What a stopped program left goes at its next start.
    """
    _refuse_unready(connection, number)
    connection.execute("UPDATE import SET state = 'applying' WHERE id = ?", (number,))
    done, changes = 0, PartChanges(connection)
    try:
        for batch in _batches(_waiting(connection, number)):
            with snapshot(connection):
                found = [_worked_out(connection, line) for line in batch]
            with transaction(connection):
                for known, read_part in found:
                    if known is None:
                        _add_unseen(connection, number, read_part)
            changes.lay_ready((known, row.part, row.terms) for known, row in found if known is not None)
            give_way(connection)
            done += len(batch)
            progress(done)
        with transaction(connection):
            changes.write()
            _show(connection, number)
            words = f"{done} part{'' if done == 1 else 's'} taken onto the shelf"
            query = "UPDATE import SET state = 'done', told = :told WHERE id = :id"
            connection.execute(query, {"told": words, "id": number})
    except BaseException:
        _forget_unseen(connection, number)
        connection.execute("UPDATE import SET state = 'ready' WHERE id = ?", (number,))
        raise
    _empty_waiting_room(connection, number)
    return done


def _batches(lines: Iterator[FileRow]) -> Iterator[list[FileRow]]:
    while batch := list(islice(lines, BATCH)):
        yield batch


def _add_unseen(connection: Connection, number: int, found: Read) -> None:
    part_id = shelf.add_part(connection, found.part, found.terms)
    connection.execute(
        "UPDATE part SET removed_at = :waiting, waits_for = :import WHERE id = :id",
        {"waiting": WAITING, "import": number, "id": part_id},
    )
    for _ in range(found.owned):
        add_piece(connection, part_id)


def _show(connection: Connection, number: int) -> None:
    query = "UPDATE part SET removed_at = NULL, waits_for = NULL WHERE waits_for = :id"
    connection.execute(query, {"id": number})


def _forget_unseen(connection: Connection, number: int) -> None:
    """Take away what was written for a file that was not taken in the end, a batch at a time."""
    query = "SELECT id FROM part WHERE waits_for = :id LIMIT :most"
    while rows := connection.execute(query, {"id": number, "most": BATCH}).fetchall():
        numbers = [row["id"] for row in rows]
        places = ", ".join("?" * len(numbers))
        with transaction(connection):
            pieces = f"SELECT id FROM piece WHERE part_id IN ({places})"
            connection.execute(f"DELETE FROM move WHERE piece_id IN ({pieces})", numbers)
            connection.execute(f"DELETE FROM piece WHERE part_id IN ({places})", numbers)
            connection.execute(
                f"DELETE FROM reading WHERE owner = 'part' AND owner_id IN ({places})", numbers
            )
            connection.execute(f"DELETE FROM part_words WHERE rowid IN ({places})", numbers)
            connection.execute(f"DELETE FROM part WHERE id IN ({places})", numbers)


def _empty_waiting_room(connection: Connection, number: int) -> None:
    some = "SELECT line FROM import_row WHERE import_id = :id LIMIT 2000"
    query = f"DELETE FROM import_row WHERE import_id = :id AND line IN ({some})"
    while connection.execute(query, {"id": number}).rowcount:
        pass


WAITING = "waiting"
"""Where a part that is not shown yet would tell the day it was taken off."""


def _waiting(connection: Connection, number: int) -> Iterator[FileRow]:
    """The rows to be taken, a batch at a time, so that no more is held."""
    query = """
        SELECT line, row FROM import_row
         WHERE import_id = :id AND line > :last AND fate IN ('new', 'changed') ORDER BY line LIMIT :most
    """
    last = 0
    while rows := connection.execute(query, {"id": number, "last": last, "most": BATCH}).fetchall():
        yield from (FileRow(row["line"], json.loads(row["row"])) for row in rows)
        last = rows[-1]["line"]


def _refuse_unready(connection: Connection, number: int) -> None:
    if pending(connection, number).state != "ready":
        raise NotFoundError("file of parts waiting to be taken")


def throw_away(connection: Connection, number: int) -> None:
    """Forget a file that waits; the shelf was never touched."""
    connection.execute("DELETE FROM import WHERE id = ? AND state NOT IN ('done', 'applying')", (number,))


def clear_broken_off(connection: Connection) -> None:
    """At the start of the program: what was being read or taken when it stopped is put right."""
    for row in connection.execute("SELECT id FROM import WHERE state = 'reading'").fetchall():
        fail(connection, row["id"], "The program stopped while it read this file. Nothing was changed.")
    for row in connection.execute("SELECT id FROM import WHERE state = 'applying'").fetchall():
        _forget_unseen(connection, row["id"])
        connection.execute("UPDATE import SET state = 'ready' WHERE id = ?", (row["id"],))
    for row in connection.execute("SELECT id FROM import WHERE state = 'done'").fetchall():
        _empty_waiting_room(connection, row["id"])


def pending(connection: Connection, number: int) -> Import:
    """A file with its rows counted; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM import WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"file of parts {number}")
    counted = connection.execute(
        "SELECT fate, count(*) FROM import_row WHERE import_id = ? GROUP BY fate", (number,)
    )
    counts: dict[str, int] = {**dict.fromkeys(FATES, 0), **{found[0]: found[1] for found in counted}}
    return Import(row["id"], row["file_name"], row["state"], row["told"], row["at"], counts)


def recent(connection: Connection, most: int) -> list[Import]:
    """The files that were brought in last, the newest first; one that was thrown away is not among them."""
    rows = connection.execute("SELECT id FROM import ORDER BY id DESC LIMIT ?", (most,)).fetchall()
    return [pending(connection, row["id"]) for row in rows]


def rows_of(connection: Connection, number: int, fate: str = "", page: int = 1) -> list[PlannedRow]:
    """One page of the preview, refused rows first unless one fate is asked for."""
    rows = connection.execute(
        """
        SELECT * FROM import_row WHERE import_id = :id AND (:fate = '' OR fate = :fate)
         ORDER BY fate <> 'refused', line LIMIT :most OFFSET :skipped
        """,
        {"id": number, "fate": fate, "most": PAGE, "skipped": PAGE * (page - 1)},
    )
    return [_row(row) for row in rows]


def _row(row: sqlite3.Row) -> PlannedRow:
    cells = json.loads(row["row"])
    return PlannedRow(row["line"], row["fate"], cells.get("kind", ""), cells.get("name", ""), row["told"])


def shelf_rows(connection: Connection) -> Iterator[dict[str, str]]:
    """Every part of the shelf as cells, by kind and name."""
    rows = connection.execute(
        f"""
        SELECT {shelf.COLUMNS},
               (SELECT count(*) FROM piece WHERE part_id = part.id AND state = 'shelf') AS owned
          FROM {shelf.TABLES} WHERE removed_at IS NULL ORDER BY part.kind, part.name, part.id
        """
    )
    for row in rows:
        stored = shelf.stored_part(connection, row)
        yield cells_of(stored.part, stored.terms, row["owned"])
