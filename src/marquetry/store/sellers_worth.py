"""What sellers' figures are worth, as the report takes it: worked out once for each state of the readings."""

from threading import Lock

from marquetry.core.fit.sellers import DeservedTolerance, SellersWorth
from marquetry.core.story.worth import FigureWorth, worth_of
from marquetry.store.database import Connection
from marquetry.store.listed_pairs import listed_pairs

STAMP = """
    SELECT (SELECT coalesce(max(id), 0) FROM reading WHERE source = 'measured') || '.' ||
           (SELECT count(*) FROM reading WHERE source = 'measured') || '.' ||
           (SELECT coalesce(sum(version), 0) || '.' || coalesce(max(id), 0) FROM part) || '.' ||
           (SELECT coalesce(sum(version), 0) || '.' || coalesce(max(id), 0) FROM piece) AS stamp
"""


def sellers_worth(connection: Connection) -> SellersWorth:
    """Tolerances that listed figures deserve, and who sold what."""
    file = connection.execute("PRAGMA database_list").fetchone()["file"]
    stamp = f"{file} {connection.execute(STAMP).fetchone()['stamp']}"
    with _Kept.guard:
        if _Kept.worth.stamp == stamp:
            return _Kept.worth
    found = _worked_out(connection, stamp)
    with _Kept.guard:
        _Kept.worth = found
    return found


class _Kept:
    """The newest answer: an edit asks again and again, and measured values come one at a time."""

    worth = SellersWorth()
    guard = Lock()


def _worked_out(connection: Connection, stamp: str) -> SellersWorth:
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
        deserved, {row["id"]: row["name"] for row in parts}, {row["id"]: row["name"] for row in pieces}, stamp
    )


SHEETS = """
    SELECT (SELECT coalesce(sum(version), 0) || '.' || count(*) FROM watch) || '.' ||
           (SELECT coalesce(sum(version), 0) || '.' || count(*) FROM supplier)
"""


def figures_worth(connection: Connection) -> list[FigureWorth]:
    """What figures are worth, by kind of dimension and supplier; worked out once for readings and sheets."""
    state = (connection.execute(STAMP).fetchone()[0], connection.execute(SHEETS).fetchone()[0])
    return connection.kept.of("figures' worth", 0, state, lambda: worth_of(listed_pairs(connection)))
