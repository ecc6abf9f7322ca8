"""Other ways a watch could be built, kept beside it to be compared."""

import sqlite3
from dataclasses import dataclass

from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import MarquetryError, NotFoundError, SheetError
from marquetry.store.database import Connection
from marquetry.store.sheets import Unreadable, read_sheet, sheet_text

MOST_VARIANTS = 3
"""With the watch itself, four columns: as many as can be read side by side."""


@dataclass(frozen=True, slots=True)
class Variant:
    """A variant as it is on disk."""

    id: int
    name: str
    build: Build
    made_at: str


def variants_of(connection: Connection, watch_id: int) -> list[Variant]:
    """The variants of a watch that can be read, in the order they were made."""
    return [found for found in variants_or_faults(connection, watch_id) if isinstance(found, Variant)]


def variants_or_faults(connection: Connection, watch_id: int) -> list[Variant | Unreadable]:
    """The same, with those that cannot be read told as that."""
    rows = connection.execute(
        "SELECT id, name, sheet, made_at FROM variant WHERE watch_id = :id ORDER BY id", {"id": watch_id}
    )
    return [_variant(connection, row) for row in rows]


def _variant(connection: Connection, row: sqlite3.Row) -> Variant | Unreadable:
    try:
        return Variant(row["id"], row["name"], read_sheet(connection, row["sheet"]), row["made_at"])
    except MarquetryError as error:
        return Unreadable(row["id"], row["name"], str(error))


def variant(connection: Connection, watch_id: int, number: int) -> Variant:
    """One variant; NotFoundError where this watch has none of that number."""
    found = next((v for v in variants_of(connection, watch_id) if v.id == number), None)
    if found is None:
        raise NotFoundError(f"variant {number} of this watch")
    return found


def add_variant(connection: Connection, watch_id: int, name: str, build: Build) -> None:
    """Keep a build as a variant; SheetError where the watch has as many as can be compared."""
    if len(variants_or_faults(connection, watch_id)) >= MOST_VARIANTS:
        raise SheetError("variant", f"at most {MOST_VARIANTS} beside the watch; remove one first")
    connection.execute(
        "INSERT INTO variant (watch_id, name, sheet) VALUES (:watch, :name, :sheet)",
        {"watch": watch_id, "name": name, "sheet": sheet_text(connection, build)},
    )


def remove_variant(connection: Connection, watch_id: int, number: int) -> None:
    """Forget a variant."""
    query = "DELETE FROM variant WHERE id = :id AND watch_id = :watch"
    if connection.execute(query, {"id": number, "watch": watch_id}).rowcount == 0:
        raise NotFoundError(f"variant {number} of this watch")
