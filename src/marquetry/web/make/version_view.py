"""Versions of a made part as its page tells them: sizes wanted, asked and measured, files, pictures."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.making.every_size import size_label
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.making.version import MadeVersion
from marquetry.core.sheet.part import PIECE_LINK
from marquetry.core.values.errors import MarquetryError
from marquetry.formats.made_files import endings_of
from marquetry.store import made
from marquetry.store.photos import Photo, photos_of
from marquetry.web.watch.visit import Visit


@dataclass(frozen=True, slots=True)
class VersionView:
    """A version with its files, its pictures, and what of it was measured against what was asked."""

    made: MadeVersion
    sizes: tuple[tuple[str, str, float, float, float | None], ...]
    """Path, label, wanted, asked, measured, mm or °."""
    files: tuple[tuple[str, str], ...]
    pictures: tuple[Photo, ...]
    is_in_watch: bool


def version_views(visit: Visit, part: MadePart) -> Iterator[VersionView]:
    """Every version of the part, the newest first; sizes wanted are those of the sheet it was made from."""
    piece = visit.stored.build.at(f"{part.path}.{PIECE_LINK}")
    for version in made.versions_of(visit.connection, visit.stored.id, part.name):
        try:
            then = made_part(version.part, made.build_of(visit.connection, version), part.rules)
        except MarquetryError:
            then = part
        names = tuple((ending, ending.upper()) for ending in endings_of(then))
        yield VersionView(
            version,
            tuple(_sizes(version, then)),
            names,
            tuple(photos_of(visit.connection, "made", version.id)),
            piece is not None and piece == version.piece_id,
        )


def _sizes(version: MadeVersion, then: MadePart) -> Iterator[tuple[str, str, float, float, float | None]]:
    for path, asked in version.asked.items():
        wanted = then.build.dimensions.get(path)
        measured = version.measured.get(path)
        label = size_label(then.build.anatomy, path) + (", °" if asked.unit == "°" else "")
        yield (
            path, label, asked.nominal if wanted is None else wanted.value, asked.nominal,
            None if measured is None else measured.value,
        )  # fmt: skip
