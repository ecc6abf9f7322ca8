"""Sheets as they are stored: read so that one that cannot be read is told, never met by a page unawares."""

import json
from dataclasses import dataclass

from marquetry.core.fit.model import Model
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part
from marquetry.core.values.errors import MarquetryError, SheetError
from marquetry.store.database import Connection


@dataclass(frozen=True, slots=True)
class Unreadable:
    """A watch, donor or variant whose sheet cannot be read: its number, its name if it tells one, and why."""

    id: int
    name: str
    why: str


def read_sheet(connection: Connection, text: str) -> Build:
    """The build in a stored sheet, its own rules included. MarquetryError where it cannot be judged.

    A build never changes, so two pages may share one: 150 watches stay read, as they are and as they were.
    """
    return connection.kept.pure(_build_read, connection.model, text)


def _build_read(model: Model, text: str) -> Build:
    try:
        build = Build.of_text(text, model.anatomy)
    except (ValueError, RecursionError) as error:
        if isinstance(error, MarquetryError):
            raise
        raise SheetError("", "JSON that this program wrote") from None
    model.rules_of(build).check_all()
    return build


def read_part(connection: Connection, kind: str, text: str) -> Part:
    """The part in a stored sheet, read once as long as it stays as it is: a drawer shows thirty a page."""
    return connection.kept.pure(_part_read, connection.model.anatomy, kind, text)


def _part_read(anatomy: Anatomy, kind: str, text: str) -> Part:
    return Part.of(anatomy.kind(kind), json.loads(text))


def refuse_unjudgeable(connection: Connection, build: Build) -> None:
    """Raise SheetError where no report could be made on the build: asked before anything is saved."""
    connection.model.rules_of(build).check_all()


def sheet_text(connection: Connection, build: Build) -> str:
    """A build as it is stored; SheetError, and nothing written, where it could not be judged afterwards."""
    refuse_unjudgeable(connection, build)
    connection.kept.keep(connection.kept.key(_build_read, connection.model, build.text), build)
    return build.text


def unreadable(number: int, text: str, error: MarquetryError) -> Unreadable:
    """What can still be told of a sheet that cannot be read."""
    try:
        name = json.loads(text).get("name")
    except (ValueError, RecursionError, AttributeError):
        name = None
    return Unreadable(
        number, name[:80] if isinstance(name, str) and name.strip() else "without a name", str(error)
    )
