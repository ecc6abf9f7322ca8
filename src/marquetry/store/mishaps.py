"""Mishaps on disk: what one costs is booked, its piece gets its state, its lesson is kept; all of it or none.

The entry of the log carries the numbers of what was written, so that taking it back takes all of it back.
"""

import json
from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.mishap import MishapKind, WayBack
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.part import PIECE_LINK
from marquetry.core.trade.ledger import pay
from marquetry.core.values.errors import NotFoundError, TakenError
from marquetry.store import (
    another_part,
    bench_log,
    bookings,
    lessons,
    pieces,
    pieces_in_watch,
    shelf,
    terms_of_trade,
    watches,
)
from marquetry.store.bookings import NewBooking
from marquetry.store.database import Connection, transaction
from marquetry.store.lessons import NewLesson
from marquetry.store.pieces import Piece, Stock
from marquetry.store.watches import StoredWatch

BENCH_PAY = "bench"


@dataclass(frozen=True, slots=True)
class NewMishap:
    """A mishap as it is noted: kind and way back, the step it happened at, what opens again, the lesson.

    `happened` is told in the builder's own words; `supplier` is whose part it was, where that is asked.
    """

    kind: MishapKind
    way: WayBack
    entry: LogEntry
    opens: tuple[str, ...]
    lesson: str
    day: str
    happened: str = ""
    supplier: str = ""
    answer: LogEntry | None = None
    """What it answers its step's question with, where it does."""
    sheet: Build | None = None
    """The sheet as the way back leaves it, where that is not the piece's fate alone."""

    @property
    def why(self) -> str:
        """What is remembered of the part: the builder's words, else the kind's."""
        return self.happened or self.kind.label


def piece_of(connection: Connection, watch_id: int, part: str) -> Piece | None:
    """The piece of a part that is in the watch; None where it is only described."""
    row = connection.execute(
        "SELECT piece_id FROM in_watch WHERE watch_id = :id AND slot = :slot", {"id": watch_id, "slot": part}
    ).fetchone()
    return None if row is None else pieces.piece(connection, row["piece_id"])


def note(connection: Connection, stored: StoredWatch, new: NewMishap) -> None:
    """Write all that a mishap changes. TakenError, StaleVersionError or RateError, and nothing written."""
    detail: dict[str, Json] = {"kind": new.kind.key, "way": new.way.key, "opens": list(new.opens)}
    with transaction(connection):
        found = piece_of(connection, stored.id, new.kind.part) if new.kind.part else None
        if found is not None and new.way.fate and new.way.fate != "returned":
            detail |= _fate(connection, stored, new, found)
        elif new.kind.part and new.way.wants_another:
            detail |= _described(connection, stored, new)
        if new.sheet is not None and "version" not in detail:
            after = watches.save(connection, stored.id, stored.version, new.sheet, f"bench: {new.why}"[:200])
            detail["version"] = after.version
        if new.happened:
            detail["happened"] = new.happened
        if new.supplier:
            detail |= {"supplier": new.supplier, "name": _name_of(stored, new)}
        if new.way.minutes and terms_of_trade.trade_terms(connection).has_rate(BENCH_PAY):
            detail["hours"] = _book_time(connection, stored.id, new)
        if new.lesson:
            part_id = found.part_id if found else None
            told = NewLesson(new.entry.step, new.lesson, new.day, new.kind.part, part_id, mishap=new.kind.key)
            detail["lesson"] = lessons.add_lesson(connection, stored.id, told)
        if new.kind.part == "stem" and new.way.wants_another:
            detail["new_stem"] = True
        noted = [replace(new.entry, detail=detail)]
        bench_log.add_entries(connection, stored.id, noted if new.answer is None else [*noted, new.answer])


def _fate(connection: Connection, stored: StoredWatch, new: NewMishap, found: Piece) -> dict[str, Json]:
    """What becomes of the piece, and how to take that back."""
    if new.way.fate == "refitted":
        pieces.count_fitting(connection, found.id)
        return {"refitted": found.id}
    if new.way.fate == "scratched":
        pieces.change_stock(connection, found.id, replace(found.stock, condition="worn", fault=new.why))
        return {"scratched": found.id, "was": [found.stock.condition, found.stock.fault]}
    part = shelf.part(connection, found.part_id)
    build = pieces_in_watch.planned(stored.build, part)
    after = watches.save(connection, stored.id, stored.version, build, f"{new.kind.label}: out of the watch")
    booked = bookings.book_spoilt(connection, stored.id, found.id, new.why, new.day)
    return {"scrapped": found.id, "booked": booked, "version": after.version}


def _described(connection: Connection, stored: StoredWatch, new: NewMishap) -> dict[str, Json]:
    """It becomes, or already is, a faulty piece; of the one in its place nothing is known."""
    slot = new.kind.part
    if not another_part.is_somebodys(stored.build, slot):
        return {}
    old = another_part.name_in(stored.build, slot)
    held = piece_of(connection, stored.id, slot)
    was: list[Json] = [held.stock.condition, held.stock.fault] if held else [Stock().condition, ""]
    now, version = another_part.put_old_away(connection, stored, stored.version, slot, new.why)
    build = another_part.blank(connection, now.build, slot)
    change = f"{new.kind.label}: {old} out, {another_part.name_in(build, slot)} not known yet"
    after = watches.save(connection, stored.id, version, build, change)
    number = now.build.at(f"{slot}.{PIECE_LINK}")
    return {"version": after.version, "scratched": number, "was": was}


def _name_of(stored: StoredWatch, new: NewMishap) -> str:
    """What the part at fault is called, for its seller's record."""
    return another_part.name_in(stored.build, new.kind.part) if new.kind.part else ""


def found_wrong(connection: Connection, supplier: str) -> Iterator[str]:
    """What the bench found wrong with a supplier's parts, the newest first: day, part, words."""
    rows = connection.execute(
        """SELECT *, strftime('%Y-%m-%d', at_ms / 1000, 'unixepoch') AS day FROM bench_entry
            WHERE what = 'mishap' AND json_extract(detail, '$.supplier') = :name
              AND NOT EXISTS (SELECT 1 FROM bench_entry AS back WHERE back.watch_id = bench_entry.watch_id
                              AND back.what = 'undo' AND back.undoes = bench_entry.key)
            ORDER BY at_ms DESC""",
        {"name": supplier},
    )
    for row in rows:
        detail = json.loads(row["detail"])
        part = f"{detail['name']}: " if detail.get("name") else ""
        yield f"{row['day']} {part}{detail.get('happened') or row['words']}"


def _book_time(connection: Connection, watch_id: int, new: NewMishap) -> int:
    """The way back's time at the bench's pay."""
    terms = terms_of_trade.trade_terms(connection)
    cost = pay(new.way.minutes, terms.pay(BENCH_PAY))
    words = f"{new.kind.label}: {new.way.words}"
    return bookings.book(
        connection, watch_id, NewBooking("hours", words, cost, new.day, minutes=new.way.minutes)
    )


def undo_of(connection: Connection, watch_id: int, entries: Sequence[LogEntry], key: str, day: str) -> None:
    """Take back what a mishap wrote, where the entry of that key is one; bookings by one that reverses them.

    What was taken back by hand meanwhile stays so. A watch that was changed since keeps its slot as it is.
    """
    found = next((entry for entry in entries if entry.key == key and entry.what == "mishap"), None)
    detail = found.detail if found else {}
    for name in ("booked", "hours"):
        number = detail.get(name)
        if isinstance(number, int):
            with suppress(TakenError, NotFoundError):
                bookings.reverse(connection, watch_id, number, day)
    lesson, version, refitted = (detail.get(name) for name in ("lesson", "version", "refitted"))
    if isinstance(lesson, int):
        lessons.withdraw_lesson(connection, lesson)
    if isinstance(refitted, int):
        pieces.count_fitting(connection, refitted, -1)
    _unscratch(connection, detail)
    if isinstance(version, int) and watches.watch(connection, watch_id).version == version:
        watches.undo(connection, watch_id, version)
        scrapped = detail.get("scrapped")
        if isinstance(scrapped, int) and pieces.piece(connection, scrapped).kind == "hands":
            pieces.count_fitting(connection, scrapped, -1)  # it never left the watch


def _unscratch(connection: Connection, detail: Mapping[str, Json]) -> None:
    scratched, was = detail.get("scratched"), detail.get("was")
    if isinstance(scratched, int) and isinstance(was, list):
        held = pieces.piece(connection, scratched)
        stock = replace(held.stock, condition=str(was[0]), fault=str(was[1]))
        pieces.change_stock(connection, scratched, stock)
