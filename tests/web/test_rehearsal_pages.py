"""Rehearsal's pages without a script: begun, moved in, ended, looked at; kept, refused, brought back."""

import io
import json
import math
import sqlite3
import zipfile
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from starlette.testclient import TestClient

from marquetry.core.rehearsal.exercise import PlayMove
from marquetry.core.rehearsal.exercises import EXERCISES
from marquetry.core.rehearsal.play import played
from marquetry.core.values.errors import SheetError
from marquetry.store import archive, archive_in, rehearsals, watches
from marquetry.store.archive_faults import refuse_unreadable
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.rehearsals import StoredRehearsal
from marquetry.web.site.app import begin_on
from tests.strategies import MODEL
from tests.web.test_pages import page, text

KEYS = [one.key for one in EXERCISES]


def begun(client: TestClient, key: str, **more: object) -> int:
    answer = client.post("/rehearsal/begin", data={"key": key, **more}, follow_redirects=False)
    assert answer.status_code == 303, answer.text
    return int(answer.headers["location"].rpartition("/")[2])


def move(client: TestClient, number: int, place: int, **sent: object) -> Any:
    return client.post(f"/rehearsal/{number}/moves", data={"place": place, **sent}, follow_redirects=False)


def stored(connection: Connection, number: int) -> StoredRehearsal:
    return rehearsals.rehearsal(connection, number)


def carried(client: TestClient, connection: Connection, number: int) -> StoredRehearsal:
    """Play it surely to its end by the page's own forms."""
    play = stored(connection, number).begun_play(connection)
    for place, made in enumerate(played(play, play.exercise.sure).moves, 1):
        answer = move(client, number, place, what=made.what, value=f"{made.value:.6f}", word=made.word)
        assert answer.status_code == 303, answer.text
    return stored(connection, number)


@pytest.mark.parametrize("key", KEYS)
def test_every_exercise_is_played_to_its_end_by_forms_alone(
    client: TestClient, connection: Connection, key: str
) -> None:
    number = begun(client, key)
    assert client.get(f"/rehearsal/{number}/sure", follow_redirects=False).status_code == 303, "not before"
    shown = page(client, f"/rehearsal/{number}")
    assert shown.xpath("//figure[@class='screen-plate']//*[local-name()='svg']")
    presses = [element.get("data-press") for element in shown.xpath("//*[@id='play']//*[@data-press]")]
    assert len(set(presses)) == len(presses), "every key does one thing"
    ended = carried(client, connection, number)
    assert ended.reached is True
    assert ended.words
    after = page(client, f"/rehearsal/{number}")
    assert text(after.xpath("//*[@id='play-teacher']")[0]) == " ".join(ended.words.split())
    rows = after.xpath("//ol[@class='play-moves']/li")
    assert len(rows) == len(ended.moves)
    assert not after.xpath("//li[@class='play-moment']")
    for address in (
        f"/rehearsal/{number}?at=1",
        f"/rehearsal/{number}/sure",
        f"/rehearsal/{number}/sure?at=1",
    ):
        looked = page(client, address)
        assert not looked.xpath("//form[@data-move]"), "what is over is only looked at"


def test_a_move_is_kept_once_and_one_that_cannot_be_changes_nothing(
    client: TestClient, connection: Connection
) -> None:
    number = begun(client, "stem")
    assert move(client, number, 1, what="gap").status_code == 303
    assert move(client, number, 1, what="home").status_code == 303, "sent twice: shown, and not made again"
    assert [one.what for one in stored(connection, number).moves] == ["gap"]
    for sent, words in (
        ({"what": "mark", "value": "wide"}, "a number in mm"),
        ({"what": "mark", "value": "99"}, "from 0 to 15 mm"),
        ({"what": "cut", "value": "9000"}, "from 0 to 8000 ms"),
        ({"what": "press"}, "one of those that are offered"),
    ):
        answer = move(client, number, 2, **sent)
        assert answer.status_code == 422
        assert words in answer.text, answer.text
    assert len(stored(connection, number).moves) == 1
    assert move(client, number, 2, what="mark", value="7,85").status_code == 303
    assert stored(connection, number).moves[-1] == PlayMove("mark", 7.85)
    assert move(client, 9999, 1, what="gap").status_code == 404
    assert client.post("/rehearsal/begin", data={"key": "juggle"}).status_code == 404


def test_a_play_goes_on_where_it_was_after_a_restart(
    client: TestClient, application: FastAPI, database: Path
) -> None:
    number = begun(client, "midnight")
    for place in (1, 2):
        move(client, number, place, what="turn", value="3000")
    before = page(client, f"/rehearsal/{number}")
    begin_on(application, database, MODEL)
    after = page(client, f"/rehearsal/{number}")
    assert text(after.xpath("//*[@id='play']")[0]) == text(before.xpath("//*[@id='play']")[0])
    assert f"/rehearsal/{number}" in client.get("/rehearsal").text, "and may be gone on with"


def test_what_was_shown_stays_in_its_drawer(client: TestClient, connection: Connection) -> None:
    number = begun(client, "section")
    answer = client.post(f"/rehearsal/{number}/hint")
    assert "A sure hand would now" in answer.text
    assert "It clashes at" in answer.text
    before = {one.exercise: one for one in _standings(connection)}["section"]
    ended = carried(client, connection, number)
    assert ended.helped
    after = {one.exercise: one for one in _standings(connection)}["section"]
    assert after.drawer == before.drawer
    assert after.plays == before.plays + 1


def _standings(connection: Connection) -> list[Any]:
    from marquetry.core.rehearsal.practice import standing_of  # noqa: PLC0415  # for this test alone

    made = rehearsals.practised(connection)
    return [standing_of(key, made) for key in KEYS]


def test_the_page_shows_what_is_due_and_why_a_watch_will_not_do(client: TestClient) -> None:
    shown = page(client, "/rehearsal")
    due = [text(element) for element in shown.xpath("//div[@class='due']")]
    assert due
    assert "Press the hands missed on" in due[0], "what went wrong last comes first"
    tablets = shown.xpath("//*[contains(@class, 'tablet-of')]")
    assert len(tablets) == len(KEYS)
    orchard = page(client, "/rehearsal?on=3")
    told = text(orchard.xpath("//li[@id='exercise-midnight']")[0])
    assert "Not on Orchard: Its movement keeps no date" in told
    assert "On one of the set" in told
    refused = client.post("/rehearsal/begin", data={"key": "midnight", "watch": 3})
    assert refused.status_code == 422
    assert "may be set at any twelve" in refused.text


def test_from_a_step_of_the_bench_to_a_twin_of_that_watch_and_back(
    client: TestClient, connection: Connection
) -> None:
    step = page(client, "/watches/1/build/at/cut_stem")
    form = step.xpath("//form[contains(@action, 'rehears')]")[0]
    sent = {element.get("name"): element.get("value") for element in form.xpath(".//input")}
    assert sent == {"key": "stem", "watch": "1", "step": "cut_stem"}
    number = begun(client, **sent)
    begun_on = stored(connection, number)
    sheet = json.loads(begun_on.sheet)
    assert sheet["name"] == "Skerry Light"
    assert sheet == watches.watch(connection, 1).build.document
    move(client, number, 1, what="seat")
    over = page(client, f"/rehearsal/{number}")
    assert over.xpath("//a[@data-press='x']/@href") == ["/watches/1/build/at/cut_stem"]
    assert over.xpath("//li[@class='play-moment']")
    again = page(client, "/watches/1/build/at/trial_stem")
    told = text(again.xpath("//div[@class='screen-rehearse']")[0])
    assert told.startswith("Rehearsed last, it went wrong.")
    assert stored(connection, number).words.split()[0] in told
    watches.remove(connection, 1)
    assert client.get(f"/rehearsal/{number}").status_code == 200, "the play needs no watch"


def packed(connection: Connection, database: Path) -> bytes:
    file = io.BytesIO()
    archive.pack(connection, database, file)
    return file.getvalue()


def taken_in(content: bytes, folder: Path) -> Connection:
    open_workshop(folder / "other.sqlite3", MODEL)
    other = connect(folder / "other.sqlite3", MODEL)
    archive_in.unpack(other, folder / "other.sqlite3", io.BytesIO(content))
    return other


def test_rehearsals_go_out_and_come_in_and_play_on_the_same(
    connection: Connection, database: Path, tmp_path: Path
) -> None:
    content = packed(connection, database)
    other = taken_in(content, tmp_path)
    assert packed(other, tmp_path / "other.sqlite3") == content
    for number in (1, 13):
        here, there = rehearsals.rehearsal(connection, number), rehearsals.rehearsal(other, number)
        assert here == there
        play = there.begun_play(other).replayed(there.moves)
        assert (play.outcome.words if play.outcome else "") == there.words
    other.close()


@pytest.mark.parametrize(
    ("table", "change", "why"),
    [
        ("rehearsal", {"sheet": "{}"}, "format"),
        ("rehearsal", {"rules": "[]"}, "rules"),
        ("rehearsal", {"begun": "once"}, "begun"),
        ("rehearsal_move", {"value": math.inf}, "number"),
    ],
)
def test_a_rehearsal_that_no_page_could_show_does_not_come_in(
    connection: Connection, table: str, change: dict[str, object], why: str
) -> None:
    key = "id" if table == "rehearsal" else "rehearsal_id"
    row = dict(connection.execute(f"SELECT * FROM {table} WHERE {key} = 1").fetchone())
    refuse_unreadable(MODEL, table, "row 1", row)
    with pytest.raises(SheetError, match=why):
        refuse_unreadable(MODEL, table, "row 1", {**row, **change})


def test_an_archive_from_before_rehearsals_still_comes_in(
    connection: Connection, database: Path, tmp_path: Path
) -> None:
    new, old = zipfile.ZipFile(io.BytesIO(packed(connection, database))), io.BytesIO()
    gone = {"rehearsal", "rehearsal_move"}
    with zipfile.ZipFile(old, "w") as out:
        for name in new.namelist():
            content = new.read(name)
            if name == "manifest.json":
                told = json.loads(content)
                told["rows"] = {table: count for table, count in told["rows"].items() if table not in gone}
                content = json.dumps(told).encode()
            if name.removeprefix("tables/").removesuffix(".jsonl") not in gone:
                out.writestr(name, content)
    other = taken_in(old.getvalue(), tmp_path)
    assert rehearsals.practised(other) == []
    other.close()


def test_a_play_of_another_edition_is_told_and_not_played(client: TestClient, connection: Connection) -> None:
    words = rehearsals.rehearsal(connection, 1).words
    connection.execute("UPDATE rehearsal SET edition = 99 WHERE id = 1")
    answer = client.get("/rehearsal/1")
    assert answer.status_code == 422
    assert "edition 99" in answer.text
    assert words[:20] in answer.text.replace("&nbsp;", "\u00a0")
    assert client.get("/rehearsal").status_code == 200, "it counts as it counted"


def test_an_end_is_written_once_and_the_database_holds_it_together(connection: Connection) -> None:
    with pytest.raises(sqlite3.IntegrityError):
        connection.execute("UPDATE rehearsal SET reached = NULL WHERE id = 1")
    first = rehearsals.rehearsal(connection, 1)
    outcome = first.begun_play(connection).replayed(first.moves).outcome
    assert outcome
    rehearsals.end(connection, 1, outcome, "2031-01-01")
    assert rehearsals.rehearsal(connection, 1) == first
