"""Watches kept as families: what others of their kind begin from."""

import sqlite3
from dataclasses import dataclass

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import as_family, usual_watch
from marquetry.core.sheet.ready_families import READY
from marquetry.core.values.errors import MarquetryError, NotFoundError, SheetError
from marquetry.store.database import Connection
from marquetry.store.sheets import read_sheet, sheet_text

MOST_FAMILIES = 40


@dataclass(frozen=True, slots=True)
class KeptFamily:
    """A family as it is on disk: every dimension of its watch assumed."""

    id: int
    build: Build

    @property
    def name(self) -> str:
        """What it is called."""
        return self.build.name


def families(connection: Connection) -> list[KeptFamily]:
    """Those that can be read, in the order they were kept."""
    rows = connection.execute("SELECT id, sheet FROM family WHERE removed_at IS NULL ORDER BY id")
    return [kept for row in rows if (kept := _kept(connection, row)) is not None]


def _kept(connection: Connection, row: sqlite3.Row) -> KeptFamily | None:
    try:
        return KeptFamily(row["id"], read_sheet(connection, row["sheet"]))
    except MarquetryError:
        return None


def usual_watches(connection: Connection) -> list[Build]:
    """A watch of each family, ready ones first."""
    anatomy = connection.model.anatomy
    return [*(usual_watch(ready, anatomy) for ready in READY), *(kept.build for kept in families(connection))]


def family(connection: Connection, number: int) -> KeptFamily:
    """One family; NotFoundError where there is none of that number."""
    found = next((kept for kept in families(connection) if kept.id == number), None)
    if found is None:
        raise NotFoundError(f"family {number}")
    return found


def keep(connection: Connection, build: Build, name: str) -> int:
    """Keep a watch as a family under a name; SheetError where there are as many as a page shows."""
    if len(families(connection)) >= MOST_FAMILIES:
        raise SheetError("family", f"at most {MOST_FAMILIES} families; let go of one first")
    kept = as_family(build).renamed(name)
    cursor = connection.execute(
        "INSERT INTO family (name, sheet) VALUES (:name, :sheet)",
        {"name": name, "sheet": sheet_text(connection, kept)},
    )
    return int(cursor.lastrowid or 0)


def let_go(connection: Connection, number: int) -> None:
    """Offer a family no more; watches begun from it stay as they are."""
    changed = connection.execute(
        """
        UPDATE family SET removed_at = strftime('%Y-%m-%dT%H:%M:%SZ', 'now')
         WHERE id = :id AND removed_at IS NULL
        """,
        {"id": number},
    )
    if changed.rowcount == 0:
        raise NotFoundError(f"family {number}")
