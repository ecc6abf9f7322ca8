"""Briefs on disk: steps added and never lost, the sheet's target in line with them, archives old and new."""

import io
import json
import zipfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings

from marquetry.core.brief.wish import WishState, WishStep
from marquetry.core.sheet.part import Part
from marquetry.core.values.errors import SheetError, StaleVersionError
from marquetry.store import archive, archive_in, briefs, shelf, watches
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.migrating import migrations
from tests.strategies import MODEL, case_build, shelf_parts


@pytest.fixture
def connection(tmp_path: Path) -> Iterator[Connection]:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = connect(tmp_path / "w.sqlite3", MODEL)
    watches.add_watch(opened, case_build(1).with_target({}))
    yield opened
    opened.close()


def step(topic: str, value: str, state: WishState = WishState.AGREED) -> WishStep:
    return WishStep(topic, state, value)


def target(connection: Connection) -> object:
    return watches.watch(connection, 1).build.raw.get("target")


def test_what_is_agreed_reaches_the_sheet_in_one_version_and_can_be_undone(connection: Connection) -> None:
    briefs.take_steps(connection, 1, [step("height", "13", WishState.PROPOSED)])
    assert watches.watch(connection, 1).version == 1
    briefs.take_steps(connection, 1, [step("height", "13"), step("wrist", "172"), step("colours", "white")])
    stored = watches.watch(connection, 1)
    assert stored.version == 2
    assert stored.undo == "agreed: Wrist 172 mm" or "Height, at most 13 mm" in str(stored.undo)
    assert target(connection) == {"max_height_mm": 13.0, "wrist_circumference_mm": 172.0}
    briefs.take_steps(connection, 1, [step("height", "12", WishState.CHANGED)])
    assert watches.watch(connection, 1).version == 2, "what only waits changes no sheet"
    briefs.take_steps(connection, 1, [step("height", "", WishState.OPEN)])
    assert target(connection) == {"wrist_circumference_mm": 172.0}
    assert [s.value for s in briefs.brief_of(connection, 1).wish("height").steps] == ["13", "13", "12", ""]
    watches.undo(connection, 1, 3)
    assert target(connection) == {"max_height_mm": 13.0, "wrist_circumference_mm": 172.0}


def test_taking_back_reaches_the_sheet_and_leaves_alone_what_was_never_agreed(connection: Connection) -> None:
    for each in (step("height", "14"), step("height", "13", WishState.CHANGED), step("height", "13")):
        briefs.take_steps(connection, 1, [each])
    assert target(connection) == {"max_height_mm": 13.0}
    briefs.take_steps(connection, 1, briefs.brief_of(connection, 1).wish("height").take_back())
    wish = briefs.brief_of(connection, 1).wish("height")
    assert (wish.state, wish.value, wish.in_force) == (WishState.CHANGED, "13", "14")
    assert target(connection) == {"max_height_mm": 14.0}
    stored = watches.watch(connection, 1)
    own = stored.build.with_target({"max_height_mm": 14.0, "max_diameter_mm": 40.0})
    watches.save(connection, 1, stored.version, own, "wished by the workshop")
    briefs.take_steps(connection, 1, [step("diameter", "39", WishState.PROPOSED)])
    briefs.take_steps(connection, 1, [step("diameter", "", WishState.OPEN)])
    assert target(connection) == {"max_height_mm": 14.0, "max_diameter_mm": 40.0}


def test_whoever_looked_at_an_older_brief_changes_nothing(connection: Connection) -> None:
    seen = briefs.last_step(connection, 1)
    briefs.take_steps(connection, 1, [step("height", "13")], seen)
    before = list(connection.iterdump())
    with pytest.raises(StaleVersionError, match="brief was changed meanwhile"):
        briefs.take_steps(connection, 1, [step("height", "11")], seen)
    with pytest.raises(StaleVersionError):
        briefs.sign(connection, 1, 1, "the client", "")
    assert list(connection.iterdump()) == before


def test_a_yes_is_to_the_newest_version_and_to_all_said_before(connection: Connection) -> None:
    briefs.take_steps(connection, 1, [step("colours", "white")])
    briefs.sign(connection, 1, 1, "the client", "yes")
    briefs.take_steps(connection, 1, [step("height", "13")])
    brief = briefs.brief_of(connection, 1)
    assert brief.signed is not None
    assert (brief.signed.number, brief.signed.version, brief.signed.name) == (1, 1, "the client")
    assert briefs.signed_build(connection, 1, brief.signed) == case_build(1).with_target({})
    assert [
        wish.topic.key for wish in brief.wishes if wish.last and wish.last.number > brief.signed.last_step
    ] == ["height"]
    briefs.sign(connection, 1, 2, "the client", "again")
    signed = briefs.brief_of(connection, 1).signed
    assert signed is not None
    assert signed.number == 2


def rewritten(content: bytes, change: dict[str, bytes | None]) -> bytes:
    """The archive with some entries other, or gone."""
    made = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(made, "w") as new:
        for name in old.namelist():
            kept = change.get(name, old.read(name))
            if kept is not None:
                new.writestr(name, kept)
    return made.getvalue()


def fresh(tmp_path: Path, name: str) -> Connection:
    open_workshop(tmp_path / name, MODEL)
    return connect(tmp_path / name, MODEL)


def test_an_archive_from_before_there_were_briefs_still_comes_in(demo_archive: bytes, tmp_path: Path) -> None:
    with zipfile.ZipFile(io.BytesIO(demo_archive)) as held:
        manifest = json.loads(held.read("manifest.json"))
        lines = held.read("tables/wish.jsonl").splitlines()
    assert manifest["rows"]["wish"] == len(lines) > 20
    for table in ("wish", "sign_off"):
        del manifest["rows"][table]
    old = rewritten(
        demo_archive,
        {
            "manifest.json": json.dumps(manifest).encode(),
            "tables/wish.jsonl": None,
            "tables/sign_off.jsonl": None,
        },
    )
    opened = fresh(tmp_path, "old.sqlite3")
    archive_in.unpack(opened, tmp_path / "old.sqlite3", io.BytesIO(old))
    assert not briefs.brief_of(opened, 1).settled
    opened.close()


@pytest.mark.parametrize(
    ("column", "value", "words"),
    [
        ("value", "very low", "Height, at most"),
        ("state", "perhaps", "agrees with the others"),
        ("at", "once", "a day as"),
    ],
)
def test_an_archive_with_a_wish_that_cannot_be_is_refused(
    demo_archive: bytes, tmp_path: Path, column: str, value: str, words: str
) -> None:
    with zipfile.ZipFile(io.BytesIO(demo_archive)) as held:
        rows = [json.loads(line) for line in held.read("tables/wish.jsonl").splitlines()]
    next(row for row in rows if row["topic"] == "height")[column] = value
    wrong = rewritten(
        demo_archive, {"tables/wish.jsonl": b"".join(json.dumps(row).encode() + b"\n" for row in rows)}
    )
    opened = fresh(tmp_path, "new.sqlite3")
    with pytest.raises(SheetError, match=words):
        archive_in.unpack(opened, tmp_path / "new.sqlite3", io.BytesIO(wrong))
    assert not watches.all_watches(opened)
    opened.close()


def test_a_database_from_before_there_were_briefs_is_brought_up_to_them(tmp_path: Path) -> None:
    file = tmp_path / "old.sqlite3"
    opened = connect(file, MODEL)
    for number, script in migrations():
        if number <= 6:
            opened.executescript(f"BEGIN; {script}; PRAGMA user_version = {number}; COMMIT;")
    watches.add_watch(opened, case_build(1))
    opened.close()
    open_workshop(file, MODEL)
    again = connect(file, MODEL)
    briefs.take_steps(again, 1, [step("height", "13")])
    assert briefs.brief_of(again, 1).wish("height").in_force == "13"
    again.close()


@settings(max_examples=30, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(part=shelf_parts())
def test_looks_survive_the_workshops_archive_exactly(
    tmp_path_factory: pytest.TempPathFactory, part: Part
) -> None:
    tmp_path = tmp_path_factory.mktemp("looks")
    opened = fresh(tmp_path, "a.sqlite3")
    number = shelf.add_part(opened, part)
    file = io.BytesIO()
    archive.pack(opened, tmp_path / "a.sqlite3", file)
    opened.close()
    other = fresh(tmp_path, "b.sqlite3")
    archive_in.unpack(other, tmp_path / "b.sqlite3", io.BytesIO(file.getvalue()))
    assert shelf.part(other, number).part.document == part.document
    other.close()
