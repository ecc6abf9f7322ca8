"""Puts the demo workshop into a database; one that already has watches keeps what was changed."""

from importlib.resources import files
from pathlib import Path

from marquetry.core.build import Build
from marquetry.formats import build_sheet
from marquetry.store.database import connect, open_workshop
from marquetry.store.house import furnish
from marquetry.store.watches import add_watch, all_watches

SHEETS = ("skerry-light", "night-ferry", "orchard")


def demo_builds() -> list[Build]:
    """The demo's watches as they are before anybody touched them."""
    folder = files("marquetry.demo")
    return [build_sheet.loads(folder.joinpath(f"{name}.json").read_bytes()) for name in SHEETS]


def make_demo(database: Path, *, fresh: bool = False) -> None:
    """Fill the database with the demo's watches where it has none, or where a `fresh` start is wanted."""
    if fresh:
        for suffix in ("", "-wal", "-shm"):
            database.with_name(database.name + suffix).unlink(missing_ok=True)
    open_workshop(database)
    connection = connect(database)
    try:
        furnish(connection)
        if not all_watches(connection):
            for build in demo_builds():
                add_watch(connection, build)
    finally:
        connection.close()
