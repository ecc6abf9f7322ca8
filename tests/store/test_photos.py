"""Photographs: only pixels are kept, and what is no picture is refused."""

import io
import struct
import zlib
from pathlib import Path

import pytest
from PIL import Image

from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.store import photos
from marquetry.store.database import Connection, open_workshop
from tests.strategies import MODEL


@pytest.fixture
def database(tmp_path: Path) -> Path:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    return tmp_path / "w.sqlite3"


def encoded(kind: str = "JPEG", size: tuple[int, int] = (80, 40), **more: object) -> bytes:
    written = io.BytesIO()
    Image.new("RGB", size, "teal").save(written, kind, **more)
    return written.getvalue()


def wide_png() -> bytes:
    """A few bytes that say they are 60,000 pixels wide and high."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    head = struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"")) + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize(
    "content",
    [
        b"", b"<svg xmlns='http://www.w3.org/2000/svg'><script>x()</script></svg>",
        b"<!doctype html><script>x()</script>", b"\xff\xd8\xff\xe0 no picture", encoded()[:300],
        encoded("GIF"), wide_png(), b"%PDF-1.7", b"\0" * (photos.MOST_BYTES + 1),
    ],
    ids=["empty", "svg", "html", "stub", "cut", "gif", "too wide", "pdf", "too large"],
)  # fmt: skip
def test_what_is_no_picture_is_refused_and_nothing_is_kept(
    connection: Connection, database: Path, content: bytes
) -> None:
    with pytest.raises(SheetError, match="a JPEG, PNG or WebP picture"):
        photos.add_photo(connection, database, "part", 1, content)
    assert photos.photos_of(connection, "part", 1) == []
    assert not photos.folder_of(database).exists()


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_only_pixels_are_kept_and_the_picture_stands_upright(
    connection: Connection, database: Path, kind: str
) -> None:
    exif = Image.Exif()
    exif[0x0112], exif[0x010E] = 6, "taken at the harbour"
    photos.add_photo(connection, database, "part", 1, encoded(kind, exif=exif) + b"<script>", "front")
    (kept,) = photos.photos_of(connection, "part", 1)
    content = photos.file_of(database, kept.digest).read_bytes()
    assert b"harbour" not in content
    assert b"<script>" not in content
    assert (kept.width, kept.height, kept.caption) == (40, 80, "front")
    photos.refuse_unclean(content)


def test_a_picture_is_made_smaller_shared_and_forgotten_with_its_last_row(
    connection: Connection, database: Path
) -> None:
    content = encoded(size=(4800, 1200))
    first, second = (photos.add_photo(connection, database, "part", owner, content) for owner in (1, 2))
    kept = photos.photo(connection, first)
    assert (kept.width, kept.height) == (2400, 600)
    file = photos.file_of(database, kept.digest)
    photos.remove_photo(connection, database, "part", 1, first)
    assert file.exists()
    photos.remove_photo(connection, database, "part", 2, second)
    assert not file.exists()
    with pytest.raises(NotFoundError):
        photos.photo(connection, second)
