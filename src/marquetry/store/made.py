"""Versions of parts that are made here: added, measured, told of, made pieces of the shelf."""

import json
import sqlite3
from collections.abc import Mapping

from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.parts import MadePart
from marquetry.core.making.printer import PrinterPair
from marquetry.core.making.version import AskedSize, MadeVersion, PrintedBy, VersionState
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import LINKS, PART_LINK, PIECE_LINK, Part
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import NotFoundError, StaleVersionError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import pieces, shelf
from marquetry.store.database import Connection, transaction
from marquetry.store.pieces import Stock
from marquetry.store.sheets import read_sheet


def versions_of(connection: Connection, watch_id: int, part: str | None = None) -> list[MadeVersion]:
    """Every version made for a watch, of one part or of all, the newest first."""
    rows = connection.execute(
        """SELECT * FROM made_version WHERE watch_id = :watch AND (:part IS NULL OR part = :part)
            ORDER BY part, number DESC""",
        {"watch": watch_id, "part": part},
    ).fetchall()
    return [_version(row, _measured(connection, row["id"])) for row in rows]


def version_of(connection: Connection, watch_id: int, number: int) -> MadeVersion:
    """One version of a watch's parts by its own number in the workshop; NotFoundError where it is none."""
    row = connection.execute(
        "SELECT * FROM made_version WHERE id = :id AND watch_id = :watch", {"id": number, "watch": watch_id}
    ).fetchone()
    if row is None:
        raise NotFoundError(f"version {number} of a part made for this watch")
    return _version(row, _measured(connection, number))


def build_of(connection: Connection, version: MadeVersion) -> Build:
    """The watch as it was when the version was made."""
    row = connection.execute(
        "SELECT sheet FROM revision WHERE watch_id = :watch AND version = :version",
        {"watch": version.watch_id, "version": version.revision},
    ).fetchone()
    return read_sheet(connection, row["sheet"])


def printer_pairs(connection: Connection) -> list[PrinterPair]:
    """What every printer of the workshop was asked for and what it made, mm, in the order of the days."""
    rows = connection.execute(
        "SELECT * FROM made_version WHERE id IN (SELECT version_id FROM made_reading) ORDER BY id"
    ).fetchall()
    return [pair for row in rows for pair in _version(row, _measured(connection, row["id"])).pairs()]


def last_printed(connection: Connection) -> PrintedBy:
    """What the workshop's newest version was made with; the usual where there is none."""
    row = connection.execute("SELECT * FROM made_version ORDER BY id DESC LIMIT 1").fetchone()
    return PrintedBy() if row is None else _by(row)


def add_version(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection,
    watch_id: int,
    revision: int,
    part: str,
    asked: Mapping[str, AskedSize],
    by: PrintedBy,
    notes: str = "",
    at: str = "",
) -> int:
    """Note a version of a part of that revision and return its number in the workshop."""
    told = {path: [size.kind, size.nominal] for path, size in asked.items()}
    row = connection.execute(
        """
        INSERT INTO made_version (watch_id, part, number, revision, asked, printer, material, nozzle, layer,
                                  notes, at)
        SELECT :watch, :part, coalesce(max(number), 0) + 1, :revision, :asked, :printer, :material, :nozzle,
               :layer, :notes, coalesce(nullif(:at, ''), strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
          FROM made_version WHERE watch_id = :watch AND part = :part RETURNING id
        """,
        {"watch": watch_id, "part": part, "revision": revision, "asked": json.dumps(told),
         "printer": by.printer, "material": by.material, "nozzle": by.setting.nozzle,
         "layer": by.setting.layer, "notes": notes, "at": at},
    ).fetchone()  # fmt: skip
    return int(row["id"])


def measure_version(
    connection: Connection, version: MadeVersion, measured: Mapping[str, Dimension | None], based_on: int
) -> None:
    """Note what a version measures, mm, or take it back. StaleVersionError where it changed since."""
    with transaction(connection):
        _step(connection, version, based_on)
        for path, dimension in measured.items():
            connection.execute(
                "DELETE FROM made_reading WHERE version_id = :id AND path = :path",
                {"id": version.id, "path": path},
            )
            if dimension is not None:
                connection.execute(
                    "INSERT INTO made_reading (version_id, path, value, tol)"
                    " VALUES (:id, :path, :value, :tol)",
                    {"id": version.id, "path": path, "value": dimension.value, "tol": dimension.tol},
                )


def tell_version(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection,
    version: MadeVersion,
    state: VersionState,
    notes: str,
    minutes: int | None,
    cost: Money | None,
    based_on: int,
) -> None:
    """Note how a version came out. StaleVersionError where it changed since the form was made."""
    with transaction(connection):
        _step(connection, version, based_on)
        connection.execute(
            """UPDATE made_version SET state = :state, notes = :notes, minutes = :minutes,
                      cost_minor = :cost, currency = :currency WHERE id = :id""",
            {"id": version.id, "state": state, "notes": notes, "minutes": minutes,
             "cost": cost.minor if cost else None, "currency": cost.currency if cost else ""},
        )  # fmt: skip


def _step(connection: Connection, version: MadeVersion, based_on: int) -> None:
    row = connection.execute(
        "UPDATE made_version SET version = version + 1 WHERE id = :id AND version = :based RETURNING version",
        {"id": version.id, "based": based_on},
    ).fetchone()
    if row is None:
        raise StaleVersionError(based_on, version.version, "version of the part")


def piece_of(connection: Connection, version: MadeVersion, part: MadePart) -> int:
    """The version as a piece of the shelf, made one now where it is none yet; within a transaction."""
    if version.piece_id is not None:
        return version.piece_id
    kind = part.build.anatomy.kind(part.kind.part)
    document = _plain(part.build.at(part.path))
    name = f"{part.label}, {part.build.name}, made here"[:120]
    if version.by.material and any(look.key == "material" for look in kind.looks):
        document["material"] = version.by.material
    described = Part.of(kind, {**document, "name": name})
    known = shelf.part_named(connection, kind.key, name)
    number = shelf.add_part(connection, described) if known is None else known.id
    made = pieces.add_piece(connection, number, Stock(paid=version.cost))
    told = filter(None, (version.by.printer, version.by.material, _time(version)))
    words = f"made here: {version.part}, {version.name} ({', '.join(told)})"
    pieces.tell(connection, made, words, version.watch_id)
    connection.execute(
        "UPDATE made_version SET piece_id = :piece, state = 'good', version = version + 1 WHERE id = :id",
        {"piece": made, "id": version.id},
    )
    return made


def with_version(
    connection: Connection, build: Build, version: MadeVersion, part: MadePart, piece: int
) -> Build:
    """The watch with the version in it: what it measured, and which piece it is."""
    owned = pieces.piece(connection, piece)
    document = {**_plain(part.build.at(part.path)), "name": owned.part.name}
    there = build.has(part.path) or not part.kind.is_many
    slot = part.path if there else f"{part.kind.part}.-"
    held = build.with_entry(slot, {**document, PART_LINK: owned.part_id, PIECE_LINK: piece})
    return version.as_measured(held)


def _time(version: MadeVersion) -> str:
    return f"{version.minutes} min" if version.minutes is not None else ""


def forget_version(connection: Connection, version: MadeVersion) -> None:
    """Take a version back that nothing came of yet; TakenError where it was measured or became something."""
    if version.measured or version.piece_id is not None or version.state != "asked":
        raise TakenError(
            "This version was measured or told of: it stays in the record, as spoilt if need be."
        )
    connection.execute("DELETE FROM made_version WHERE id = :id", {"id": version.id})


def _plain(document: Json) -> dict[str, Json]:
    return {key: value for key, value in document.items() if key not in LINKS}


def _measured(connection: Connection, number: int) -> dict[str, Dimension]:
    rows = connection.execute(
        "SELECT path, value, tol FROM made_reading WHERE version_id = :id", {"id": number}
    )
    return {row["path"]: Dimension(row["value"], row["tol"], Source.MEASURED) for row in rows}


def _by(row: sqlite3.Row) -> PrintedBy:
    return PrintedBy(row["printer"], row["material"], PrintSetting(row["nozzle"], row["layer"]))


def _version(row: sqlite3.Row, measured: dict[str, Dimension]) -> MadeVersion:
    asked = {path: AskedSize(kind, nominal) for path, (kind, nominal) in json.loads(row["asked"]).items()}
    cost = None if row["cost_minor"] is None else Money(row["cost_minor"], row["currency"])
    return MadeVersion(
        id=row["id"],
        watch_id=row["watch_id"],
        part=row["part"],
        number=row["number"],
        revision=row["revision"],
        asked=asked,
        by=_by(row),
        state=row["state"],
        notes=row["notes"],
        minutes=row["minutes"],
        cost=cost,
        piece_id=row["piece_id"],
        version=row["version"],
        at=row["at"],
        measured=measured,
    )
