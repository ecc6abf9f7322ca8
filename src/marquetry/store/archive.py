"""A whole workshop in one file, `marquetry-workshop/1`: JSON lines by table, and the photographs, in a zip.

Its schema stands in web/handbook/pages/65-formats.md. It goes out complete, but for what `LEFT_OUT` and
`ROWS` name, and comes into an empty workshop only, all of it or none; what went out once comes out again
byte for byte.
"""

import json
import re
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import IO

from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.store import photos
from marquetry.store.database import Connection
from marquetry.store.migrating import BY_SPREAD, HELD

FORMAT = "marquetry-workshop/1"
ORDER = (
    "supplier", "watch", "revision", "variant", "house_rule", "instrument", "donor", "part", "part_past",
    "sundry", "supply_order", "supply_line", "supply_step", "piece", "in_watch", "move", "reading", "photo",
    "family", "wish", "sign_off", "made_version", "made_reading", "batch", "batch_step", "blank",
    "blank_stage", "finish_trial",
    "offer", "rate", "trade_setting", "booking", "quote", "series", "series_number", "stock_taking",
    "stock_counted", "bench_entry", "lesson", "lesson_turn", "bench_setting", "proof", "story_note", "fate",
    "spec_card", "rehearsal", "rehearsal_move", "supplier_sender", "supplier_label", "beside_part",
)  # fmt: skip
"""In the order in which they may be filled; a table that is not named here comes after these, by its name."""
LEFT_OUT: Mapping[str, str] = {
    "access": "the passphrase: it belongs to the door of this machine",
    "left_session": "sessions that were left at that door",
    "import_row": "rows of a file that is half read: the file is brought in again",
    "sent_form": "keys of forms that pages of this file showed",
    "table_change": "how often each table was written to, which is true of this file alone",
    "migration": "which migrations made this file; the file it is brought into has its own",
}
"""Tables that stay behind, each with why. Every other table of the schema goes along."""
WAITING_PARTS = "SELECT id FROM part WHERE waits_for IS NOT NULL"
WAITING_PIECES = f"SELECT id FROM piece WHERE part_id IN ({WAITING_PARTS})"
ROWS: Mapping[str, str] = {
    "import": "state IN ('done', 'failed')",
    "part": "waits_for IS NULL",
    "part_past": f"part_id NOT IN ({WAITING_PARTS})",
    "piece": f"part_id NOT IN ({WAITING_PARTS})",
    "move": f"piece_id NOT IN ({WAITING_PIECES})",
    "reading": f"NOT (owner = 'part' AND owner_id IN ({WAITING_PARTS}))"
    f" AND NOT (owner = 'piece' AND owner_id IN ({WAITING_PIECES}))",
}
"""What of a table goes along, where not all does: a file that is half read stays, and what hangs on it."""
ADDED: Mapping[str, Mapping[str, Json]] = {
    "piece": {
        "version": 1, "line_id": None, "line_place": None, "sold_minor": None, "sold_currency": "", "weight":
        None, "went_with": None,
    },
    "supplier": {
        "postage_minor": 0, "free_over_minor": None, "minimum_minor": None, "duty_percent": "0", "days": 14,
        "up_to": None, "version": 1,
    },
    "part": {"undo_to": None, "waits_for": None},
    "pasted": {"decided": "{}"},
    "finish_trial": {"blank_id": None},
}  # fmt: skip
"""Entries that later versions brought: an older archive has none, and gets these."""
FIRST = frozenset({
    "supplier", "watch", "revision", "variant", "house_rule", "instrument", "donor", "part", "piece",
    "in_watch", "move", "reading", "photo",
})  # fmt: skip
"""Tables that every archive has; an older one need not have any other."""
REPLACED = ("house_rule", "instrument", "sundry", "bench_setting", "import")
"""What every workshop has from its start, and files that failed to come in; an empty one may have them."""
MANIFEST = "manifest.json"
PHOTO = re.compile(r"photos/([0-9a-f]{64})\.jpg")
MOST_BYTES = 500_000_000
MOST_UNPACKED = 2_000_000_000
LONGEST_LINE = 2_000_000
MOST_ENTRIES = 20_000
STILL = (2000, 1, 1, 0, 0, 0)
"""The date of every entry: the same workshop gives the same file."""


def pack(connection: Connection, database: Path, file: IO[bytes]) -> None:
    """Write the workshop as it is at one moment."""
    connection.execute("BEGIN")
    try:
        with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
            counts = {table: _pack_table(connection, archive, table) for table in tables_of(connection)}
            query = "SELECT DISTINCT digest FROM photo ORDER BY digest"
            digests = [row[0] for row in connection.execute(query)]
            there = [digest for digest in digests if photos.file_of(database, digest).exists()]
            for digest in there:
                with archive.open(_entry(f"photos/{digest}.jpg"), "w") as out:
                    out.write(photos.file_of(database, digest).read_bytes())
            manifest: dict[str, Json] = {
                "format": FORMAT,
                "assumed": BY_SPREAD,
                "rows": counts,
                "photographs": len(there),
            }
            if len(there) < len(digests):
                manifest["missing_photographs"] = sorted(set(digests) - set(there))
            archive.writestr(_entry(MANIFEST), json.dumps(manifest, indent=1) + "\n")
    finally:
        connection.execute("ROLLBACK")


def tables_of(connection: Connection) -> list[str]:
    """Every table that goes along, read from the schema, in the order in which they may be filled."""
    there = {row[0] for row in connection.execute(HELD)} - LEFT_OUT.keys()
    return [*(table for table in ORDER if table in there), *sorted(there - set(ORDER))]


def _of(table: str) -> str:
    """The table with what of it goes along, as a query names it."""
    return f"{table} WHERE {ROWS[table]}" if table in ROWS else table


def counts(connection: Connection) -> dict[str, int]:
    """How many rows of each table the workshop would go out with."""
    return {
        table: int(connection.execute(f"SELECT count(*) FROM {_of(table)}").fetchone()[0])
        for table in tables_of(connection)
    }


def _entry(name: str) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name, STILL)
    entry.compress_type = zipfile.ZIP_DEFLATED
    return entry


def _pack_table(connection: Connection, archive: zipfile.ZipFile, table: str) -> int:
    names = ", ".join(columns_of(connection, table))
    count = 0
    with archive.open(_entry(f"tables/{table}.jsonl"), "w", force_zip64=True) as out:
        for row in connection.execute(f"SELECT {names} FROM {_of(table)} ORDER BY {_key(connection, table)}"):
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
    in_hundredths: bool = False
    """Its sums are hundredths of any currency, as they were before orders were kept."""
    assumed_by_rule: bool = False
    """What its sheets assume carries a tolerance by the older rule, not the spread of its dimension."""

    @property
    def steps(self) -> int:
        """Steps that taking it in will be told in."""
        return sum(self.rows.values()) + len(self.photographs)


def look_into(archive: zipfile.ZipFile, tables: Sequence[str]) -> Contents:
    """Check names and sizes before anything is read. SheetError where it is no workshop of these tables."""
    entries = archive.infolist()
    names = [entry.filename for entry in entries]
    allowed = {MANIFEST, *(f"tables/{table}.jsonl" for table in tables)}
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
    rows = {table: _count(manifest, table) for table in tables}
    lacking = [t for t in tables if f"tables/{t}.jsonl" not in names and not (t not in FIRST and not rows[t])]
    if lacking:
        raise SheetError("the archive", "every table of a workshop", f"no {lacking[0]}")
    return Contents(
        rows,
        tuple(match[1] for name in names if (match := PHOTO.fullmatch(name))),
        _missing(manifest),
        "supply_order" not in manifest["rows"],
        manifest.get("assumed") != BY_SPREAD,
    )


def _missing(manifest: dict[str, Json]) -> frozenset[str]:
    """Digests of photographs that the archive says were lost before it was made."""
    found = manifest.get("missing_photographs", [])
    if not isinstance(found, list) or not all(isinstance(digest, str) for digest in found):
        raise SheetError(MANIFEST, "a list of the photographs that were missing")
    return frozenset(found)


def steps_in(connection: Connection, file: IO[bytes]) -> int:
    """Steps that taking the archive in will be told in; 0 where that cannot be said yet."""
    try:
        with zipfile.ZipFile(file) as archive:
            return look_into(archive, tables_of(connection)).steps
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
    if isinstance(rows, dict) and table not in FIRST and table not in rows:
        return 0
    count = rows.get(table) if isinstance(rows, dict) else None
    if not isinstance(count, int) or count < 0:
        raise SheetError(MANIFEST, f"the number of rows in {table}")
    return count


def is_empty(connection: Connection) -> bool:
    """Whether the workshop holds nothing that could be lost."""
    held = [table for table in tables_of(connection) if table not in REPLACED]
    half_read = connection.execute("SELECT 1 FROM import WHERE state NOT IN ('done', 'failed')").fetchone()
    return not half_read and not any(
        connection.execute(f"SELECT 1 FROM {table} LIMIT 1").fetchone() for table in held
    )
