"""Sheets as they are stored: read so that one that cannot be read is told, never met by a page unawares."""

import contextlib
import json
from collections import OrderedDict
from dataclasses import dataclass
from functools import lru_cache

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
    """The build in a stored sheet, its own rules included. MarquetryError where it cannot be judged."""
    known = _READ.get((id(connection.model), text))
    if known is not None:
        with contextlib.suppress(KeyError):  # another page may have let it go meanwhile
            _READ.move_to_end((id(connection.model), text))
        return known
    try:
        build = Build.of_text(text, connection.model.anatomy)
    except (ValueError, RecursionError) as error:
        if isinstance(error, MarquetryError):
            raise
        raise SheetError("", "JSON that this program wrote") from None
    refuse_unjudgeable(connection, build)
    _keep(connection, text, build)
    return build


@lru_cache(maxsize=4096)
def _part_read(anatomy: Anatomy, kind: str, text: str) -> Part:
    return Part.of(anatomy.kind(kind), json.loads(text))


def read_part(connection: Connection, kind: str, text: str) -> Part:
    """The part in a stored sheet, read once as long as it stays as it is: a drawer shows thirty a page."""
    return _part_read(connection.model.anatomy, kind, text)


MOST_READ = 640
_READ: OrderedDict[tuple[int, str], Build] = OrderedDict()
"""Builds read lately, by the text they were read from: a build never changes, so two pages may share one.

About 80 kB each: 150 watches stay in mind, each as it is and as it was when its bench began and ended."""


def _keep(connection: Connection, text: str, build: Build) -> None:
    _READ[id(connection.model), text] = build
    while len(_READ) > MOST_READ:
        _READ.popitem(last=False)


def refuse_unjudgeable(connection: Connection, build: Build) -> None:
    """Raise SheetError where no report could be made on the build: asked before anything is saved."""
    connection.model.rules_of(build).check_all()


def sheet_text(connection: Connection, build: Build) -> str:
    """A build as it is stored; SheetError, and nothing written, where it could not be judged afterwards."""
    refuse_unjudgeable(connection, build)
    _keep(connection, build.text, build)
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
