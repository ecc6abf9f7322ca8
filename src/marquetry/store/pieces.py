"""Owned pieces: where each is, what is told of it, and what became of it."""

import sqlite3
from dataclasses import dataclass
from typing import Literal

from marquetry.core.sheet.part import Part
from marquetry.core.values.errors import NotFoundError, StaleVersionError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import shelf
from marquetry.store.database import Connection, transaction
from marquetry.store.sheets import read_part

State = Literal["shelf", "scrapped", "returned", "sold"]
CONDITIONS = ("new", "used", "worn", "faulty")
MANY_FITTINGS = 2
"""A hand fitted this often may no longer grip."""


@dataclass(frozen=True, slots=True)
class Stock:
    """What is told of a piece besides its description."""

    place: str = ""
    condition: str = "new"
    fault: str = ""
    paid: Money | None = None
    supplier: str = ""
    kept_for: int | None = None


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece as it is on disk. `watch_id` and `slot` where it is in a watch."""

    id: int
    version: int
    part_id: int
    kind: str
    name: str
    part: Part
    own_sheet: bool
    state: State
    stock: Stock
    fittings: int
    donor_id: int | None
    donor: str
    watch_id: int | None
    slot: str
    line_id: int | None = None
    sold: Money | None = None


@dataclass(frozen=True, slots=True)
class Move:
    """One step of a piece's history."""

    what: str
    at: str


QUERY = """
    SELECT piece.*, part.kind, part.name, coalesce(piece.sheet, part.sheet) AS described,
           supplier.name AS supplier, donor.name AS donor, in_watch.watch_id, in_watch.slot
      FROM piece JOIN part ON part.id = piece.part_id
      LEFT JOIN supplier ON supplier.id = piece.supplier_id
      LEFT JOIN donor ON donor.id = piece.donor_id
      LEFT JOIN in_watch ON in_watch.piece_id = piece.id
"""


def piece(connection: Connection, number: int) -> Piece:
    """One piece; NotFoundError where there is none."""
    row = connection.execute(f"{QUERY} WHERE piece.id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"piece {number}")
    return piece_in(connection, row)


def pieces_of_part(connection: Connection, part_id: int) -> list[Piece]:
    """Every piece of a part, those on the shelf first."""
    rows = connection.execute(
        f"{QUERY} WHERE part_id = :id ORDER BY state <> 'shelf', piece.id", {"id": part_id}
    )
    return [piece_in(connection, row) for row in rows]


def pieces_of_donor(connection: Connection, donor_id: int) -> list[Piece]:
    """Every piece that came out of a donor."""
    rows = connection.execute(f"{QUERY} WHERE donor_id = :id ORDER BY piece.id", {"id": donor_id})
    return [piece_in(connection, row) for row in rows]


def kept_for(connection: Connection, watch_id: int) -> list[Piece]:
    """Pieces laid aside for a watch and not in it yet."""
    rows = connection.execute(
        f"{QUERY} WHERE kept_for = :id AND in_watch.watch_id IS NULL ORDER BY piece.id", {"id": watch_id}
    )
    return [piece_in(connection, row) for row in rows]


def free_piece(connection: Connection, part_id: int, watch_id: int) -> Piece | None:
    """A piece of the part that may go into the watch: one kept for it first, then one kept for none."""
    row = connection.execute(
        f"""
        {QUERY} WHERE part_id = :part AND state = 'shelf' AND in_watch.watch_id IS NULL
           AND (kept_for IS NULL OR kept_for = :watch)
         ORDER BY kept_for IS NULL, condition = 'faulty', piece.id LIMIT 1
        """,
        {"part": part_id, "watch": watch_id},
    ).fetchone()
    return None if row is None else piece_in(connection, row)


def moves(connection: Connection, number: int) -> list[Move]:
    """The piece's history, the newest first."""
    rows = connection.execute(
        "SELECT what, at FROM move WHERE piece_id = :id ORDER BY id DESC", {"id": number}
    )
    return [Move(row["what"], row["at"]) for row in rows]


def add_piece(
    connection: Connection, part_id: int, stock: Stock | None = None, donor_id: int | None = None
) -> int:
    """Put a piece of a part on the shelf and return its number; within a transaction or alone."""
    stock = stock or Stock()
    cursor = connection.execute(
        """
        INSERT INTO piece (part_id, donor_id, place, condition, fault, paid_minor, currency, supplier_id,
                           kept_for)
        VALUES (:part, :donor, :place, :condition, :fault, :paid, :currency, :supplier, :kept_for)
        """,
        {"part": part_id, "donor": donor_id, **_values(connection, stock)},
    )
    number = int(cursor.lastrowid or 0)
    tell(connection, number, "out of a donor" if donor_id else "onto the shelf")
    return number


def _refuse_stale(connection: Connection, number: int, based_on: int | None) -> Piece:
    """The piece as it is; StaleVersionError where a form was made from an older version of it."""
    before = piece(connection, number)
    if based_on is not None and before.version != based_on:
        raise StaleVersionError(based_on, before.version, "piece")
    return before


def change_stock(connection: Connection, number: int, stock: Stock, based_on: int | None = None) -> None:
    """Note where a piece lies, its condition, fault, price and what it is kept for.

    StaleVersionError, and nothing written, where `based_on` is not its newest version.
    """
    with transaction(connection):
        before = _refuse_stale(connection, number, based_on)
        connection.execute(
            """
            UPDATE piece SET place = :place, condition = :condition, fault = :fault, paid_minor = :paid,
                   currency = :currency, supplier_id = :supplier, kept_for = :kept_for,
                   version = version + 1
             WHERE id = :id
            """,
            {"id": number, **_values(connection, stock)},
        )
        if stock.place != before.stock.place:
            tell(connection, number, f"laid into {stock.place or 'no place'}")
        if stock.kept_for != before.stock.kept_for:
            tell(connection, number, "kept for a watch" if stock.kept_for else "free again", stock.kept_for)
        if stock.fault and stock.fault != before.stock.fault:
            tell(connection, number, f"fault: {stock.fault}")


def change_state(
    connection: Connection, number: int, state: State, why: str = "", based_on: int | None = None
) -> None:
    """Scrap, return or sell a piece, or put it back on the shelf. TakenError while it is in a watch."""
    found = _refuse_stale(connection, number, based_on)
    if found.watch_id is not None:
        raise TakenError(f"{found.name} is in a watch. Take it out there first. Nothing was changed.")
    with transaction(connection):
        connection.execute(
            """UPDATE piece SET state = :state, sold_minor = NULL, sold_currency = '', version = version + 1
                WHERE id = :id""",
            {"id": number, "state": state},
        )
        words = {"shelf": "back on the shelf"}.get(state, state)
        tell(connection, number, f"{words}: {why}" if why else words)


def sell(
    connection: Connection, number: int, brought: Money | None, why: str = "", based_on: int | None = None
) -> None:
    """Note that a piece was sold, and what it brought. TakenError while it is in a watch."""
    with transaction(connection):
        change_state(
            connection,
            number,
            "sold",
            f"for {brought}{f', {why}' if why else ''}" if brought else why,
            based_on,
        )
        connection.execute(
            "UPDATE piece SET sold_minor = :minor, sold_currency = :currency WHERE id = :id",
            {
                "minor": brought.minor if brought else None,
                "currency": brought.currency if brought else "",
                "id": number,
            },
        )


def count_fitting(connection: Connection, number: int, by: int = 1) -> None:
    """Note that a hand was taken off and fitted once more; `by` −1 takes that back."""
    piece(connection, number)
    with transaction(connection):
        connection.execute(
            "UPDATE piece SET fittings = max(fittings + :by, 0) WHERE id = :id", {"id": number, "by": by}
        )
        tell(connection, number, "fitted once more" if by > 0 else "not fitted once more after all")


def tell(connection: Connection, number: int, what: str, watch_id: int | None = None) -> None:
    """Add a step to a piece's history; within a transaction."""
    connection.execute(
        "INSERT INTO move (piece_id, what, watch_id) VALUES (:piece, :what, :watch)",
        {"piece": number, "what": what, "watch": watch_id},
    )


def _values(connection: Connection, stock: Stock) -> dict[str, object]:
    currency = stock.paid.currency if stock.paid else ""
    return {
        "place": stock.place,
        "condition": stock.condition,
        "fault": stock.fault,
        "paid": stock.paid.minor if stock.paid else None,
        "currency": currency,
        "supplier": shelf.supplier_number(connection, stock.supplier, currency),
        "kept_for": stock.kept_for,
    }


def piece_in(connection: Connection, row: sqlite3.Row) -> Piece:
    """The piece in a row of QUERY."""
    paid = None if row["paid_minor"] is None else Money(row["paid_minor"], row["currency"])
    stock = Stock(row["place"], row["condition"], row["fault"], paid, row["supplier"] or "", row["kept_for"])
    return Piece(
        row["id"],
        row["version"],
        row["part_id"],
        row["kind"],
        row["name"],
        read_part(connection, row["kind"], row["described"]),
        row["sheet"] is not None,
        row["state"],
        stock,
        row["fittings"],
        row["donor_id"],
        row["donor"] or "",
        row["watch_id"],
        row["slot"] or "",
        row["line_id"],
        None if row["sold_minor"] is None else Money(row["sold_minor"], row["sold_currency"]),
    )
