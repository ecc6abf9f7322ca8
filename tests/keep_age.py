"""Keeps the demo as this version has it, as database and archive: `make age`, once for each new migration.

What is kept is what the program of that day wrote, so that no test of age asks today's program what an
older one would have done.
"""

import lzma
import sqlite3
from contextlib import closing
from pathlib import Path
from tempfile import TemporaryDirectory

from marquetry.demo.workshop import make_demo
from marquetry.store import archive
from marquetry.store.database import connect
from marquetry.store.migrating import version_of
from tests.strategies import MODEL

AGES = Path(__file__).parent / "ages"


def main() -> None:
    with TemporaryDirectory() as folder:
        database = Path(folder) / "demo.sqlite3"
        make_demo(database, MODEL)
        with closing(connect(database, MODEL)) as connection:
            name = f"version-{version_of(connection):02}"
            with (AGES / f"{name}.zip").open("wb") as file:
                archive.pack(connection, database, file)
        with closing(sqlite3.connect(database, isolation_level=None)) as plain:
            plain.execute("PRAGMA journal_mode = DELETE")
            plain.execute("VACUUM")
        (AGES / f"{name}.sqlite3.xz").write_bytes(lzma.compress(database.read_bytes(), preset=9))


if __name__ == "__main__":
    main()
