"""Photographs: files beside the database, named by the digest of their content, told of in the database.

A picture is decoded and written anew: what is kept holds pixels and nothing else, neither place nor camera
nor anything hidden behind the picture. The file is on disk before its row is.
"""

import hashlib
import os
import sqlite3
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from threading import Lock
from typing import Literal

from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.store.database import Connection

PhotoOwner = Literal["watch", "part", "piece", "donor", "made", "trial", "bench", "proof", "blank"]
MOST_BYTES = 20_000_000
MOST_PIXELS = 60_000_000
LONGEST_SIDE = 2400
FORMATS = ("JPEG", "PNG", "WEBP")
DECODING = Lock()
"""One picture at a time: sixty megapixels take a few hundred megabytes while they are decoded."""
EXPECTED = "a JPEG, PNG or WebP picture of at most 20 MB and 60 megapixels"


@dataclass(frozen=True, slots=True)
class Photo:
    """A photograph as it is on disk; sizes in pixels."""

    id: int
    digest: str
    width: int
    height: int
    caption: str
    at: str


def folder_of(database: Path) -> Path:
    """Where a workshop's photographs lie."""
    return database.with_suffix(".photos")


def file_of(database: Path, digest: str) -> Path:
    """The file of a photograph."""
    return folder_of(database) / f"{digest}.jpg"


def photos_of(connection: Connection, owner: PhotoOwner, owner_id: int) -> list[Photo]:
    """Every photograph of a thing, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM photo WHERE owner = :owner AND owner_id = :id ORDER BY id",
        {"owner": owner, "id": owner_id},
    )
    return [_photo(row) for row in rows]


def photo(connection: Connection, number: int) -> Photo:
    """One photograph; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM photo WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"photograph {number}")
    return _photo(row)


def add_photo(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection,
    database: Path,
    owner: PhotoOwner,
    owner_id: int,
    content: bytes,
    caption: str = "",
) -> int:
    """Keep a picture and return its number. SheetError, and nothing kept, where it is none."""
    encoded, (width, height) = reencoded(content)
    digest = keep_file(database, encoded)
    cursor = connection.execute(
        """
        INSERT INTO photo (owner, owner_id, digest, width, height, caption)
        VALUES (:owner, :id, :digest, :width, :height, :caption)
        """,
        {"owner": owner, "id": owner_id, "digest": digest, "width": width, "height": height,
         "caption": caption},
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def remove_photo(
    connection: Connection, database: Path, owner: PhotoOwner, owner_id: int, number: int
) -> None:
    """Forget a photograph of that owner; its file goes too where nothing else shows it."""
    found = next((shown for shown in photos_of(connection, owner, owner_id) if shown.id == number), None)
    if found is None:
        raise NotFoundError(f"photograph {number} of this {owner}")
    connection.execute("DELETE FROM photo WHERE id = :id", {"id": number})
    shown = connection.execute("SELECT 1 FROM photo WHERE digest = ? LIMIT 1", (found.digest,)).fetchone()
    if shown is None:
        file_of(database, found.digest).unlink(missing_ok=True)


def reencoded(content: bytes) -> tuple[bytes, tuple[int, int]]:
    """The picture as a JPEG without anything but pixels, turned upright, and its size."""
    from PIL import Image, ImageOps, UnidentifiedImageError  # noqa: PLC0415  # heavy, and rarely wanted

    if len(content) > MOST_BYTES:
        raise SheetError("photograph", EXPECTED, f"{len(content) / 1e6:.0f} MB")
    try:
        with DECODING, Image.open(BytesIO(content), formats=FORMATS) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise SheetError("photograph", EXPECTED, f"{picture.width} × {picture.height} pixels")
            picture.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))  # a JPEG is decoded no larger than is kept
            picture.thumbnail((2 * LONGEST_SIDE, 2 * LONGEST_SIDE))
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        if isinstance(error, SheetError):
            raise
        raise SheetError("photograph", EXPECTED, "something else, or a damaged picture") from None
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    written = BytesIO()
    plain.save(written, "JPEG", quality=88)
    return written.getvalue(), plain.size


def keep_file(database: Path, encoded: bytes) -> str:
    """Write a picture to its place, whole or not at all, and return its digest."""
    digest = hashlib.sha256(encoded).hexdigest()
    target = file_of(database, digest)
    if target.exists():
        return digest
    target.parent.mkdir(parents=True, exist_ok=True)
    half = target.with_suffix(f".{os.getpid()}.half")
    try:
        with half.open("wb") as file:
            file.write(encoded)
            file.flush()
            os.fsync(file.fileno())
        half.replace(target)
    finally:
        half.unlink(missing_ok=True)
    place = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(place)
    finally:
        os.close(place)
    return digest


def _photo(row: sqlite3.Row) -> Photo:
    return Photo(row["id"], row["digest"], row["width"], row["height"], row["caption"], row["at"])


PLAIN_SEGMENTS = {0xE0, 0xDB, 0xC0, 0xC4, 0xDA}
"""JFIF head, tables, frame, scan: all that a JPEG written here is made of."""


def refuse_unclean(content: bytes) -> None:
    """Raise SheetError for a picture that this program did not write: no JPEG, or with more than pixels."""
    from PIL import Image, UnidentifiedImageError  # noqa: PLC0415  # as above

    clean = _holds_only_pixels(content)
    if clean:
        try:
            with DECODING, Image.open(BytesIO(content), formats=("JPEG",)) as picture:
                clean = picture.width * picture.height <= MOST_PIXELS
                if clean:
                    picture.load()
        except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
            clean = False
    if not clean:
        raise SheetError("photograph", "a plain JPEG as this program writes it")


def _holds_only_pixels(content: bytes) -> bool:
    """Whether a JPEG has the plain segments alone, one scan, and nothing behind its end."""
    if content[:2] != b"\xff\xd8":
        return False
    at = 2
    while at + 4 <= len(content) and content[at] == MARKER:
        kind, size = content[at + 1], int.from_bytes(content[at + 2 : at + 4], "big")
        if kind not in PLAIN_SEGMENTS:
            return False
        at += 2 + size
        if kind == SCAN:
            # Within a scan, a marker byte is followed by 0; the first other one has to be the end, and last.
            ends = content.find(b"\xff\xd9", at)
            stuffed = content[at:ends].replace(b"\xff\x00", b"")
            return ends == len(content) - 2 and b"\xff" not in stuffed
    return False


MARKER, SCAN = 0xFF, 0xDA
