"""Watches on disk: versions, undo and redo, two tabs, a fault in the middle."""

import sqlite3
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import NotFoundError, StaleVersionError
from marquetry.demo.workshop import make_demo
from marquetry.store import database, migrating
from marquetry.store.database import Connection
from marquetry.store.watches import add_watch, all_watches, redo, remove, restore, save, undo, watch
from tests.strategies import ANATOMY, MODEL


@pytest.fixture
def connection(tmp_path: Path) -> Iterator[Connection]:
    database.open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = database.connect(tmp_path / "w.sqlite3", MODEL)
    yield opened
    opened.close()


def thick(value: float) -> Build:
    return Build.empty("Trial", ANATOMY).with_entry("dial.thickness", value)


def test_a_save_is_on_disk_for_the_next_connection(connection: Connection, tmp_path: Path) -> None:
    number = add_watch(connection, thick(0.4))
    save(connection, number, 1, thick(0.5), "thicker")
    other = database.connect(tmp_path / "w.sqlite3", MODEL)
    found = watch(other, number)
    other.close()
    assert (found.version, found.build, found.undo) == (2, thick(0.5), "thicker")


def test_a_save_of_an_older_version_is_refused_and_writes_nothing(connection: Connection) -> None:
    number = add_watch(connection, thick(0.4))
    save(connection, number, 1, thick(0.5), "first tab")
    with pytest.raises(StaleVersionError, match="version 1, the newest is 2"):
        save(connection, number, 1, thick(0.9), "second tab")
    assert watch(connection, number).build == thick(0.5)


def test_of_many_saves_at_once_exactly_one_is_taken(connection: Connection, tmp_path: Path) -> None:
    number = add_watch(connection, thick(0.4))

    def attempt(value: float) -> bool:
        own = database.connect(tmp_path / "w.sqlite3", MODEL)
        try:
            save(own, number, 1, thick(value), "race")
        except StaleVersionError:
            return False
        finally:
            own.close()
        return True

    with ThreadPoolExecutor(4) as pool:
        assert sum(pool.map(attempt, [0.1 * k for k in range(1, 9)])) == 1


@settings(max_examples=25, deadline=None)
@given(st.lists(st.sampled_from(["edit", "undo", "redo"]), max_size=14))
def test_undo_and_redo_walk_the_same_path_as_a_pair_of_stacks(steps: list[str]) -> None:
    """Against the plain model: a list of states and a place in it."""
    connection = database.connect(Path(":memory:"), MODEL)
    connection.row_factory = sqlite3.Row
    migrating.migrate(connection)
    number, states, place, version = add_watch(connection, thick(0.4)), [0.4], 0, 1
    for count, step in enumerate(steps):
        if step == "edit":
            states[place + 1 :] = [0.5 + count / 100]
            place += 1
            stored = save(connection, number, version, thick(states[place]), f"edit {count}")
        elif step == "undo":
            place = max(place - 1, 0)
            stored = undo(connection, number, version)
        else:
            place = min(place + 1, len(states) - 1)
            stored = redo(connection, number, version)
        version = stored.version
        assert stored.build == thick(states[place])
        assert (stored.undo is None) == (place == 0)
        assert (stored.redo is None) == (place == len(states) - 1)
    connection.close()


def test_a_removed_watch_is_gone_and_can_be_put_back(connection: Connection) -> None:
    number = add_watch(connection, thick(0.4))
    remove(connection, number)
    assert all_watches(connection) == []
    with pytest.raises(NotFoundError):
        watch(connection, number)
    assert restore(connection, number).build == thick(0.4)


def test_migrations_bring_an_empty_file_to_the_newest_version_once(tmp_path: Path) -> None:
    for _ in range(2):
        database.open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = database.connect(tmp_path / "w.sqlite3", MODEL)
    assert migrating.version_of(opened) == migrating.migrations()[-1][0]
    assert [n for n, _ in migrating.migrations()] == list(range(1, len(migrating.migrations()) + 1))
    opened.close()


def test_a_faulty_migration_leaves_nothing_behind(
    connection: Connection, monkeypatch: pytest.MonkeyPatch
) -> None:
    script = "CREATE TABLE half (x INTEGER) STRICT; INSERT INTO nowhere VALUES (1);"
    before = migrating.version_of(connection)
    monkeypatch.setattr(migrating, "migrations", lambda: [(before + 1, script)])
    with pytest.raises(sqlite3.Error):
        migrating.migrate(connection)
    assert migrating.version_of(connection) == before
    assert not connection.execute("SELECT 1 FROM sqlite_master WHERE name = 'half'").fetchall()


def test_the_demo_keeps_what_was_changed_until_a_fresh_start(tmp_path: Path) -> None:
    file = tmp_path / "demo.sqlite3"
    make_demo(file, MODEL)
    connection = database.connect(file, MODEL)
    names = [stored.build.name for stored in all_watches(connection)]
    assert names[:4] == ["Skerry Light", "Night Ferry", "Orchard", "Tide Table"]
    save(connection, 1, watch(connection, 1).version, thick(0.4), "changed")
    connection.close()
    for fresh, expected in ((False, "Trial"), (True, "Skerry Light")):
        make_demo(file, MODEL, fresh=fresh)
        connection = database.connect(file, MODEL)
        assert watch(connection, 1).build.name == expected
        connection.close()
