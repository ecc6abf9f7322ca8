"""The log of the bench on disk: entries are added and never changed; one that is sent twice is kept once."""

import json
import sqlite3
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from statistics import median

from marquetry.core.bench.clock import BenchTimer, seconds_by_step, timers_of
from marquetry.core.bench.log import ANSWERS, LogEntry, standing
from marquetry.store.database import Connection, transaction


def entries_of(connection: Connection, watch_id: int) -> list[LogEntry]:
    """Every entry of a watch by the time it happened."""
    rows = connection.execute(
        "SELECT * FROM bench_entry WHERE watch_id = :id ORDER BY at_ms, id", {"id": watch_id}
    )
    return [_entry(row) for row in rows]


def add_entries(connection: Connection, watch_id: int, entries: Iterable[LogEntry]) -> None:
    """Keep entries, all or none; a key that is known already is left as it is."""
    with transaction(connection):
        for entry in entries:
            connection.execute(
                """INSERT INTO bench_entry (watch_id, key, step, what, value, u, words, sign, detail, undoes,
                   device, at_ms) VALUES (:watch, :key, :step, :what, :value, :u, :words, :sign, :detail,
                   :undoes, :device, :at) ON CONFLICT (watch_id, key) DO NOTHING""",
                {"watch": watch_id, "key": entry.key, "step": entry.step, "what": entry.what,
                 "value": entry.value, "u": entry.u, "words": entry.words, "sign": entry.sign,
                 "detail": json.dumps(dict(entry.detail), ensure_ascii=False), "undoes": entry.undoes,
                 "device": entry.device, "at": entry.at_ms},
            )  # fmt: skip


@dataclass(frozen=True, slots=True)
class WatchTimer:
    """A timer with the watch it is of."""

    watch_id: int
    watch: str
    timer: BenchTimer


def timers(connection: Connection) -> list[WatchTimer]:
    """Every timer of every watch that nobody heard yet, the first to ring first."""
    rows = connection.execute(
        """SELECT bench_entry.*, json_extract(sheet, '$.name') AS name
             FROM bench_entry JOIN watch ON watch.id = bench_entry.watch_id
             JOIN revision ON revision.watch_id = watch.id AND revision.version = watch.version
            WHERE watch.removed_at IS NULL
              AND bench_entry.watch_id IN (SELECT watch_id FROM bench_entry WHERE what = 'timer')
              AND what IN ('timer', 'quiet', 'open', 'mishap', 'undo') ORDER BY at_ms, bench_entry.id"""
    ).fetchall()
    by_watch: dict[tuple[int, str], list[LogEntry]] = {}
    for row in rows:
        by_watch.setdefault((row["watch_id"], row["name"]), []).append(_entry(row))
    found = [
        WatchTimer(*watch, timer)
        for watch, entries in by_watch.items()
        for timer in timers_of(standing(entries)).values()
        if not timer.quiet
    ]
    return sorted(found, key=lambda one: one.timer.rings_ms)


def watches_with_log(connection: Connection) -> list[int]:
    """The watches whose log has an entry, by number."""
    rows = connection.execute("SELECT DISTINCT watch_id FROM bench_entry ORDER BY watch_id")
    return [row["watch_id"] for row in rows]


def last_touched(connection: Connection) -> dict[int, str]:
    """The moment of the newest entry of every watch, as revisions tell theirs."""
    rows = connection.execute(
        """SELECT watch_id, strftime('%Y-%m-%dT%H:%M:%SZ', max(at_ms) / 1000, 'unixepoch') AS at
             FROM bench_entry GROUP BY watch_id"""
    )
    return {row["watch_id"]: row["at"] for row in rows}


def own_minutes(connection: Connection, but_watch: int) -> dict[str, float]:
    """What each step took in other builds, the median in minutes; steps never timed are left out."""
    taken: dict[str, list[float]] = {}
    for watch_id in watches_with_log(connection):
        if watch_id != but_watch:
            for step, each in connection.kept.of(connection, _minutes, watch_id).items():
                taken.setdefault(step, []).append(each)
    return {step: median(minutes) for step, minutes in taken.items()}


def _minutes(connection: Connection, watch_id: int) -> dict[str, float]:
    """Minutes of each step of one watch that was answered and timed."""
    rows = connection.execute(
        """SELECT * FROM bench_entry WHERE watch_id = :id
              AND what IN ('start', 'pause', 'done', 'yes', 'no', 'skip', 'undo') ORDER BY at_ms, id""",
        {"id": watch_id},
    )
    kept = standing([_entry(row) for row in rows])
    answered = {entry.step for entry in kept if entry.what in ANSWERS and entry.what != "skip"}
    timed = seconds_by_step(kept, kept[-1].at_ms if kept else 0)
    return {step: seconds / 60 for step, seconds in timed.items() if step in answered and seconds > 0}


def donors_in(connection: Connection, watch_id: int) -> dict[str, str]:
    """Donor of each part of a watch whose piece came out of one, by the part's key."""
    rows = connection.execute(
        """SELECT slot, donor.name FROM in_watch JOIN piece ON piece.id = piece_id
             JOIN donor ON donor.id = donor_id WHERE watch_id = :id""",
        {"id": watch_id},
    )
    return {row["slot"].partition(".")[0]: row["name"] for row in rows}


SETTINGS: Mapping[str, bool] = {"guided": False, "sounds": True}
"""How the bench's screens behave until somebody says otherwise."""


def settings(connection: Connection) -> dict[str, bool]:
    """How the bench's screens behave."""
    told = {row["key"]: bool(row["value"]) for row in connection.execute("SELECT * FROM bench_setting")}
    return {**SETTINGS, **told}


def set_setting(connection: Connection, key: str, value: bool) -> None:  # noqa: FBT001  # it is the value itself
    """Change how the bench's screens behave."""
    connection.execute(
        "INSERT OR REPLACE INTO bench_setting (key, value) VALUES (:key, :value)",
        {"key": key, "value": int(value)},
    )


def _entry(row: sqlite3.Row) -> LogEntry:
    return LogEntry(
        row["key"], row["step"], row["what"], row["at_ms"], row["value"], row["u"], row["words"], row["sign"],
        {} if row["detail"] == "{}" else json.loads(row["detail"]), row["undoes"], row["device"], row["id"],
    )  # fmt: skip
