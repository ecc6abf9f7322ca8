"""Notes by hand in the story of a watch: added, and taken back where they were a slip."""

from dataclasses import dataclass
from typing import Literal

from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection

NoteKind = Literal["note", "decision"]


@dataclass(frozen=True, slots=True)
class StoryNote:
    """A note: `about` a part by its key or nothing; `at` as `2027-01-15T09:41:00Z`, empty for now."""

    words: str
    kind: NoteKind = "note"
    about: str = ""
    at: str = ""
    photo_id: int | None = None


def add_note(connection: Connection, watch_id: int, note: StoryNote) -> int:
    """Keep a note and return its number."""
    cursor = connection.execute(
        """INSERT INTO story_note (watch_id, kind, about, words, photo_id, at)
           VALUES (:watch, :kind, :about, :words, :photo,
           coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now')))""",
        {"watch": watch_id, "kind": note.kind, "about": note.about, "words": note.words,
         "photo": note.photo_id, "at": note.at},
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def withdraw_note(connection: Connection, watch_id: int, number: int, *, withdrawn: bool = True) -> None:
    """Take a note back, or bring it back. NotFoundError where the watch has none of that number."""
    row = connection.execute(
        "UPDATE story_note SET withdrawn = :is WHERE id = :id AND watch_id = :watch RETURNING id",
        {"is": int(withdrawn), "id": number, "watch": watch_id},
    ).fetchone()
    if row is None:
        raise NotFoundError(f"note {number} of this watch")
