"""What is left of a watch's parts, put away: to the shelf, the donor, the client, or among the scrap.

A piece is left over while it is kept for the watch, or was last heard of in it, and is in no watch.
"""

from dataclasses import dataclass, replace
from typing import Literal

from marquetry.core.values.errors import DimensionError, NotFoundError
from marquetry.core.values.money import USUAL_CURRENCY, Money
from marquetry.store import bookings, pieces
from marquetry.store.bookings import NewBooking
from marquetry.store.database import Connection, transaction
from marquetry.store.pieces import QUERY, Piece, piece_in
from marquetry.store.watches import StoredWatch

PutWhere = Literal["shelf", "donor", "client", "scrap"]
PUT_WORDS: dict[PutWhere, str] = {
    "shelf": "back to the shelf",
    "donor": "back to its donor",
    "client": "handed over with the watch",
    "scrap": "scrapped",
}


@dataclass(frozen=True, slots=True)
class PutAway:
    """Where a piece goes: its place, and what it is worth now where that is less than it cost."""

    where: PutWhere
    place: str = ""
    worth: Money | None = None


def leftovers_of(connection: Connection, watch_id: int) -> list[Piece]:
    """Pieces that are left over of a watch."""
    rows = connection.execute(
        f"""{QUERY} WHERE state = 'shelf' AND in_watch.watch_id IS NULL AND (kept_for = :id OR (
            kept_for IS NULL AND
            (SELECT watch_id FROM move WHERE piece_id = piece.id ORDER BY id DESC LIMIT 1) = :id))
            ORDER BY part.kind, piece.id""",
        {"id": watch_id},
    )
    return [piece_in(connection, row) for row in rows]


def currency_of(connection: Connection, number: int) -> str:
    """The currency that a piece was paid in; the usual one where it has no price."""
    paid = pieces.piece(connection, number).stock.paid
    return paid.currency if paid else USUAL_CURRENCY


def went_with(connection: Connection, watch_id: int) -> list[Piece]:
    """Pieces that were handed over beside the watch."""
    rows = connection.execute(f"{QUERY} WHERE went_with = :id ORDER BY piece.id", {"id": watch_id})
    return [piece_in(connection, row) for row in rows]


def put_away(connection: Connection, watch: StoredWatch, number: int, put: PutAway, day: str) -> None:
    """Put a piece away, all of it or nothing. NotFoundError where it is not left over of the watch.

    A worth below what it cost is booked on the watch: the piece goes on at what it is worth. DimensionError
    for one above it, or in another currency.
    """
    with transaction(connection):
        found = next((one for one in leftovers_of(connection, watch.id) if one.id == number), None)
        if found is None or (put.where == "donor" and not found.donor):
            raise NotFoundError(f"piece {number} left over of this watch that could go there")
        if put.where == "scrap":
            bookings.book_spoilt(connection, watch.id, number, f"left over of {watch.build.name}", day)
            return
        if put.where == "client":
            pieces.change_state(connection, number, "sold", f"handed over with {watch.build.name}")
            connection.execute(
                "UPDATE piece SET went_with = :watch, kept_for = NULL WHERE id = :id",
                {"watch": watch.id, "id": number},
            )
            return
        place = f"With {found.donor}"[:80] if put.where == "donor" else put.place
        stock = replace(found.stock, kept_for=None, place=place)
        pieces.change_stock(connection, number, _written_down(connection, watch, found, stock, put, day))
        pieces.tell(connection, number, f"{PUT_WORDS[put.where]}, from {watch.build.name}")


def _written_down(  # noqa: PLR0913, PLR0917  # whose, which, how it lies, at what, on which day
    connection: Connection, watch: StoredWatch, found: Piece, stock: pieces.Stock, put: PutAway, day: str
) -> pieces.Stock:
    paid, worth = found.stock.paid, put.worth
    if worth is None or worth == paid:
        return stock
    if paid is None or worth.currency != paid.currency or worth.minor > paid.minor:
        most = f"at most the {paid} that it cost" if paid else "nothing: it has no price"
        raise DimensionError("worth", str(worth), "", most)
    lost = Money(paid.minor - worth.minor, paid.currency)
    bookings.book(connection, watch.id, NewBooking("other", f"{found.name}: written down", lost, day))
    return replace(stock, paid=worth)


def take_back_from_client(connection: Connection, watch_id: int, number: int) -> None:
    """A piece that was handed over is here again. NotFoundError where it did not go with this watch."""
    with transaction(connection):
        if number not in {piece.id for piece in went_with(connection, watch_id)}:
            raise NotFoundError(f"piece {number} that went with this watch")
        pieces.change_state(connection, number, "shelf", "not handed over after all")
        connection.execute(
            "UPDATE piece SET went_with = NULL, kept_for = :watch WHERE id = :id",
            {"watch": watch_id, "id": number},
        )
