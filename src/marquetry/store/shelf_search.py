"""What lies on the shelf, found: words as they are typed, filters that combine, an order, one page of it.

Each filter is one row of FILTERS: its key in the address, its label, and its condition in SQL.
"""

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field

from marquetry.store.database import Connection
from marquetry.store.shelf import COLUMNS, TABLES, StoredPart, stored_part

PAGE = 30
HELD = "FROM piece WHERE piece.part_id = part.id AND piece.state = 'shelf'"
FREE = f"""{HELD} AND (piece.kept_for IS NULL OR piece.kept_for = :watch)
    AND NOT EXISTS (SELECT 1 FROM in_watch WHERE piece_id = piece.id)"""
"""What is kept for the watch that a part is looked for is free to it, and to no other."""

FILTERS: Mapping[str, tuple[str, str]] = {
    "kind": ("Kind", "part.kind = :kind"),
    "colour": ("Colour", "part.colour = :colour"),
    "material": ("Material", "part.material = :material"),
    "finish": ("Finish", "part.finish = :finish"),
    "glow": ("Lume", "part.glow = :glow"),
    "supplier": ("Supplier", "part.supplier_id = (SELECT id FROM supplier WHERE name = :supplier)"),
}
STOCK: Mapping[str, tuple[str, str]] = {
    "free": ("on the shelf, free", f"EXISTS (SELECT 1 {FREE})"),
    "owned": ("owned, wherever it is", f"EXISTS (SELECT 1 {HELD})"),
    "known": ("known, not owned", f"NOT EXISTS (SELECT 1 {HELD})"),
}
SORTS: Mapping[str, tuple[str, str]] = {
    "name": ("by name", "part.name, part.id"),
    "newest": ("newest first", "part.id DESC"),
    "price": ("by price", "part.price_minor IS NULL, part.price_minor, part.name, part.id"),
    "size": ("by size", "size IS NULL, size, part.name, part.id"),
}


@dataclass(frozen=True, slots=True)
class ShelfQuery:
    """What is looked for. `chosen` are values of FILTERS; `size` limits the dimension `by` of one kind.

    `watch_id` is the watch that it is looked for, nought where it is looked for none.
    """

    words: str = ""
    chosen: Mapping[str, str] = field(default_factory=dict)
    stock: str = ""
    sort: str = "name"
    by: str = ""
    low: float | None = None
    high: float | None = None
    page: int = 1
    watch_id: int = 0


@dataclass(frozen=True, slots=True)
class Slip:
    """A part with the number of pieces of it: on the shelf and free, and in all."""

    stored: StoredPart
    free: int
    owned: int


@dataclass(frozen=True, slots=True)
class Found:
    """One page of what was found, and how many there are in all."""

    slips: tuple[Slip, ...]
    total: int
    page: int

    @property
    def pages(self) -> int:
        """Number of pages."""
        return max(-(-self.total // PAGE), 1)


def matching(words: str) -> str:
    """The words as FTS5 takes them: every one must begin some word; marks and operators mean nothing."""
    return " ".join(f'"{word}"*' for word in re.findall(r"\w+", words)[:8])


def search(connection: Connection, query: ShelfQuery) -> Found:
    """One page of the parts that meet every condition; the last one where the page asked for is beyond."""
    where, bound = _conditions(connection, query)
    if query.stock in STOCK or query.low is not None or query.high is not None:
        # What no index answers is asked of every part once, not once to count and once to show.
        numbers = _numbers(connection, query)
        total = len(numbers)
        page = _page_of(query, total)
        return Found(_slips(connection, query, numbers[(page - 1) * PAGE : page * PAGE]), total, page)
    total = connection.execute(f"SELECT count(*) FROM part WHERE {where}", bound).fetchone()[0]
    page = _page_of(query, total)
    return Found(_slips(connection, query, _numbers(connection, query, page)), total, page)


def _page_of(query: ShelfQuery, total: int) -> int:
    """The page asked for, or the last that there is."""
    return min(max(query.page, 1), max(-(-total // PAGE), 1))


def _numbers(connection: Connection, query: ShelfQuery, page: int | None = None) -> list[int]:
    """The numbers of one page's parts in order, or of all: sorting carries nothing else along."""
    where, bound = _conditions(connection, query)
    order = SORTS.get(query.sort, SORTS["name"])[1]
    size = f"json_extract(part.sheet, '$.{query.by}.value')" if _is_dimension(connection, query) else "NULL"
    columns = f"part.id, {size} AS size" if query.sort == "size" else "part.id"
    most, skipped = (-1, 0) if page is None else (PAGE, (page - 1) * PAGE)
    rows = connection.execute(
        f"SELECT {columns} FROM part WHERE {where} ORDER BY {order} LIMIT :most OFFSET :skipped",
        {**bound, "most": most, "skipped": skipped},
    )
    return [row["id"] for row in rows]


def _slips(connection: Connection, query: ShelfQuery, numbers: list[int]) -> tuple[Slip, ...]:
    rows = connection.execute(
        f"""
        SELECT {COLUMNS}, (SELECT count(*) {HELD}) AS owned, (SELECT count(*) {FREE}) AS free
          FROM {TABLES} WHERE part.id IN (SELECT value FROM json_each(:numbers))
        """,
        {"numbers": json.dumps(numbers), "watch": query.watch_id},
    )
    found = {row["id"]: Slip(stored_part(connection, row), row["free"], row["owned"]) for row in rows}
    return tuple(found[number] for number in numbers)


def _is_dimension(connection: Connection, query: ShelfQuery) -> bool:
    """Whether `by` names a dimension of the chosen kind; nothing else may come near the SQL."""
    anatomy, key = connection.model.anatomy, query.chosen.get("kind", "")
    return anatomy.has_kind(key) and query.by in dict(anatomy.kind(key).quantities())


def _conditions(connection: Connection, query: ShelfQuery) -> tuple[str, dict[str, object]]:
    # With words the few parts that have them are looked up; the plus keeps SQLite from walking the others.
    there = "+part.removed_at IS NULL" if matching(query.words) else "part.removed_at IS NULL"
    parts, bound = [there], dict[str, object](watch=query.watch_id)
    for key, value in query.chosen.items():
        if key in FILTERS and value:
            parts.append(FILTERS[key][1])
            bound[key] = value
    if matching(query.words):
        parts.append("part.id IN (SELECT rowid FROM part_words WHERE part_words MATCH :words)")
        bound["words"] = matching(query.words)
    if _is_dimension(connection, query):
        for name, sign, limit in (("low", ">=", query.low), ("high", "<=", query.high)):
            if limit is not None:
                parts.append(f"json_extract(part.sheet, '$.{query.by}.value') {sign} :{name}")
                bound[name] = limit
    if query.stock in STOCK:
        parts.append(STOCK[query.stock][1])
    return " AND ".join(parts), bound


def kind_counts(connection: Connection) -> dict[str, int]:
    """How many parts of each kind there are."""
    rows = connection.execute("SELECT kind, count(*) AS n FROM part WHERE removed_at IS NULL GROUP BY kind")
    return {row["kind"]: row["n"] for row in rows}


def choices(connection: Connection, kind: str) -> dict[str, list[str]]:
    """The values of every look that parts of this kind have, for the filters."""
    looks = ("colour", "material", "finish", "glow")
    return {look: [row[0] for row in connection.execute(_words_of(look), {"kind": kind})] for look in looks}


def _words_of(column: str) -> str:
    """Each word once, from one to the next through the index: DISTINCT would read every part."""
    least = f"SELECT min({column}) FROM part WHERE removed_at IS NULL AND kind = :kind"
    return f"""
        WITH RECURSIVE found (word) AS (
            {least} UNION ALL SELECT ({least} AND {column} > word) FROM found WHERE word IS NOT NULL LIMIT 60)
        SELECT word FROM found WHERE word IS NOT NULL
    """
