"""The shelf as CSV: what goes out comes back, what cannot be read is refused and changes nothing."""

import io
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.sheet.part import Part
from marquetry.core.trade.terms import Terms
from marquetry.core.values.errors import SheetError
from marquetry.core.values.money import Money
from marquetry.demo.workshop import make_demo
from marquetry.formats import shelf_csv
from marquetry.formats.shelf_csv import MOST_ROWS, column_names, headings, read, write
from marquetry.formats.shelf_row import cells_of, read_row
from marquetry.store import imports as shelf_import
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.shelf_search import kind_counts
from tests.strategies import ANATOMY, MODEL, shelf_parts, words

HEADER = "kind,name,diameter,thickness,notes\n"


@pytest.fixture
def connection(tmp_path: Path) -> Iterator[Connection]:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = connect(tmp_path / "w.sqlite3", MODEL)
    yield opened
    opened.close()


def brought_in(connection: Connection, content: bytes) -> shelf_import.Import:
    number = shelf_import.begin(connection, "parts.csv")
    shelf_import.read_in(connection, number, io.BytesIO(content), lambda _: None)
    return shelf_import.pending(connection, number)


def told(connection: Connection, content: str) -> list[tuple[str, str]]:
    found = brought_in(connection, content.encode())
    return [(row.fate, row.told) for row in shelf_import.rows_of(connection, found.id)]


prices = st.none() | st.builds(Money, st.integers(0, 99_999_999), st.sampled_from(["EUR", "GBP", "NOK"]))


@given(part=shelf_parts(), notes=st.just("") | words, supplier=st.just("") | words, price=prices)
def test_any_part_comes_back_as_it_went_out(
    part: Part, notes: str, supplier: str, price: Money | None
) -> None:
    terms = Terms(notes, supplier, price, notes)
    text = "".join(write([cells_of(part, terms, 3)]))
    (line,) = read(io.BytesIO(text.encode()), ANATOMY)
    back = read_row(ANATOMY, line.cells, None)
    assert back.part.document == part.document
    assert (back.terms, back.owned) == (terms, 3)


def test_the_demo_shelf_goes_out_and_into_an_empty_workshop_the_same(
    connection: Connection, tmp_path: Path
) -> None:
    make_demo(tmp_path / "demo.sqlite3", MODEL)
    demo = connect(tmp_path / "demo.sqlite3", MODEL)
    rows = list(shelf_import.shelf_rows(demo))
    found = brought_in(connection, "".join(write(rows)).encode())
    assert found.counts == {"new": len(rows), "changed": 0, "same": 0, "refused": 0}
    assert kind_counts(connection) == {}
    shelf_import.take(connection, found.id, lambda _: None)
    assert kind_counts(connection) == kind_counts(demo)
    assert list(shelf_import.shelf_rows(connection)) == rows
    again = brought_in(connection, "".join(write(rows)).encode())
    assert again.counts["same"] == len(rows)
    demo.close()


@pytest.mark.parametrize(
    ("row", "fate", "words"),
    [
        ("dial,Gull,28.5,0.40±0.01 measured,", "new", "Diameter 28.50"),
        ('dial,Gull,"28,5 ±0.02 listed",0.4,', "new", "Diameter 28.50"),
        ('dial,Gull,"1 1/8""",0.4,', "new", "Diameter 28.57"),
        ("dial,,28.5,0.4,", "refused", "name: expected what the part is called"),
        ("plate,Gull,28.5,0.4,", "refused", "kind: expected a kind of part"),
        ("dial,Gull,wide,0.4,", "refused", "diameter: expected a dimension such as 28.50±0.02 measured"),
        ("dial,Gull,28.5,-0.4,", "refused", "thickness: expected a dimension"),
        ("dial,Gull,900,0.4,", "refused", "at most 200 mm"),
        ("back_gasket,Onion,28.5,,", "refused", "a back gasket has no such entry"),
        ("dial,=1+1,28.5,0.4,", "refused", "apostrophe"),
        ("dial,Gull,28.5,0.4,@SUM(A1)", "refused", "apostrophe"),
        ("dial,'=Gull,28.5,0.4,", "new", "Diameter"),
        ("dial,Gull,28.5", "refused", "3 cells where the first line names 5 columns"),
        ("dial,Gull,28.5,0.4,,,", "refused", "7 cells"),
        (f"dial,{'g' * 121},28.5,0.4,", "refused", "at most 120 letters"),
        (f"dial,Gull,28.5,0.4,{'n' * 4001}", "refused", "more than 4000"),
    ],
)
def test_each_row_is_new_or_refused_with_a_reason(
    connection: Connection, row: str, fate: str, words: str
) -> None:
    ((found, reason),) = told(connection, HEADER + row)
    assert found == fate
    assert words in reason.replace("\u00a0", " ")


FEW = 300


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "the columns kind, name"),
        (b"kind,diameter\n", "no name"),
        (b"kind,name,kind\n", "twice"),
        (b"kind,name,colour of the box\n", "as they are documented"),
        (HEADER.encode() + b"dial,Gr\xfcn,1,1,\n", "CSV UTF-8"),
        (b"\x89PNG\r\n\x1a\n\x00\x00", "CSV UTF-8"),
        (HEADER.encode() + b'dial,"never closed,1,1\n', "comma-separated"),
        (HEADER.encode() + b"dial,a,1,1,\n" * (FEW + 1), f"at most {FEW} rows"),
        (b"PK\x03\x04" + bytes(range(256)) * 10, "CSV UTF-8"),
    ],
    ids=["empty", "no name", "twice", "unknown", "encoding", "picture", "quote", "too many", "zip"],
)
def test_a_file_that_is_no_list_of_parts_is_refused_whole(
    connection: Connection, content: bytes, words: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert MOST_ROWS == 50_000
    monkeypatch.setattr(shelf_csv, "MOST_ROWS", FEW)  # as many as may come in take half a minute to be read
    found = brought_in(connection, content)
    assert found.state == "failed"
    assert words in found.told
    assert "Nothing was changed" in found.told
    assert found.total == 0


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16"])
@pytest.mark.parametrize("separator", [",", ";", "\t"])
def test_encodings_and_separators_of_spreadsheets_are_understood(
    connection: Connection, encoding: str, separator: str
) -> None:
    text = "kind,name,diameter\r\ndial,Grün,28.5\r\n\r\n".replace(",", separator)
    found = brought_in(connection, text.encode(encoding))
    assert found.counts["new"] == 1
    assert shelf_import.rows_of(connection, found.id)[0].name == "Grün"


def test_a_known_part_is_changed_only_where_a_cell_says_so(connection: Connection) -> None:
    first = brought_in(connection, (HEADER + "dial,Gull,28.5,0.4,from the spring order\n").encode())
    shelf_import.take(connection, first.id, lambda _: None)
    changed = told(connection, HEADER + "dial,Gull,,0.5,-\ndial,Gull,28.5,,\n")
    assert changed[0] == ("refused", "an earlier row of this file is about the same part")
    assert changed[1][0] == "changed"
    assert "thickness: 0.40" in changed[1][1]
    assert "notes: from the spring order → none" in changed[1][1]
    assert told(connection, HEADER + "dial,Gull,28.5,,\n") == [("same", "")]
    with pytest.raises(SheetError, match="things numbered from 0 without gaps"):
        read_row(ANATOMY, {"kind": "dial", "name": "x", "feet.1.radius": "12.6"}, None)


def test_every_column_is_documented_and_every_documented_one_is_read() -> None:
    documented = {column.name for column in headings(ANATOMY)}
    assert {
        ".".join("N" if s.isdigit() else s for s in name.split(".")) for name in column_names(ANATOMY)
    } == documented
    assert all(column.holds for column in headings(ANATOMY))


KILLED = """
import os, sys
from pathlib import Path
from marquetry.store import imports as shelf_import
from marquetry.store.database import connect
calls = 0
def progress(done):
    global calls
    calls += 1
    if calls == 2:
        os._exit(9)
from marquetry.core.fit.model import usual_model
shelf_import.take(connect(Path(sys.argv[1]), usual_model()), int(sys.argv[2]), progress)
"""


def test_a_kill_while_parts_are_taken_leaves_the_shelf_as_it_was(
    connection: Connection, tmp_path: Path
) -> None:
    rows = "".join(f"dial,Gull {n},28.5,0.4,\n" for n in range(800))
    found = brought_in(connection, (HEADER + rows).encode())
    command = [sys.executable, "-c", KILLED, str(tmp_path / "w.sqlite3"), str(found.id)]
    assert subprocess.run(command, check=False).returncode == 9
    assert kind_counts(connection) == {}
    shelf_import.clear_broken_off(connection)
    assert shelf_import.pending(connection, found.id).state == "ready"
    for table in ("part", "piece", "reading", "part_words"):
        assert connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0] == 0  # noqa: S608  # four names
    assert shelf_import.take(connection, found.id, lambda _: None) == 800
    assert kind_counts(connection) == {"dial": 800}


def test_what_was_being_read_at_a_kill_is_told_at_the_next_start(connection: Connection) -> None:
    number = shelf_import.begin(connection, "parts.csv")
    shelf_import.clear_broken_off(connection)
    assert "The program stopped" in shelf_import.pending(connection, number).told
