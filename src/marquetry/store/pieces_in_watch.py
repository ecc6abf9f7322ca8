"""Pieces in watches: a watch's sheet names the piece in each slot.

`sync` reads it at every save, so undo and redo move pieces as well, and a piece is never in two watches.
Its description follows what is measured in the watch.
"""

import json

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.design import with_design
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import LINKS, PART_LINK, PIECE_LINK, Part, parts_of
from marquetry.core.values.errors import TakenError
from marquetry.store import readings, shelf
from marquetry.store.database import Connection
from marquetry.store.pieces import QUERY, Piece, piece, piece_in, tell

GREATEST_ID = 2**63 - 1
"""No row has a greater number; a sheet from elsewhere may name one."""


def filled(build: Build, taken: Piece) -> Build:
    """The build with the piece in its slot, as the piece is described."""
    kind = taken.part.kind
    own = with_design(build, kind.key, taken.part.document)
    document = {**own, PART_LINK: taken.part_id, PIECE_LINK: taken.id}
    return build.with_entry(kind.slot, document)


def planned(build: Build, stored: shelf.StoredPart) -> Build:
    """The build with a part in its slot that is known but not owned: a plan, no piece."""
    own = with_design(build, stored.part.kind.key, stored.part.document)
    return build.with_entry(stored.part.kind.slot, {**own, PART_LINK: stored.id})


def links_in(build: Build) -> dict[int, tuple[str, dict[str, Json]]]:
    """Every piece a build names, with its slot and document. TakenError where it names one twice."""
    found: dict[int, tuple[str, dict[str, Json]]] = {}
    for slot, _, document in parts_of(build):
        number = document.get(PIECE_LINK) if isinstance(document, dict) else None
        if isinstance(number, int) and not isinstance(number, bool) and 0 < number <= GREATEST_ID:
            if number in found:
                raise TakenError(f"Piece {number} cannot be in one watch twice. Nothing was changed.")
            found[number] = (slot, document)
    return found


def sync(connection: Connection, watch_id: int, build: Build, before: Build | None = None) -> None:
    """Bring the record of pieces in line with a watch's newest sheet; inside the saving transaction.

    `before` is the sheet that was in force, where it is known: what it says of a piece that stays is not told
    again. Raises TakenError where a piece is in another watch or no longer there.
    """
    wanted = links_in(build)
    rows = connection.execute("SELECT piece_id, slot FROM in_watch WHERE watch_id = :id", {"id": watch_id})
    here = {row["piece_id"]: row["slot"] for row in rows}
    name = build.name
    for number in here.keys() - wanted.keys():
        connection.execute("DELETE FROM in_watch WHERE piece_id = :id", {"id": number})
        tell(connection, number, f"out of {name}, onto the shelf", watch_id)
    for number, (slot, document) in wanted.items():
        if number not in here:
            if not _enter(connection, watch_id, number, slot, name):
                continue
        elif here[number] != slot:
            connection.execute(
                "UPDATE in_watch SET slot = :slot WHERE piece_id = :id", {"id": number, "slot": slot}
            )
        if before is None or number not in here or before.at(slot) != document:
            _describe(connection, number, document)


def _enter(connection: Connection, watch_id: int, number: int, slot: str, name: str) -> bool:
    """Note that a piece came into a watch; False where the sheet names one this workshop never had."""
    row = connection.execute(f"{QUERY} WHERE piece.id = :id", {"id": number}).fetchone()
    if row is None:
        return False
    found = piece_in(connection, row)
    if found.watch_id is not None:
        other = connection.execute(
            """SELECT json_extract(sheet, '$.name') AS name FROM watch JOIN revision
               ON watch_id = watch.id AND revision.version = watch.version WHERE watch.id = :id""",
            {"id": found.watch_id},
        ).fetchone()["name"]
        raise TakenError(f"{found.name} is in {other}. Take it out there first. Nothing was changed.")
    if found.state != "shelf":
        raise TakenError(
            f"{found.name} was {found.state}. Put it back on the shelf first. Nothing was changed."
        )
    connection.execute(
        "INSERT INTO in_watch (piece_id, watch_id, slot) VALUES (:id, :watch, :slot)",
        {"id": number, "watch": watch_id, "slot": slot},
    )
    if found.kind == "hands":
        connection.execute("UPDATE piece SET fittings = fittings + 1 WHERE id = :id", {"id": number})
    tell(connection, number, f"into {name}", watch_id)
    return True


def _describe(connection: Connection, number: int, document: dict[str, Json]) -> None:
    """Keep with the piece what its watch says of it, where that is more than its part says."""
    found = piece(connection, number)
    plain = {key: value for key, value in document.items() if key not in LINKS}
    if plain == found.part.document:
        return
    known = json.loads(
        connection.execute("SELECT sheet FROM part WHERE id = ?", (found.part_id,)).fetchone()[0]
    )
    connection.execute(
        "UPDATE piece SET sheet = :sheet WHERE id = :id",
        {"id": number, "sheet": None if plain == known else shelf.sheet_text(plain)},
    )
    now = Part.of(found.part.kind, plain)
    readings.note_changes(connection, "piece", number, found.part.dimensions, now.dimensions)
