"""Other ways a watch could be built, kept beside it to be compared."""

import json
from dataclasses import dataclass

from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.store.database import Connection

MOST_VARIANTS = 3
"""With the watch itself, four columns: as many as can be read side by side."""


@dataclass(frozen=True, slots=True)
class Variant:
    """A variant as it is on disk."""

    id: int
    name: str
    build: Build
    made_at: str


def variants_of(connection: Connection, watch_id: int) -> list[Variant]:
    """The variants of a watch, in the order they were made."""
    rows = connection.execute(
        "SELECT id, name, sheet, made_at FROM variant WHERE watch_id = :id ORDER BY id", {"id": watch_id}
    )
    return [
        Variant(
            row["id"], row["name"], Build(json.loads(row["sheet"]), connection.model.anatomy), row["made_at"]
        )
        for row in rows
    ]


def variant(connection: Connection, watch_id: int, number: int) -> Variant:
    """One variant; NotFoundError where this watch has none of that number."""
    found = next((v for v in variants_of(connection, watch_id) if v.id == number), None)
    if found is None:
        raise NotFoundError(f"variant {number} of this watch")
    return found


def add_variant(connection: Connection, watch_id: int, name: str, build: Build) -> None:
    """Keep a build as a variant; SheetError where the watch has as many as can be compared."""
    if len(variants_of(connection, watch_id)) >= MOST_VARIANTS:
        raise SheetError("variant", f"at most {MOST_VARIANTS} beside the watch; remove one first")
    connection.execute(
        "INSERT INTO variant (watch_id, name, sheet) VALUES (:watch, :name, :sheet)",
        {"watch": watch_id, "name": name, "sheet": json.dumps(build.document, ensure_ascii=False)},
    )


def remove_variant(connection: Connection, watch_id: int, number: int) -> None:
    """Forget a variant."""
    variant(connection, watch_id, number)
    connection.execute("DELETE FROM variant WHERE id = :id", {"id": number})
