"""Versions, batches and trials on disk: they go out and come in whole, and older workshops still open."""

import io
import json
import zipfile
from pathlib import Path

import pytest

from marquetry.core.making.printer import printer_fit
from marquetry.core.values.errors import SheetError, StaleVersionError
from marquetry.store import archive, archive_in, blanks, made, photos, trials, watches
from marquetry.store.database import connect, open_workshop
from marquetry.store.migrating import migrations
from tests.store.test_briefs import fresh, rewritten
from tests.strategies import MODEL, case_build

TABLES = ("made_version", "made_reading", "batch", "batch_step", "blank", "blank_stage", "finish_trial")


def test_what_was_made_comes_out_of_an_archive_as_it_went_in(demo_archive: bytes, tmp_path: Path) -> None:
    opened = fresh(tmp_path, "new.sqlite3")
    archive_in.unpack(opened, tmp_path / "new.sqlite3", io.BytesIO(demo_archive))
    again = io.BytesIO()
    archive.pack(opened, tmp_path / "new.sqlite3", again)
    assert again.getvalue() == demo_archive
    newest, *others = made.versions_of(opened, 1, "holder")
    assert (newest.number, newest.state, len(others)) == (3, "good", 2)
    fit = printer_fit(made.printer_pairs(opened), "the bench's own", "PETG", "outer")
    assert fit.n == 7
    batch = blanks.batches_of(opened, 1)[0]
    assert [blank.state for blank in batch.blanks] == ["spoilt"] * 3 + ["good"] + ["work"] * 2
    assert [stage.stage for stage in batch.blanks[3].stages] == ["cut", "base coat", "second coat", "lume"]
    assert [trial.is_chosen for trial in trials.trials_of(opened, 1)] == [False, True, True]
    with pytest.raises(StaleVersionError):
        made.measure_version(opened, newest, {}, newest.version - 1)
    opened.close()


def test_an_archive_from_before_anything_was_made_still_comes_in(demo_archive: bytes, tmp_path: Path) -> None:
    with zipfile.ZipFile(io.BytesIO(demo_archive)) as held:
        manifest = json.loads(held.read("manifest.json"))
    for table in TABLES:
        del manifest["rows"][table]
    change: dict[str, bytes | None] = {f"tables/{table}.jsonl": None for table in TABLES}
    old = rewritten(demo_archive, {**change, "manifest.json": json.dumps(manifest).encode()})
    opened = fresh(tmp_path, "old.sqlite3")
    archive_in.unpack(opened, tmp_path / "old.sqlite3", io.BytesIO(old))
    assert made.versions_of(opened, 1) == []
    opened.close()


@pytest.mark.parametrize(
    ("table", "column", "value", "words"),
    [
        ("made_version", "part", "crown", "what this program can read"),
        ("made_version", "asked", '{"holder.colour": ["outer", 3]}', "what this program can read"),
        ("made_version", "asked", '{"holder.step": ["sideways", 3]}', "what this program can read"),
        ("made_version", "revision", 99, "rows that name only what is there"),
        ("made_reading", "path", "holder.nose", "what this program can read"),
        ("blank", "state", "lost", "agrees with the others"),
        ("blank", "told_at", "late", "a day as"),
        ("blank_stage", "stage", "", "agrees with the others"),
        ("finish_trial", "at", "once", "a day as"),
        ("supplier", "duty_percent", "much", "what this program can read"),
        ("offer", "price", "-3", "what this program can read"),
        ("offer", "breaks", '[["ten", "2"]]', "what this program can read"),
        ("rate", "rate", "0", "what this program can read"),
        ("trade_setting", "value", '{"x": -1}', "agrees with|can read|there"),
        ("supply_order", "due", "soon", "what this program can read"),
        ("supply_line", "price", "NaN", "what this program can read"),
        ("supply_step", "what", "eaten", "agrees with the others"),
        ("booking", "currency", "XYZ", "what this program can read"),
        ("quote", "told", '{"lines": [1]}', "what this program can read"),
        ("series_number", "day", "2026-02-30", "what this program can read"),
    ],
)
def test_an_archive_with_what_cannot_be_is_refused(  # noqa: PLR0913, PLR0917  # a row and its fixtures
    demo_archive: bytes, tmp_path: Path, table: str, column: str, value: object, words: str
) -> None:
    name = f"tables/{table}.jsonl"
    with zipfile.ZipFile(io.BytesIO(demo_archive)) as held:
        rows = [json.loads(line) for line in held.read(name).splitlines()]
    rows[0][column] = value
    wrong = rewritten(demo_archive, {name: b"".join(json.dumps(row).encode() + b"\n" for row in rows)})
    opened = fresh(tmp_path, "new.sqlite3")
    with pytest.raises(SheetError, match=words):
        archive_in.unpack(opened, tmp_path / "new.sqlite3", io.BytesIO(wrong))
    assert not watches.all_watches(opened)
    opened.close()


def test_a_database_from_before_anything_was_made_keeps_its_pictures(tmp_path: Path) -> None:
    file = tmp_path / "old.sqlite3"
    opened = connect(file, MODEL)
    for number, script in migrations():
        if number <= 7:
            opened.executescript(f"BEGIN; {script}; PRAGMA user_version = {number}; COMMIT;")
    watches.add_watch(opened, case_build(1))
    picture = "INSERT INTO photo (owner, owner_id, digest, width, height) VALUES ('watch', 1, ?, 4, 3)"
    opened.execute(picture, ("a" * 64,))
    opened.close()
    open_workshop(file, MODEL)
    again = connect(file, MODEL)
    assert [photo.digest for photo in photos.photos_of(again, "watch", 1)] == ["a" * 64]
    assert blanks.add_batch(again, 1, "Blanks", 2) == 1
    again.close()
