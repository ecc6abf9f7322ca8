"""A whole workshop in one file, `marquetry-workshop/1`: JSON lines by table, and the photographs, in a zip.

Its schema stands in docs/formats.md. It goes out complete and comes into an empty workshop only, all of it
or none; what went out once comes out again byte for byte.
"""

import hashlib
import json
import re
import sqlite3
import zipfile
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import IO

from marquetry.core.fit.model import Model
from marquetry.core.fit.report import report_on
from marquetry.core.measuring.instrument import WAYS
from marquetry.core.sheet.build import Build, Json
from marquetry.core.sheet.part import Part
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.store import photos
from marquetry.store.database import Connection, transaction

FORMAT = "marquetry-workshop/1"
TABLES = (
    "supplier", "watch", "revision", "variant", "house_rule", "instrument",
    "donor", "part", "part_past", "piece", "in_watch", "move", "reading", "photo",
)  # fmt: skip
"""In the order in which they may be filled."""
ADDED: Mapping[str, Mapping[str, Json]] = {
    "piece": {"version": 1},
    "part": {"undo_to": None, "waits_for": None},
}
"""Entries that later versions brought: an older archive has none, and gets these."""
LATER = ("part_past",)
"""Tables that an older archive has not."""
REPLACED = ("house_rule", "instrument")
"""What every workshop has from its start; an empty one may have them."""
MANIFEST = "manifest.json"
PHOTO = re.compile(r"photos/([0-9a-f]{64})\.jpg")
MOST_BYTES = 500_000_000
MOST_UNPACKED = 2_000_000_000
LONGEST_LINE = 2_000_000
MOST_ENTRIES = 20_000
STILL = (2000, 1, 1, 0, 0, 0)
"""The date of every entry: the same workshop gives the same file."""

Progress = Callable[[int], None]


def pack(connection: Connection, database: Path, file: IO[bytes]) -> None:
    """Write the workshop as it is at one moment."""
    connection.execute("BEGIN")
    try:
        with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
            counts = {table: _pack_table(connection, archive, table) for table in TABLES}
            query = "SELECT DISTINCT digest FROM photo ORDER BY digest"
            digests = [row[0] for row in connection.execute(query)]
            there = [digest for digest in digests if photos.file_of(database, digest).exists()]
            for digest in there:
                with archive.open(_entry(f"photos/{digest}.jpg"), "w") as out:
                    out.write(photos.file_of(database, digest).read_bytes())
            manifest: dict[str, Json] = {"format": FORMAT, "rows": counts, "photographs": len(there)}
            if len(there) < len(digests):
                manifest["missing_photographs"] = sorted(set(digests) - set(there))
            archive.writestr(_entry(MANIFEST), json.dumps(manifest, indent=1) + "\n")
    finally:
        connection.execute("ROLLBACK")


def counts(connection: Connection) -> dict[str, int]:
    """How many rows of each table the workshop would go out with."""
    return {table: int(connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0]) for table in TABLES}


def _entry(name: str) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name, STILL)
    entry.compress_type = zipfile.ZIP_DEFLATED
    return entry


def _pack_table(connection: Connection, archive: zipfile.ZipFile, table: str) -> int:
    names = ", ".join(columns_of(connection, table))
    count = 0
    with archive.open(_entry(f"tables/{table}.jsonl"), "w", force_zip64=True) as out:
        for row in connection.execute(f"SELECT {names} FROM {table} ORDER BY {_key(connection, table)}"):
            out.write(json.dumps(dict(row), ensure_ascii=False, separators=(",", ":")).encode() + b"\n")
            count += 1
    return count


def columns_of(connection: Connection, table: str) -> list[str]:
    """The table's own columns; computed ones are left out."""
    return [row["name"] for row in connection.execute(f"PRAGMA table_info({table})")]


def _key(connection: Connection, table: str) -> str:
    rows = [row for row in connection.execute(f"PRAGMA table_info({table})") if row["pk"]]
    return ", ".join(row["name"] for row in sorted(rows, key=lambda row: row["pk"]))


@dataclass(frozen=True, slots=True)
class Contents:
    """What an archive says it holds."""

    rows: dict[str, int]
    photographs: tuple[str, ...]
    lost: frozenset[str] = frozenset()

    @property
    def steps(self) -> int:
        """Steps that taking it in will be told in."""
        return sum(self.rows.values()) + len(self.photographs)


def look_into(archive: zipfile.ZipFile) -> Contents:
    """Check names and sizes before anything is read. SheetError where it is no workshop of ours."""
    entries = archive.infolist()
    names = [entry.filename for entry in entries]
    allowed = {MANIFEST, *(f"tables/{table}.jsonl" for table in TABLES)}
    strange = [name for name in names if name not in allowed and not PHOTO.fullmatch(name)]
    if strange or len(set(names)) != len(names) or len(names) > MOST_ENTRIES:
        raise SheetError(
            "the archive", "a workshop's tables and photographs only", f"“{(strange or names)[0][:60]}”"
        )
    if any(entry.flag_bits & 1 for entry in entries):
        raise SheetError("the archive", "an archive without a password")
    unpacked = sum(entry.file_size for entry in entries)
    if unpacked > MOST_UNPACKED:
        raise SheetError("the archive", "at most 2 GB when unpacked", f"{unpacked / 1e9:.1f} GB")
    manifest = _manifest(archive) if MANIFEST in names else {}
    if manifest.get("format") != FORMAT:
        raise SheetError(
            "the archive", f'a manifest of the format "{FORMAT}"', str(manifest.get("format"))[:40]
        )
    rows = {table: _count(manifest, table) for table in TABLES}
    lacking = [t for t in TABLES if f"tables/{t}.jsonl" not in names and not (t in LATER and not rows[t])]
    if lacking:
        raise SheetError("the archive", "every table of a workshop", f"no {lacking[0]}")
    return Contents(
        rows, tuple(match[1] for name in names if (match := PHOTO.fullmatch(name))), _missing(manifest)
    )


def _missing(manifest: dict[str, Json]) -> frozenset[str]:
    """Digests of photographs that the archive says were lost before it was made."""
    found = manifest.get("missing_photographs", [])
    if not isinstance(found, list) or not all(isinstance(digest, str) for digest in found):
        raise SheetError(MANIFEST, "a list of the photographs that were missing")
    return frozenset(found)


def steps_in(file: IO[bytes]) -> int:
    """Steps that taking the archive in will be told in; 0 where that cannot be said yet."""
    try:
        with zipfile.ZipFile(file) as archive:
            return look_into(archive).steps
    except (MarquetryError, zipfile.BadZipFile, OSError, NotImplementedError):
        return 0
    finally:
        file.seek(0)


def _manifest(archive: zipfile.ZipFile) -> dict[str, Json]:
    with archive.open(MANIFEST) as file:
        text = file.read(LONGEST_LINE)
    try:
        found = json.loads(text)
    except (ValueError, RecursionError):
        raise SheetError(MANIFEST, "JSON") from None
    return found if isinstance(found, dict) else {}


def _count(manifest: dict[str, Json], table: str) -> int:
    rows = manifest.get("rows")
    if isinstance(rows, dict) and table in LATER and table not in rows:
        return 0
    count = rows.get(table) if isinstance(rows, dict) else None
    if not isinstance(count, int) or count < 0:
        raise SheetError(MANIFEST, f"the number of rows in {table}")
    return count


def is_empty(connection: Connection) -> bool:
    """Whether the workshop holds nothing that could be lost."""
    held = [table for table in TABLES if table not in REPLACED]
    return not any(connection.execute(f"SELECT 1 FROM {table} LIMIT 1").fetchone() for table in held)


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
            contents = look_into(archive)
            done = _unpack_photos(archive, database, contents, written)
            progress(done)
            with transaction(connection):
                _refuse_filled(connection)
                for table in REPLACED:
                    connection.execute(f"DELETE FROM {table}")
                for table in TABLES:
                    done = _unpack_table(connection, archive, table, (contents, done, progress))
                _refuse_loose_ends(connection, contents)
            return contents
    except (zipfile.BadZipFile, zipfile.LargeZipFile, EOFError, NotImplementedError, OSError) as error:
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
            _refuse_unreadable(model, table, place, row)
            yield row


def _refuse_unreadable(model: Model, table: str, place: str, row: dict[str, Json]) -> None:
    """Raise SheetError where a page would later meet something that it cannot show."""
    try:
        if table in {"revision", "variant", "donor"}:
            build = Build(json.loads(row["sheet"]), model.anatomy)
            model.rules_of(build).check_all()
            if table == "donor":
                report_on(build, model.rules_of(build))
        elif table in {"part", "part_past"} and "kind" in row:
            Part.of(model.anatomy.kind(row["kind"]), json.loads(row["sheet"]))
        elif table == "reading":
            Dimension(row["value"], row["tol"], Source(row["source"]))
            json.loads(row["taken"])
        elif table == "house_rule":
            model.rules({row["key"]: json.loads(row["value"])}).check(row["key"])
        elif table == "instrument" and not set(json.loads(row["ways"])) <= set(WAYS):
            raise SheetError("ways", f"some of {', '.join(WAYS)}")  # told with its place below
    except (MarquetryError, ValueError, TypeError, RecursionError) as error:
        raise SheetError(place, "what this program can read", str(error)[:160]) from None


WRONG: Mapping[str, str] = {
    "a day as 2026-11-25T12:00:00Z": """
        SELECT 'day' FROM (
            SELECT saved_at AS day FROM revision UNION ALL SELECT made_at FROM variant
            UNION ALL SELECT taken_apart_at FROM donor UNION ALL SELECT added_at FROM part
            UNION ALL SELECT at FROM move UNION ALL SELECT at FROM reading UNION ALL SELECT at FROM photo
            UNION ALL SELECT removed_at FROM watch WHERE removed_at IS NOT NULL
            UNION ALL SELECT removed_at FROM part WHERE removed_at IS NOT NULL)
         WHERE strftime('%Y-%m-%dT%H:%M:%SZ', day, '+0 days') IS NOT day LIMIT 1
    """,
    "an undo or redo to a version that is there": """
        SELECT 'revision' FROM revision
         WHERE (undo_to IS NOT NULL AND NOT EXISTS (SELECT 1 FROM revision AS o
                 WHERE o.watch_id = revision.watch_id AND o.version = revision.undo_to))
            OR (redo_to IS NOT NULL AND NOT EXISTS (SELECT 1 FROM revision AS o
                 WHERE o.watch_id = revision.watch_id AND o.version = revision.redo_to)) LIMIT 1
    """,
    "a piece in a watch that is on the shelf's books": """
        SELECT 'in_watch' FROM in_watch JOIN piece ON piece.id = piece_id WHERE state <> 'shelf' LIMIT 1
    """,
    "an owner for every reading": """
        SELECT 'reading' FROM reading
         WHERE (owner = 'watch' AND owner_id NOT IN (SELECT id FROM watch))
            OR (owner = 'part' AND owner_id NOT IN (SELECT id FROM part))
            OR (owner = 'piece' AND owner_id NOT IN (SELECT id FROM piece)) LIMIT 1
    """,
    "an owner for every photograph": """
        SELECT 'photo' FROM photo
         WHERE (owner = 'watch' AND owner_id NOT IN (SELECT id FROM watch))
            OR (owner = 'part' AND owner_id NOT IN (SELECT id FROM part))
            OR (owner = 'piece' AND owner_id NOT IN (SELECT id FROM piece))
            OR (owner = 'donor' AND owner_id NOT IN (SELECT id FROM donor)) LIMIT 1
    """,
    "pieces where the newest sheet of their watch has them": """
        SELECT 'in_watch' FROM in_watch
          JOIN watch ON watch.id = in_watch.watch_id
          JOIN revision ON revision.watch_id = watch.id AND revision.version = watch.version
         WHERE coalesce(json_extract(sheet, '$.parts.' || CASE
                   WHEN slot GLOB '*.[0-9]*' THEN replace(slot, '.', '[') || ']' ELSE slot END
                   || '.shelf_piece'), -1) <> piece_id LIMIT 1
    """,
}
"""What may not be in a workshop, each with the query that finds it."""


def _refuse_wrong_links(connection: Connection) -> None:
    """Raise SheetError where rows say of each other what cannot be."""
    for expected, query in WRONG.items():
        found = connection.execute(query).fetchone()
        if found is not None:
            raise SheetError(found[0], expected)


def _refuse_loose_ends(connection: Connection, contents: Contents) -> None:
    """Raise SheetError where rows name what is not there: pictures, or owners of readings."""
    wanted = {row[0] for row in connection.execute("SELECT DISTINCT digest FROM photo")}
    if wanted - contents.lost != set(contents.photographs):
        raise SheetError("photographs", "a picture for every row and a row for every picture")
    _refuse_wrong_links(connection)
    broken = connection.execute("PRAGMA foreign_key_check").fetchone()
    if broken is not None:
        raise SheetError(broken[0], "rows that name only what is there")
    for piece in connection.execute(
        "SELECT piece.id, kind, piece.sheet FROM piece JOIN part ON part.id = part_id"
        " WHERE piece.sheet IS NOT NULL"
    ):
        _refuse_unreadable(
            connection.model, "part", f"piece {piece['id']}", {"kind": piece["kind"], "sheet": piece["sheet"]}
        )
