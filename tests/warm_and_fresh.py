"""A program that has run for a while beside one that starts this moment: after any saves both show the same.

The warm one keeps answers in mind (`store/statecache.py`); the fresh one is begun anew on a copy of the file
before every look. Saves go through the forms that the pages show, under every school. `make torture` runs
hundreds of rounds, the fresh one a process of its own; the tests a few, within this process.
"""

import random
import re
import sqlite3
from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import AbstractContextManager, closing, contextmanager
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import httpx2 as httpx
from fastapi import FastAPI
from lxml import html
from starlette.testclient import TestClient

from marquetry.core.fit.schools import SCHOOLS
from marquetry.demo.workshop import make_demo
from marquetry.store.database import connect
from marquetry.store.house import set_rule
from marquetry.store.photos import folder_of
from marquetry.store.statecache import CacheKey, StateCache, _Held
from marquetry.web.site.app import begin_on, create_app
from tests.e2e.pages import FOUND, PAGES
from tests.nursery import serve
from tests.strategies import MODEL

FILES = (
    "/watches/{n}/findings.json", "/watches/{n}/sheet.json", "/watches/{n}/plate.svg", "/watches/{n}/face.svg",
    "/watches/{n}/make/part/holder", "/watches/{n}/make/part/drilling-sheet", "/watches/{n}/make/part/spacer:0",
    "/watches/{n}/make/part/dial", "/watches/{n}/remedies", "/watches/{n}/order", "/watches/{n}/parts/dial",
    "/watches/{n}/story/card.txt", "/watches/{n}/build", "/watches/{n}/measure", "/watches/{n}",
)  # fmt: skip
"""What is looked at of any watch, beside the pages that the other tests know."""
EVERYWHERE = ("/", "/rules", "/shelf", "/workshop/years", "/workshop/report", "/workshop/sellers", "/orders")
LOOKED_AT = 40
MOMENT = re.compile(
    r"\d{4}-\d\d-\d\dT[\d:.]+Z?|\b\d{1,2}:\d\d(:\d\d)?\b|\b[0-9a-f]{16,}\b|[\d.]+ ms\b"
    r'|name="key" value="[^"]*"|\b\d+ (second|minute)s?\b'
)
"""What is another each time a page is made: times of the day, tokens, how long something took."""
NOT_SENT = re.compile(
    r"/(workshop|sheets|donors|imports|phrase|door|sharing|photos|exchange|caliper|removed|finder)"
)
"""Forms with files, forms that let the workshop's watches go, searches in the background: other tests' business."""
WORDS = (
    "0.42",
    "0.55 measured",
    "28.45 ±0.02",
    "1.6",
    "90.3 measured",
    "12",
    "Holm",
    "2026-11-20",
    "grey",
    "",
    "x",
)


@dataclass(frozen=True, slots=True)
class Difference:
    """An address that the warm program answers otherwise than a fresh one, or with a fault."""

    address: str
    warm: tuple[int, str]
    again: tuple[int, str]
    fresh: tuple[int, str]

    def __str__(self) -> str:
        if max(self.warm[0], self.again[0], self.fresh[0]) >= 500:
            return f"{self.address}: {self.warm[0]}, {self.again[0]}, fresh {self.fresh[0]}"
        other = self.again if self.again != self.fresh else self.warm
        place = next((n for n, (a, b) in enumerate(zip(other[1], self.fresh[1], strict=False)) if a != b), 0)
        around = slice(max(place - 60, 0), place + 60)
        return f"{self.address} at {place}: warm {other[1][around]!r}, fresh {self.fresh[1][around]!r}"


def plain(answer: httpx.Response) -> tuple[int, str]:
    """Status and text of an answer, without what is another each time."""
    return answer.status_code, MOMENT.sub("·", answer.text)


@contextmanager
def begun_on(application: FastAPI, database: Path, kept: StateCache | None = None) -> Iterator[TestClient]:
    """The application with nothing in mind, or with what it is given to keep answers in."""
    begin_on(application, database, MODEL, kept)
    with TestClient(application, base_url="http://127.0.0.1", raise_server_exceptions=False) as client:
        yield client


def copied(database: Path, to: Path) -> Path:
    """A copy of a workshop in use; its pictures are the same files."""
    for old in to.parent.glob(f"{to.name}*"):
        old.unlink()
    with closing(sqlite3.connect(database)) as here, closing(sqlite3.connect(to)) as there:
        here.backup(there)
    if not folder_of(to).exists():
        folder_of(to).symlink_to(folder_of(database))
    return to


def differences(
    warm: TestClient,
    database: Path,
    addresses: Iterable[str],
    fresh: Callable[[Path], AbstractContextManager[Any]],
) -> list[Difference]:
    """Each address twice from the warm program and once from a fresh one on a copy of the file."""
    copy = copied(database, database.with_name("fresh.sqlite3"))
    with fresh(copy) as client:
        found = [
            Difference(
                address, plain(warm.get(address)), plain(warm.get(address)), plain(client.get(address))
            )
            for address in addresses
        ]
    return [one for one in found if not (one.warm == one.again == one.fresh and one.fresh[0] < 500)]


def addresses(dice: random.Random, watches: Sequence[int]) -> list[str]:
    """Some forty: what depends on all, and a draw of the rest."""
    # Labels carry the address that they were asked at, port and all.
    known = [a for each in PAGES.values() for a in each if a != FOUND and "/labels" not in a]
    of_watches = [file.format(n=number) for file in FILES for number in watches]
    drawn = dice.sample(known, LOOKED_AT // 2) + dice.sample(of_watches, LOOKED_AT // 2 - len(EVERYWHERE))
    return [*EVERYWHERE, *drawn]


def forms_of(client: TestClient, address: str) -> list[html.FormElement]:
    """The forms of a page that save something."""
    answer = client.get(address)
    if not answer.headers.get("content-type", "").startswith("text/html"):
        return []
    page: Any = html.document_fromstring(answer.text)
    return [form for form in page.forms if form.method == "POST" and not NOT_SENT.search(form.action or "")]


def filled(form: html.FormElement, dice: random.Random) -> dict[str, str]:
    """A form as somebody may send it: much as it stands, some of it another."""
    sent: dict[str, str] = {}
    for field in form.inputs:
        if not field.name or getattr(field, "type", "") == "file":
            continue
        if isinstance(field, html.SelectElement):
            sent[field.name] = dice.choice(field.value_options) if dice.random() < 0.5 else field.value or ""
        elif field.get("type") in {"checkbox", "radio"}:
            if field.checked if dice.random() < 0.6 else dice.random() < 0.5:
                sent[field.name] = field.get("value") or "on"
        else:
            held = field.value or ""
            is_hidden = field.get("type") == "hidden"
            sent[field.name] = held if is_hidden or (held and dice.random() < 0.6) else dice.choice(WORDS)
    buttons = form.xpath(".//button[@name]")
    if buttons and dice.random() < 0.7:
        button = dice.choice(buttons)
        sent[button.get("name")] = button.get("value") or ""
    return sent


def saved_by_form(client: TestClient, dice: random.Random, address: str) -> str:
    """Send one form of the page; what was sent and how it was answered, empty where it has none."""
    forms = forms_of(client, address)
    if not forms:
        return ""
    form = dice.choice(forms)
    sent = filled(form, dice)
    where = httpx.URL(f"http://127.0.0.1{address}").join(form.action or "")
    answer = client.post(str(where), data=sent, follow_redirects=False)
    return f"{where.path} {sent} {answer.status_code}"


def schools() -> list[tuple[str, str]]:
    """Every choice of every school."""
    return [(school.key, choice.key) for school in SCHOOLS for choice in school.practices]


@dataclass(frozen=True, slots=True)
class Round:
    """What one round did, how many of its saves were taken, and the differences that it found."""

    told: list[str]
    taken: int
    found: list[Difference]


def one_round(
    warm: TestClient,
    database: Path,
    number: int,
    seed: int,
    fresh: Callable[[Path], AbstractContextManager[Any]],
) -> Round:
    """A school, some saves by forms with looks in between, an undo now and then; then both are compared."""
    dice = random.Random(f"{seed}/{number}")  # noqa: S311  # a test's dice
    key, choice = schools()[number % len(schools())]
    with closing(connect(database, MODEL)) as connection:
        set_rule(connection, key, choice, "a round")
        if number % 2:
            set_rule(connection, "school_listed", "learned", "a round")
        watches = [row[0] for row in connection.execute("SELECT id FROM watch WHERE removed_at IS NULL")]
    told = [f"{key}={choice}"]
    pages = [a for each in PAGES.values() for a in each if a != FOUND]
    for _ in range(dice.randint(2, 6)):
        for address in dice.sample(pages, 3):
            warm.get(address)
        told.append(saved_by_form(warm, dice, dice.choice(pages)))
        if dice.random() < 0.3:
            told.append(undone(warm, dice.choice(watches)))
    taken = sum(one.endswith((" 200", " 303")) for one in told)
    return Round(told, taken, differences(warm, database, addresses(dice, watches), fresh))


def undone(client: TestClient, watch: int) -> str:
    """The last save of a watch taken back, as its page offers it."""
    found = re.search(r'name="version" value="(\d+)"', client.get(f"/watches/{watch}").text)
    if not found:
        return ""
    answer = client.post(f"/watches/{watch}/undo", data={"version": found[1]}, follow_redirects=False)
    return f"undo {watch} {answer.status_code}"


@contextmanager
def served_on(database: Path) -> Iterator[httpx.Client]:
    """A program of its own on that file, which is ended afterwards."""
    process, address = serve(database)
    try:
        with httpx.Client(base_url=address, timeout=60, follow_redirects=True) as client:
            yield client
    finally:
        process.kill()
        process.wait(10)


def rounds(count: int, seed: int, folder: Path) -> tuple[int, list[str]]:
    """So many rounds on one demo, each with a fresh process; the saves that were taken, and what differed."""
    database, taken, found = folder / "warm.sqlite3", 0, list[str]()
    make_demo(database, MODEL)
    application = create_app(database, MODEL)
    with begun_on(application, database) as warm:
        for number in range(count):
            done = one_round(warm, database, number, seed, served_on)
            taken += done.taken
            found += [f"round {number}: {one} after {done.told}" for one in done.found]
    return taken, found


Part = tuple[str, str]
"""One part of a key: the work's name with the place of an argument (`2`, or `2.4` within it), or with a table."""


class Census(StateCache):
    """Notes every part of every key, with how many values each argument came with."""

    def __init__(self) -> None:
        super().__init__()
        self.values: dict[Part, set[Any]] = {}

    def key(self, *given: Any) -> CacheKey:
        key = super().key(*given)
        for place, value in enumerate(key[1:], 1):
            self.values.setdefault((given[0].__name__, str(place)), set()).add(value)
            for inner, part in enumerate(value) if isinstance(value, tuple) else ():
                self.values.setdefault((given[0].__name__, f"{place}.{inner}"), set()).add(part)
        return key

    def _put(self, key: CacheKey, held: _Held) -> None:
        for table in {table for one in held.asked for table in one.tables}:
            self.values[key[0].__name__, table] = {False, True}  # type: ignore[attr-defined]  # the work itself
        super()._put(key, held)

    @property
    def parts(self) -> set[Part]:
        """Those that can tell two answers of one workshop apart: its model is one."""
        return {part for part, values in self.values.items() if len(values) > 1}


class Blind(StateCache):
    """A cache that overlooks one part of a key: what the comparison must find out."""

    def __init__(self, part: Part) -> None:
        super().__init__()
        self._work, self._part = part

    def key(self, *given: Any) -> CacheKey:
        key = super().key(*given)
        if given[0].__name__ != self._work or not self._part[0].isdigit():
            return key
        place, _, inner = self._part.partition(".")
        value: Any = key[int(place)]
        seen = tuple(None if str(n) == inner else one for n, one in enumerate(value)) if inner else None
        return (*key[: int(place)], seen, *key[int(place) + 1 :])

    def _put(self, key: CacheKey, held: _Held) -> None:
        if getattr(key[0], "__name__", "") == self._work:
            seen = [one for one in held.asked if one.tables != {self._part}]
            held = replace(held, asked=tuple(replace(e, tables=e.tables - {self._part}) for e in seen))
        super()._put(key, held)
