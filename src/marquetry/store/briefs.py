"""The brief of a watch: steps of its wishes and sign-offs, read and added to; nothing is ever overwritten."""

from collections.abc import Sequence

from marquetry.core.brief.wish import Brief, ClientWish, SignOff, WishState, WishStep, targeted
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import StaleVersionError
from marquetry.store import watches
from marquetry.store.database import Connection, transaction
from marquetry.store.sheets import read_sheet


def brief_of(connection: Connection, watch_id: int) -> Brief:
    """All that was said of what is wanted, the oldest first."""
    rows = connection.execute("SELECT * FROM wish WHERE watch_id = :id ORDER BY id", {"id": watch_id})
    steps = [
        WishStep(
            row["topic"],
            WishState(row["state"]),
            row["value"],
            row["words"],
            row["teller"],
            row["at"],
            row["id"],
        )
        for row in rows
    ]
    signed = connection.execute(
        "SELECT * FROM sign_off WHERE watch_id = :id ORDER BY number", {"id": watch_id}
    )
    names = ("number", "version", "name", "words", "at", "last_step")
    return Brief.of(steps, [SignOff(*(row[name] for name in names)) for row in signed])


def last_step(connection: Connection, watch_id: int) -> int:
    """The number of the last step taken on any wish of the watch; 0 where none was."""
    query = "SELECT coalesce(max(id), 0) FROM wish WHERE watch_id = :id"
    return int(connection.execute(query, {"id": watch_id}).fetchone()[0])


def take_steps(
    connection: Connection, watch_id: int, steps: Sequence[WishStep], seen: int | None = None
) -> None:
    """Take these steps, all or none; what is agreed goes into the sheet's target as one new version.

    `seen` is the last step that whoever says this was looking at: StaleVersionError where another came since.
    """
    with transaction(connection):
        newest = last_step(connection, watch_id)
        if seen is not None and seen != newest:
            raise StaleVersionError(seen, newest, "brief")
        before = brief_of(connection, watch_id)
        for step in steps:
            _add(connection, watch_id, step)
        _retarget(connection, watch_id, before, [step.topic for step in steps])


def add_history(connection: Connection, watch_id: int, step: WishStep) -> None:
    """Note what was said before, as it was: the sheet knows of it already and is left alone."""
    _add(connection, watch_id, step)


def _add(connection: Connection, watch_id: int, step: WishStep) -> None:
    connection.execute(
        """INSERT INTO wish (watch_id, topic, state, value, words, teller, at) VALUES (:watch, :topic, :state,
           :value, :words, :teller, coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now')))""",
        {"watch": watch_id, "topic": step.topic, "state": step.state.value, "value": step.value,
         "words": step.words, "teller": step.teller, "at": step.at},
    )  # fmt: skip


def _retarget(connection: Connection, watch_id: int, before: Brief, topics: Sequence[str]) -> None:
    """Bring what came in force, or went out of it, into the sheet; what only waits changes nothing there."""
    brief, stored = brief_of(connection, watch_id), watches.watch(connection, watch_id)
    build, moved = stored.build, []
    for key in dict.fromkeys(topics):
        wish = brief.wish(key)
        if wish.state is WishState.AGREED or wish.in_force != before.wish(key).in_force:
            after = targeted(build, wish)
            if after != build:
                moved.append(_change(wish))
            build = after
    if moved:
        watches.save(connection, watch_id, stored.version, build, "; ".join(moved)[:200], stored)


def _change(wish: ClientWish) -> str:
    told = wish.topic.told(wish.in_force)
    return f"agreed: {wish.topic.label} {told}" if wish.in_force else f"open again: {wish.topic.label}"


def sign(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection, watch_id: int, version: int, name: str, words: str, at: str = ""
) -> None:
    """Note the client's yes to the newest version; StaleVersionError where it is no longer that."""
    with transaction(connection):
        stored = watches.watch(connection, watch_id)
        if stored.version != version:
            raise StaleVersionError(version, stored.version)
        connection.execute(
            """INSERT INTO sign_off (watch_id, number, version, name, words, last_step, at)
               SELECT :watch, coalesce(max(number), 0) + 1, :version, :name, :words, :last,
                      coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
                 FROM sign_off WHERE watch_id = :watch""",
            {"watch": watch_id, "version": version, "name": name, "words": words,
             "last": last_step(connection, watch_id), "at": at},
        )  # fmt: skip


def signed_build(connection: Connection, watch_id: int, signed: SignOff) -> Build:
    """The watch as it was signed."""
    query = "SELECT sheet FROM revision WHERE watch_id = :id AND version = :version"
    row = connection.execute(query, {"id": watch_id, "version": signed.version}).fetchone()
    return read_sheet(connection, row["sheet"])
