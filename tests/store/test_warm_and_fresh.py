"""Answers in mind are never old ones: known cases, rounds by any form, and every part of a key taken away."""

import sqlite3
from collections.abc import Iterator, Mapping
from contextlib import closing
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

import pytest
from fastapi import FastAPI
from starlette.testclient import TestClient

from marquetry.store.database import connect
from marquetry.store.watches import add_watch
from marquetry.web.site.app import begin_on, create_app
from tests.e2e.pages import FOUND, PAGES
from tests.strategies import MODEL, case_build
from tests.warm_and_fresh import Blind, Census, Part, begun_on, differences, one_round

ALL_FINDINGS = tuple(f"/watches/{number}/findings.json" for number in range(1, 16))
VERSION = "version of "


@dataclass(frozen=True, slots=True)
class Case:
    """Pages looked at, what is saved then (an address alone is looked at again), and what is compared."""

    name: str
    looked_at: tuple[str, ...]
    saves: tuple[tuple[str, Mapping[str, str]], ...]
    compared: tuple[str, ...]
    rules: Mapping[str, str] = field(default_factory=dict)
    guards: tuple[Part, ...] = ()
    """Parts of keys without which this case has to fail."""


LOOK: Mapping[str, str] = {}
SQL: Mapping[str, str] = {"sql": ""}
"""Not sent by a form: written by another program, to one table alone."""
LEARNED = {"school_listed": "learned"}
WATCH_1, WATCH_2 = f"{VERSION}watch 1", f"{VERSION}watch 2"
FOUR, VERSION_4 = "/watches/16", f"{VERSION}watch 16"
"""A watch beside the demo's: its dial has four feet, of which two are in the way."""
RENAMED = {"version": f"{VERSION}supplier 1", "name": "Another Name", "currency": "EUR"}

CASES = (
    Case(
        "an undo brings a listed reading back",
        ALL_FINDINGS,
        (
            ("/watches/1/entries", {"version": WATCH_1, "path": "case.crown_angle", "value": "90.30", "source": "measured"}),
            (ALL_FINDINGS[1], LOOK),
            ("/watches/1/undo", {"version": WATCH_1}),
        ),
        ALL_FINDINGS,
        LEARNED,
    ),
    Case(
        "feet that miss may be bent further than they might",
        (),
        (
            (f"{FOUR}/entries", {"version": VERSION_4, "path": "case.crown_angle", "value": "93", "source": "measured"}),
            (f"{FOUR}/make/part/drilling-sheet", LOOK),
            (f"{FOUR}/make/part/drilling-sheet/versions", {"version": VERSION_4}),
            (f"{FOUR}/make/part/drilling-sheet/versions/1/file.dxf", LOOK),
            ("/rules", {"key": "foot_bend", "low": "0.9"}),
        ),
        (f"{FOUR}/make/part/drilling-sheet", *(
            f"{FOUR}/make/part/drilling-sheet/versions/1/file.{ending}" for ending in ("dxf", "svg")
        )),
    ),
    Case(
        "a made part's page is asked for again and again",
        ("/watches/2/make/part/spacer:0",),
        (("/watches/2/make/part/spacer:0", LOOK), ("/watches/2/make/part/spacer:0", LOOK)),
        ("/watches/2/make/part/spacer:0", "/watches/2/make"),
        LEARNED,
    ),
    Case(
        "a supplier is renamed",
        ("/suppliers", "/orders", "/watches/1/order", "/workshop/sellers", "/watches/1/parts/crown", "/parts/14",
         "/orders/2", "/watches/2/money"),
        (("/suppliers/1", RENAMED),),
        ("/suppliers", "/orders", "/watches/1/order", "/workshop/sellers", "/watches/1/parts/crown", "/parts/14",
         "/orders/2", "/watches/2/money", "/watches/2/order", ALL_FINDINGS[0]),
        LEARNED,
    ),
)  # fmt: skip


CROWN = "/watches/1/parts/crown"
"""Tells beside its listed sizes what its seller's figures are worth."""
TOLD_AND_MEASURED = tuple(
    (f"{FOUR}/entries", {"version": VERSION_4, "path": "dial.diameter", "value": value, "source": source})
    for value, source in (("28.4", "listed"), ("28.52", "measured"))
)
OWN_RULE = """json_set(sheet, '$.rules', json('{"school_listed": "learned"}'))"""
IN_FORCE = "(SELECT version FROM watch WHERE watch.id = watch_id)"
BY_TABLE = (
    Case("a seller's tolerances", (ALL_FINDINGS[0], CROWN, "/workshop/sellers"),
         (("UPDATE reading SET value = value + 0.2 WHERE source = 'listed'", SQL),),
         (ALL_FINDINGS[0], CROWN, "/workshop/sellers"), LEARNED,
         (("_sellers_worth", "reading"), ("_figures_worth", "reading"), ("report_on", "2.4"))),
    Case("who sells a part", (),
         (("UPDATE piece SET supplier_id = NULL", SQL), (CROWN, LOOK), ("/workshop/sellers", LOOK),
          ("UPDATE part SET supplier_id = CASE supplier_id WHEN 1 THEN 2 ELSE 1 END WHERE supplier_id < 3", SQL)),
         (CROWN, "/workshop/sellers"), LEARNED,
         (("_sellers_worth", "part"), ("_figures_worth", "part"))),
    Case("who sold a piece", ("/watches/1/parts/movement", "/workshop/sellers"),
         (("UPDATE piece SET supplier_id = 1 + (id % 3)", SQL),),
         ("/watches/1/parts/movement", "/workshop/sellers"), LEARNED,
         (("_sellers_worth", "piece"), ("_figures_worth", "piece"))),
    Case("a seller's name", ("/watches/1/parts/crown", "/workshop/sellers"),
         (("UPDATE supplier SET name = name || ' now'", SQL),),
         ("/watches/1/parts/crown", "/workshop/sellers"), LEARNED,
         (("_sellers_worth", "supplier"), ("_figures_worth", "supplier"))),
    Case("what a catalogue asks", ("/orders",),
         (("UPDATE part SET price_minor = 7 WHERE price_minor IS NOT NULL", SQL),), ("/orders",), {},
         (("catalogue_offers", "part"), ("_planned", "1"))),
    Case("whom a catalogue names", ("/orders",),
         (("UPDATE supplier SET name = name || ' now'", SQL),), ("/orders",), {}, (("catalogue_offers", "supplier"),)),
    Case("a sheet in use tells another story",
         ("/workshop/sellers", "/workshop/report", "/watches/1/parts/crown"),
         ((f"UPDATE revision SET sheet = json_remove(sheet, '$.parts.case', '$.parts.crown') WHERE version = {IN_FORCE}", SQL),),
         ("/workshop/sellers", "/workshop/report"), LEARNED,
         (("_record", "revision"), ("_build_read", "2"))),
    Case("a part that was measured in a watch is another by now", (),
         (*TOLD_AND_MEASURED, ("/workshop/sellers", LOOK),
          ("UPDATE revision SET sheet = json_set(sheet, '$.parts.dial.name', 'Other') WHERE watch_id = 16 AND version > 2", SQL)),
         ("/workshop/sellers",), {}, (("_figures_worth", "revision"),)),
    Case("a watch is again what it was before a part was measured", (),
         (*TOLD_AND_MEASURED,
          ("UPDATE revision SET sheet = json_set(sheet, '$.parts.dial.name', 'Other') WHERE watch_id = 16 AND version = 1", SQL),
          ("/workshop/sellers", LOOK), ("UPDATE watch SET version = 1 WHERE id = 16", SQL)),
         ("/workshop/sellers",), {}, (("_figures_worth", "watch"),)),
    Case("a sheet goes by what sellers are worth", ALL_FINDINGS,
         ((f"UPDATE revision SET sheet = {OWN_RULE} WHERE version = {IN_FORCE}", SQL),),
         (*ALL_FINDINGS, CROWN), {}, (("_sheet_goes_by_worth", "revision"),)),
    Case("a version that goes by it is in use",
         (ALL_FINDINGS[0],),
         (("INSERT INTO revision (watch_id, version, sheet, change) SELECT watch_id, 900,"
           f" {OWN_RULE}, 'x' FROM revision WHERE watch_id = 1 AND version = 1", SQL),
          (ALL_FINDINGS[0], LOOK), ("UPDATE watch SET version = 900 WHERE id = 1", SQL)),
         (ALL_FINDINGS[0], CROWN), {}, (("_sheet_goes_by_worth", "watch"),)),
    Case("a variant goes by it", (ALL_FINDINGS[0], "/watches/1/compare"),
         (("INSERT INTO variant (watch_id, name, sheet) SELECT watch_id, 'Other',"
           f" {OWN_RULE} FROM revision WHERE watch_id = 1 AND version = {IN_FORCE}", SQL),),
         ("/watches/1/compare",), {}, (("_sheet_goes_by_worth", "variant"),)),
    Case("a tap at a bench", ("/", "/watches/1/build", "/workshop/report"),
         (("DELETE FROM bench_entry WHERE id % 2 = 0 AND what <> 'undo'", SQL),),
         ("/", "/watches/1/build", "/workshop/report"), {},
         (("_built", "bench_entry"), ("_minutes", "bench_entry"), ("_record", "bench_entry"))),
    Case("a piece comes from a donor", ("/",),
         (("UPDATE piece SET donor_id = 1 WHERE id IN (SELECT piece_id FROM in_watch)", SQL),), ("/",), {},
         (("_built", "piece"),)),
    Case("a donor's piece leaves a watch", ("/",),
         (("UPDATE piece SET donor_id = 1 WHERE id IN (SELECT piece_id FROM in_watch)", SQL), ("/", LOOK),
          ("DELETE FROM in_watch", SQL)), ("/",), {}, (("_built", "in_watch"),)),
)  # fmt: skip
LABELS = "/stock/labels?place=Drawer+D1"
TWINS = """INSERT INTO part (kind, name, sheet) SELECT kind, 'Twin', '{"name": "Twin", "diameter": {"value": 30.5}}'
             FROM (SELECT 'dial' AS kind UNION SELECT 'crystal')"""
DIAL = {"version": WATCH_2, "path": "dial.diameter", "value": "27", "source": "measured"}
PAIRS = tuple(f"/watches/2/pairs?kinds={kinds}" for kinds in ("movement-case", "dial-case"))
BY_ARGUMENT = (
    Case("a size is another", ("/",), (("/watches/2/entries", DIAL),), ("/",), {},
         (("report_on", "1"), ("_section", "1"), ("_front", "1"))),
    Case("a rule is another", ("/watches/2", "/workshop/report"),
         (("/rules", {"key": "stem_height", "low": "0.5", "high": "0.6"}),), ("/watches/2", "/workshop/report"), {},
         (("report_on", "2"), ("_record", "2"))),
    Case("a matrix under another rule", (PAIRS[0],),
         (("/rules", {"key": "stem_height", "low": "0.5", "high": "0.6"}),), (PAIRS[0],), {}, (("pair_table", "2"),)),
    Case("a matrix of a watch whose dial is another", (PAIRS[0],),
         (("/watches/2/entries", {**DIAL, "path": "dial.thickness", "value": "0.9"}),), (PAIRS[0],), {},
         (("pair_table", "1"),)),
    Case("matrices of other parts", PAIRS, (), PAIRS, {}, ()),
    Case("a movement on the shelf is another", (PAIRS[0],),
         (("UPDATE part SET sheet = json_set(sheet, '$.face_to_stem', json('{\"value\": 2.9}')) WHERE kind = 'movement'", SQL),),
         (PAIRS[0],), {}, (("pair_table", "3"), ("_part_read", "3"))),
    Case("a case on the shelf is another", (PAIRS[0],),
         (("UPDATE part SET sheet = json_set(sheet, '$.seat_to_tube', json('{\"value\": 2.9}')) WHERE kind = 'case'", SQL),),
         (PAIRS[0],), {}, (("pair_table", "4"),)),
    Case("a matrix with another spacer", (PAIRS[0],), (), (PAIRS[0], f"{PAIRS[0]}&spacer=0"), {}, (("pair_table", "5"),)),
    Case("two kinds of part are described alike", (), ((TWINS, SQL),),
         ("/shelf?kind=dial&q=twin", "/shelf?kind=crystal&q=twin"), {}, (("_part_read", "2"), ("_thumb", "2"))),
    Case("parts look otherwise", ("/shelf?kind=dial", "/watches/2/face?part=dial&edit=true"),
         (("UPDATE part SET sheet = json_set(sheet, '$.colour', 'oxblood')", SQL),),
         ("/shelf?kind=dial", "/watches/2/face?wear=dial.1&part=dial"), {}, (("_thumb", "2.2"), ("_face_thumb", "2.2"), ("_face_thumb", "2"))),
    Case("parts of a watch that are made", (), (),
         ("/watches/1/make/part/holder", "/watches/2/make/part/spacer:0", "/watches/2/make/part/drilling-sheet",
          "/watches/2/make/part/dial"), {}, (("made_body", "1"),)),
    Case("a part made for another size", ("/watches/1/make/part/holder",),
         (("/watches/1/entries", {"version": WATCH_1, "path": "holder.inner_diameter", "value": "29", "source": "measured"}),),
         ("/watches/1/make/part/holder",), {}, (("made_body", "1.3"),)),
    Case("an order is billed anew", ("/orders/2",), (("UPDATE supply_order SET postage_minor = 7777", SQL),), ("/orders/2",), {},
         (("_landed", "1"),)),
    Case("a rate is another", ("/orders/2", "/orders/3", "/orders"), (("UPDATE rate SET rate = '3.21'", SQL),),
         ("/orders/2", "/orders/3", "/orders"), {}, (("_landed", "2"),)),
    Case("watches at the bench", (), (), ("/workshop/report", "/watches/1/build", "/watches/4/build"), {},
         (("_record", "1"), ("_minutes", "1"))),
    Case("a step falls away", ("/",),
         (("UPDATE revision SET sheet = json_remove(sheet, '$.parts.bezel_insert', '$.parts.strap')", SQL),), ("/",), {},
         (("_built", "2"),)),
    Case("two watches of one sheet", (),
         (("UPDATE revision SET sheet = (SELECT sheet FROM revision WHERE watch_id = 1 AND version = 1)", SQL),),
         ("/",), {}, (("_built", "1"),)),
    Case("parts are renamed", (LABELS,), (("UPDATE part SET name = name || ' now'", SQL),), (LABELS,), {},
         (("drawn_code", "2"),)),
    Case("parts of one name", (), (("UPDATE part SET name = 'Same'", SQL),), (LABELS,), {}, (("drawn_code", "1"),)),
    Case("rehearsals", ("/rehearsal/12?at=4", "/rehearsal/13"), (), ("/rehearsal/12?at=4", "/rehearsal/13"), {}, ()),
)  # fmt: skip


@pytest.fixture(scope="module")
def other_application(demo_file: Path) -> FastAPI:
    return create_app(demo_file, MODEL)


@pytest.fixture
def warm(database: Path, application: FastAPI) -> Iterator[TestClient]:
    with closing(connect(database, MODEL)) as connection:
        assert f"/watches/{add_watch(connection, case_build(6))}" == FOUR
    with begun_on(application, database) as client:
        yield client


def send(client: TestClient, database: Path, path: str, form: Mapping[str, str]) -> None:
    """One save, each version as it is by now; or a look."""
    if form is LOOK:
        client.get(path)
        return
    if form is SQL:
        with closing(sqlite3.connect(database)) as other:
            assert other.execute(path).rowcount > 0, path
            other.commit()
        return
    with closing(connect(database, MODEL)) as connection:
        sent = {key: newest(connection, value) for key, value in form.items()}
    answer = client.post(path, data=sent, follow_redirects=False)
    assert answer.status_code in {200, 303}, f"{path} {sent}: {answer.text[:300]}"


def newest(connection: object, value: str) -> str:
    if not value.startswith(VERSION):
        return value
    table, number = value.removeprefix(VERSION).split()
    query = f"SELECT version FROM {table} WHERE id = ?"  # a table's name of our own
    return str(connection.execute(query, (number,)).fetchone()[0])  # type: ignore[attr-defined]  # a connection


def played(case: Case, warm: TestClient, database: Path, other: FastAPI) -> list[str]:
    """The differences that a case shows."""
    for key, choice in case.rules.items():
        send(warm, database, "/rules/schools", {"key": key, "choice": choice})
    for path in case.looked_at:
        warm.get(path)
    for path, form in case.saves:
        send(warm, database, path, form)
    return [str(one) for one in differences(warm, database, case.compared, partial(begun_on, other))]


EVERY = (*CASES, *BY_TABLE, *BY_ARGUMENT)


@pytest.mark.parametrize("case", EVERY, ids=lambda case: case.name)
def test_after_a_save_a_program_that_ran_shows_what_a_fresh_one_shows(
    case: Case, warm: TestClient, database: Path, other_application: FastAPI
) -> None:
    assert played(case, warm, database, other_application) == []


GUARDED = [(part, case) for case in EVERY for part in case.guards]


@pytest.mark.parametrize("guarded", GUARDED, ids=lambda one: "/".join(one[0]))
def test_a_key_without_one_of_its_parts_is_found_out(
    guarded: tuple[Part, Case], warm: TestClient, database: Path, other_application: FastAPI
) -> None:
    part, case = guarded
    begin_on(warm.app, database, MODEL, Blind(part))  # type: ignore[arg-type]  # it is the application
    assert played(case, warm, database, other_application) != []


EXCUSED: Mapping[Part, str] = {
    ("_built", "donor"): "of a donor its name is read, which these words do not tell",
    ("_record", "watch"): "which version is in use is asked beside it; a record is of the versions of then",
    (
        "_sellers_worth",
        "revision",
    ): "what is measured of a watch's own part has no seller, and no tolerance comes of it",
    ("_sellers_worth", "watch"): "the same",
    ("play_of", "2"): "its number; exercise, seed and sheet tell a play from an earlier one of that number",
    ("play_of", "3"): "the same the other way round",
    ("play_of", "5"): "the same",
}
"""Parts of keys that nothing shown hangs on by itself, each with why."""


def test_every_part_of_a_key_is_guarded_or_excused(warm: TestClient, database: Path) -> None:
    """By all that the pages of the demo, and the cases, ask of the cache: a new answer has to have a case."""
    census = Census()
    begin_on(warm.app, database, MODEL, census)  # type: ignore[arg-type]  # it is the application
    for address in (a for each in PAGES.values() for a in each if a != FOUND):
        warm.get(address)
    for case in CASES:
        for path, form in case.saves:
            send(warm, database, path, form)
        for address in case.compared:
            warm.get(address)
    seen = {part for part in census.parts if "." not in part[1]}
    assert seen - {part for part, _ in GUARDED} == EXCUSED.keys()


@pytest.mark.parametrize("number", range(2))
def test_after_any_saves_by_any_forms_both_show_the_same(
    number: int, warm: TestClient, database: Path, other_application: FastAPI
) -> None:
    """A few of the hundreds of rounds of `make torture`."""
    done = one_round(warm, database, number * 7 + 1, 3, partial(begun_on, other_application))
    assert [str(one) for one in done.found] == [], done.told
    assert done.taken, done.told
