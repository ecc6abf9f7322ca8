"""The door of a shared workshop: what answers without the phrase, what shuts old cookies out, who listens."""

import asyncio
import io
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from starlette.testclient import TestClient

from marquetry.cli import main
from marquetry.core.values.errors import DimensionError, SheetError, TakenError
from marquetry.store import access
from marquetry.store.database import connect
from marquetry.store.opening import locked
from marquetry.web.site.app import create_app
from marquetry.web.site.server import Listening, serve
from marquetry.web.site.sessions import (
    FREE_TRIES,
    FREE_TRIES_OF_ALL,
    LONGEST_WAIT_OF_ALL_SECONDS,
    Throttle,
    new_session,
    session_of,
)
from marquetry.web.site.sharing import Doorkeeper, Sharing
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
    new = {"phrase": "another one, longer", "again": "another one, longer"}
    old = {"old": "terns over the slipway"}
    for form, status in (
        ({**new, **old, "again": "not the same"}, 422),
        (new, 403),
        ({**new, "old": "terns"}, 403),
    ):
        refused = door.post("/sharing", data=form)
        assert refused.status_code == status
        assert "Nothing was changed" in refused.text
    assert door.post("/sharing", data={**new, **old}).status_code == 303
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
    for number in range(FREE_TRIES_OF_ALL - 1):
        throttle.failed(f"address {number}", now=2000.0)
    assert throttle.wait("a new one", now=2000.0) == 0, "far more than a household mistypes"
    for number in range(20):
        throttle.failed(f"late {number}", now=2000.0)
    assert throttle.wait("a new one", now=2000.0) == LONGEST_WAIT_OF_ALL_SECONDS
    throttle.passed("address 1")
    assert throttle.wait("address 1", now=2000.0) > 1


def other(door: TestClient, address: str) -> TestClient:
    """The same door from another address."""
    app: Any = door.app
    return TestClient(app, base_url="http://127.0.0.1", follow_redirects=False, client=(address, 40_000))


def test_wrong_phrases_from_elsewhere_make_the_right_one_wait_for_nothing(
    door: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Hashing itself is left out here: a fifth of a second each."""
    monkeypatch.setattr(access, "is_phrase", lambda _, phrase: phrase == "terns over the slipway")
    for number in range(150):
        answer = other(door, f"10.0.{number // 50}.{number % 50}").post("/enter", data={"phrase": "guess"})
        assert answer.status_code == 403
    tablet = other(door, "10.0.9.9")
    start = time.monotonic()
    assert tablet.post("/enter", data={"phrase": "terns over the slipway"}).status_code == 303
    assert time.monotonic() - start < 1


def test_tries_at_once_from_one_address_do_not_go_round_its_wait(
    door: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[str] = []

    def slow(_: object, phrase: str) -> bool:
        asked.append(phrase)
        time.sleep(0.05)
        return False

    monkeypatch.setattr(access, "is_phrase", slow)
    with ThreadPoolExecutor(8) as pool:
        tries = pool.map(lambda n: door.post("/enter", data={"phrase": f"guess {n}"}).status_code, range(12))
        statuses = list(tries)
    assert len(asked) == statuses.count(403) == FREE_TRIES
    assert statuses.count(429) == 12 - FREE_TRIES


def test_leaving_ends_the_session_on_the_server_and_after_a_new_start(
    door: TestClient, database: Path
) -> None:
    door.post("/enter", data={"phrase": "terns over the slipway"})
    cookie, second = door.cookies["marquetry-session"], other(door, "10.0.0.2")
    second.post("/enter", data={"phrase": "terns over the slipway"})
    assert door.post("/leave").status_code == 303
    stolen = {"Cookie": f"marquetry-session={cookie}"}
    third = other(door, "10.0.0.3")
    assert third.get("/", headers=stolen).status_code == 401, "the very cookie, sent again by somebody else"
    assert second.get("/").status_code == 200, "another device stays in"
    with closing(connect(database, MODEL)) as connection:
        kept, left = access.phrase_kept(connection), access.left_sessions(connection)
        again = Sharing("http://127.0.0.1:8765/", is_encrypted=False, kept=kept, left=left)
        assert again.session(cookie) is None
        assert again.session(second.cookies["marquetry-session"]) is not None
        assert cookie not in str(left), "what is noted is no way in"
        access.set_phrase(connection, "another phrase for all")
        assert access.left_sessions(connection) == set()


def streamed(door: Doorkeeper, path: str, cookie: str, meanwhile: Callable[[], None]) -> list[dict[str, Any]]:
    """What a page that listens is sent until its stream ends; `meanwhile` happens once it has begun."""
    sent: list[dict[str, Any]] = []

    async def send(message: Any) -> None:
        sent.append(message)
        if message["type"] == "http.response.body" and len(sent) == 2:
            await asyncio.to_thread(meanwhile)

    async def receive() -> Any:
        await asyncio.sleep(60)

    scope = {"type": "http", "method": "GET", "path": path,
             "headers": [(b"cookie", f"marquetry-session={cookie}".encode())]}  # fmt: skip
    asyncio.run(asyncio.wait_for(door(scope, receive, send), 5))
    return sent


@pytest.mark.parametrize("ends", ["leaves", "another phrase", "another leaves", "ends by itself"])
def test_what_a_session_listens_to_ends_with_it(ends: str) -> None:
    kept = access.PhraseKept("", "a secret of this test", "")
    sharing = Sharing("", is_encrypted=False, kept=kept)
    cookie = new_session(kept)
    session = sharing.session(cookie)
    assert session

    async def app(_: Any, __: Any, send: Any) -> None:
        await send({"type": "http.response.start", "status": 200, "headers": []})
        for _ in range(3 if ends in {"another leaves", "ends by itself"} else 10**6):
            await send({"type": "http.response.body", "body": b": here\n\n", "more_body": True})
            await asyncio.sleep(0.01)
        await send({"type": "http.response.body", "body": b"", "more_body": False})

    def meanwhile() -> None:
        if ends == "leaves":
            sharing.streams.end(session)
        elif ends == "another phrase":
            sharing.streams.end()
        elif ends == "another leaves":
            sharing.streams.end("of somebody else")

    sent = streamed(Doorkeeper(app, sharing), "/watches/1/build/stream", cookie, meanwhile)
    assert sent[-1] == {"type": "http.response.body", "body": b"", "more_body": False}
    assert (len(sent) == 5) == (ends in {"another leaves", "ends by itself"})
    assert sharing.streams.open == {}
    sharing.left.add(session)
    assert streamed(Doorkeeper(app, sharing), "/caliper/stream", cookie, meanwhile)[0]["status"] == 401


@pytest.mark.parametrize("method", ["GET", "POST", "PUT", "DELETE"])
@pytest.mark.parametrize(
    "path", ["/%0A", "/orders%0A", "/watches/1%0A", "/handbook/a%0Db", "/parts/%0A/photos", "/%00", "/x%7F"]
)
def test_a_line_break_in_an_address_leads_nowhere(client: TestClient, method: str, path: str) -> None:
    answer = client.request(method, path)
    assert answer.status_code == 404
    assert "Content-Security-Policy" in answer.headers


def test_a_link_to_a_workshop_is_the_same_workshop(tmp_path: Path) -> None:
    real, link = tmp_path / "real.sqlite3", tmp_path / "elsewhere" / "link.sqlite3"
    link.parent.mkdir()
    link.symlink_to(real)
    for first, second in ((real, link), (link, real)):
        with locked(first), pytest.raises(TakenError, match="served by another"), locked(second):
            pass
    assert [entry.name for entry in link.parent.iterdir()] == ["link.sqlite3"]


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
    assert session_of(kept, new_session(kept))
    assert session_of(replace(kept, secret="another"), new_session(kept)) is None  # noqa: S106  # a test's own
