"""What sellers' figures are worth, as the report takes it: worked out once for each state of the readings."""

from marquetry.core.fit.sellers import DeservedTolerance, SellersWorth
from marquetry.core.story.worth import FigureWorth, worth_of
from marquetry.store.database import Connection
from marquetry.store.listed_pairs import listed_pairs


def sellers_worth(connection: Connection) -> SellersWorth:
    """Tolerances that listed figures deserve, and who sold what."""
    return connection.kept.of(connection, _sellers_worth)


def _sellers_worth(connection: Connection) -> SellersWorth:
    deserved = {
        (one.supplier, one.kind): DeservedTolerance(one.supplier, one.tolerance, one.count)
        for one in figures_worth(connection)
        if one.supplier
    }
    parts = connection.execute(
        "SELECT part.id, supplier.name FROM part JOIN supplier ON supplier.id = supplier_id"
    )
    pieces = connection.execute(
        "SELECT piece.id, supplier.name FROM piece JOIN supplier ON supplier.id = supplier_id"
    )
    return SellersWorth(
        deserved, {row["id"]: row["name"] for row in parts}, {row["id"]: row["name"] for row in pieces}
    )


def figures_worth(connection: Connection) -> list[FigureWorth]:
    """What figures are worth, by kind of dimension and supplier."""
    return connection.kept.of(connection, _figures_worth)


def _figures_worth(connection: Connection) -> list[FigureWorth]:
    return worth_of(listed_pairs(connection))
