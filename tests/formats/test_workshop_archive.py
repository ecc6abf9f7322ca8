"""The whole workshop as one file: the same out again, and nothing changed by what is no workshop."""

import io
import json
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PIL import Image

from marquetry.core.values.errors import SheetError
from marquetry.demo.workshop import make_demo
from marquetry.store import archive, archive_in, house, photos, readings
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.shelf_search import ShelfQuery, search
from tests.strategies import MODEL


def picture(colour: str = "navy") -> bytes:
    written = io.BytesIO()
    Image.new("RGB", (60, 40), colour).save(written, "PNG")
    return written.getvalue()


@pytest.fixture(scope="module")
def packed(tmp_path_factory: pytest.TempPathFactory) -> bytes:
    database = tmp_path_factory.mktemp("demo") / "demo.sqlite3"
    make_demo(database, MODEL)
    connection = connect(database, MODEL)
    photos.add_photo(connection, database, "part", 1, picture(), "front")
    photos.add_photo(connection, database, "part", 2, picture("red"))
    house.set_rule(connection, "stem_height", [-0.2, 0.2], "own")
    file = io.BytesIO()
    archive.pack(connection, database, file)
    connection.close()
    return file.getvalue()


@pytest.fixture
def database(tmp_path: Path) -> Path:
    file = tmp_path / "w.sqlite3"
    open_workshop(file, MODEL)
    return file


@pytest.fixture
def connection(database: Path) -> Iterator[Connection]:
    opened = connect(database, MODEL)
    house.furnish(opened)
    yield opened
    opened.close()


def test_a_workshop_comes_out_of_another_program_byte_for_byte(
    packed: bytes, connection: Connection, database: Path
) -> None:
    steps: list[int] = []
    contents = archive_in.unpack(connection, database, io.BytesIO(packed), steps.append)
    assert contents.rows["watch"] == 15
    assert len(contents.photographs) == 6
    assert steps == sorted(steps)
    again = io.BytesIO()
    archive.pack(connection, database, again)
    assert again.getvalue() == packed
    assert [slip.stored.part.name for slip in search(connection, ShelfQuery("lamp-room")).slips] == [
        "Lamp-room white"
    ]
    assert readings.readings_of(connection, "watch", 2, "dial.thickness")
    with pytest.raises(SheetError, match="an empty one"):
        archive_in.unpack(connection, database, io.BytesIO(packed))


Change = Callable[[dict[str, bytes]], None]


def changed(packed: bytes, change: Change) -> bytes:
    with zipfile.ZipFile(io.BytesIO(packed)) as old:
        held = {name: old.read(name) for name in old.namelist()}
    change(held)
    written = io.BytesIO()
    with zipfile.ZipFile(written, "w", zipfile.ZIP_DEFLATED) as new:
        for name, content in held.items():
            new.writestr(name, content)
    return written.getvalue()


def row(table: str, number: int, **values: object) -> Change:
    """Another value in a row."""

    def change(held: dict[str, bytes]) -> None:
        lines = held[f"tables/{table}.jsonl"].splitlines()
        lines[number] = json.dumps({**json.loads(lines[number]), **values}).encode()
        held[f"tables/{table}.jsonl"] = b"\n".join(lines) + b"\n"

    return change


def put(name: str, content: bytes) -> Change:
    return lambda held: held.__setitem__(name, content)


def unclean(held: dict[str, bytes]) -> None:
    """A picture that carries more than pixels, under its right name."""
    written, exif = io.BytesIO(), Image.Exif()
    exif[0x010E] = "where it was taken"
    Image.new("RGB", (8, 8)).save(written, "JPEG", exif=exif)
    import hashlib  # noqa: PLC0415  # only here

    held[f"photos/{hashlib.sha256(written.getvalue()).hexdigest()}.jpg"] = written.getvalue()


JUNK_RULE = '{"format": "marquetry-build/1", "name": "x", "parts": {}, "rules": {"stem_height": "junk"}}'


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (put("../../etc/evil", b"x"), "tables and photographs only"),
        (put("/abs.jsonl", b"x"), "tables and photographs only"),
        (put("tables/sqlite_master.jsonl", b""), "tables and photographs only"),
        (put("photos/" + "0" * 64 + ".jpg", b"<svg onload='x()'/>"), "the picture its name says"),
        (unclean, "a plain JPEG"),
        (put("manifest.json", b"{}"), "marquetry-workshop/1"),
        (put("manifest.json", b"[" * 100_000), "JSON"),
        (lambda held: held.pop("manifest.json"), "marquetry-workshop/1"),
        (put("tables/part.jsonl", b"not json\n"), "part, row 1: expected a JSON object"),
        (put("tables/part.jsonl", b""), "rows as the manifest says"),
        (row("part", 3, kind="boiler"), "part, row 4"),
        (row("part", 3, sheet='{"diameter": "wide"}'), "part, row 4"),
        (row("part", 3, extra=1), "the entries"),
        (row("part", 3, version="one"), "part, row 4"),
        (row("revision", 0, sheet="{}"), "revision, row 1"),
        (row("watch", 0, version=77), "rows that name only what is there"),
        (row("piece", 0, part_id=99_999), "piece, row 1"),
        (row("house_rule", 0, value='"wide"'), "house_rule, row 1"),
        (row("photo", 0, digest="0" * 64), "a picture for every row"),
        (row("bench_entry", 0, what="shout"), "bench_entry, row 1"),
        (row("proof", 0, kind="sung"), "proof, row 1"),
        (row("proof", 0, at_ms=-1), "proof, row 1"),
        (row("proof", 0, result="[]"), "proof, row 1"),
        (row("proof", 0, result='{"a": "' + "x" * 400_000 + '"}'), "proof, row 1"),
        (row("proof", 0, photo_id=99_999), "rows that name only what is there"),
        (row("bench_entry", 0, at_ms=-5), "bench_entry, row 1"),
        (row("bench_entry", 0, value=1e300), "bench_entry, row 1"),
        (row("bench_entry", 0, detail='{"opens": [1]}'), "bench_entry, row 1"),
        (row("bench_entry", 0, watch_id=99_999), "rows that name only what is there"),
        (row("lesson", 0, day="last winter"), "lesson, row 1"),
        (lambda held: held.pop("tables/revision.jsonl"), "revision"),
        (row("revision", 0, saved_at="yesterday"), "a day as"),
        (row("part", 0, added_at="2026-02-31T00:00:00Z"), "a day as"),
        (row("revision", -1, version=2, redo_to=1), "revision"),
        (row("reading", 0, owner_id=99_999), "an owner for every reading"),
        (row("photo", 0, owner_id=99_999), "an owner for every photograph"),
        (row("in_watch", 0, piece_id=1), "pieces where the newest sheet|rows that name"),
        (row("revision", 0, sheet=JUNK_RULE), "revision, row 1"),
    ],
)  # fmt: skip
def test_what_is_no_workshop_is_refused_and_nothing_is_changed(
    packed: bytes, connection: Connection, database: Path, change: Change, words: str
) -> None:
    with pytest.raises(SheetError, match=words):
        archive_in.unpack(connection, database, io.BytesIO(changed(packed, change)))
    assert archive.is_empty(connection)
    assert len(house.instruments(connection)) == 5
    assert not list(photos.folder_of(database).glob("*"))


def bomb() -> bytes:
    written = io.BytesIO()
    with (
        zipfile.ZipFile(written, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as new,
        new.open("tables/part.jsonl", "w", force_zip64=True) as out,
    ):
        for _ in range(21):
            out.write(b"\0" * 100_000_000)
    return written.getvalue()


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"no zip at all", "a zip file that is whole"),
        (b"", "a zip file"),
        (None, "at most 2 GB when unpacked"),
    ],
)
def test_a_bomb_or_no_archive_is_refused_before_it_is_unpacked(
    connection: Connection, database: Path, content: bytes | None, words: str
) -> None:
    with pytest.raises(SheetError, match=words):
        archive_in.unpack(connection, database, io.BytesIO(bomb() if content is None else content))
    assert archive.is_empty(connection)


def test_a_damaged_archive_is_refused(packed: bytes, connection: Connection, database: Path) -> None:
    for share in (0.3, 0.9, 0.999):
        with pytest.raises(SheetError, match="whole"):
            archive_in.unpack(connection, database, io.BytesIO(packed[: int(len(packed) * share)]))
    spoilt = bytearray(packed)
    spoilt[len(packed) // 3] ^= 0xFF
    with pytest.raises(SheetError):
        archive_in.unpack(connection, database, io.BytesIO(bytes(spoilt)))
    assert archive.is_empty(connection)
