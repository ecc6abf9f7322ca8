"""What the demo wrote just now, told as of the day on which it is said to have happened."""

from collections.abc import Iterator
from contextlib import contextmanager

from marquetry.core.values.day import later
from marquetry.store.database import Connection

DATED = ("reading", "move", "photo")
NEWEST = {table: f"SELECT coalesce(max(id), 0) FROM {table}" for table in DATED}
DATE = {table: f"UPDATE {table} SET at = :at WHERE id > :known" for table in DATED}


def moment(today: str, days: int, clock: str = "10:00:00") -> str:
    """A moment so many days before today, as the store writes it."""
    return f"{later(today, -days)}T{clock}Z"


@contextmanager
def dated(connection: Connection, at: str) -> Iterator[None]:
    """Whatever is written within is dated `at`, but for the sheets of watches: `date_sheet` does those."""
    known = {table: connection.execute(query).fetchone()[0] for table, query in NEWEST.items()}
    yield
    for table, query in DATE.items():
        connection.execute(query, {"at": at, "known": known[table]})


def date_sheet(connection: Connection, watch_id: int, at: str) -> None:
    """The newest sheet of a watch was saved at that moment."""
    connection.execute(
        """UPDATE revision SET saved_at = :at WHERE watch_id = :id
              AND version = (SELECT version FROM watch WHERE id = :id)""",
        {"at": at, "id": watch_id},
    )
