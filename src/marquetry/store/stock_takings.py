"""Drawers counted against the books, and what lies in them unused."""

from dataclasses import dataclass

from marquetry.core.values.errors import NotFoundError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import pieces
from marquetry.store.database import Connection, transaction
from marquetry.store.pieces import QUERY, Piece, piece_in


@dataclass(frozen=True, slots=True)
class StockTaking:
    """A count of one place: which pieces were found, which not; the rest is still to be looked for."""

    id: int
    place: str
    day: str
    is_done: bool
    found: frozenset[int]
    gone: frozenset[int]


@dataclass(frozen=True, slots=True)
class Lying:
    """A place with what lies in it: pieces that are in no watch, and when each last moved."""

    place: str
    pieces: tuple[tuple[Piece, str], ...]

    def worth(self) -> tuple[Money, ...]:
        """What was paid for all of it, by currency."""
        sums: dict[str, int] = {}
        for piece, _ in self.pieces:
            if piece.stock.paid is not None:
                paid = piece.stock.paid
                sums[paid.currency] = sums.get(paid.currency, 0) + paid.minor
        return tuple(Money(minor, currency) for currency, minor in sorted(sums.items()))


def lying(connection: Connection) -> list[Lying]:
    """Everything on the shelf by its place; a place without a name comes last."""
    rows = connection.execute(
        f"""SELECT found.*, (SELECT max(at) FROM move WHERE piece_id = found.id) AS moved
              FROM ({QUERY} WHERE state = 'shelf' AND in_watch.watch_id IS NULL) AS found
             ORDER BY place = '', place, kind, name, id"""
    )
    by_place: dict[str, list[tuple[Piece, str]]] = {}
    for row in rows:
        by_place.setdefault(row["place"], []).append((piece_in(connection, row), (row["moved"] or "")[:10]))
    return [Lying(place, tuple(held)) for place, held in by_place.items()]


def begin_taking(connection: Connection, place: str, day: str) -> int:
    """Begin to count a place, or go on with its count that is not done; the number of the count."""
    row = connection.execute(
        "SELECT id FROM stock_taking WHERE place = :place AND done = 0", {"place": place}
    ).fetchone()
    if row is not None:
        return int(row["id"])
    cursor = connection.execute(
        "INSERT INTO stock_taking (place, day) VALUES (:place, :day)", {"place": place, "day": day}
    )
    return int(cursor.lastrowid or 0)


def taking(connection: Connection, number: int) -> StockTaking:
    """One count; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM stock_taking WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"count {number}")
    counted = connection.execute(
        "SELECT * FROM stock_counted WHERE taking_id = :id", {"id": number}
    ).fetchall()
    return StockTaking(
        row["id"],
        row["place"],
        row["day"],
        bool(row["done"]),
        frozenset(one["piece_id"] for one in counted if one["found"]),
        frozenset(one["piece_id"] for one in counted if not one["found"]),
    )


def count_piece(connection: Connection, number: int, piece_id: int, *, found: bool | None) -> None:
    """Note that a piece was found, or not; None takes the note back. TakenError once the count is done."""
    with transaction(connection):
        if taking(connection, number).is_done:
            raise TakenError("This count is done. Begin a new one. Nothing was changed.")
        pieces.piece(connection, piece_id)
        connection.execute(
            "DELETE FROM stock_counted WHERE taking_id = :id AND piece_id = :piece",
            {"id": number, "piece": piece_id},
        )
        if found is not None:
            connection.execute(
                "INSERT INTO stock_counted (taking_id, piece_id, found) VALUES (:id, :piece, :found)",
                {"id": number, "piece": piece_id, "found": int(found)},
            )


def finish_taking(connection: Connection, number: int) -> int:
    """End a count: what was not found leaves the shelf's books as lost; how many pieces that were."""
    with transaction(connection):
        count = taking(connection, number)
        for piece_id in count.gone if not count.is_done else ():
            held = pieces.piece(connection, piece_id)
            if held.state == "shelf" and held.watch_id is None:
                pieces.change_state(
                    connection, piece_id, "scrapped", f"not found when {count.place} was counted"
                )
        connection.execute("UPDATE stock_taking SET done = 1 WHERE id = :id", {"id": number})
    return len(count.gone)
