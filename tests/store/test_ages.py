"""Workshops of every version that was ever written: `tests/ages` holds what the program of that day wrote.

Each is opened as a builder would open it who comes back after a year: the file itself, and its archive.
"""

import io
import lzma
import shutil
import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path

import pytest
from fastapi import FastAPI
from starlette.testclient import TestClient

from marquetry.store import archive_in
from marquetry.store.database import connect, open_workshop
from marquetry.store.house import furnish
from marquetry.store.migrating import migrations, version_of
from marquetry.store.opening import refuse_foreign
from marquetry.store.watches import all_watches, save, undo, watch
from marquetry.web.site.app import begin_on
from tests.e2e.pages import broken_pages
from tests.keep_age import AGES
from tests.strategies import MODEL

NEVER_ALONE = {9, 15, 16, 20}
"""Written together with the next: no workshop ever stood at these versions."""
DATABASES = sorted(AGES.glob("version-*.sqlite3.xz"))
ARCHIVES = sorted(AGES.glob("version-*.zip"))
FIRST_ARCHIVE = 3
BOOKKEEPING = {"access", "left_session", "import_row", "sent_form", "table_change", "migration"}
"""The door of one machine, rows of a file that is half read, and what a file notes of itself."""
STAGES = ("", "/face", "/brief", "/parts", "/make", "/order", "/build", "/prove", "/story")


def test_every_version_but_those_that_never_stood_alone_is_kept() -> None:
    """After a new migration: `make age`, before anything of it changes again."""
    kept = {int(path.name[8:10]) for path in DATABASES}
    assert kept == {number for number, _ in migrations()} - NEVER_ALONE
    assert {int(path.name[8:10]) for path in ARCHIVES} == {n for n in kept if n >= FIRST_ARCHIVE}


def counted(file: Path) -> dict[str, int]:
    """Rows of what a builder would miss, by table; only of tables that are there."""
    with closing(sqlite3.connect(file)) as plain:
        return {name: plain.execute(f"SELECT count(*) FROM {name}").fetchone()[0] for name in missed(plain)}  # noqa: S608  # of the schema


def missed(plain: sqlite3.Connection) -> list[str]:
    """Tables of which a builder would miss a row, by this test's own reckoning: all but bookkeeping."""
    query = "SELECT name FROM sqlite_master WHERE type = 'table' AND sql NOT LIKE 'CREATE VIRTUAL%'"
    there = {row[0] for row in plain.execute(query)}
    return sorted(
        name for name in there if not name.startswith(("part_words", "sqlite_")) and name not in BOOKKEEPING
    )


def sheets(file: Path) -> list[tuple[int, int, str]]:
    with closing(sqlite3.connect(file)) as plain:
        return plain.execute("SELECT watch_id, version, sheet FROM revision ORDER BY 1, 2").fetchall()


def open_everywhere(file: Path, application: FastAPI) -> None:
    """Every watch is readable, every stage of the first opens, an edit is saved and taken back."""
    begin_on(application, file, MODEL)
    with TestClient(application, base_url="http://127.0.0.1") as client:
        assert list(broken_pages(client)) == []
        for stage in STAGES:
            assert client.get(f"/watches/1{stage}").status_code == 200, stage
    with closing(connect(file, MODEL)) as connection:
        before = watch(connection, 1)
        after = save(connection, 1, before.version, before.build.renamed("Come of age"), "Name")
        assert undo(connection, 1, after.version).build == before.build


@pytest.mark.parametrize("kept", DATABASES, ids=lambda path: path.name[8:10])
def test_a_workshop_s_file_opens_with_all_that_was_in_it(
    kept: Path, tmp_path: Path, application: FastAPI
) -> None:
    file = tmp_path / "old.sqlite3"
    file.write_bytes(lzma.decompress(kept.read_bytes()))
    before, written = counted(file), sheets(file)
    refuse_foreign(file)
    open_workshop(file, MODEL)
    with closing(connect(file, MODEL)) as connection:
        furnish(connection)
        assert version_of(connection) == migrations()[-1][0]
        assert connection.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert connection.execute("PRAGMA foreign_key_check").fetchall() == []
        assert len(all_watches(connection)) == before["watch"]
    assert sheets(file) == written, "a migration writes no sheet anew"
    after = counted(file)
    # What a workshop is furnished with may have become more since; nothing may have become less.
    # Only what was counted of blanks is told otherwise: as the blanks themselves.
    assert {name for name, count in before.items() if after[name] < count} <= {"batch_step"}
    assert after["batch_step"] == 0
    assert after.get("blank", 0) >= 6 if before.get("batch_step") else True
    assert all(after[name] == before[name] for name in ("watch", "revision"))
    open_everywhere(file, application)
    again = tmp_path / "again.sqlite3"
    shutil.copy(file, again)
    open_workshop(again, MODEL)
    assert counted(again) == counted(file), "opened once more, nothing happens"


@pytest.mark.parametrize("kept", ARCHIVES, ids=lambda path: path.name[8:10])
def test_a_workshop_s_archive_comes_in_as_its_file_would(kept: Path, tmp_path: Path) -> None:
    """Row by row what the file of the same day is by now: two ways of growing older, one result."""
    file, old = tmp_path / "new.sqlite3", tmp_path / "old.sqlite3"
    old.write_bytes(lzma.decompress((AGES / f"{kept.stem}.sqlite3.xz").read_bytes()))
    for path in (file, old):
        open_workshop(path, MODEL)
        with closing(connect(path, MODEL)) as connection:
            furnish(connection)
            if path is file:
                archive_in.unpack(connection, file, io.BytesIO(kept.read_bytes()))
    with closing(sqlite3.connect(old)) as plain:
        names = missed(plain)
    assert len(names) > 40
    assert {name: rows(file, name) for name in names} == {name: rows(old, name) for name in names}


def test_ages_are_collected_without_a_browser() -> None:
    """They are run where nothing but the program is installed."""
    script = "import sys; sys.modules['selenium'] = None; import tests.store.test_ages"
    ended = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, timeout=60, check=False
    )
    assert ended.returncode == 0, ended.stderr


def rows(file: Path, table: str) -> list[tuple[object, ...]]:
    with closing(sqlite3.connect(file)) as plain:
        return sorted(plain.execute(f"SELECT * FROM {table}").fetchall(), key=repr)  # noqa: S608  # as above
