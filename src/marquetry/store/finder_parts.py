"""Parts of the shelf for the Finder: those owned and free first, then those that are only known."""

from dataclasses import dataclass

from marquetry.core.sheet.part import Part
from marquetry.core.values.money import Money
from marquetry.store.database import Connection
from marquetry.store.sheets import read_part

MOST = 1000


@dataclass(frozen=True, slots=True)
class ShelfCandidate:
    """A part, the free piece of it that would go in, if there is one, and what another would cost."""

    number: int
    part: Part
    piece: int | None
    price: Money | None


def candidates(
    connection: Connection, kind: str, watch_id: int, *, owned_only: bool = False
) -> list[ShelfCandidate]:
    """At most MOST parts of a kind; a piece is free where it is in no other watch nor kept for one."""
    rows = connection.execute(
        f"""
        SELECT * FROM (
            SELECT part.id, part.sheet, part.price_minor, part.currency,
                   (SELECT piece.id FROM piece
                     WHERE piece.part_id = part.id AND piece.state = 'shelf' AND piece.condition <> 'faulty'
                       AND (piece.kept_for IS NULL OR piece.kept_for = :watch)
                       AND NOT EXISTS (SELECT 1 FROM in_watch
                                        WHERE piece_id = piece.id AND watch_id <> :watch)
                     ORDER BY piece.kept_for IS NULL, piece.id LIMIT 1) AS free
              FROM part WHERE part.removed_at IS NULL AND part.kind = :kind)
         WHERE {"free IS NOT NULL" if owned_only else "1"}
         ORDER BY free IS NULL, id LIMIT :most
        """,
        {"kind": kind, "watch": watch_id, "most": MOST},
    )
    return [
        ShelfCandidate(
            row["id"],
            read_part(connection, kind, row["sheet"]),
            row["free"],
            None if row["price_minor"] is None else Money(row["price_minor"], row["currency"]),
        )
        for row in rows
    ]
