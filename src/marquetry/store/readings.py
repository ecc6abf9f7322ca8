"""Every value that was entered for a dimension, with date and instrument; former values stay."""

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import NotFoundError
from marquetry.store.database import Connection

Owner = Literal["watch", "part", "piece"]


@dataclass(frozen=True, slots=True)
class Reading:
    """A value as it was entered: `taken` are the single readings it was made of."""

    id: int
    dimension: Dimension
    instrument: str
    taken: tuple[float, ...]
    at: str


def note(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection,
    owner: Owner,
    owner_id: int,
    path: str,
    dimension: Dimension,
    instrument: str = "",
    taken: Sequence[float] = (),
) -> None:
    """Keep one value."""
    connection.execute(
        """
        INSERT INTO reading (owner, owner_id, path, value, tol, source, instrument, taken)
        VALUES (:owner, :id, :path, :value, :tol, :source, :instrument, :taken)
        """,
        {
            "owner": owner,
            "id": owner_id,
            "path": path,
            "value": dimension.value,
            "tol": dimension.tol,
            "source": dimension.source.value,
            "instrument": instrument,
            "taken": json.dumps(list(taken)),
        },
    )


def note_changes(
    connection: Connection,
    owner: Owner,
    owner_id: int,
    before: Mapping[str, Dimension],
    after: Mapping[str, Dimension],
) -> None:
    """Keep every value that differs from before; what is only assumed follows its neighbours unnoted."""
    for path, dimension in after.items():
        known = before.get(path)
        follows = known is not None and not (known.source.is_known or dimension.source.is_known)
        if known != dimension and not follows:
            note(connection, owner, owner_id, path, dimension)


def note_return(
    connection: Connection,
    owner: Owner,
    owner_id: int,
    before: Mapping[str, Dimension],
    after: Mapping[str, Dimension],
) -> None:
    """Keep every value that an undo or a redo brought back, with the readings it was once made of.

    So the newest reading of a dimension is the one that is in force, also after an undo.
    """
    for path, dimension in after.items():
        if before.get(path) != dimension:
            known = readings_of(connection, owner, owner_id, path)
            once = next((reading for reading in known if reading.dimension == dimension), None)
            how = (once.instrument, once.taken) if once else ("", ())
            note(connection, owner, owner_id, path, dimension, *how)


def tell_how(
    connection: Connection, owner: Owner, owner_id: int, path: str, how: tuple[str, Sequence[float]]
) -> None:
    """Add instrument and single readings to the newest value of a path, which was just saved."""
    connection.execute(
        """
        UPDATE reading SET instrument = :instrument, taken = :taken WHERE id =
               (SELECT max(id) FROM reading WHERE owner = :owner AND owner_id = :id AND path = :path)
        """,
        {
            "owner": owner,
            "id": owner_id,
            "path": path,
            "instrument": how[0],
            "taken": json.dumps(list(how[1])),
        },
    )


def readings_of(connection: Connection, owner: Owner, owner_id: int, path: str) -> list[Reading]:
    """Every value of the dimension at the path, the newest first."""
    rows = connection.execute(
        "SELECT * FROM reading WHERE owner = :owner AND owner_id = :id AND path = :path ORDER BY id DESC",
        {"owner": owner, "id": owner_id, "path": path},
    )
    return [_reading(row) for row in rows]


def reading_of(connection: Connection, owner: Owner, owner_id: int, path: str, number: int) -> Reading:
    """One value that was entered for this dimension; NotFoundError where there is none."""
    found = [reading for reading in readings_of(connection, owner, owner_id, path) if reading.id == number]
    if not found:
        raise NotFoundError(f"reading {number} of this dimension")
    return found[0]


def _reading(row: sqlite3.Row) -> Reading:
    return Reading(
        row["id"],
        Dimension(row["value"], row["tol"], Source(row["source"])),
        row["instrument"],
        tuple(json.loads(row["taken"])),
        row["at"],
    )
