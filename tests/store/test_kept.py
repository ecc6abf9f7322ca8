"""What is kept in mind: the same answer for the same state, and never an old one for a new."""

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from starlette.testclient import TestClient

from marquetry.core.bench.log import LogEntry
from marquetry.store import bench_log, suppliers, watches
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.kept import MOST_KEPT, InMind
from marquetry.web.build import bench_run
from marquetry.web.order.needed import catalogue_offers, market
from marquetry.web.site.app import create_app
from tests.strategies import MODEL, case_build, report_on
from tests.tenfold import moved_sheet


@given(st.lists(st.tuples(st.integers(0, 3), st.integers(0, 2)), max_size=40))
def test_an_answer_is_that_of_its_state_and_worked_out_once(asked: list[tuple[int, int]]) -> None:
    kept, worked = InMind(), []

    def answer(number: int, state: int) -> Callable[[], tuple[int, int]]:
        return lambda: worked.append((number, state)) or (number, state)  # type: ignore[func-returns-value]  # append tells nothing

    last: dict[int, int] = {}
    for number, state in asked:
        before = len(worked)
        assert kept.of("x", number, state, answer(number, state)) == (number, state)
        assert len(worked) - before == (0 if last.get(number) == state else 1)
        last[number] = state


def test_the_oldest_are_forgotten() -> None:
    kept = InMind()
    for number in range(MOST_KEPT + 1):
        kept.of("x", number, 0, lambda: 0)
    assert kept.of("x", 0, 0, lambda: 1) == 1, "the first had to go"
    assert kept.of("x", MOST_KEPT, 0, lambda: 1) == 0


@pytest.fixture
def held(tmp_path: Path) -> Iterator[Connection]:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = connect(tmp_path / "w.sqlite3", MODEL, InMind())
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
    now, asked = [10**12], []
    begun = LogEntry("timer-0001", "press_crystal", "timer", now[0], 10.0)
    bench_log.add_entries(held, number, [LogEntry("start-0001", "press_crystal", "start", now[0]), begun])
    monkeypatch.setattr(bench_run, "now_ms", lambda: asked.append(1) or now[0])  # type: ignore[func-returns-value]  # append tells nothing

    def worked_out() -> int:
        """How often the moment was asked for besides the question itself whether the words still hold."""
        asked.clear()
        assert bench_run.built(held, number, report, (2, 2)).startswith("Built: ")
        return len(asked) - 1

    assert [worked_out(), worked_out()] == [1, 0]
    now[0] += 9 * minute
    assert worked_out() == 0, "it has not rung yet"
    now[0] += 2 * minute
    assert worked_out() > 0, "it has: what waited for it is open"


def test_a_copied_sheet_names_the_pieces_of_its_copy() -> None:
    """Of the workshop ten times as large that the bench measures."""
    sheet = '{"dial":{"shelf_piece": 14,"shelf_part":3},"hands":{"shelf_piece":7}}'
    assert (
        moved_sheet(sheet, 100) == '{"dial":{"shelf_piece": 114,"shelf_part":3},"hands":{"shelf_piece":107}}'
    )
