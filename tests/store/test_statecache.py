"""What is kept in mind: the same answer for the same state, and never an old one for a new."""

import sqlite3
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from decimal import Decimal
from pathlib import Path
from threading import Event
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from starlette.testclient import TestClient

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.procedure import procedure
from marquetry.core.fit.model import Model
from marquetry.core.fit.rules import House
from marquetry.core.fit.sellers import LEARNED, SCHOOL_LISTED, SellersWorth
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.store import bench_log, suppliers, watches
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.open_connections import OpenConnections
from marquetry.store.statecache import StateCache, weight_of
from marquetry.web.build import bench_run
from marquetry.web.order.needed import catalogue_offers, market
from marquetry.web.site.app import create_app
from tests.strategies import ANATOMY, MODEL, case_build, report_on
from tests.tenfold import moved_sheet


def rows(connection: Connection, sql: str, **values: object) -> list[tuple[Any, ...]]:
    return [tuple(row) for row in connection.execute(sql, values)]


READS: dict[str, Callable[[Connection], Any]] = {
    "plain": lambda c: rows(c, "SELECT name FROM supplier ORDER BY id"),
    "joined": lambda c: rows(
        c, "SELECT p.name, s.name FROM part p LEFT JOIN supplier s ON s.id = supplier_id"
    ),
    "counted": lambda c: rows(c, "SELECT count(*) FROM part"),
    "within": lambda c: rows(c, "SELECT name FROM supplier WHERE id IN (SELECT supplier_id FROM part)"),
    "if any": lambda c: [
        rows(c, "SELECT max(id) FROM part") for _ in rows(c, "SELECT 1 FROM supplier WHERE name = 'Low Row'")
    ],
    "given": lambda c: rows(c, "SELECT currency FROM supplier WHERE id = :id", id=2),
    "newest": lambda c: rows(c, "SELECT max(id) FROM supplier")[0][0],
    "newest again": lambda c: rows(c, "SELECT max(id) + 0 FROM supplier")[0][0],
    "nested": lambda c: (c.kept.of(c, READS["plain"]), c.kept.of(c, READS["counted"])),
}
WRITES = (
    "INSERT INTO supplier (name, currency) VALUES (:n, 'EUR')",
    "UPDATE supplier SET name = :n WHERE id = (SELECT max(id) FROM supplier)",
    "UPDATE supplier SET name = 'Low Row' WHERE id = 1",
    "DELETE FROM supplier WHERE id = (SELECT max(id) FROM supplier) AND id NOT IN"
    " (SELECT supplier_id FROM part WHERE supplier_id > 0)",
    "INSERT INTO part (kind, name, sheet, supplier_id)"
    " VALUES ('dial', :n, '{}', (SELECT max(id) FROM supplier))",
    "UPDATE part SET name = :n",
)


STEPS = st.tuples(st.sampled_from(WRITES), st.sampled_from(["own", "other's", "taken back", "within"]))


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(STEPS, max_size=12))
def test_an_answer_kept_is_what_a_connection_that_keeps_nothing_finds(
    tmp_path_factory: pytest.TempPathFactory, steps: list[tuple[str, str]]
) -> None:
    """After any writes, by whoever and however they end, whatever the question reads."""
    file = tmp_path_factory.mktemp("kept") / "w.sqlite3"
    open_workshop(file, MODEL)
    with closing(connect(file, MODEL)) as warm, closing(connect(file, MODEL)) as other:
        for number, (sql, how) in enumerate(steps):
            (other if how == "other's" else warm).execute("BEGIN IMMEDIATE")
            (other if how == "other's" else warm).execute(sql, {"n": f"Name {number}"})
            if how == "within":
                every_answer_agrees(warm, other=None)
            (other if how == "other's" else warm).execute("ROLLBACK" if how == "taken back" else "COMMIT")
            every_answer_agrees(warm, other)


def every_answer_agrees(warm: Connection, other: Connection | None) -> None:
    for name, read in READS.items():
        assert warm.kept.of(warm, read) == read(warm if other is None else other), name


def times_worked(connection: Connection, sql: str) -> list[int]:
    """Where each time that the answer to a question was worked out is noted."""
    times: list[int] = []

    def work(on: Connection) -> object:
        times.append(1)
        return rows(on, sql)

    for _ in range(2):
        connection.kept.of(connection, work)
    connection.execute("UPDATE house_rule SET value = value")
    connection.execute("INSERT INTO supplier (name, currency) VALUES ('Other', 'EUR')")
    connection.kept.of(connection, work)
    return times


@pytest.mark.parametrize(
    ("sql", "times"),
    [
        ("SELECT key FROM house_rule", 1),
        ("SELECT count(*) FROM supplier", 2),
        ("SELECT name FROM supplier WHERE id IN (SELECT value FROM json_each('[77]'))", 1),
        ("SELECT strftime('%Y', 'now')", 3),
        ("SELECT random()", 3),
        ("SELECT words FROM part_words", 3),
        ("SELECT name FROM sqlite_master", 3),
        ("PRAGMA table_info(watch)", 3),
        ("INSERT INTO supplier (name, currency) VALUES (hex(randomblob(8)), 'EUR')", 3),
    ],
    ids=lambda value: str(value)[:40],
)  # fmt: skip
def test_an_answer_is_worked_out_again_where_its_rows_or_the_moment_may_be_others(
    held: Connection, sql: str, times: int
) -> None:
    """A write elsewhere in the table forgets nothing; what cannot be asked again alike is not kept at all."""
    assert len(times_worked(held, sql)) == times
    if sql.startswith("INSERT"):
        assert rows(held, "SELECT count(*) FROM supplier") == [(times + 1,)], "each wrote once"


def test_every_table_is_counted_and_every_kind_of_write_to_it(database: Path) -> None:
    """By the demo's own rows: each table is updated and emptied, which foreign keys carry to others."""
    with closing(sqlite3.connect(database)) as plain:
        names = [
            row[0]
            for row in plain.execute(
                "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT GLOB 'sqlite_*'"
                " AND name NOT GLOB 'part_words*' AND name <> 'table_change'"
            )
        ]
    filled = 0
    for name in names:
        with closing(connect(database, MODEL)) as connection:
            connection.execute("BEGIN")
            columns = [row["name"] for row in connection.execute(f"PRAGMA table_info({name})")]
            was = connection.changes()[name]
            held = rows(connection, f"SELECT count(*) FROM {name}")[0][0]  # noqa: S608  # of the schema
            connection.execute(f"UPDATE {name} SET {columns[-1]} = {columns[-1]}")  # noqa: S608  # as above
            assert connection.changes()[name] == was + held, name
            filled += bool(held)
            connection.execute("ROLLBACK")
    assert filled > 30, "most tables of the demo hold something"
    with closing(connect(database, MODEL)) as connection:
        before = dict(connection.changes())
        connection.execute("DELETE FROM rehearsal WHERE id = (SELECT min(rehearsal_id) FROM rehearsal_move)")
        assert connection.changes()["rehearsal_move"] > before["rehearsal_move"], "its moves went with it"


def test_what_is_kept_stays_within_its_bytes_and_the_oldest_go() -> None:
    kept = StateCache(most_bytes=100_000)
    for number in range(50):
        assert kept.pure(str.ljust, "x", number + 10_000)
        assert kept.weight <= 100_000
    assert kept.find(kept.key(str.ljust, "x", 10_000)) is None
    assert kept.find(kept.key(str.ljust, "x", 10_049)) is not None
    assert weight_of(np.zeros(10_000)) > 80_000, "arrays weigh what they hold"
    kept.keep(kept.key("too large"), "x" * 200_000)
    assert kept.weight == 0, "what alone is too large is not kept, and leaves nothing behind"


def test_no_answer_holds_a_connection(held: Connection) -> None:
    for answer in (held, [held], {"by": lambda: held.execute("SELECT 1")}):
        with pytest.raises(TypeError, match="connection"):
            held.kept.keep(("x",), answer)


def test_keys_tell_apart_what_python_s_equality_does_not() -> None:
    kept = StateCache()
    keys = [kept.key(one) for one in (1, 1.0, True, Decimal("1.0"), Decimal("1.00"), "1", (1,), (1.0,))]
    assert len(set(keys)) == len(keys)
    build = case_build(1)
    told = [build, build.renamed("Other"), Build(build.document, Anatomy(ANATOMY.parts))]
    assert len({kept.key(one) for one in told}) == 3, "by text, and by the anatomy it is read with"
    rules = [MODEL.rules(own, house) for own in ({}, {"gap_dial": 1.0}) for house in ({}, {"gap_dial": 1.0})]
    worth = House({SCHOOL_LISTED: LEARNED})
    worth.sellers = SellersWorth({}, {1: "Holm"})
    assert len({one.key for one in [*rules, MODEL.rules({}, worth), Model(*fields_of(MODEL)).rules()]}) == 5


def fields_of(model: Model) -> list[Any]:
    return [model.anatomy, model.families, model.rule_list, model.school_list, model.figures]


def test_many_threads_ask_at_once(database: Path) -> None:
    """None meets a fault, and each is told what is so, while another writes."""
    kept, stop = StateCache(most_bytes=3_000), Event()

    def ask(number: int) -> int:
        with closing(connect(database, MODEL, kept)) as own:
            asked = 0
            while not stop.is_set():
                low = own.execute("SELECT max(id) FROM supplier").fetchone()[0]
                told = own.kept.of(own, READS["newest"] if number % 2 else READS["newest again"])
                assert isinstance(told, int) and told >= low  # noqa: PT018  # one thing
                asked += 1
            return asked

    with closing(connect(database, MODEL, kept)) as writer, ThreadPoolExecutor(4) as pool:
        asking = [pool.submit(ask, number) for number in range(4)]
        for number in range(60):
            writer.execute("INSERT INTO supplier (name, currency) VALUES (?, 'EUR')", (f"S {number}",))
        stop.set()
        assert all(one.result() for one in asking)


@pytest.fixture
def held(tmp_path: Path) -> Iterator[Connection]:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = connect(tmp_path / "w.sqlite3", MODEL)
    yield opened
    opened.close()


@pytest.fixture
def demo(database: Path) -> Iterator[Connection]:
    opened = connect(database, MODEL)
    yield opened
    opened.close()


def test_minutes_of_steps_follow_the_log(held: Connection) -> None:
    number = watches.add_watch(held, case_build(1))
    for place, minutes in enumerate((4, 8)):
        start = 10**12 + place * 10**8
        entries = [
            LogEntry(f"start-{place:04}", "cut_stem", "start", start),
            LogEntry(f"done-{place:05}", "cut_stem", "done", start + minutes * 60_000),
        ]
        bench_log.add_entries(held, number, entries)
        told = bench_log.own_minutes(held, 0)["cut_stem"]
        assert told == pytest.approx(4 if place == 0 else 12), "both spells, once both are there"
    assert bench_log.own_minutes(held, number) == {}, "not of the watch itself"


def test_a_catalogue_s_price_is_offered_as_soon_as_it_is_noted(demo: Connection) -> None:
    """By version where a part is changed, by what is there where one is taken off and another put back."""

    def told() -> set[tuple[str, str]]:
        return {(offer.part, str(offer.price)) for offer in market(demo, "2026-11-26").offers}

    assert told() == told()
    one = catalogue_offers(demo)[0]
    number = int(one.part.removeprefix("part:"))
    demo.execute(
        "UPDATE part SET price_minor = price_minor + 100, version = version + 1 WHERE id = ?", (number,)
    )
    assert (one.part, str(one.price)) not in told()
    demo.execute("UPDATE part SET removed_at = 'now' WHERE id = ?", (number,))
    assert one.part not in {part for part, _ in told()}
    seller = suppliers.suppliers(demo)[0]
    demo.execute("UPDATE supplier SET currency = 'XPF', version = version + 1 WHERE id = ?", (seller.id,))
    assert len({offer.supplier for offer in market(demo, "2026-11-26").offers}) < len(
        suppliers.suppliers(demo)
    )


def test_a_full_bench_draws_those_touched_last(tmp_path: Path) -> None:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = connect(tmp_path / "w.sqlite3", MODEL)
    numbers = [watches.add_watch(opened, case_build(1).renamed(f"Watch {n}")) for n in range(14)]
    opened.execute(
        "UPDATE revision SET saved_at = '2026-01-' || printf('%02d', 10 + watch_id) || 'T00:00:00Z'"
    )
    bench_log.add_entries(
        opened, numbers[0], [LogEntry("start-0001", "cut_stem", "start", 1_900_000_000_000)]
    )
    opened.close()
    with TestClient(create_app(tmp_path / "w.sqlite3", MODEL), base_url="http://127.0.0.1") as client:
        page = client.get("/").text
    slim = [
        n for n in numbers if "strip-slim" in page.partition(f'href="/watches/{n}"')[0].rpartition("<li")[2]
    ]
    assert slim == numbers[1:3], "the first was at the bench lately, the next two were not"


def test_a_timer_that_rings_is_seen_on_the_bench_though_nothing_was_entered(
    held: Connection, monkeypatch: pytest.MonkeyPatch
) -> None:
    number = watches.add_watch(held, case_build(1))
    report, minute = report_on(case_build(1)), 60_000
    now = [10**12]
    begun = LogEntry("timer-0001", "press_crystal", "timer", now[0], 10.0)
    bench_log.add_entries(held, number, [LogEntry("start-0001", "press_crystal", "start", now[0]), begun])
    monkeypatch.setattr(bench_run, "now_ms", lambda: now[0])

    worked: list[int] = []
    monkeypatch.setattr(bench_run, "procedure", lambda on: worked.append(1) or procedure(on))  # type: ignore[func-returns-value]  # append tells nothing

    def times() -> int:
        """How often the words were worked out while they were asked for twice."""
        worked.clear()
        assert bench_run.built(held, number, report) == bench_run.built(held, number, report) != ""
        return len(worked)

    assert times() == 1
    now[0] += 9 * minute
    assert times() == 0, "it has not rung yet"
    now[0] += 2 * minute
    assert times() == 1, "it has: what waited for it is open"
    second = LogEntry("timer-0002", "stick_insert", "timer", now[0], 30.0)
    bench_log.add_entries(held, number, [second])
    assert times() == 1
    now[0] += 31 * minute
    assert times() == 1, "a second that rings after the first as well"


def test_a_copied_sheet_names_the_pieces_of_its_copy() -> None:
    """Of the workshop ten times as large that the bench measures."""
    sheet = '{"dial":{"shelf_piece": 14,"shelf_part":3},"hands":{"shelf_piece":7}}'
    assert (
        moved_sheet(sheet, 100) == '{"dial":{"shelf_piece": 114,"shelf_part":3},"hands":{"shelf_piece":107}}'
    )


def test_a_connection_that_is_given_back_is_as_newly_opened(database: Path) -> None:
    """What a request left half read would show the next one that moment; what it wrote would stay."""
    pool = OpenConnections(database, MODEL, StateCache())
    first = pool.take()
    half_read = first.execute("SELECT name FROM supplier")
    half_read.fetchone()
    first.execute("BEGIN IMMEDIATE")
    first.execute("UPDATE supplier SET name = name || ' never'")
    second = pool.take()
    assert second is not first, "each serves one request at a time"
    pool.give_back(first)
    second.execute("UPDATE supplier SET name = name || ' now'")
    again = pool.take()
    assert again is first
    names = {name for (name,) in rows(again, "SELECT name FROM supplier")}
    assert names
    assert all(name.endswith(" now") for name in names), "nothing of before, and nothing that was not ended"
    assert not again.in_transaction
    for connection in (again, second):
        pool.give_back(connection)
    pool.close()
    assert not database.with_name(f"{database.name}-wal").exists(), "the last one folds the log into the file"
    with pytest.raises(sqlite3.ProgrammingError):
        again.execute("SELECT 1")
