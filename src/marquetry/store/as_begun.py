"""A watch as it stood at a moment of the past; builds of the bench with what was known when they began."""

from dataclasses import dataclass

from marquetry.core.bench.log import LogEntry
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import MarquetryError
from marquetry.store import bench_log
from marquetry.store.database import Connection
from marquetry.store.sheets import read_sheet
from marquetry.store.watches import StoredWatch, watch


def build_as_of(connection: Connection, watch_id: int, at_ms: int) -> Build | None:
    """The sheet that was in force then, milliseconds since 1970; the first there is for an earlier moment.

    None where the watch has no sheet that can be read.
    """
    row = connection.execute(
        """SELECT sheet FROM revision WHERE watch_id = :id AND version = coalesce(
             (SELECT max(version) FROM revision WHERE watch_id = :id
                 AND 1000 * CAST(strftime('%s', saved_at) AS INTEGER) <= :at),
             (SELECT min(version) FROM revision WHERE watch_id = :id))""",
        {"id": watch_id, "at": at_ms},
    ).fetchone()
    return None if row is None else read_sheet(connection, row["sheet"])


@dataclass(frozen=True, slots=True)
class BegunBuild:
    """A watch that the bench has begun, with its log, as it was known then, and at the log's last entry."""

    watch: StoredWatch
    entries: tuple[LogEntry, ...]
    before: Build
    then: Build


def begun_build(connection: Connection, watch_id: int) -> BegunBuild | None:
    """A watch in use or long gone that the bench has begun; None where nothing of it can be read."""
    try:
        stored = watch(connection, watch_id)
    except MarquetryError:
        return None
    entries = tuple(bench_log.entries_of(connection, watch_id))
    first = next((e.at_ms for e in entries if e.what not in {"ready", "note", "photo"}), None)
    before = None if first is None else build_as_of(connection, watch_id, first)
    then = build_as_of(connection, watch_id, entries[-1].at_ms) if entries else None
    return None if before is None or then is None else BegunBuild(stored, entries, before, then)
