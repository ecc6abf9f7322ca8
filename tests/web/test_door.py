"""The door of a shared workshop: what answers without the phrase, what shuts old cookies out, who listens."""

import io
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from starlette.testclient import TestClient

from marquetry.cli import main
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import access
from marquetry.store.database import connect
from marquetry.web.site.app import create_app
from marquetry.web.site.server import Listening, serve
from marquetry.web.site.sessions import FREE_TRIES, Throttle, is_session, new_session
from marquetry.web.site.sharing import Sharing
from tests.strategies import MODEL


@pytest.fixture
def door(database: Path) -> Any:
    connection = connect(database, MODEL)
    access.set_phrase(connection, "terns over the slipway")
    sharing = Sharing("http://127.0.0.1:8765/", is_encrypted=False, kept=access.phrase_kept(connection))
    connection.close()
    with TestClient(
        create_app(database, MODEL, (), sharing), base_url="http://127.0.0.1", follow_redirects=False
    ) as made:
        yield made


def test_nothing_answers_without_the_passphrase(door: TestClient) -> None:
    for address in (
        "/",
        "/watches/1",
        "/timers",
        "/watches/1/sheet.json",
        "/workshop.zip",
        "/openapi.json",
        "/enterprise",
    ):
        answer = door.get(address)
        assert answer.status_code == 401, address
        assert "Skerry" not in answer.text
    assert door.post("/watches/1/build/entries", json={"entries": []}).status_code == 401
    assert door.get("/", headers={"Accept": "text/html"}).headers["location"] == "/enter"
    assert door.get("/enter").status_code == 200
    assert door.get("/static/css/app.css").status_code == 200


def test_the_right_phrase_opens_and_a_changed_one_shuts_out_the_old_cookie(door: TestClient) -> None:
    assert door.post("/enter", data={"phrase": "terns"}).status_code == 403
    came = door.post("/enter", data={"phrase": "terns over the slipway"})
    cookie = came.headers["set-cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=strict" in cookie
    assert door.get("/").status_code == 200
    assert (
        door.post("/sharing", data={"phrase": "another one, longer", "again": "not the same"}).status_code
        == 422
    )
    changed = door.post("/sharing", data={"phrase": "another one, longer", "again": "another one, longer"})
    assert changed.status_code == 303
    assert door.get("/").status_code == 401
    assert door.get("/", headers={"Cookie": "marquetry-session=forged.AAAA.BBBB"}).status_code == 401


def test_ten_wrong_phrases_are_slowed_down(door: TestClient) -> None:
    answers = [door.post("/enter", data={"phrase": f"guess {number}"}).status_code for number in range(10)]
    assert answers[:FREE_TRIES] == [403] * FREE_TRIES
    assert 429 in answers
    assert int(door.post("/enter", data={"phrase": "once more"}).headers["retry-after"]) >= 1


def test_waits_double_are_forgotten_and_hold_for_everybody_in_the_end() -> None:
    throttle = Throttle()
    waits = []
    for _ in range(8):
        throttle.failed("here", now=0.0)
        waits.append(throttle.wait("here", now=0.0))
    assert waits == [0, 0, 1, 2, 4, 8, 16, 32]
    assert throttle.wait("there", now=0.0) == 0
    assert throttle.wait("here", now=31.5) == pytest.approx(0.5)
    assert throttle.wait("here", now=1000.0) == 0
    for number in range(40):
        throttle.failed(f"address {number}", now=2000.0)
    assert throttle.wait("a new one", now=2000.0) > 1
    throttle.passed("address 1")
    assert throttle.wait("address 1", now=2000.0) > 1


@pytest.mark.parametrize("phrase", ["", "short", "x" * 201])
def test_a_phrase_too_short_or_too_long_is_refused(database: Path, phrase: str) -> None:
    with closing(connect(database, MODEL)) as held:
        with pytest.raises(DimensionError, match="letters"):
            access.set_phrase(held, phrase)
        assert access.phrase_kept(held) is None


CANNOT_LISTEN: dict[str, tuple[dict[str, Any], str]] = {
    "another address, not shared": ({"host": "0.0.0.0"}, "--host"),  # noqa: S104  # refused
    "a certificate without its key": ({"shared": True, "certificate": Path(__file__)}, "--certificate"),
    "a key without its certificate": ({"shared": True, "key": Path(__file__)}, "--certificate"),
    "a certificate that is not there": (
        {"shared": True, "certificate": Path("nowhere.pem"), "key": Path(__file__)}, "--certificate",
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", CANNOT_LISTEN)
def test_what_cannot_or_should_not_listen_is_refused_before_anything_is_touched(
    tmp_path: Path, name: str
) -> None:
    told, place = CANNOT_LISTEN[name]
    file = tmp_path / "own.sqlite3"
    with pytest.raises(SheetError, match=place):
        serve(MODEL, file, Listening(**{"host": "127.0.0.1", "port": 0, **told}))
    assert not file.exists()


def test_sharing_wants_a_passphrase_first_and_the_command_sets_it(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "own.sqlite3"
    with pytest.raises(SheetError, match="a passphrase first"):
        serve(MODEL, file, Listening("127.0.0.1", 0, shared=True))
    for phrase, code in (("short\n", 2), ("terns over the slipway\n", 0)):
        monkeypatch.setattr("sys.stdin", io.StringIO(phrase))
        assert main(["passphrase", "--database", str(file)]) == code
    assert "asks everybody" in capsys.readouterr().out
    connection = connect(file, MODEL)
    kept = access.phrase_kept(connection)
    connection.close()
    assert kept is not None
    assert "terns" not in kept.phrase_hash
    assert access.is_phrase(kept, "terns over the slipway")
    assert not access.is_phrase(kept, "terns")
    assert is_session(kept, new_session(kept))
    assert not is_session(replace(kept, secret="another"), new_session(kept))  # noqa: S106  # a test's own
