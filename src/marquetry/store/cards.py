"""What the workshop says of a watch on its card and its hand-over sheet; all else on them follows."""

import json
from dataclasses import dataclass

from marquetry.core.values.errors import StaleVersionError
from marquetry.store.database import Connection, transaction


@dataclass(frozen=True, slots=True)
class CardSaid:
    """The maker's name and a line under it, the day of the watch, rows left out, what else was promised.

    Empty words stand for what follows: the workshop's own name, the day on which it was finished.
    """

    maker: str = ""
    line: str = ""
    day: str = ""
    left_out: tuple[str, ...] = ()
    promised: str = ""
    version: int = 0


def card_of(connection: Connection, watch_id: int) -> CardSaid:
    """What was said of a watch; nothing where nothing was."""
    row = connection.execute("SELECT * FROM spec_card WHERE watch_id = :id", {"id": watch_id}).fetchone()
    if row is None:
        return CardSaid()
    return CardSaid(
        row["maker"], row["line"], row["day"], tuple(json.loads(row["left_out"])), row["promised"],
        row["version"],
    )  # fmt: skip


def say(connection: Connection, watch_id: int, said: CardSaid) -> None:
    """Keep it. StaleVersionError where it was changed since the form was made."""
    with transaction(connection):
        newest = card_of(connection, watch_id).version
        if newest != said.version:
            raise StaleVersionError(said.version, newest, "card")
        connection.execute(
            """INSERT INTO spec_card (watch_id, maker, line, day, left_out, promised)
               VALUES (:watch, :maker, :line, :day, :left_out, :promised)
               ON CONFLICT (watch_id) DO UPDATE SET maker = :maker, line = :line, day = :day,
               left_out = :left_out, promised = :promised, version = version + 1""",
            {"watch": watch_id, "maker": said.maker, "line": said.line, "day": said.day,
             "left_out": json.dumps(list(said.left_out)), "promised": said.promised},
        )  # fmt: skip
