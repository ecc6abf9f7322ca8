"""A workshop ten times as large as the demo, copied from it row by row along its foreign keys.

What a workshop has once stays single (rules, instruments, suppliers, sundries, lessons, donors, rates);
watches, parts, pieces and orders come ten times, with all that hangs on them.
"""

import re
import sqlite3
from contextlib import closing
from pathlib import Path

from marquetry.demo.workshop import make_demo
from tests.strategies import MODEL

WATCHES, PARTS, ORDERS, ENTRIES = 150, 2_000, 300, 20_000
COPIED = (
    "watch", "revision", "part", "piece", "in_watch", "move", "reading", "wish", "sign_off", "made_version",
    "made_reading", "batch", "batch_step", "blank", "blank_stage", "finish_trial", "offer", "supply_order",
    "supply_line",
    "supply_step", "booking", "quote", "series", "series_number", "bench_entry", "proof", "story_note",
    "fate", "spec_card", "lesson_turn", "rehearsal", "rehearsal_move",
)  # fmt: skip
APART = 100_000
"""How far the numbers of one copy lie from those of the next: above every number of the demo."""
OWN = {"reading": ("owner_id",), "supply_line": ("order_id",)}
"""Columns that hold a copied row's number without a foreign key that says so."""
PIECE = re.compile(r'("shelf_piece":\s*)(\d+)')
OF_ORDERS = ("supply_order", "supply_line")
LOG = ("revision", "bench_entry", "proof", "move", "booking", "fate", "wish", "story_note", "supply_step")


def grow(database: Path) -> dict[str, int]:
    """Make the demo in an empty place, then ten of it; how much of everything there is."""
    make_demo(database, MODEL)
    with closing(sqlite3.connect(database, isolation_level=None)) as connection:
        connection.create_function("moved_sheet", 2, moved_sheet, deterministic=True)
        connection.execute("BEGIN")
        for copy in range(1, WATCHES // _count(connection, "watch")):
            for table in COPIED:
                _copy(connection, table, copy)
        _fill_up(connection, ("part",), PARTS)
        _fill_up(connection, OF_ORDERS, ORDERS)
        connection.execute("COMMIT")
        connection.execute("ANALYZE")
        assert not connection.execute("PRAGMA foreign_key_check").fetchall()
        return {table: _count(connection, table) for table in ("watch", "part", "supply_order")} | {
            "entries": sum(_count(connection, table) for table in LOG)
        }


def _count(connection: sqlite3.Connection, table: str) -> int:
    return int(connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0])  # noqa: S608  # ours


def _fill_up(connection: sqlite3.Connection, tables: tuple[str, ...], wanted: int) -> None:
    """Copy the first rows of the demo once more, until there are so many."""
    copy, key = 20, {"supply_line": "order_id"}
    while (lacking := wanted - _count(connection, tables[0])) > 0:
        for table in tables:
            first = f"SELECT id FROM {tables[0]} WHERE id < {APART} ORDER BY id LIMIT {lacking}"  # noqa: S608  # ours
            _copy(connection, table, copy, f"{key.get(table, 'id')} IN ({first})", alone=tables)
        copy += 1


def _copy(
    connection: sqlite3.Connection, table: str, copy: int, where: str = "", alone: tuple[str, ...] = COPIED
) -> None:
    """The demo's rows of a table once more: numbers moved on, keys marked, pieces in sheets followed."""
    links = {
        column
        for _, _, parent, column, to, *_ in connection.execute(f"PRAGMA foreign_key_list({table})")
        if parent in alone and to != "version"
    }
    columns, told = [], []
    for _, column, kind, _, _, key in connection.execute(f"PRAGMA table_info({table})"):
        moved = column in links or column in OWN.get(table, ()) or (key and column == "id")
        columns.append(column)
        if moved and kind == "INTEGER":
            told.append(f"{column} + {copy * APART}")
        elif column == "sheet":
            told.append(f"moved_sheet(sheet, {copy * APART})")
        elif column in {"key", "undoes"} and table in {"bench_entry", "proof"}:
            told.append(f"CASE WHEN {column} = '' THEN '' ELSE {column} || '-{copy}' END")
        else:
            told.append(column)
    first = columns[0]
    connection.execute(
        f"INSERT INTO {table} ({', '.join(columns)}) SELECT {', '.join(told)} FROM {table} "  # noqa: S608  # ours
        f"WHERE {first} < {APART} AND {where or 'true'}"
    )


def moved_sheet(sheet: str | None, by: int) -> str | None:
    """A sheet whose pieces carry the numbers of their copies."""
    return None if sheet is None else PIECE.sub(lambda found: f"{found[1]}{int(found[2]) + by}", sheet)
