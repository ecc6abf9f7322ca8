"""A seller's text that was pasted and is being read: kept until it is taken from or put away."""

from typing import Literal

from marquetry.store.database import Connection

PastedFor = Literal["watch", "part", "shelf"]
ON_THE_SHELF = 0
"""The number that stands for the shelf as a whole."""


def keep(connection: Connection, owner: PastedFor, number: int, text: str) -> None:
    """Keep the text in place of one pasted before."""
    connection.execute(
        "INSERT OR REPLACE INTO pasted (owner, owner_id, text) VALUES (:owner, :id, :text)",
        {"owner": owner, "id": number, "text": text},
    )


def text_of(connection: Connection, owner: PastedFor, number: int) -> str:
    """The text being read; nothing where none is."""
    row = connection.execute(
        "SELECT text FROM pasted WHERE owner = :owner AND owner_id = :id", {"owner": owner, "id": number}
    ).fetchone()
    return "" if row is None else str(row["text"])


def put_away(connection: Connection, owner: PastedFor, number: int) -> None:
    """Forget the text."""
    connection.execute(
        "DELETE FROM pasted WHERE owner = :owner AND owner_id = :id", {"owner": owner, "id": number}
    )
