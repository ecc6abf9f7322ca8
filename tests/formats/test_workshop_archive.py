"""The whole workshop as one file: the same out again, and nothing changed by what is no workshop."""

import io
import json
import zipfile
from collections.abc import Callable, Iterator
from contextlib import closing
from importlib.resources import files
from pathlib import Path

import pytest
from PIL import Image

from marquetry.core.values.errors import SheetError
from marquetry.demo.workshop import make_demo
from marquetry.store import archive, archive_in, house, imports, pasted, photos, readings, rounds
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


GOES_ALONG = {
    "supplier", "watch", "revision", "variant", "house_rule", "instrument", "donor", "part", "part_past", "sundry",
    "supply_order", "supply_line", "supply_step", "piece", "in_watch", "move", "reading", "photo", "family", "wish",
    "sign_off", "made_version", "made_reading", "batch", "batch_step", "blank", "blank_stage",
    "finish_trial", "offer", "rate",
    "trade_setting", "booking", "quote", "series", "series_number", "stock_taking", "stock_counted", "bench_entry",
    "lesson", "lesson_turn", "bench_setting", "proof", "story_note", "fate", "spec_card", "rehearsal",
    "rehearsal_move", "pasted", "measuring_round", "import", "supplier_sender", "supplier_label", "beside_part",
}  # fmt: skip
"""Kept by hand: whoever adds a table says here that it goes along, or in `archive.LEFT_OUT` why it does not."""


def test_every_table_goes_along_or_is_named_with_why_it_stays(connection: Connection) -> None:
    query = "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT GLOB 'sqlite_*'"
    schema = {row[0] for row in connection.execute(query) if not row[0].startswith("part_words")}
    assert schema == GOES_ALONG | archive.LEFT_OUT.keys(), "a new table is in neither"
    assert not GOES_ALONG & archive.LEFT_OUT.keys()
    assert set(archive.tables_of(connection)) == GOES_ALONG
    told = (files("marquetry.web.handbook") / "pages" / "65-formats.md").read_text("utf-8")
    whole = told.partition("## The whole workshop")[2].partition("\n## ")[0]
    assert [name for name in schema if f"`{name}`" not in whole] == [], (
        "and the page on formats tells of each"
    )


ROUND = {"what": "watch", "which": "2", "verdicts": '{"dial_cover": "clear"}', "done": "[0]", "taken": "[0.4]",
         "plan": '[["watch", 2, "dial.thickness", "caliper", "it decides"], ["part", 14, "hour.bore", "pin", "x"]]'}  # fmt: skip


def with_work_on_its_way(database: Path) -> bytes:
    """A demo whose user is in the middle of things: texts being read, a round, one file taken, one half read."""
    make_demo(database, MODEL)
    rows = "\n".join(f"dial,Half way {n},28.50,2" for n in range(600))
    with closing(connect(database, MODEL)) as connection:
        pasted.keep(connection, "watch", 2, "Dial 28.5 mm, thickness 0.40 mm")
        pasted.keep(connection, "shelf", 0, "Two crowns")
        names = ", ".join(ROUND)
        connection.execute(f"INSERT INTO measuring_round ({names}) VALUES (:{', :'.join(ROUND)})", ROUND)  # noqa: S608  # ours
        for content in (b"kind,name\ndial,Whole\n", b"not a table"):
            taken = imports.begin(connection, "before.csv")
            imports.read_in(connection, taken, io.BytesIO(content), lambda _: None)
            if content.startswith(b"kind"):
                imports.take(connection, taken, lambda _: None)
        number = imports.begin(connection, "now.csv")
        text = f"kind,name,diameter,owned\n{rows}\n"
        imports.read_in(connection, number, io.BytesIO(text.encode()), lambda _: None)
        out = io.BytesIO()

        def fetch_meanwhile(done: int) -> None:
            if done >= 400 and not out.getvalue():
                with closing(connect(database, MODEL)) as other:
                    waiting = "SELECT count(*) FROM part WHERE waits_for = ?"
                    assert other.execute(waiting, (number,)).fetchone()[0]
                    archive.pack(other, database, out)

        imports.take(connection, number, fetch_meanwhile)
    return out.getvalue()


def test_an_archive_fetched_during_an_import_comes_in_without_what_is_half_way(
    tmp_path: Path, connection: Connection, database: Path
) -> None:
    packed = with_work_on_its_way(tmp_path / "busy.sqlite3")
    failed = imports.begin(connection, "failed here.csv")
    imports.fail(connection, failed, "It was none.")
    archive_in.unpack(connection, database, io.BytesIO(packed))
    assert connection.execute("PRAGMA foreign_key_check").fetchall() == []
    assert [found.state for found in imports.recent(connection, 9)] == ["failed", "done"]
    assert not search(connection, ShelfQuery("half way")).slips
    assert [slip.stored.part.name for slip in search(connection, ShelfQuery("whole")).slips] == ["Whole"]
    assert pasted.pasted_for(connection, "watch", 2).text == "Dial 28.5 mm, thickness 0.40 mm"
    assert pasted.pasted_for(connection, "shelf", 0).text == "Two crowns"
    found = rounds.stored_round(connection, "watch", "2")
    assert found is not None
    assert (found.at, found.taken, found.plan[1].path) == (1, (0.4,), "hour.bore")
    again = io.BytesIO()
    archive.pack(connection, database, again)
    assert again.getvalue() == packed


def test_a_file_that_is_being_read_keeps_another_workshop_out(
    packed: bytes, connection: Connection, database: Path
) -> None:
    imports.begin(connection, "parts.csv")
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


def table(name: str, **values: object) -> Change:
    """A table with one row of its own."""

    def change(held: dict[str, bytes]) -> None:
        held[f"tables/{name}.jsonl"] = json.dumps(values).encode() + b"\n"
        manifest = json.loads(held["manifest.json"])
        manifest["rows"][name] = 1
        held["manifest.json"] = json.dumps(manifest).encode()

    return change


AS_ROUND = {**ROUND, "skipped": "[]", "begun_at": "2026-11-20T10:00:00Z"}
AS_IMPORT = {"id": 1, "file_name": "x", "state": "applying", "rows_read": 0, "rows_total": 0, "told": "",
             "at": "2026-11-20T10:00:00Z"}  # fmt: skip


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
        (table("measuring_round", **{**AS_ROUND, "plan": '[["cat", 1, "x", "y", "z"]]'}), "measuring_round, row 1"),
        (table("measuring_round", **{**AS_ROUND, "plan": '[["watch", 1, "dial.x", "y", "z"]]'}), "measuring_round"),
        (table("measuring_round", **{**AS_ROUND, "done": "[9]"}), "measuring_round, row 1"),
        (table("measuring_round", **{**AS_ROUND, "taken": '["wide"]'}), "measuring_round, row 1"),
        (table("measuring_round", **{**AS_ROUND, "verdicts": '{"dial_cover": "fine"}'}), "measuring_round, row 1"),
        (table("pasted", owner="watch", owner_id=777, text="x"), "an owner for every text"),
        (table("import", **AS_IMPORT), "an import that is over"),
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
