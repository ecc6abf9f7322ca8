"""A form that is sent twice counts once: by the key that its page gave it, and what is in it."""

import re
import sqlite3
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

import pytest
from starlette.testclient import TestClient

KEY = re.compile(r'name="sent" value="([0-9a-f]{32})"')


@dataclass(frozen=True, slots=True)
class Sent:
    """A form: the page that shows it, where it goes, what it says, and the table that it adds to."""

    page: str
    path: str
    form: dict[str, str]
    table: str
    other: dict[str, str]
    """The same form with something else in it."""


BOOKING = {"kind": "other", "words": "Courier", "amount": "12.50"}
NOTE = {"kind": "note", "words": "It fell."}
LESSON = {"words": "Rock the jaws.", "step": "cut_stem"}
FORMS = (
    Sent("/watches/1/money", "/watches/1/money", BOOKING, "booking", {"amount": "13.00"}),
    Sent("/watches/1/story", "/watches/1/story/notes", NOTE, "story_note", {"words": "It fell twice."}),
    Sent("/workshop/lessons", "/workshop/lessons", LESSON, "lesson", {"words": "Rock the jaws, twice."}),
    Sent(
        "/watches/1/quote?count=1&hours=3.5&margin=12+%25",
        "/watches/1/quote",
        {"count": "1", "hours": "3.5", "margin": "12 %"},
        "quote",
        {"hours": "4.5"},
    ),
)


def count(database: Path, table: str) -> int:
    with closing(sqlite3.connect(database)) as plain:
        return int(plain.execute(f"SELECT count(*) FROM {table}").fetchone()[0])  # noqa: S608  # of the table above


@pytest.fixture
def adds(client: TestClient, database: Path) -> Callable[[str, str, dict[str, str]], int]:
    """Sends a form and tells how many rows that added to a table."""

    def sent(path: str, table: str, form: dict[str, str]) -> int:
        before = count(database, table)
        answer = client.post(path, data=form, follow_redirects=False)
        assert answer.status_code == 303, answer.text[:200]
        return count(database, table) - before

    return sent


@pytest.mark.parametrize("one", FORMS, ids=lambda one: one.table)
def test_the_same_form_counts_once_and_another_counts(
    one: Sent, client: TestClient, adds: Callable[[str, str, dict[str, str]], int]
) -> None:
    found = KEY.search(client.get(one.page).text)
    assert found, "the page gives its form a key"
    form = {**one.form, "sent": found[1]}
    assert [adds(one.path, one.table, form) for _ in range(3)] == [1, 0, 0]
    again = {**form, **one.other}
    assert adds(one.path, one.table, again) == 1, "shown again by the way back, with something else in it"
    assert adds(one.path, one.table, {**one.form, "sent": "0" * 32}) == 1, "the same said again is meant"


def test_a_wish_sent_twice_is_one_wish(
    client: TestClient, adds: Callable[[str, str, dict[str, str]], int]
) -> None:
    page = client.get("/watches/6/brief").text
    seen, key = re.search(r'name="seen" value="(\d+)"', page), KEY.search(page)
    assert seen
    assert key
    form = {"seen": seen[1], "topic": "whom", "value": "A friend", "sent": key[1]}
    assert [adds("/watches/6/brief/wishes", "wish", form) for _ in range(2)] == [1, 0]
    late = client.post("/watches/6/brief/wishes", data={**form, "sent": ""}, follow_redirects=False)
    assert late.status_code == 409, "without a key it is a form made from an older page"


def test_two_taps_at_once_count_once(client: TestClient, database: Path) -> None:
    form = {**BOOKING, "sent": "a" * 32}
    before = count(database, "booking")
    with ThreadPoolExecutor(4) as pool:
        answers = list(pool.map(lambda _: client.post("/watches/1/money", data=form).status_code, range(4)))
    assert set(answers) == {200}
    assert count(database, "booking") == before + 1


def test_what_was_refused_may_be_sent_again(client: TestClient, database: Path) -> None:
    before = count(database, "booking")
    form = {**BOOKING, "sent": "b" * 32}
    assert client.post("/watches/1/money", data={**form, "amount": "much"}).status_code == 422
    assert client.post("/watches/1/money", data=form).status_code == 200
    assert count(database, "booking") == before + 1
    assert client.post("/watches/1/money", data={**form, "sent": "no key"}).status_code == 422


def test_orders_taken_twice_are_ordered_once(client: TestClient, database: Path) -> None:
    page = client.get("/orders").text
    mark, key = re.search(r'name="mark" value="([0-9a-f]+)"', page), KEY.search(page)
    assert mark
    assert key
    before = count(database, "supply_order")
    form = {"mark": mark[1], "sent": key[1]}
    answers = [client.post("/orders", data=form, follow_redirects=False).status_code for _ in range(2)]
    assert answers == [303, 303]
    added = count(database, "supply_order") - before
    assert added > 0
    assert client.post("/orders", data={"mark": mark[1]}, follow_redirects=False).status_code == 409
    assert count(database, "supply_order") == before + added
