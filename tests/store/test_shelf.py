"""The shelf on disk: parts, search, pieces that move with the watch's sheet, donors."""

from collections.abc import Iterator
from pathlib import Path

import pytest

from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part
from marquetry.core.trade.terms import Terms
from marquetry.core.values.errors import NotFoundError, SheetError, StaleVersionError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import donors, pieces, pieces_in_watch, readings, shelf, watches
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.shelf_search import ShelfQuery, matching, search
from tests.strategies import ANATOMY, MODEL, case_build

DIAL = ANATOMY.kind("dial")


@pytest.fixture
def connection(tmp_path: Path) -> Iterator[Connection]:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = connect(tmp_path / "w.sqlite3", MODEL)
    yield opened
    opened.close()


def dial(name: str, **more: object) -> Part:
    return Part.of(DIAL, {"name": name, "diameter": 28.5, "thickness": 0.4, **more})


def names(connection: Connection, **query: object) -> list[str]:
    return [slip.stored.part.name for slip in search(connection, ShelfQuery(**query)).slips]  # type: ignore[arg-type]  # a table's rows


@pytest.fixture
def stocked(connection: Connection) -> Connection:
    for name, colour, thickness, notes in (
        ("Gull grey", "grey", 0.4, "from the spring order"),
        ("Beacon red", "red", 0.5, "sunray; nicer than in the picture"),
        ("Órla's white", "white", 0.95, ""),
    ):
        price = Terms(notes, "Sandbank", Money(round(1000 * thickness), "EUR"))
        shelf.add_part(connection, dial(name, colour=colour, thickness=thickness), price)
    return connection


@pytest.mark.parametrize(
    ("query", "found"),
    [
        ({"words": "gul"}, ["Gull grey"]),
        ({"words": "red sun"}, ["Beacon red"]),
        ({"words": "orla"}, ["Órla's white"]),
        ({"words": 'dial "(*'}, ["Beacon red", "Gull grey", "Órla's white"]),
        ({"words": "nothing such"}, []),
        ({"chosen": {"colour": "red"}}, ["Beacon red"]),
        ({"chosen": {"kind": "dial", "supplier": "Sandbank"}, "words": "gr"}, ["Gull grey"]),
        ({"chosen": {"kind": "hands"}}, []),
        ({"stock": "owned"}, []),
        ({"stock": "known", "sort": "newest"}, ["Órla's white", "Beacon red", "Gull grey"]),
        ({"chosen": {"kind": "dial"}, "by": "thickness", "low": 0.45}, ["Beacon red", "Órla's white"]),
        ({"by": "thickness') OR 1=1 --", "low": 9.0}, ["Beacon red", "Gull grey", "Órla's white"]),
    ],
)  # fmt: skip
def test_words_and_filters_combine(stocked: Connection, query: dict[str, object], found: list[str]) -> None:
    assert names(stocked, **query) == found


def test_what_an_operator_means_to_the_search_engine_means_nothing_to_a_builder() -> None:
    assert matching('red" OR (x NEAR y) *') == '"red"* "OR"* "x"* "NEAR"* "y"*'


def test_a_changed_part_is_found_by_its_new_words_and_keeps_former_values(
    stocked: Connection,
) -> None:
    before = shelf.part(stocked, 1)
    terms = Terms("second look", "Longshore")
    after = shelf.change_part(stocked, 1, before.version, dial("Slate", thickness=0.45), terms)
    assert (after.part.name, after.version, after.terms.supplier) == ("Slate", 2, "Longshore")
    assert names(stocked, words="gull") == []
    assert names(stocked, words="second") == ["Slate"]
    kept = readings.readings_of(stocked, "part", 1, "thickness")
    assert [reading.dimension.value for reading in kept] == [0.45, 0.4]
    with pytest.raises(StaleVersionError):
        shelf.change_part(stocked, 1, before.version, dial("Late"), terms)
    shelf.remove_part(stocked, 1)
    with pytest.raises(NotFoundError):
        shelf.part(stocked, 1)
    assert shelf.restore_part(stocked, 1).part.name == "Slate"


@pytest.mark.parametrize(
    ("document", "path"),
    [
        ([], "dial"),
        ({"colour": 7}, "dial.colour"),
        ({"colour": "x" * 201}, "dial.colour"),
        ({"feet": {}}, "dial.feet"),
    ],
)
def test_a_part_that_cannot_be_read_names_the_place(document: object, path: str) -> None:
    with pytest.raises(SheetError, match=path):
        Part.of(DIAL, document)


def put(connection: Connection, watch_id: int, piece_id: int) -> None:
    now = watches.watch(connection, watch_id)
    build = pieces_in_watch.filled(now.build, pieces.piece(connection, piece_id))
    watches.save(connection, watch_id, now.version, build, "filled")


def test_a_piece_follows_the_sheet_through_save_undo_and_redo(stocked: Connection) -> None:
    watch_id = watches.add_watch(stocked, case_build(1))
    piece_id = pieces.add_piece(stocked, 1, pieces.Stock("Drawer 1"))
    put(stocked, watch_id, piece_id)
    assert (pieces.piece(stocked, piece_id).watch_id, pieces.piece(stocked, piece_id).slot) == (
        watch_id,
        "dial",
    )
    assert watches.watch(stocked, watch_id).build.at("dial.name") == "Gull grey"
    assert search(stocked, ShelfQuery(words="gull")).slips[0].free == 0
    watches.undo(stocked, watch_id, 2)
    assert pieces.piece(stocked, piece_id).watch_id is None
    watches.redo(stocked, watch_id, 3)
    assert pieces.piece(stocked, piece_id).watch_id == watch_id
    told = [move.what for move in pieces.moves(stocked, piece_id)]
    assert told == [
        "into Skerry Light",
        "out of Skerry Light, onto the shelf",
        "into Skerry Light",
        "onto the shelf",
    ]


def test_what_is_measured_in_a_watch_stays_with_the_piece(stocked: Connection) -> None:
    watch_id = watches.add_watch(stocked, case_build(1))
    piece_id = pieces.add_piece(stocked, 1)
    put(stocked, watch_id, piece_id)
    assert not pieces.piece(stocked, piece_id).own_sheet
    build = watches.watch(stocked, watch_id).build.with_entry(
        "dial.thickness", {"value": 0.43, "tol": 0.01, "source": "measured"}
    )
    watches.save(stocked, watch_id, 2, build, "measured")
    watches.save(stocked, watch_id, 3, watches.watch(stocked, watch_id).build.without("dial"), "out")
    piece = pieces.piece(stocked, piece_id)
    assert piece.own_sheet
    assert piece.part.dimensions["thickness"].value == 0.43
    assert shelf.part(stocked, 1).part.dimensions["thickness"].value == 0.4
    assert [r.dimension.value for r in readings.readings_of(stocked, "piece", piece_id, "thickness")] == [
        0.43
    ]


def test_a_piece_is_in_one_watch_at_most_and_a_refusal_changes_nothing(stocked: Connection) -> None:
    first, second = (watches.add_watch(stocked, case_build(1).renamed(name)) for name in ("First", "Second"))
    piece_id = pieces.add_piece(stocked, 1)
    put(stocked, first, piece_id)
    with pytest.raises(TakenError, match="Gull grey is in First"):
        put(stocked, second, piece_id)
    assert watches.watch(stocked, second).version == 1
    with pytest.raises(TakenError, match="in a watch"):
        pieces.change_state(stocked, piece_id, "scrapped")
    watches.undo(stocked, first, 2)
    pieces.change_state(stocked, piece_id, "scrapped", "edge chipped")
    with pytest.raises(TakenError, match="was scrapped"):
        watches.redo(stocked, first, 3)
    assert watches.watch(stocked, first).version == 3
    twice = watches.watch(stocked, first).build
    spacer = {"side": "dial", "thickness": 0.1, "shelf_piece": piece_id}
    with pytest.raises(TakenError, match="twice"):
        watches.save(
            stocked, first, 3, twice.with_entry("spacers.-", spacer).with_entry("spacers.-", spacer), "no"
        )


def test_hands_count_how_often_they_were_fitted(connection: Connection) -> None:
    watch_id = watches.add_watch(connection, case_build(1))
    number = shelf.add_part(
        connection, Part.of(ANATOMY.kind("hands"), {"name": "Leaf", "hour": {"bore": 1.48}})
    )
    piece_id = pieces.add_piece(connection, number)
    put(connection, watch_id, piece_id)
    pieces.count_fitting(connection, piece_id)
    watches.undo(connection, watch_id, 2)
    watches.redo(connection, watch_id, 3)
    assert pieces.piece(connection, piece_id).fittings == 3


def test_a_donor_becomes_pieces_whose_prices_add_up(connection: Connection) -> None:
    number = donors.take_apart(connection, case_build(1).renamed("Turnstone"), Money(1000, "EUR"))
    found = pieces.pieces_of_donor(connection, number)
    assert {piece.kind for piece in found} == set(case_build(1).parts) - {"spacers"}
    assert sum(piece.stock.paid.minor for piece in found if piece.stock.paid) == 1000
    assert all(piece.donor == "Turnstone" and piece.stock.condition == "used" for piece in found)
    again = donors.take_apart(connection, case_build(1).renamed("Turnstone"), None)
    assert [p.part_id for p in pieces.pieces_of_donor(connection, again)] == [p.part_id for p in found]
    other = case_build(1).with_entry("dial.thickness", 0.7).renamed("Dunlin")
    third = {
        p.kind: p for p in pieces.pieces_of_donor(connection, donors.take_apart(connection, other, None))
    }
    assert third["dial"].name == "Lamp-room white, out of Dunlin"
    assert donors.donor(connection, number).build == case_build(1).renamed("Turnstone")


def test_a_donor_whose_part_cannot_be_kept_leaves_nothing_behind(
    connection: Connection, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fail(*_: object) -> int:
        raise KeyboardInterrupt

    monkeypatch.setattr(donors, "add_piece", fail)
    with pytest.raises(KeyboardInterrupt):
        donors.take_apart(connection, Build(case_build(1).document, ANATOMY), None)
    assert donors.all_donors(connection) == []
    assert names(connection) == []
