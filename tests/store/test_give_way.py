"""A tap at the bench does not wait for a file of parts: between two short steps it has the lock first."""

import io
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from threading import Event, Thread

import pytest

from marquetry.core.bench.log import LogEntry
from marquetry.core.values.errors import StaleVersionError
from marquetry.store import imports, shelf
from marquetry.store.bench_log import add_entries
from marquetry.store.database import Connection, connect, transaction
from marquetry.store.shelf_search import ShelfQuery, search
from tests.strategies import MODEL

ROWS = 1_000


def file_of(diameter: str, rows: int = ROWS) -> io.BytesIO:
    lines = "".join(f"dial,Part {n},{diameter},0.40,1.90,1\n" for n in range(rows))
    return io.BytesIO(f"kind,name,diameter,thickness,centre_hole,owned\n{lines}".encode())


@contextmanager
def taps(database: Path, batches: list[int]) -> Iterator[list[int]]:
    """Somebody at the bench: how many batches were written while each tap waited."""
    waited, over = list[int](), Event()

    def tap() -> None:
        with closing(connect(database, MODEL)) as own:
            while not over.wait(0.01):
                before = len(batches)
                with transaction(own):
                    key = f"tap-{len(waited):05}"
                    add_entries(own, 1, [LogEntry(key, "cut_stem", "note", 10**12, words="x")])
                    waited.append(len(batches) - before)

    thread = Thread(target=tap)
    thread.start()
    try:
        yield waited
    finally:
        over.set()
        thread.join(30)


def test_a_tap_goes_before_the_next_batch_of_a_file_that_comes_in(database: Path) -> None:
    """New parts first, then every one of them changed. It waited for thirty batches, 4.4 s, or in vain."""
    batches = list[int]()
    with closing(connect(database, MODEL)) as connection, taps(database, batches) as waited:
        for diameter in ("28.50", "28.70"):
            number = imports.begin(connection, "many.csv")
            imports.read_in(connection, number, file_of(diameter), batches.append)
            assert imports.take(connection, number, batches.append) == ROWS
    assert len(batches) == 4 * ROWS // imports.BATCH
    assert len(waited) > len(batches) / 4
    assert max(waited) <= 1, "the batch that was being written, and no other"


def brought_in(connection: Connection, diameter: str, rows: int = 20) -> int:
    number = imports.begin(connection, "few.csv")
    imports.read_in(connection, number, file_of(diameter, rows), lambda _: None)
    return number


def test_many_changes_at_once_are_what_each_alone_would_be(database: Path) -> None:
    """Version, what it was before, readings and search: against the same part changed by its own form."""
    with closing(connect(database, MODEL)) as connection:
        imports.take(connection, brought_in(connection, "28.50"), lambda _: None)
        imports.take(connection, brought_in(connection, "28.70 measured"), lambda _: None)
        one = search(connection, ShelfQuery("part 7")).slips[0].stored
        assert (one.version, one.can_undo) == (2, True)
        assert one.part.dimensions["diameter"].value == 28.7
        read = "SELECT path, value, source FROM reading WHERE owner = 'part' AND owner_id = ? ORDER BY id"
        rows = [tuple(row) for row in connection.execute(read, (one.id,))]
        assert rows[-1] == ("diameter", 28.7, "measured")
        assert len(rows) == 4, "three sizes, and the one that changed"
        back = shelf.undo_part(connection, one.id, 2)
        assert back.part.dimensions["diameter"].value == 28.5


def test_a_part_changed_while_its_file_waits_refuses_the_whole_file(database: Path) -> None:
    with closing(connect(database, MODEL)) as connection, closing(connect(database, MODEL)) as other:
        imports.take(connection, brought_in(connection, "28.50"), lambda _: None)
        number = brought_in(connection, "28.70", 40)

        def meanwhile(_: int) -> None:
            stored = search(other, ShelfQuery("part 7")).slips[0].stored
            shelf.change_part(other, stored.id, stored.version, stored.part, stored.terms)

        with pytest.raises(StaleVersionError):
            imports.take(connection, number, meanwhile)
        assert imports.pending(connection, number).state == "ready"
        assert (
            search(connection, ShelfQuery("part 7")).slips[0].stored.part.dimensions["diameter"].value == 28.5
        )
        assert not search(connection, ShelfQuery("part 33")).slips, "nor is a new one there"
        assert not connection.execute("SELECT 1 FROM part WHERE waits_for IS NOT NULL").fetchone()
