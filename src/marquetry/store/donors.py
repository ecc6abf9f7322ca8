"""Donor watches: taken apart in the records, every part a piece with its origin."""

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from marquetry.core.build import Build
from marquetry.core.errors import NotFoundError
from marquetry.core.money import Money
from marquetry.core.part import Part, parts_of
from marquetry.store import shelf
from marquetry.store.database import transaction
from marquetry.store.pieces import Stock, add_piece


@dataclass(frozen=True, slots=True)
class Donor:
    """A donor as it is on disk; `build` is what it was before it was taken apart."""

    id: int
    name: str
    build: Build
    paid: Money | None
    notes: str
    taken_apart_at: str


def all_donors(connection: sqlite3.Connection) -> list[Donor]:
    """Every donor, the newest first."""
    return [_donor(row) for row in connection.execute("SELECT * FROM donor ORDER BY id DESC")]


def donor(connection: sqlite3.Connection, number: int) -> Donor:
    """One donor; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM donor WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"donor {number}")
    return _donor(row)


def take_apart(connection: sqlite3.Connection, build: Build, paid: Money | None, notes: str = "") -> int:
    """Record a donor and make a piece of each of its parts, all or nothing; return the donor's number.

    What was paid is shared out among the pieces, the last bearing what does not divide.
    """
    with transaction(connection):
        cursor = connection.execute(
            """
            INSERT INTO donor (name, sheet, paid_minor, currency, notes)
            VALUES (:name, :sheet, :paid, :currency, :notes)
            """,
            {
                "name": build.name,
                "sheet": shelf.sheet_text(build.document),
                "paid": paid.minor if paid else None,
                "currency": paid.currency if paid else "",
                "notes": notes,
            },
        )
        number = int(cursor.lastrowid or 0)
        parts = [Part.of(kind, document) for _, kind, document in parts_of(build)]
        for part, share in zip(parts, shares(paid, len(parts)), strict=True):
            stock = Stock(place=f"Tray of {build.name}"[:80], condition="used", paid=share)
            add_piece(connection, _part_for(connection, part, build.name), stock, number)
    return number


def shares(paid: Money | None, count: int) -> Sequence[Money | None]:
    """The price in equal parts that add up to it."""
    if paid is None or count == 0:
        return [None] * count
    each = paid.minor // count
    return [Money(each, paid.currency)] * (count - 1) + [
        Money(paid.minor - each * (count - 1), paid.currency)
    ]


def _part_for(connection: sqlite3.Connection, part: Part, donor_name: str) -> int:
    """The catalogue's part that this one is, added where it is new."""
    known = shelf.part_named(connection, part.kind.key, part.name)
    if known is not None and known.part.document == part.document:
        return known.id
    if known is not None or "name" not in part.document:
        document = {**part.document, "name": f"{part.name}, out of {donor_name}"[:120]}
        part = Part.of(part.kind, document)
    return shelf.add_part(connection, part)


def _donor(row: sqlite3.Row) -> Donor:
    paid = None if row["paid_minor"] is None else Money(row["paid_minor"], row["currency"])
    build = Build(json.loads(row["sheet"]))
    return Donor(row["id"], row["name"], build, paid, row["notes"], row["taken_apart_at"])
