"""The story is read out of what is stored: nothing is missing, nothing told twice, nothing written."""

import sqlite3
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.bench.log import LogEntry
from marquetry.core.story.moment import Moment, counted, in_order, of_trades
from marquetry.core.story.told import EditTold, edit_moment, entry_moment
from marquetry.store import bench_log, story_notes, watches
from marquetry.store.as_begun import begun_build, build_as_of
from marquetry.store.database import connect
from marquetry.store.story_log import matching, story_of
from marquetry.store.story_notes import StoryNote
from tests.strategies import MODEL


@pytest.mark.parametrize(
    ("edit", "words", "trade", "place"),
    [
        (EditTold(2, "Dial, thickness: unknown → 0.40 measured", 1, None, 5, "0.40 ±0.02 mm, micrometer"),
         "Dial, thickness: unknown → 0.40 measured, 0.40 ±0.02 mm, micrometer", "measuring", "dial"),
        (EditTold(2, "measured: Case, dial bore", 1, None, 5, "28.62 ±0.02 mm"),
         "Case, dial bore: 28.62 ±0.02 mm", "measuring", "case"),
        (EditTold(2, "added: Dial", 1, None, 5), "Added: Dial", "parts", "dial"),
        (EditTold(3, "first", None, 2, 5), "Taken back: second", "parts", ""),
        (EditTold(4, "second", 1, None, 5), "Brought back: second", "parts", ""),
        (EditTold(1, "put on the bench", None, None, 5), "Put on the bench", "parts", ""),
    ],
)  # fmt: skip
def test_edits_are_told_as_what_they_were(edit: EditTold, words: str, trade: str, place: str) -> None:
    found = edit_moment(edit, {1: "first", 2: "second", 3: "first"}, MODEL.anatomy)
    assert (found.words, found.trade, found.place.key) == (words, trade, place)


def test_what_only_carries_the_program_is_no_part_of_the_story() -> None:
    told = {what: entry_moment(LogEntry("key-00001", "cut_stem", what, 5, 1.2, words="why"), undone=False)
            for what in ("start", "pause", "quiet", "ready", "photo", "undo", "cut", "skip")}  # fmt: skip
    assert [what for what, moment in told.items() if moment is None] == [
        "start",
        "pause",
        "quiet",
        "ready",
        "photo",
        "undo",
    ]
    assert told["cut"] is not None
    assert told["cut"].words.replace("\u00a0", " ") == "Cut the stem: 1.20 mm cut off"


COUNTS = {
    "proof": "SELECT count(*) FROM proof WHERE watch_id = :id AND kind NOT IN ('undo', 'opened')",
    "picture": "SELECT count(*) FROM photo WHERE owner IN ('watch', 'bench', 'proof') AND owner_id = :id",
    "mishap": "SELECT count(*) FROM bench_entry WHERE watch_id = :id AND what = 'mishap'",
    "money": "SELECT count(*) FROM booking WHERE watch_id = :id AND undoes IS NULL",
    "life": """SELECT (SELECT count(*) FROM fate WHERE watch_id = :id AND what <> 'undo')
                    + (SELECT count(*) FROM proof WHERE watch_id = :id AND kind = 'opened')""",
    "decision": """SELECT (SELECT count(*) FROM wish WHERE watch_id = :id)
                        + (SELECT count(*) FROM sign_off WHERE watch_id = :id)
                        + (SELECT count(*) FROM quote WHERE watch_id = :id)
                        + (SELECT count(*) FROM series_number WHERE watch_id = :id)
                        + (SELECT count(*) FROM variant WHERE watch_id = :id)
                        + (SELECT count(*) FROM story_note WHERE watch_id = :id AND kind = 'decision')""",
}
"""How many moments of a trade there should be, counted by the tables alone."""


def plain_count(connection: sqlite3.Connection, watch: int) -> dict[str, int]:
    found = {trade: connection.execute(query, {"id": watch}).fetchone()[0] for trade, query in COUNTS.items()}
    return {trade: count for trade, count in found.items() if count}


@pytest.mark.parametrize("watch", range(1, 16))
def test_every_record_of_every_watch_is_in_its_story_once(database: Path, watch: int) -> None:
    connection = connect(database, MODEL)
    before = connection.total_changes
    moments = story_of(connection, watch)
    counts = counted(moments)
    expected = plain_count(connection, watch)
    assert {trade: counts.get(trade, 0) for trade in expected} == expected  # type: ignore[call-overload]
    edits = connection.execute("SELECT count(*) FROM revision WHERE watch_id = ?", (watch,)).fetchone()[0]
    assert counts["parts"] + counts.get("measuring", 0) >= edits
    assert [m.at_ms for m in moments] == sorted((m.at_ms for m in moments), reverse=True)
    assert connection.total_changes == before, "reading a story writes nothing"
    connection.close()


def test_the_log_takes_back_and_finds_again(database: Path) -> None:
    connection = connect(database, MODEL)
    stored = watches.watch(connection, 1)
    changed = watches.save(
        connection, 1, stored.version, stored.build.renamed("Skerry Night"), "Name: another"
    )
    watches.undo(connection, 1, changed.version)
    bench_log.add_entries(
        connection,
        1,
        [LogEntry("undo-00001", "", "undo", 10**13, undoes=bench_log.entries_of(connection, 1)[-1].key)],
    )
    number = story_notes.add_note(
        connection, 1, StoryNote("Übergabe am Kai", "decision", "dial", "2027-02-01T09:00:00Z")
    )
    moments = story_of(connection, 1)
    assert "Taken back: Name: another" in [m.words for m in moments]
    assert sum(m.undone for m in moments if m.place.kind == "step") == 1
    assert [m.note for m in matching(moments, "ubergabe KAI")] == [number], (
        "by first letters, without accents"
    )
    assert matching(moments, "  ") == moments
    assert matching(moments, "'); DROP TABLE") == []
    assert all("stem" in f" {m.words} {m.by}".lower() for m in matching(moments, "stem"))
    story_notes.withdraw_note(connection, 1, number)
    assert not any(m.note == number for m in story_of(connection, 1))
    story_notes.withdraw_note(connection, 1, number, withdrawn=False)
    assert any(m.note == number for m in story_of(connection, 1))
    connection.close()


moments = st.lists(
    st.builds(
        Moment, st.integers(0, 10**13), st.sampled_from(("parts", "bench", "note")), st.text(max_size=8)
    )
)


@given(moments, st.sets(st.sampled_from(("parts", "bench", "note"))))
def test_filters_part_the_log_and_lose_nothing(found: list[Moment], chosen: set[str]) -> None:
    ordered = in_order(found)
    kept, rest = of_trades(ordered, chosen), of_trades(ordered, {"parts", "bench", "note"} - chosen)
    if chosen and len(chosen) < 3:
        assert sorted(map(id, [*kept, *rest])) == sorted(map(id, found))
    assert sum(counted(found).values()) == len(found)


def test_a_watch_is_known_as_it_was_when_its_build_began(database: Path) -> None:
    """The report of before a build may not know what was measured during it."""
    connection = connect(database, MODEL)
    found = [begun_build(connection, number) for number in bench_log.watches_with_log(connection)]
    builds = {build.watch.build.name: build for build in found if build is not None}
    assert len(builds) == 15
    late = builds["Half Fathom"]
    assert late.before.dimensions["strap.width"].source.value == "listed"
    assert late.watch.build.dimensions["strap.width"].source.value == "measured"
    assert build_as_of(connection, 1, 0) == watches.watch(connection, 1).build, "before the first, the first"
    assert build_as_of(connection, 999, 0) is None
    connection.close()
