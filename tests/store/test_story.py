"""The story on disk: leftovers, fates, cards, lessons; what sellers' figures were worth, and gone by."""

import io
import json
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from statistics import fmean

import pytest

from marquetry.core.fit.report import report_on
from marquetry.core.fit.rules import House
from marquetry.core.fit.sellers import LEARNED, SCHOOL_LISTED
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.sheet.part import PIECE_LINK, parts_of
from marquetry.core.story.fates import WatchFate
from marquetry.core.trade.terms import Terms
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.errors import (
    DimensionError,
    NotFoundError,
    SheetError,
    StaleVersionError,
    TakenError,
)
from marquetry.core.values.money import Money
from marquetry.store import (
    archive,
    archive_in,
    bookings,
    cards,
    fates,
    house,
    leftovers,
    lessons,
    pieces,
    shelf,
    watches,
)
from marquetry.store.cards import CardSaid
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.leftovers import PutAway, PutWhere
from marquetry.store.lessons import NewLesson
from marquetry.store.listed_pairs import listed_pairs
from marquetry.store.pieces import Stock
from marquetry.store.sellers_worth import sellers_worth
from tests.strategies import MODEL

DAY = "2027-01-15"


@pytest.fixture
def demo(database: Path) -> Iterator[Connection]:
    connection = connect(database, MODEL)
    yield connection
    connection.close()


def left(connection: Connection, watch: int = 1, donor: int | None = None) -> int:
    part = shelf.part_named(connection, "strap", "Waxed strap 20, dark")
    assert part is not None
    return pieces.add_piece(
        connection, part.id, Stock("Bench", paid=Money(2100, "EUR"), kept_for=watch), donor
    )


@pytest.mark.parametrize(
    ("where", "state", "place"),
    [
        ("shelf", "shelf", "Drawer C1"), ("donor", "shelf", "With Turnstone, from a fair"),
        ("client", "sold", "Bench"), ("scrap", "scrapped", "Bench"),
    ],
)  # fmt: skip
def test_what_is_left_over_goes_where_it_belongs_and_the_books_follow(
    demo: Connection, where: PutWhere, state: str, place: str
) -> None:
    number = left(demo, donor=1)
    assert number in {piece.id for piece in leftovers.leftovers_of(demo, 1)}
    before = bookings.ledger_of(demo, 1, DAY).total
    leftovers.put_away(demo, watches.watch(demo, 1), number, PutAway(where, "Drawer C1"), DAY)
    found = pieces.piece(demo, number)
    assert (found.state, found.stock.place) == (state, place)
    assert number not in {piece.id for piece in leftovers.leftovers_of(demo, 1)}
    more = bookings.ledger_of(demo, 1, DAY).total.minor - before.minor
    assert more == (0 if where in {"shelf", "donor"} else 2100), (
        "what went with it, or was spoilt for it, it cost"
    )
    with pytest.raises(NotFoundError):
        leftovers.put_away(demo, watches.watch(demo, 1), number, PutAway("shelf"), DAY)
    if where == "client":
        assert number in {piece.id for piece in leftovers.went_with(demo, 1)}
        leftovers.take_back_from_client(demo, 1, number)
        assert number in {piece.id for piece in leftovers.leftovers_of(demo, 1)}
        assert bookings.ledger_of(demo, 1, DAY).total == before


@pytest.mark.parametrize(("worth", "kept", "lost"), [("1500", 1500, 600), ("2100", 2100, 0), ("", 2100, 0)])
def test_a_piece_written_down_leaves_the_difference_with_the_watch(
    demo: Connection, worth: str, kept: int, lost: int
) -> None:
    number, before = left(demo), bookings.ledger_of(demo, 1, DAY).total
    put = PutAway("shelf", "Tin 4", Money(int(worth), "EUR") if worth else None)
    leftovers.put_away(demo, watches.watch(demo, 1), number, put, DAY)
    paid = pieces.piece(demo, number).stock.paid
    assert paid is not None
    assert paid.minor == kept
    assert bookings.ledger_of(demo, 1, DAY).total.minor - before.minor == lost


@pytest.mark.parametrize(
    "worth", [Money(9900, "EUR"), Money(1500, "GBP")], ids=["more than it cost", "in another currency"]
)
def test_a_worth_that_cannot_be_changes_nothing(demo: Connection, worth: Money) -> None:
    number, before = left(demo), bookings.ledger_of(demo, 1, DAY).total
    with pytest.raises(DimensionError, match=r"at most the 21.00"):
        leftovers.put_away(demo, watches.watch(demo, 1), number, PutAway("shelf", "Tin 4", worth), DAY)
    assert number in {piece.id for piece in leftovers.leftovers_of(demo, 1)}
    assert bookings.ledger_of(demo, 1, DAY).total == before


def test_only_what_has_a_donor_goes_back_to_one(demo: Connection) -> None:
    with pytest.raises(NotFoundError):
        leftovers.put_away(demo, watches.watch(demo, 1), left(demo), PutAway("donor"), DAY)


def test_a_watch_taken_apart_gives_its_pieces_back_and_undo_brings_them(demo: Connection) -> None:
    stored = watches.watch(demo, 3)
    inside = {document[PIECE_LINK] for _, _, document in parts_of(stored.build) if PIECE_LINK in document}
    fates.take_fate(demo, stored, WatchFate("apart", day=DAY))
    assert {piece.id for piece in leftovers.leftovers_of(demo, 3)} >= inside
    assert 3 in fates.done_with(demo)
    assert 3 not in {watch.id for watch in fates.watches_at_work(demo)}
    with pytest.raises(TakenError):
        fates.take_fate(demo, watches.watch(demo, 3), WatchFate("sold", day=DAY))
    fates.take_back(demo, 3, 1, DAY)
    watches.undo(demo, 3, watches.watch(demo, 3).version)
    assert watches.watch(demo, 3).build == stored.build
    assert inside.isdisjoint({piece.id for piece in leftovers.leftovers_of(demo, 3)})
    assert 3 not in fates.done_with(demo)
    with pytest.raises(NotFoundError):
        fates.take_back(demo, 3, 1, DAY)


def test_a_series_leaves_the_bench_with_its_last_number(demo: Connection) -> None:
    for number in (1, 2, 3):
        assert 1 not in fates.done_with(demo)
        fates.take_fate(demo, watches.watch(demo, 1), WatchFate("sold", number, "a volunteer", day=DAY))
    assert 1 in fates.done_with(demo)
    fates.take_fate(demo, watches.watch(demo, 1), WatchFate("back", 2, day=DAY))
    assert 1 not in fates.done_with(demo)


def test_a_card_is_kept_and_an_old_form_refused(demo: Connection) -> None:
    said = CardSaid("A maker", "a line", DAY, ("rate",), "one look a year")
    cards.say(demo, 2, said)
    assert cards.card_of(demo, 2) == replace(said, version=1)
    with pytest.raises(StaleVersionError):
        cards.say(demo, 2, said)
    assert cards.card_of(demo, 5) == CardSaid()


def test_lessons_hold_are_outgrown_and_come_back(demo: Connection) -> None:
    number = lessons.add_lesson(
        demo, 1, NewLesson("", "Pads by hand first.", DAY, "dial", school="school_feet=pads")
    )

    def one() -> lessons.Lesson:
        return next(lesson for lesson in lessons.lessons(demo) if lesson.id == number)

    for what, held, outgrown in (
        ("held", 1, False),
        ("outgrown", 1, True),
        ("held", 2, True),
        ("shown", 2, False),
    ):
        lessons.turn_lesson(demo, number, what, 2, "", DAY)  # type: ignore[arg-type]  # one of the three
        assert (one().held, one().is_outgrown) == (held, outgrown)
        assert (number in {lesson.id for lesson in lessons.shown_lessons(demo)}) is not outgrown
    assert lessons.lessons_about(lessons.lessons(demo), "dial", 3)[0].id == number
    assert number in {lesson.id for lesson in lessons.lessons_by_school(lessons.lessons(demo))["school_feet"]}
    lessons.withdraw_lesson(demo, number)
    with pytest.raises(NotFoundError):
        lessons.turn_lesson(demo, number, "held", None, "", DAY)
    lessons.withdraw_lesson(demo, number, withdrawn=False)
    assert one().words == "Pads by hand first."


def test_pairs_are_those_that_a_plain_walk_through_the_readings_finds(demo: Connection) -> None:
    """Another way: every reading in order, the last listed one remembered until something is measured."""
    last: dict[tuple[str, int, str], tuple[str, float]] = {}
    listed: dict[tuple[str, int, str], float] = {}
    part_of = dict(demo.execute("SELECT id, part_id FROM piece").fetchall())
    pairs: dict[tuple[str, int, str], tuple[float, float] | None] = {}
    for row in demo.execute("SELECT * FROM reading WHERE owner IN ('piece', 'part') ORDER BY id"):
        key = (row["owner"], row["owner_id"], row["path"])
        of_part = ("part", part_of[row["owner_id"]], row["path"]) if row["owner"] == "piece" else key
        if row["source"] == "listed":
            listed[key] = row["value"]
        if row["source"] == "measured":
            of = [listed[known] for known in (key, of_part) if known in listed]
            pairs[key] = (of[0], row["value"]) if of else None
        last[key] = (row["source"], row["value"])
    expected = sorted(found for key, found in pairs.items() if found and last[key][0] == "measured")
    assert len(expected) > 150
    assert sorted((pair.listed.value, pair.measured.value) for pair in listed_pairs(demo)) == expected


def test_a_figure_read_off_and_then_measured_in_a_watch_of_one_s_own_is_a_pair_too(tmp_path: Path) -> None:
    open_workshop(tmp_path / "own.sqlite3", MODEL)
    connection = connect(tmp_path / "own.sqlite3", MODEL)
    build = watches_build({"dial": {"name": "A dial", "diameter": 28.5, "thickness": 0.4}})
    number = watches.add_watch(connection, build)
    measured = dimension_as_json(Dimension(28.46, 0.02, Source.MEASURED))
    stored = watches.save(connection, number, 1, build.with_entry("dial.diameter", measured), "measured")
    assert [(p.supplier, round(p.deviation, 3)) for p in listed_pairs(connection)] == [("", -0.04)]
    other = build.with_entry("dial", {"name": "Another", "thickness": measured})
    watches.save(connection, number, stored.version, other, "another dial")
    assert listed_pairs(connection) == [], "what is measured of another part says nothing of this listing"
    connection.close()


def watches_build(parts: dict[str, object]) -> Build:
    return Build.empty("Own", MODEL.anatomy).with_parts(parts)


def test_the_report_reads_a_listed_figure_with_what_it_was_worth_where_the_house_goes_by_it(
    demo: Connection,
) -> None:
    """The same finding as that of a sheet in which the deserved tolerance was typed by hand."""
    own = [
        pair.deviation
        for pair in listed_pairs(demo)
        if pair.supplier == "Longshore Horology" and pair.kind == "height"
    ]
    worth = sellers_worth(demo)
    stored = watches.watch(demo, 12)
    build = stored.build.with_entry("movement.face_to_stem", dimension_as_json(Dimension.of(2.2)))
    found = worth.at(build, "movement.face_to_stem")
    assert found is not None
    assert (found.supplier, found.pairs) == ("Longshore Horology", len(own))
    assert found.tolerance > abs(fmean(own))
    by_hand = build.with_entry(
        "movement.face_to_stem", dimension_as_json(Dimension(2.2, found.tolerance, Source.LISTED))
    )
    claimed = report_on(build, MODEL.rules_of(build, house.rule_values(demo)))
    assert (
        claimed.findings["stem_height"].as_dict()
        == report_on(build, MODEL.rules_of(build)).findings["stem_height"].as_dict()
    )
    house.set_rule(demo, SCHOOL_LISTED, LEARNED, "own")
    learned = report_on(build, MODEL.rules_of(build, house.rule_values(demo)))
    typed = report_on(by_hand, MODEL.rules_of(by_hand, House({SCHOOL_LISTED: "claimed"})))
    for check in ("stem_height", "rotor_clearance"):
        others = learned.findings[check].uses.dimensions()
        if all(
            worth.believed(build, p, build.dimensions.get(p)) == build.dimensions.get(p)
            for p in others
            if p != "movement.face_to_stem"
        ):
            assert learned.findings[check].as_dict() == typed.findings[check].as_dict()
    assert learned.findings["stem_height"].low != claimed.findings["stem_height"].low
    like = report_on(build, MODEL.rules_of(build, house.rule_values(demo)), claimed)
    assert like.findings["stem_height"] == learned.findings["stem_height"], (
        "nothing is taken over from before"
    )


def test_what_is_known_of_a_seller_is_not_used_for_what_he_did_not_list(demo: Connection) -> None:
    worth = sellers_worth(demo)
    build = watches.watch(demo, 12).build
    measured = next(path for path, d in build.dimensions.items() if d.source is Source.MEASURED)
    assert worth.believed(build, measured, build.dimensions[measured]) == build.dimensions[measured]
    unlinked = watches_build({"dial": {"name": "Own", "diameter": 28.5}})
    assert worth.at(unlinked, "dial.diameter") is None
    assert worth.at(build, "dial.nothing") is None
    assert sellers_worth(demo) is worth, "worked out once for one state"
    part = shelf.part_named(demo, "dial", "Fog white, date")
    assert part is not None
    shelf.change_part(demo, part.id, part.version, part.part, Terms(supplier="Saltmarsh Tools"))
    assert sellers_worth(demo).of_part[part.id] == "Saltmarsh Tools", "and anew where something changed"


def packed(connection: Connection, database: Path) -> bytes:
    file = io.BytesIO()
    archive.pack(connection, database, file)
    return file.getvalue()


def test_the_story_goes_out_and_comes_in_byte_for_byte(
    demo: Connection, database: Path, tmp_path: Path
) -> None:
    number = left(demo)
    leftovers.put_away(demo, watches.watch(demo, 1), number, PutAway("client"), DAY)
    fates.take_fate(
        demo, watches.watch(demo, 1), WatchFate("sold", 3, "a volunteer", "", Money(590, "EUR"), DAY)
    )
    fates.take_back(demo, 1, 3, DAY)
    cards.say(demo, 1, CardSaid("Kittiwake", left_out=("rate",)))
    content = packed(demo, database)
    open_workshop(tmp_path / "other.sqlite3", MODEL)
    other = connect(tmp_path / "other.sqlite3", MODEL)
    archive_in.unpack(other, tmp_path / "other.sqlite3", io.BytesIO(content))
    assert packed(other, tmp_path / "other.sqlite3") == content
    other.close()


@pytest.mark.parametrize(
    ("change", "why"),
    [
        ("UPDATE fate SET day = 'soon' WHERE id = 1", "day"),
        ("UPDATE fate SET minor = 5, currency = '' WHERE id = 1", "sum"),
        ("INSERT INTO fate (watch_id, what, day) VALUES (1, 'undo', '2027-01-15')", "undo"),
        ("UPDATE spec_card SET left_out = '{}'", "left_out"),
        ("UPDATE piece SET went_with = 1 WHERE id = 1", "went"),
        ("UPDATE story_note SET at = 'yesterday'", "day"),
    ],
)  # fmt: skip
def test_a_story_that_no_page_could_show_does_not_come_in(
    demo: Connection, database: Path, tmp_path: Path, change: str, why: str
) -> None:
    demo.execute(change)
    content = packed(demo, database)
    open_workshop(tmp_path / "other.sqlite3", MODEL)
    other = connect(tmp_path / "other.sqlite3", MODEL)
    with pytest.raises(SheetError, match=why):
        archive_in.unpack(other, tmp_path / "other.sqlite3", io.BytesIO(content))
    assert archive.is_empty(other)
    other.close()


def test_an_archive_from_before_the_story_still_comes_in(
    demo: Connection, database: Path, tmp_path: Path
) -> None:
    import zipfile  # noqa: PLC0415  # for this test alone

    new = zipfile.ZipFile(io.BytesIO(packed(demo, database)))
    old = io.BytesIO()
    gone = {"story_note", "fate", "spec_card", "lesson_turn"}
    with zipfile.ZipFile(old, "w") as out:
        for name in new.namelist():
            content = new.read(name)
            if name == "manifest.json":
                told = json.loads(content)
                told["rows"] = {table: count for table, count in told["rows"].items() if table not in gone}
                content = json.dumps(told).encode()
            if name == "tables/piece.jsonl":
                rows = [json.loads(line) for line in content.splitlines()]
                content = b"\n".join(
                    json.dumps({k: v for k, v in row.items() if k != "went_with"}).encode() for row in rows
                )
            if name.removeprefix("tables/").removesuffix(".jsonl") not in gone:
                out.writestr(name, content)
    open_workshop(tmp_path / "other.sqlite3", MODEL)
    other = connect(tmp_path / "other.sqlite3", MODEL)
    archive_in.unpack(other, tmp_path / "other.sqlite3", io.BytesIO(old.getvalue()))
    assert fates.all_fates(other) == {}
    assert len(watches.all_watches(other)) == 15
    other.close()
