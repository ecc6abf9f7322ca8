"""Parts as they are known, owned or not: add, read, change, take off, put back."""

import json
import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import Part
from marquetry.core.trade.terms import Terms
from marquetry.core.values.errors import NotFoundError, StaleVersionError
from marquetry.core.values.money import Money
from marquetry.store import readings
from marquetry.store.database import Connection, transaction
from marquetry.store.sheets import read_part

COLUMNS = """
    part.id, part.kind, part.name, part.sheet, part.notes, part.supplier_id, part.price_minor, part.currency,
    part.order_link, part.version, part.undo_to, supplier.name AS supplier
"""
TABLES = "part LEFT JOIN supplier ON supplier.id = part.supplier_id"


@dataclass(frozen=True, slots=True)
class StoredPart:
    """A part of the shelf or the catalogue as it is on disk."""

    id: int
    version: int
    part: Part
    terms: Terms
    can_undo: bool = False


def stored_part(connection: Connection, row: sqlite3.Row) -> StoredPart:
    """The part in a row of COLUMNS."""
    price = None if row["price_minor"] is None else Money(row["price_minor"], row["currency"])
    terms = Terms(row["notes"], row["supplier"] or "", price, row["order_link"])
    part = read_part(connection, row["kind"], row["sheet"])
    return StoredPart(row["id"], row["version"], part, terms, row["undo_to"] is not None)


def part(connection: Connection, number: int) -> StoredPart:
    """One part; NotFoundError where there is none or it was taken off."""
    row = connection.execute(
        f"SELECT {COLUMNS} FROM {TABLES} WHERE part.id = :id AND removed_at IS NULL", {"id": number}
    ).fetchone()
    if row is None:
        raise NotFoundError(f"part {number} on the shelf")
    return stored_part(connection, row)


def part_named(connection: Connection, kind: str, name: str) -> StoredPart | None:
    """The part of that kind and name, or None."""
    row = connection.execute(
        f"SELECT {COLUMNS} FROM {TABLES} WHERE part.kind = :kind AND part.name = :name AND removed_at IS NULL"
        " ORDER BY part.id LIMIT 1",
        {"kind": kind, "name": name},
    ).fetchone()
    return None if row is None else stored_part(connection, row)


def parts_of_kind(connection: Connection, kind: str, most: int) -> list[StoredPart]:
    """The parts in one drawer by their names, so many at the most."""
    rows = connection.execute(
        f"SELECT {COLUMNS} FROM {TABLES} WHERE part.kind = :kind AND removed_at IS NULL"
        " ORDER BY part.name, part.id LIMIT :most",
        {"kind": kind, "most": most},
    )
    return [stored_part(connection, row) for row in rows]


def numbers_of_kind(connection: Connection, kind: str) -> list[int]:
    """The numbers of the parts in one drawer by their names: for whoever steps through it."""
    query = "SELECT id FROM part WHERE kind = :kind AND removed_at IS NULL ORDER BY name, id"
    return [row["id"] for row in connection.execute(query, {"kind": kind})]


def add_part(connection: Connection, new: Part, terms: Terms | None = None) -> int:
    """Put a part into the catalogue and return its number; to be called within a transaction or alone."""
    terms = terms or Terms()
    values = values_of(connection, new, terms)
    cursor = connection.execute(
        """
        INSERT INTO part (kind, name, sheet, notes, supplier_id, price_minor, currency, order_link)
        VALUES (:kind, :name, :sheet, :notes, :supplier, :price, :currency, :link)
        """,
        {"kind": new.kind.key, **values},
    )
    number = int(cursor.lastrowid or 0)
    readings.note_changes(connection, "part", number, {}, new.dimensions)
    return number


def change_part(connection: Connection, number: int, based_on: int, new: Part, terms: Terms) -> StoredPart:
    """Save a part as changed; StaleVersionError, and nothing written, if `based_on` is not the newest."""
    with transaction(connection):
        write_part(connection, number, new, terms, based_on)
    return part(connection, number)


def write_part(
    connection: Connection, number: int, new: Part, terms: Terms, based_on: int | None = None
) -> None:
    """The same inside a transaction of the caller's."""
    before = part(connection, number)
    if based_on is not None and before.version != based_on:
        raise StaleVersionError(based_on, before.version, "part")
    _keep_past(connection, number)
    connection.execute(
        """
        UPDATE part SET name = :name, sheet = :sheet, notes = :notes, supplier_id = :supplier,
               price_minor = :price, currency = :currency, order_link = :link,
               undo_to = version, version = version + 1
         WHERE id = :id
        """,
        {"id": number, **values_of(connection, new, terms)},
    )
    readings.note_changes(connection, "part", number, before.part.dimensions, new.dimensions)


PAST = "part_id, version, name, sheet, notes, supplier_id, price_minor, currency, order_link, undo_to"


def _keep_past(connection: Connection, number: int) -> None:
    connection.execute(
        f"""
        INSERT OR REPLACE INTO part_past ({PAST})
        SELECT id, version, name, sheet, notes, supplier_id, price_minor, currency, order_link, undo_to
          FROM part WHERE id = :id
        """,
        {"id": number},
    )


def undo_part(connection: Connection, number: int, based_on: int) -> StoredPart:
    """Bring a part back as it was before its last edit, as a new version; without one, nothing happens."""
    with transaction(connection):
        before = part(connection, number)
        if before.version != based_on:
            raise StaleVersionError(based_on, before.version, "part")
        if before.can_undo:
            _keep_past(connection, number)
            connection.execute(
                """
                UPDATE part SET version = part.version + 1, name = past.name, sheet = past.sheet,
                       notes = past.notes, supplier_id = past.supplier_id, price_minor = past.price_minor,
                       currency = past.currency, order_link = past.order_link, undo_to = past.undo_to
                  FROM part_past AS past
                 WHERE part.id = :id AND past.part_id = :id AND past.version = part.undo_to
                """,
                {"id": number},
            )
            after = part(connection, number).part.dimensions
            readings.note_return(connection, "part", number, before.part.dimensions, after)
    return part(connection, number)


def remove_part(connection: Connection, number: int) -> None:
    """Take a part off the shelf and the catalogue; `restore_part` puts it back."""
    part(connection, number)
    connection.execute(
        "UPDATE part SET removed_at = strftime('%Y-%m-%dT%H:%M:%SZ', 'now') WHERE id = :id", {"id": number}
    )


def restore_part(connection: Connection, number: int) -> StoredPart:
    """Put a removed part back."""
    connection.execute("UPDATE part SET removed_at = NULL WHERE id = :id", {"id": number})
    return part(connection, number)


def supplier_number(connection: Connection, name: str, currency: str = "EUR") -> int | None:
    """The supplier of that name, added where there is none yet; None for no name."""
    if not name.strip():
        return None
    row = connection.execute("SELECT id FROM supplier WHERE name = :name", {"name": name.strip()}).fetchone()
    if row is not None:
        return int(row["id"])
    cursor = connection.execute(
        "INSERT INTO supplier (name, currency) VALUES (:name, :currency)",
        {"name": name.strip(), "currency": currency or "EUR"},
    )
    return int(cursor.lastrowid or 0)


def suppliers(connection: Connection) -> list[str]:
    """Names of all suppliers."""
    return [row["name"] for row in connection.execute("SELECT name FROM supplier ORDER BY name")]


def sheet_text(document: Mapping[str, Json]) -> str:
    """A part's document as it is stored."""
    return json.dumps(document, ensure_ascii=False, separators=(",", ":"), allow_nan=False)


def values_of(connection: Connection, new: Part, terms: Terms) -> dict[str, object]:
    """A part's columns as they are stored; its supplier is added where there is none of that name."""
    currency = terms.price.currency if terms.price else ""
    return {
        "name": new.name,
        "sheet": sheet_text(new.document),
        "notes": terms.notes,
        "supplier": supplier_number(connection, terms.supplier, currency),
        "price": terms.price.minor if terms.price else None,
        "currency": currency,
        "link": terms.order_link,
    }
