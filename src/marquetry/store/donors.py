"""Donor watches: taken apart in the records, every part a piece with its origin."""

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part, parts_of
from marquetry.core.trade.shares import shared
from marquetry.core.values.errors import MarquetryError, NotFoundError
from marquetry.core.values.money import Money
from marquetry.store import shelf, terms_of_trade
from marquetry.store.database import Connection, transaction
from marquetry.store.pieces import Stock, add_piece, change_stock, pieces_of_donor
from marquetry.store.sheets import Unreadable, read_sheet, sheet_text


@dataclass(frozen=True, slots=True)
class Donor:
    """A donor as it is on disk; `build` is what it was before it was taken apart."""

    id: int
    name: str
    build: Build
    paid: Money | None
    notes: str
    taken_apart_at: str


def all_donors(connection: Connection) -> list[Donor]:
    """Every donor, the newest first."""
    return [found for found in donors_or_faults(connection) if isinstance(found, Donor)]


def donors_or_faults(connection: Connection) -> list[Donor | Unreadable]:
    """The same, with those whose sheet cannot be read told as that."""
    rows = connection.execute("SELECT * FROM donor ORDER BY id DESC")
    return [_donor_or_fault(connection, row) for row in rows]


def _donor_or_fault(connection: Connection, row: sqlite3.Row) -> Donor | Unreadable:
    try:
        return _donor(connection, row)
    except MarquetryError as error:
        return Unreadable(row["id"], row["name"], str(error))


def forget(connection: Connection, number: int) -> None:
    """Take a donor's record away; its pieces stay, without it. NotFoundError where there is none."""
    with transaction(connection):
        connection.execute("UPDATE piece SET donor_id = NULL WHERE donor_id = :id", {"id": number})
        if connection.execute("DELETE FROM donor WHERE id = :id", {"id": number}).rowcount == 0:
            raise NotFoundError(f"donor {number}")


def donor(connection: Connection, number: int) -> Donor:
    """One donor; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM donor WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"donor {number}")
    return _donor(connection, row)


def take_apart(connection: Connection, build: Build, paid: Money | None, notes: str = "") -> int:
    """Record a donor and make a piece of each of its parts, all or nothing; return the donor's number.

    What was paid is shared out among the pieces, by what the catalogue asks for such parts.
    """
    with transaction(connection):
        cursor = connection.execute(
            """
            INSERT INTO donor (name, sheet, paid_minor, currency, notes)
            VALUES (:name, :sheet, :paid, :currency, :notes)
            """,
            {
                "name": build.name,
                "sheet": sheet_text(connection, build),
                "paid": paid.minor if paid else None,
                "currency": paid.currency if paid else "",
                "notes": notes,
            },
        )
        number = int(cursor.lastrowid or 0)
        parts = [Part.of(kind, document) for _, kind, document in parts_of(build)]
        for part in parts:
            stock = Stock(place=tray_of(build.name), condition="used")
            add_piece(connection, _part_for(connection, part, build.name), stock, number)
        share_out(connection, number)
    return number


def share_out(connection: Connection, number: int, weights: Mapping[int, int] | None = None) -> None:
    """Share what a donor cost over its pieces, by weights given by piece or by what the catalogue asks.

    Pieces without a price weigh as the mean of those that have one in the same currency; without any, all
    weigh the same. Shares add up to what was paid; sales lower the donor's balance and change no piece.
    """
    with transaction(connection):
        found = donor(connection, number)
        rows = connection.execute(
            """SELECT piece.id, price_minor, part.currency FROM piece JOIN part ON part.id = part_id
                WHERE donor_id = :id ORDER BY piece.id""",
            {"id": number},
        ).fetchall()
        known = weights or _by_catalogue(connection, rows)
        shares = shared(found.paid.minor, [known.get(row["id"], 0) for row in rows]) if found.paid else []
        for row, share in zip(rows, shares, strict=False):
            connection.execute(
                "UPDATE piece SET paid_minor = :minor, currency = :currency, weight = :weight WHERE id = :id",
                {"minor": share, "currency": found.paid.currency if found.paid else "", "id": row["id"],
                 "weight": str(weights[row["id"]]) if weights and row["id"] in weights else None},
            )  # fmt: skip


def weights_of(connection: Connection, number: int) -> dict[int, int]:
    """Weights that were given to a donor's pieces, by their numbers.

    None where the catalogue's prices decide.
    """
    query = "SELECT id, weight FROM piece WHERE donor_id = ? AND weight IS NOT NULL"
    return {row["id"]: int(row["weight"]) for row in connection.execute(query, (number,))}


def _by_catalogue(connection: Connection, rows: Sequence[sqlite3.Row]) -> dict[int, int]:
    """Weights by the catalogue's prices at home, those without one as the mean; alike without rates."""
    rates = terms_of_trade.rates(connection)
    prices = {row["id"]: Money(row["price_minor"], row["currency"]) for row in rows if row["price_minor"]}
    if not prices or not all(rates.knows(price.currency, EVER) for price in prices.values()):
        return {row["id"]: 1 for row in rows}
    at_home = {number: rates.converted(price, EVER).minor for number, price in prices.items()}
    mean = max(sum(at_home.values()) // len(at_home), 1)
    return {row["id"]: at_home.get(row["id"], mean) for row in rows}


EVER = "9999-12-31"
"""A day after every other: the newest rate there is."""


def balance_of(connection: Connection, number: int) -> tuple[Money | None, tuple[Money, ...]]:
    """What a donor cost less what its sold pieces brought.

    Beside it what they brought in other currencies.
    """
    paid = donor(connection, number).paid
    sold: dict[str, int] = {}
    query = "SELECT sold_minor, sold_currency FROM piece WHERE donor_id = ? AND sold_minor IS NOT NULL"
    for row in connection.execute(query, (number,)):
        sold[row["sold_currency"]] = sold.get(row["sold_currency"], 0) + row["sold_minor"]
    brought = tuple(Money(minor, currency) for currency, minor in sorted(sold.items()))
    if paid is None:
        return None, brought
    rest = tuple(money for money in brought if money.currency != paid.currency)
    return Money(paid.minor - sold.get(paid.currency, 0), paid.currency), rest


def keep_for(connection: Connection, number: int, wanted: Mapping[str, int | None]) -> None:
    """Keep each piece, named by its number as text, for a watch or for none; all or nothing."""
    with transaction(connection):
        for piece in pieces_of_donor(connection, number):
            if str(piece.id) in wanted and piece.watch_id is None:
                change_stock(connection, piece.id, replace(piece.stock, kept_for=wanted[str(piece.id)]))


def put_away(connection: Connection, number: int, place: str) -> int:
    """Lay what is neither in a watch nor kept for one from the donor's tray into a place; return how many."""
    found = donor(connection, number)
    left = [
        piece for piece in pieces_of_donor(connection, number)
        if piece.watch_id is None and piece.stock.kept_for is None and piece.state == "shelf"
        and piece.stock.place == tray_of(found.name)
    ]  # fmt: skip
    with transaction(connection):
        for piece in left:
            change_stock(connection, piece.id, replace(piece.stock, place=place))
    return len(left)


def tray_of(name: str) -> str:
    """Where a donor's pieces lie until they are put away."""
    return f"Tray of {name}"[:80]


def _part_for(connection: Connection, part: Part, donor_name: str) -> int:
    """The catalogue's part that this one is, added where it is new."""
    known = shelf.part_named(connection, part.kind.key, part.name)
    if known is not None and known.part.document == part.document:
        return known.id
    if known is not None or "name" not in part.document:
        document = {**part.document, "name": f"{part.name}, out of {donor_name}"[:120]}
        part = Part.of(part.kind, document)
    return shelf.add_part(connection, part)


def _donor(connection: Connection, row: sqlite3.Row) -> Donor:
    paid = None if row["paid_minor"] is None else Money(row["paid_minor"], row["currency"])
    build = read_sheet(connection, row["sheet"])
    return Donor(row["id"], row["name"], build, paid, row["notes"], row["taken_apart_at"])
