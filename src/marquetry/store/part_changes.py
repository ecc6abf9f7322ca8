"""Many parts changed in one short step: laid ready where no lock is held, then written by a few statements.

A part at a time 8,000 changes hold the writer's lock for three seconds, and a tap at the bench waits for it.
"""

from collections.abc import Iterable

from marquetry.core.sheet.part import Part
from marquetry.core.trade.terms import Terms
from marquetry.core.values.errors import StaleVersionError
from marquetry.store.database import Connection
from marquetry.store.shelf import PAST, StoredPart, values_of

READY = """
    CREATE TEMP TABLE IF NOT EXISTS part_ready (
        id INTEGER PRIMARY KEY, version INTEGER, name TEXT, sheet TEXT, notes TEXT, supplier INTEGER,
        price INTEGER, currency TEXT, link TEXT)
"""
LAY_READY = """
    INSERT INTO part_ready
    VALUES (:id, :version, :name, :sheet, :notes, :supplier, :price, :currency, :link)
"""
READINGS_READY = """
    CREATE TEMP TABLE IF NOT EXISTS reading_ready (id INTEGER, path TEXT, value REAL, tol REAL, source TEXT)
"""
STALE = """
    SELECT part_ready.version AS based_on, part.version FROM part_ready JOIN part USING (id)
     WHERE part.version <> part_ready.version LIMIT 1
"""
KEEP_PAST = f"""
    INSERT OR REPLACE INTO part_past ({PAST})
    SELECT id, version, name, sheet, notes, supplier_id, price_minor, currency, order_link, undo_to
      FROM part WHERE id IN (SELECT id FROM part_ready)
"""
WRITE = """
    UPDATE part SET name = ready.name, sheet = ready.sheet, notes = ready.notes, supplier_id = ready.supplier,
           price_minor = ready.price, currency = ready.currency, order_link = ready.link,
           undo_to = part.version, version = part.version + 1
      FROM part_ready AS ready WHERE part.id = ready.id
"""
WRITE_READINGS = """
    INSERT INTO reading (owner, owner_id, path, value, tol, source)
    SELECT 'part', id, path, value, tol, source FROM reading_ready ORDER BY rowid
"""


class PartChanges:
    """Changes to parts that wait, in tables of this connection alone, for one step that writes them all."""

    def __init__(self, connection: Connection) -> None:
        self._connection = connection
        for query in (READY, READINGS_READY, "DELETE FROM part_ready", "DELETE FROM reading_ready"):
            connection.execute(query)

    def lay_ready(self, changes: Iterable[tuple[StoredPart, Part, Terms]]) -> None:
        """Keep each part as it was found with what it is to become."""
        parts, readings = [], []
        for before, new, terms in changes:
            values = values_of(self._connection, new, terms)
            parts.append({"id": before.id, "version": before.version, **values})
            readings += [
                (before.id, path, dimension.value, dimension.tol, dimension.source.value)
                for path, dimension in new.dimensions.items()
                if before.part.dimensions.get(path) != dimension
            ]
        self._connection.executemany(LAY_READY, parts)
        self._connection.executemany("INSERT INTO reading_ready VALUES (?, ?, ?, ?, ?)", readings)

    def write(self) -> None:
        """Write them all, in the caller's transaction. StaleVersionError where one was changed meanwhile."""
        stale = self._connection.execute(STALE).fetchone()
        if stale is not None:
            raise StaleVersionError(stale["based_on"], stale["version"], "part")
        for query in (KEEP_PAST, WRITE, WRITE_READINGS):
            self._connection.execute(query)
