"""From any older version of a workshop's file to the newest: migrations in order, known by their text."""

import sqlite3
from collections.abc import Iterable
from functools import lru_cache
from hashlib import sha256
from importlib.resources import files

from marquetry.core.values.errors import SheetError
from marquetry.store import assumed_before

FOLDER = files("marquetry.store").joinpath("migrations")
MINOR_UNITS = 9
"""The migration that turns hundredths into minor units; an older archive's sums go through it as well."""
BY_SPREAD = 18
"""The migration that takes the usual tolerance off what is assumed; an older archive goes through it too."""
COUNTED_BLANKS = 21
"""The migration that makes pieces of blanks that were counted by hand, in an older archive as well."""
NOTED_SINCE = 15
"""The migration since which a file tells which ones made it."""
UNKNOWN = ""
"""The digest of a migration that ran before they were noted."""


def version_of(connection: sqlite3.Connection) -> int:
    """Number of the last migration that was applied."""
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def script_of(number: int) -> str:
    """The SQL of one migration."""
    return dict(migrations())[number]


@lru_cache(maxsize=1)
def migrations() -> tuple[tuple[int, str], ...]:
    """Every migration as (number, SQL), in order. SheetError where one is not what its digest says."""
    found = []
    for name in sorted(entry.name for entry in FOLDER.iterdir() if entry.name.endswith(".sql")):
        script = FOLDER.joinpath(name).read_text("utf-8")
        known = digests().get(int(name[:4]), ())
        if not known or digest_of(script) != known[0]:
            raise SheetError(name, "as its digest in digests.txt says", "another text: migrations are added")
        found.append((int(name[:4]), script))
    return tuple(found)


@lru_cache(maxsize=1)
def digests() -> dict[int, tuple[str, ...]]:
    """Digests by which each migration is accepted: as it is now, then as it was before it was edited."""
    found: dict[int, tuple[str, ...]] = {}
    for line in FOLDER.joinpath("digests.txt").read_text("utf-8").splitlines():
        if line and not line.startswith("#"):
            name, digest, *_ = line.split()
            found[int(name[:4])] = (*found.get(int(name[:4]), ()), digest)
    return found


def digest_of(script: str) -> str:
    """What tells a migration's text from any other."""
    return sha256(script.encode()).hexdigest()


def migrate(connection: sqlite3.Connection) -> None:
    """Bring the database to the newest version; each step is recorded with its own changes or not at all.

    `executescript` alone leaves what stood before a fault, so each script carries its own transaction.
    SheetError, and nothing done, where the file was made by a migration that this program does not know.
    """
    was = version_of(connection)
    if was >= NOTED_SINCE:
        _refuse_unknown(connection)
    assumed_before.install(connection)
    for number, script in migrations():
        if number > was:
            noted = _noted(number, was)
            _at_once(connection, f"{script}\n{noted}\nPRAGMA user_version = {number};")
    wrong = [*_counting_wrongly(connection)]
    if wrong:
        _at_once(connection, "\n".join(wrong))


def _at_once(connection: sqlite3.Connection, script: str) -> None:
    try:
        connection.executescript(f"BEGIN IMMEDIATE;\n{script}\nCOMMIT;")
    except sqlite3.Error:
        if connection.in_transaction:
            connection.execute("ROLLBACK")
        raise


def _noted(number: int, was: int) -> str:
    """The statement that notes a migration; the first that can notes those before it as well."""
    if number < NOTED_SINCE:
        return ""
    scripts = dict(migrations())
    ran = [one for one in scripts if one <= number] if number == NOTED_SINCE else [number]
    rows = (f"({one}, '{digest_of(scripts[one]) if one > was else UNKNOWN}')" for one in ran)
    return f"INSERT INTO migration (number, digest) VALUES {', '.join(rows)};"


def _refuse_unknown(connection: sqlite3.Connection) -> None:
    for number, digest in connection.execute("SELECT number, digest FROM migration ORDER BY number"):
        if digest != UNKNOWN and digest not in digests().get(number, (digest,)):
            raise SheetError("the workshop", "a file made by this program's migrations", f"another {number}")


HELD = """
    SELECT name FROM pragma_table_list
     WHERE schema = 'main' AND type = 'table' AND name NOT LIKE 'sqlite!_%' ESCAPE '!' ORDER BY name
"""
"""Tables that hold rows of their own; an index of words follows its table."""
COUNTS = "table_change"
"""The one table whose own writes are not counted."""
EVENTS = ("INSERT", "UPDATE", "DELETE")


def _counting_wrongly(connection: sqlite3.Connection) -> Iterable[str]:
    """Statements that are missing for every table to be counted; none for a file that is as it should be.

    Made from the schema and not written in a migration: a table that is built anew loses its triggers, and a
    table that nobody counted would let an answer stay that no longer holds.
    """
    tables = [table for (table,) in connection.execute(HELD).fetchall() if table != COUNTS]
    wanted = {
        f"counted_{table}_{event.lower()}": (
            f"CREATE TRIGGER counted_{table}_{event.lower()} AFTER {event} ON {table} BEGIN "
            f"UPDATE table_change SET changes = changes + 1 WHERE name = '{table}'; END"
        )
        for table in tables
        for event in EVENTS
    }
    query = "SELECT name, sql FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'counted!_%' ESCAPE '!'"
    there = dict(connection.execute(query).fetchall())
    yield from (f"DROP TRIGGER {name};" for name, sql in there.items() if wanted.get(name) != sql)
    yield from (f"{sql};" for name, sql in wanted.items() if there.get(name) != sql)
    counted = {name for (name,) in connection.execute("SELECT name FROM table_change")}
    for table in tables:
        if table not in counted:
            yield f"INSERT INTO table_change (name) VALUES ('{table}');"
