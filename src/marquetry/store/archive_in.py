"""A whole workshop brought in from its file: all of it into an empty one, or nothing."""

import hashlib
import json
import sqlite3
import zipfile
import zlib
from collections.abc import Iterator
from pathlib import Path
from typing import IO

from marquetry.core.fit.model import Model
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import SheetError
from marquetry.store import assumed_before, photos
from marquetry.store.archive import (
    ADDED,
    LONGEST_LINE,
    REPLACED,
    Contents,
    columns_of,
    is_empty,
    look_into,
    tables_of,
)
from marquetry.store.archive_faults import refuse_loose_ends, refuse_unreadable
from marquetry.store.database import Connection, transaction
from marquetry.store.house import furnish
from marquetry.store.migrating import BY_SPREAD, COUNTED_BLANKS, MINOR_UNITS, script_of
from marquetry.store.progress import Progress

UNREADABLE = (zipfile.BadZipFile, zipfile.LargeZipFile, zlib.error, EOFError, NotImplementedError, OSError)
"""What a damaged zip file ends in, by where it is damaged."""


def _refuse_filled(connection: Connection) -> None:
    if not is_empty(connection):
        raise SheetError("the workshop", "an empty one to bring a whole workshop into")


def unpack(
    connection: Connection, database: Path, file: IO[bytes], progress: Progress = lambda _: None
) -> Contents:
    """Take a whole workshop in, or nothing. SheetError tells why it cannot be."""
    written: list[str] = []
    try:
        with zipfile.ZipFile(file) as archive:
            tables = tables_of(connection)
            contents = look_into(archive, tables)
            done = _unpack_photos(archive, database, contents, written)
            progress(done)
            with transaction(connection):
                _refuse_filled(connection)
                for table in REPLACED:
                    connection.execute(f"DELETE FROM {table}")
                for table in tables:
                    done = _unpack_table(connection, archive, table, (contents, done, progress))
                if contents.in_hundredths:
                    for statement in script_of(MINOR_UNITS).split(";"):
                        connection.execute(statement)
                if contents.assumed_by_rule:
                    assumed_before.install(connection)
                    for statement in script_of(BY_SPREAD).split(";"):
                        connection.execute(statement)
                # An archive that counted blanks by hand; without any it finds nothing to do.
                for statement in script_of(COUNTED_BLANKS).split(";"):
                    connection.execute(statement)
                refuse_loose_ends(connection, contents)
                # An archive from before there were sundries: what every workshop has from its start is there.
                furnish(connection)
            return contents
    except UNREADABLE as error:
        _take_back(database, written)
        raise SheetError("the archive", "a zip file that is whole", str(error)[:80]) from None
    except BaseException:
        _take_back(database, written)
        raise


def _take_back(database: Path, written: list[str]) -> None:
    for digest in written:
        photos.file_of(database, digest).unlink(missing_ok=True)


def _unpack_photos(archive: zipfile.ZipFile, database: Path, contents: Contents, written: list[str]) -> int:
    for digest in contents.photographs:
        with archive.open(f"photos/{digest}.jpg") as entry:
            content = entry.read(photos.MOST_BYTES + 1)
        if len(content) > photos.MOST_BYTES or hashlib.sha256(content).hexdigest() != digest:
            raise SheetError(f"photograph {digest[:8]}…", "the picture its name says")
        photos.refuse_unclean(content)
        if not photos.file_of(database, digest).exists():
            written.append(digest)
        photos.keep_file(database, content)
    return len(contents.photographs)


def _unpack_table(
    connection: Connection,
    archive: zipfile.ZipFile,
    table: str,
    so_far: tuple[Contents, int, Progress],
) -> int:
    contents, done, progress = so_far
    names = columns_of(connection, table)
    values = ", ".join(f":{name}" for name in names)
    query = f"INSERT INTO {table} ({', '.join(names)}) VALUES ({values})"
    count = 0
    for count, row in enumerate(_rows(connection.model, archive, table, set(names)), 1):
        try:
            connection.execute(query, row)
        except (sqlite3.Error, OverflowError) as error:
            raise SheetError(
                f"{table}, row {count}", "a row that agrees with the others", str(error)
            ) from None
        if count % 500 == 0:
            progress(done + count)
    if count != contents.rows[table]:
        raise SheetError(table, f"{contents.rows[table]} rows as the manifest says", str(count))
    return done + count


def _rows(model: Model, archive: zipfile.ZipFile, table: str, names: set[str]) -> Iterator[dict[str, Json]]:
    if f"tables/{table}.jsonl" not in archive.namelist():
        return
    with archive.open(f"tables/{table}.jsonl") as file:
        number = 0
        while line := file.readline(LONGEST_LINE + 1):
            number += 1
            place = f"{table}, row {number}"
            if len(line) > LONGEST_LINE:
                raise SheetError(place, f"at most {LONGEST_LINE // 1_000_000} MB")
            try:
                row = json.loads(line)
            except (ValueError, RecursionError):
                raise SheetError(place, "a JSON object in one line") from None
            if isinstance(row, dict):
                row = {**{key: value for key, value in ADDED.get(table, {}).items() if key not in row}, **row}
            if not isinstance(row, dict) or set(row) != names:
                raise SheetError(place, f"the entries {', '.join(sorted(names))}")
            if any(isinstance(value, dict | list) for value in row.values()):
                raise SheetError(place, "plain values")
            refuse_unreadable(model, table, place, row)
            yield row
