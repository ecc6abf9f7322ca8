"""What a bad sheet, a stranger, a full machine or a killed program must not do to a workshop.

The first two are a seeded twentieth of `make torture`; the rest hold each thing that was seen to go wrong.
"""

import contextlib
import fcntl
import html
import json
import socket
import sqlite3
import stat
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from threading import Event
from typing import Any

import pytest
from fastapi import FastAPI
from starlette.testclient import TestClient

from marquetry.core.values.errors import BusyError, SheetError, TakenError
from marquetry.demo.workshop import make_demo
from marquetry.store.database import connect
from marquetry.store.opening import locked, refuse_foreign
from marquetry.web.site.app import begin_on
from marquetry.web.site.deps import opened
from marquetry.web.site.jobs import MOST_RUNNING, Jobs, Work
from tests.e2e.pages import broken_pages
from tests.hostile_files import hostile_files
from tests.nursery import serve
from tests.strategies import MODEL, case
from tests.torture import FILES, INPUTS, JSONS, KILLS, WORDS, hostile_inputs, kills, nested

TWENTIETH = 20
WATCH = "/watches/1"


@pytest.fixture
def client(database: Path, application: FastAPI) -> Iterator[TestClient]:
    begin_on(application, database, MODEL)
    with TestClient(application, base_url="http://127.0.0.1", raise_server_exceptions=False) as made:
        yield made


def ask(database: Path, query: str, *values: Any) -> list[Any]:
    connection = sqlite3.connect(database)
    with connection:
        rows = connection.execute(query, values).fetchall()
    connection.close()
    return rows


def dump(database: Path) -> list[Any]:
    tables = ("watch", "revision", "variant", "part", "piece", "donor")
    return [ask(database, f"SELECT * FROM {table}") for table in tables]  # noqa: S608  # our own names


def test_a_twentieth_of_the_hostile_inputs_meets_no_fault(tmp_path: Path) -> None:
    statuses, faults = hostile_inputs(INPUTS // TWENTIETH, 7, tmp_path / "hostile.sqlite3")
    assert faults == []
    assert statuses[200] + statuses[303] > INPUTS // TWENTIETH // 5, "too few got through to mean anything"


def test_a_twentieth_of_the_hostile_files_is_told_as_what_it_is(tmp_path: Path) -> None:
    ended, faults = hostile_files(FILES // TWENTIETH, 11, tmp_path, WORDS, JSONS)
    assert faults == []
    assert {way.rpartition(" ")[2] for way in ended} == {"0", "1", "2"}, "some are still good"


def test_a_twentieth_of_the_kills_loses_nothing_acknowledged(tmp_path: Path) -> None:
    acknowledged, lost = kills(KILLS // TWENTIETH, 7, tmp_path)
    assert lost == []
    assert acknowledged >= KILLS // TWENTIETH


# One bad watch -----------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "edits",
    [
        '[["rules",{"stem_height":"junk"}]]',
        '[["dial.thickness",{"value":0.4,"tol":1e308}]]',
        '[["dial.thickness",{"value":1e9}]]',
        '[["rules",{"gap_dial":1e308}]]',
        json.dumps([["dial.thickness", nested(70)]]),
    ],
)
def test_a_trial_that_cannot_be_judged_stores_nothing(client: TestClient, database: Path, edits: str) -> None:
    before = dump(database)
    version = ask(database, "SELECT version FROM watch WHERE id = 1")[0][0]
    sent = client.post(f"{WATCH}/kept", params={"try": edits}, data={"version": version})
    assert sent.status_code in {409, 422}
    assert dump(database) == before
    assert list(broken_pages(client)) == []


@pytest.mark.parametrize("key", ["sheets", "donors"])
def test_a_sheet_nested_too_deep_is_refused_as_a_whole(client: TestClient, database: Path, key: str) -> None:
    sheet = {"format": "marquetry-build/1", "name": "Deep", "parts": {"dial": nested(490)}}
    before = dump(database)
    answer = client.post(f"/{key}", files={"sheet": ("deep.json", json.dumps(sheet).encode())})
    assert answer.status_code == 422
    assert "nesting" in answer.text
    assert dump(database) == before


def test_an_unreadable_watch_is_told_on_the_bench_and_can_be_mended(
    client: TestClient, database: Path
) -> None:
    form = {"version": "1", "path": "dial.thickness", "value": "0.41"}
    assert client.post(f"{WATCH}/entries", data=form).status_code == 200
    spoil = "UPDATE revision SET sheet = '{}' WHERE watch_id = 1 AND version = 2 RETURNING version"
    assert ask(database, spoil) == [(2,)]
    bench = client.get("/")
    assert bench.status_code == 200
    assert "cannot be read" in bench.text
    assert client.get("/watches/2").status_code == 200
    assert client.post(f"{WATCH}/mended").status_code == 200
    assert "cannot be read" not in client.get("/").text
    assert client.get(WATCH).status_code == 200


# Starting ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"this is no database, but long enough to look at" * 40, "a workshop's file"),
        ("CREATE TABLE other (x); PRAGMA user_version = 0", "another program's"),
        ("PRAGMA user_version = 999; CREATE TABLE watch (x)", "a newer Marquetry's"),
    ],
)
def test_a_file_that_is_no_workshop_is_left_as_it_is(tmp_path: Path, content: bytes | str, told: str) -> None:
    file = tmp_path / "foreign.sqlite3"
    if isinstance(content, bytes):
        file.write_bytes(content)
    else:
        connection = sqlite3.connect(file)
        connection.executescript(content)
        connection.close()
    before = file.read_bytes()
    with pytest.raises(SheetError, match=told):
        refuse_foreign(file)
    ended = start(file, 0)
    assert ended.returncode == 2
    assert told in ended.stderr
    assert "Traceback" not in ended.stderr
    assert file.read_bytes() == before


def start(database: Path, port: int, *more: str) -> "subprocess.CompletedProcess[str]":
    command = [
        sys.executable,
        "-m",
        "marquetry.cli",
        "demo",
        "--database",
        str(database),
        "--port",
        str(port),
    ]
    return subprocess.run([*command, *more], capture_output=True, text=True, timeout=60, check=False)


def test_a_second_server_is_refused_and_touches_nothing(database: Path) -> None:
    before = dump(database)
    with locked(database):
        ended = start(database, 0, "--fresh")
        with pytest.raises(TakenError, match="served by another"), locked(database):
            pass
    assert ended.returncode == 2
    assert "served by another" in ended.stderr
    assert dump(database) == before


def test_a_taken_port_deletes_nothing(database: Path) -> None:
    before = dump(database)
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        ended = start(database, taken.getsockname()[1], "--fresh")
    assert ended.returncode == 2
    assert "Traceback" not in ended.stderr
    assert dump(database) == before


def test_the_demo_does_not_furnish_a_workshop_whose_watches_were_taken_off(database: Path) -> None:
    parts = ask(database, "SELECT count(*) FROM part")
    ask(database, "UPDATE watch SET removed_at = '2026-01-01'")
    make_demo(database, MODEL)
    assert ask(database, "SELECT count(*) FROM part") == parts


def test_workshop_files_are_their_owners_alone(tmp_path: Path) -> None:
    process, _ = serve(tmp_path / "own.sqlite3")
    try:
        for file in tmp_path.iterdir():
            with contextlib.suppress(FileNotFoundError):  # SQLite takes its log away when a request is over
                wanted = 0o700 if file.is_dir() else 0o600
                assert stat.S_IMODE(file.stat().st_mode) == wanted, file
        for picture in (tmp_path / "own.photos").iterdir():
            assert stat.S_IMODE(picture.stat().st_mode) == 0o600, picture
        assert stat.S_IMODE((tmp_path / "own.sqlite3").stat().st_mode) == 0o600
    finally:
        process.kill()
        process.wait(10)
    with (tmp_path / "own.sqlite3.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)  # a killed server holds nothing


# Long work ---------------------------------------------------------------------------------------------


def test_a_workshop_that_is_written_to_is_told_as_busy(client: TestClient, database: Path) -> None:
    holder = sqlite3.connect(database, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    form = {"version": "1", "path": "dial.thickness", "value": "0.41"}
    answer = client.post(f"{WATCH}/entries", data=form)
    holder.execute("ROLLBACK")
    holder.close()
    assert answer.status_code == 503
    assert int(answer.headers["Retry-After"]) > 0
    assert client.post(f"{WATCH}/entries", data=form).status_code == 200


@pytest.mark.parametrize(
    ("limit", "told"),
    [
        ("PRAGMA max_page_count = 1", "The disk is full. Nothing was changed."),
        ("PRAGMA query_only = ON", "The workshop's file cannot be written. Nothing was changed."),
    ],
)
def test_a_disk_that_takes_no_more_is_told_as_that(
    client: TestClient, database: Path, limit: str, told: str
) -> None:
    """SQLite itself says so: no page more than there are, for which 1 stands, or nothing written at all."""

    def limited() -> Iterator[sqlite3.Connection]:
        connection = connect(database, MODEL)
        connection.execute(limit)
        yield connection
        connection.close()

    app: Any = client.app
    app.dependency_overrides[opened] = limited
    sheet = json.dumps({**case(1)["build"], "name": "Great", "told": "What needs pages of its own. " * 4000})
    files = {"sheet": ("great.json", sheet)}
    answer = client.post("/sheets", files=files)
    assert answer.status_code == 507
    assert told in html.unescape(answer.text)
    app.dependency_overrides.clear()
    assert "Great" not in client.get("/").text
    assert client.post("/sheets", files=files, follow_redirects=False).status_code == 303


def test_works_beyond_the_few_at_a_time_are_refused() -> None:
    gate, jobs = Event(), Jobs[Work]("works")

    def wait(_: Callable[[int], None]) -> None:
        assert gate.wait(10)

    started = [jobs.start(Work("work", 1, "/", wait)) for _ in range(MOST_RUNNING)]
    try:
        with pytest.raises(BusyError, match="going on already"):
            jobs.start(Work("one too many", 1, "/", wait))
    finally:
        gate.set()
    assert len(set(started)) == MOST_RUNNING


# What a stranger may send ------------------------------------------------------------------------------


@pytest.mark.parametrize("value", ['1\u00a01/8"', '1\t1/8"'])
def test_a_fraction_pasted_with_an_odd_space_is_read(client: TestClient, database: Path, value: str) -> None:
    client.post(f"{WATCH}/entries", data={"version": "1", "path": "dial.thickness", "value": value})
    (sheet,) = ask(database, "SELECT sheet FROM revision WHERE watch_id = 1 ORDER BY version DESC LIMIT 1")
    assert json.loads(sheet[0])["parts"]["dial"]["thickness"]["value"] == pytest.approx(28.575)


@pytest.mark.parametrize("name", ["", " \t", "a\0b", "a\x1b[31mb", "n" * 400, "\ud800"])
def test_a_name_that_is_none_is_refused(client: TestClient, database: Path, name: str) -> None:
    before = dump(database)
    sheet = {"format": "marquetry-build/1", "name": name, "parts": {}}
    answer = client.post("/sheets", files={"sheet": ("s.json", json.dumps(sheet).encode())})
    assert answer.status_code == 422
    assert dump(database) == before


@pytest.mark.parametrize(
    "address",
    ["/watches/9223372036854775808", "/parts/99999999999999999999", "/photos/9223372036854775808.jpg"],
)
def test_a_number_no_row_can_have_is_nothing_here(client: TestClient, address: str) -> None:
    answer = client.get(address)
    assert answer.status_code == 404
    for header in ("Content-Security-Policy", "X-Content-Type-Options", "Cross-Origin-Resource-Policy"):
        assert header in answer.headers, header


# Pieces, parts -----------------------------------------------------------------------------------------


def test_the_older_of_two_forms_of_a_piece_is_told(client: TestClient, database: Path) -> None:
    free = "SELECT piece_id FROM in_watch"
    query = f"SELECT id, version FROM piece WHERE state = 'shelf' AND id NOT IN ({free}) LIMIT 1"  # noqa: S608  # our own
    number, version = ask(database, query)[0]
    forms = [{"version": str(version), "state": state} for state in ("scrapped", "sold")]
    first, second = (client.post(f"/pieces/{number}/state", data=form) for form in forms)
    assert (first.status_code, second.status_code) == (200, 409)
    assert ask(database, "SELECT state FROM piece WHERE id = ?", number) == [("scrapped",)]


def test_a_whole_edit_of_a_part_is_undone(client: TestClient, database: Path) -> None:
    (part, version, sheet) = ask(database, "SELECT id, version, sheet FROM part WHERE kind = 'dial' LIMIT 1")[
        0
    ]
    form = {"version": str(version), "path": "dial.thickness", "value": "0.47"}
    client.post(f"/parts/{part}/entries", data=form)
    changed = ask(database, "SELECT version, sheet FROM part WHERE id = ?", part)[0]
    assert changed[1] != sheet
    client.post(f"/parts/{part}/undone", data={"version": str(changed[0])})
    assert json.loads(ask(database, "SELECT sheet FROM part WHERE id = ?", part)[0][0]) == json.loads(sheet)
