"""A watch as it stood at a moment of the past; builds of the bench with what was known when they began."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.bench.log import LogEntry
from marquetry.core.sheet.build import Build
from marquetry.store import bench_log
from marquetry.store.database import Connection
from marquetry.store.sheets import read_sheet
from marquetry.store.watches import StoredWatch, watches_or_faults


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


def begun_builds(connection: Connection) -> Iterator[BegunBuild]:
    """Every watch with anything done at the bench, those in use and those long gone."""
    begun = bench_log.begun(connection)
    for watch in watches_or_faults(connection):
        if not isinstance(watch, StoredWatch) or watch.id not in begun:
            continue
        entries = tuple(bench_log.entries_of(connection, watch.id))
        first = next((e.at_ms for e in entries if e.what not in {"ready", "note", "photo"}), None)
        before = None if first is None else build_as_of(connection, watch.id, first)
        then = build_as_of(connection, watch.id, entries[-1].at_ms) if entries else None
        if before is not None and then is not None:
            yield BegunBuild(watch, entries, before, then)
