"""What became of watches on disk: steps are added, and taken back by one that undoes them."""

import sqlite3
from collections.abc import Mapping

from marquetry.core.sheet.part import PIECE_LINK, unlinked
from marquetry.core.story.fates import (
    FATE_WHATS,
    LONGEST_FATE_WORDS,
    LONGEST_WHO,
    WatchFate,
    is_done_with,
    last_of,
    refuse_fate,
)
from marquetry.core.values.errors import NotFoundError
from marquetry.core.values.money import Money
from marquetry.store import quotes, watches
from marquetry.store.database import Connection, transaction
from marquetry.store.watches import StoredWatch

QUERY = "SELECT *, 1000 * strftime('%s', day) AS at_ms FROM fate"


def fates_of(connection: Connection, watch_id: int) -> list[WatchFate]:
    """Every step of a watch, in order, those taken back as well."""
    rows = connection.execute(f"{QUERY} WHERE watch_id = :id ORDER BY id", {"id": watch_id})
    return [_fate(row) for row in rows]


def all_fates(connection: Connection) -> Mapping[int, list[WatchFate]]:
    """Every step of every watch that has any, by the watch's number."""
    found: dict[int, list[WatchFate]] = {}
    for row in connection.execute(f"{QUERY} ORDER BY id"):
        found.setdefault(row["watch_id"], []).append(_fate(row))
    return found


def done_with(connection: Connection) -> frozenset[int]:
    """Numbers of the watches that have left the bench, all of their series."""
    counts = {row["watch_id"]: row["count"] for row in connection.execute("SELECT * FROM series")}
    every = all_fates(connection)
    return frozenset(watch for watch, steps in every.items() if is_done_with(steps, counts.get(watch, 1)))


def watches_at_work(connection: Connection) -> list[StoredWatch]:
    """Every watch that is still on the bench or back on it: what is bought, counted and made is for these."""
    left = done_with(connection)
    return [watch for watch in watches.all_watches(connection) if watch.id not in left]


def take_fate(connection: Connection, stored: StoredWatch, new: WatchFate) -> int:
    """Note a step and return its number; a watch that is taken apart gives its pieces back to the shelf.

    TakenError, and nothing written, where the step cannot follow what happened so far.
    """
    with transaction(connection):
        count = max(quotes.series_of(connection, stored.id).count, 1)
        refuse_fate(fates_of(connection, stored.id), new, count)
        if new.what == "apart":
            build = unlinked(stored.build, (PIECE_LINK,))
            if build != stored.build:
                watches.save(connection, stored.id, stored.version, build, "taken apart: pieces to the shelf")
        return _add(connection, stored.id, new)


def take_back(connection: Connection, watch_id: int, number: int, day: str) -> None:
    """Take back the newest step of that number of the series. NotFoundError where there is none.

    Of a watch that was taken apart the sheet's own undo puts the pieces back, where they are still there.
    """
    with transaction(connection):
        last = last_of(fates_of(connection, watch_id), number)
        if last is None:
            raise NotFoundError(f"step of number {number} to take back")
        _add(connection, watch_id, WatchFate("undo", number, day=day, undoes=last.id))


def _add(connection: Connection, watch_id: int, new: WatchFate) -> int:
    cursor = connection.execute(
        """INSERT INTO fate (watch_id, what, number, who, words, minor, currency, day, undoes)
           VALUES (:watch, :what, :number, :who, :words, :minor, :currency, :day, :undoes)""",
        {"watch": watch_id, "what": new.what, "number": new.number, "who": new.who[:LONGEST_WHO],
         "words": new.words[:LONGEST_FATE_WORDS], "minor": new.price.minor if new.price else None,
         "currency": new.price.currency if new.price else "", "day": new.day, "undoes": new.undoes},
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def _fate(row: sqlite3.Row) -> WatchFate:
    price = None if row["minor"] is None else Money(row["minor"], row["currency"])
    what = next(what for what in FATE_WHATS if what == row["what"])
    return WatchFate(
        what,
        row["number"],
        row["who"],
        row["words"],
        price,
        row["day"],
        row["undoes"],
        row["at_ms"],
        row["id"],
    )
