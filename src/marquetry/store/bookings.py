"""The books of watches: what is booked stays, and is taken back by an entry that reverses it.

The ledger of a watch is its bookings and what follows from elsewhere: the pieces that are in it now, at what
they cost, and the parts that were made for it. Nothing of that is written twice.
"""

import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import TypeAlias

from marquetry.core.trade.ledger import EntryKind, Ledger, LedgerEntry
from marquetry.core.trade.rates import Rates
from marquetry.core.values.errors import NotFoundError, RateError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import pieces, terms_of_trade
from marquetry.store.database import Connection, transaction


@dataclass(frozen=True, slots=True)
class NewBooking:
    """What is booked, at home's; `minutes` of hours, the piece or the order's step that it is about."""

    kind: EntryKind
    words: str
    money: Money
    day: str
    minutes: int | None = None
    piece_id: int | None = None
    step_id: int | None = None
    undoes: int | None = None


def book(connection: Connection, watch_id: int, new: NewBooking) -> int:
    """Write an entry into the books of a watch and return its number."""
    cursor = connection.execute(
        """INSERT INTO booking (watch_id, kind, words, minor, currency, minutes, piece_id, step_id, day,
        undoes) VALUES (:watch, :kind, :words, :minor, :currency, :minutes, :piece, :step, :day, :undoes)""",
        {"watch": watch_id, "kind": new.kind, "words": new.words[:200], "minor": new.money.minor,
         "currency": new.money.currency, "minutes": new.minutes, "piece": new.piece_id, "step": new.step_id,
         "day": new.day, "undoes": new.undoes},
    )  # fmt: skip
    return int(cursor.lastrowid or 0)


def book_spoilt(  # noqa: PLR0913, PLR0917  # what is spoilt for what
    connection: Connection, watch_id: int, piece_id: int, why: str, day: str, based_on: int | None = None
) -> int:
    """Scrap a piece and book what it cost on the watch; taken out of it first. TakenError while it is in one.

    RateError where what was paid cannot be told in home's currency.
    """
    with transaction(connection):
        spoilt = pieces.piece(connection, piece_id)
        rates = terms_of_trade.rates(connection)
        cost = rates.converted(spoilt.stock.paid, day) if spoilt.stock.paid else Money(0, rates.home)
        pieces.change_state(connection, piece_id, "scrapped", why, based_on)
        words = f"{spoilt.name}: {why}" if why else spoilt.name
        return book(connection, watch_id, NewBooking("spoilt", words, cost, day, piece_id=piece_id))


def minutes_booked(connection: Connection, watch_id: int, words: str) -> int:
    """Minutes of hours booked under these words and not taken back."""
    row = connection.execute(
        """SELECT coalesce(sum(minutes), 0) FROM booking AS b
            WHERE watch_id = :id AND kind = 'hours' AND words = :words AND undoes IS NULL
              AND NOT EXISTS (SELECT 1 FROM booking WHERE undoes = b.id)""",
        {"id": watch_id, "words": words},
    ).fetchone()
    return int(row[0])


def reverse(connection: Connection, watch_id: int, number: int, day: str) -> None:
    """Take an entry back by one that reverses it; a spoilt piece goes back onto the shelf.

    NotFoundError where the watch has no such entry; TakenError where it was taken back already.
    """
    with transaction(connection):
        row = connection.execute(
            "SELECT * FROM booking WHERE id = :id AND watch_id = :watch AND undoes IS NULL",
            {"id": number, "watch": watch_id},
        ).fetchone()
        if row is None:
            raise NotFoundError(f"entry {number} in the books of this watch")
        if connection.execute("SELECT 1 FROM booking WHERE undoes = ?", (number,)).fetchone():
            raise TakenError("This entry was taken back already. Nothing was changed.")
        book(
            connection,
            watch_id,
            NewBooking(
                row["kind"], row["words"], Money(-row["minor"], row["currency"]), day, None, row["piece_id"],
                row["step_id"], number,
            ),
        )  # fmt: skip
        if row["kind"] == "spoilt" and row["piece_id"] is not None:
            held = pieces.piece(connection, row["piece_id"])
            if held.state == "scrapped":
                pieces.change_state(connection, held.id, "shelf", "not spoilt after all")


def reverse_of_step(connection: Connection, step_id: int, day: str) -> None:
    """Reverse what was booked for a step of an order that is taken back."""
    rows = connection.execute(
        """SELECT id, watch_id FROM booking AS b WHERE step_id = :step AND undoes IS NULL
              AND NOT EXISTS (SELECT 1 FROM booking WHERE undoes = b.id)""",
        {"step": step_id},
    ).fetchall()
    for row in rows:
        reverse(connection, row["watch_id"], row["id"], day)


def ledger_of(connection: Connection, watch_id: int, today: str) -> Ledger:
    """Everything a watch cost so far, in home's currency; what has no rate is told by its own sum."""
    return ledgers_of(connection, [watch_id], today)[watch_id]


def ledgers_of(connection: Connection, watch_ids: Sequence[int], today: str) -> dict[int, Ledger]:
    """The same for many watches: each kind of entry is asked for once, not once a watch."""
    rates, ids = terms_of_trade.rates(connection), json.dumps(list(watch_ids))
    entries: dict[int, list[LedgerEntry]] = {number: [] for number in watch_ids}
    unpriced: dict[int, list[str]] = {number: [] for number in watch_ids}
    for owner, entry, paid, day in (
        *_pieces_in(connection, ids),
        *_made_for(connection, ids),
        *_blanks_for(connection, ids),
    ):
        at_home = _at_home(rates, paid, day or today)
        if at_home is None:
            unpriced[owner].append(f"{entry.words}: {paid or 'no price'}")
        told = "" if paid is None or paid.currency == rates.home else str(paid)
        minor = at_home.minor if at_home else 0
        entries[owner].append(
            LedgerEntry(entry.kind, entry.words, minor, day, entry.minutes, link=entry.link, told=told)
        )
    for owner, entry, booked, rated_on in _booked(connection, ids):
        at_home = _at_home(rates, booked, rated_on)
        if at_home is None:
            unpriced[owner].append(f"{entry.words}: {booked}")
        entries[owner].append(replace(entry, minor=at_home.minor if at_home else 0))
    return {
        number: Ledger(rates.home, tuple(entries[number]), tuple(unpriced[number])) for number in watch_ids
    }


def _at_home(rates: Rates, paid: Money | None, day: str) -> Money | None:
    try:
        return None if paid is None else rates.converted(paid, day)
    except RateError:
        return None


Costed: TypeAlias = tuple[int, LedgerEntry, Money | None, str]
"""A watch's number, an entry of its ledger yet without a sum, what was paid, and on which day."""
ASKED = "(SELECT value FROM json_each(:ids))"


def _pieces_in(connection: Connection, ids: str) -> Iterator[Costed]:
    """The pieces in each watch and those that went with it, but for those that were made for it.

    Of these their versions tell what they cost.
    """
    rows = connection.execute(
        f"""WITH held AS (SELECT piece_id, watch_id AS owner FROM in_watch WHERE watch_id IN {ASKED}
                          UNION SELECT id, went_with FROM piece WHERE went_with IN {ASKED})
        SELECT owner, part.name, piece.paid_minor, piece.currency, donor.name AS donor, part_id, went_with,
               (SELECT substr(min(at), 1, 10) FROM move WHERE piece_id = piece.id) AS day
          FROM held JOIN piece ON piece.id = held.piece_id JOIN part ON part.id = part_id
          LEFT JOIN in_watch ON in_watch.piece_id = piece.id LEFT JOIN donor ON donor.id = piece.donor_id
         WHERE NOT EXISTS (SELECT 1 FROM made_version WHERE piece_id = piece.id AND watch_id = owner)
         ORDER BY slot IS NULL, slot, piece.id""",  # noqa: S608  # our own words, no value among them
        {"ids": ids},
    )
    for row in rows:
        paid = None if row["paid_minor"] is None else Money(row["paid_minor"], row["currency"])
        words = f"{row['name']}, out of {row['donor']}" if row["donor"] else row["name"]
        words = f"{words}, handed over with it" if row["went_with"] else words
        yield (
            row["owner"],
            LedgerEntry("piece", words, 0, row["day"] or "", link=("part", row["part_id"])),
            paid,
            row["day"] or "",
        )


def _made_for(connection: Connection, ids: str) -> Iterator[Costed]:
    """Versions of parts made for each watch, good and spoilt alike: each cost its material and its time."""
    rows = connection.execute(
        f"""SELECT watch_id, part, number, state, cost_minor, currency, at FROM made_version
            WHERE watch_id IN {ASKED} AND cost_minor IS NOT NULL ORDER BY part, number""",  # noqa: S608  # as above
        {"ids": ids},
    )
    for row in rows:
        words = f"{row['part']}, version {row['number']}{', spoilt' if row['state'] == 'spoilt' else ''}"
        paid = Money(row["cost_minor"], row["currency"])
        yield row["watch_id"], LedgerEntry("made", words, 0), paid, row["at"][:10]


def _blanks_for(connection: Connection, ids: str) -> Iterator[Costed]:
    """What the stages of each watch's blanks cost, good and spoilt alike: a stage of a batch a line."""
    rows = connection.execute(
        f"""SELECT watch_id, batch.name, stage, currency, count(*) AS count, sum(cost_minor) AS minor,
                  min(blank_stage.at) AS at
             FROM blank_stage JOIN blank ON blank.id = blank_id JOIN batch ON batch.id = batch_id
            WHERE watch_id IN {ASKED} AND cost_minor IS NOT NULL
            GROUP BY batch.id, stage, currency ORDER BY min(blank_stage.id)""",  # noqa: S608  # as above
        {"ids": ids},
    )
    for row in rows:
        words = f"{row['name']}: {row['stage']}, {row['count']} {'blank' if row['count'] == 1 else 'blanks'}"
        paid = Money(row["minor"], row["currency"])
        yield row["watch_id"], LedgerEntry("made", words, 0), paid, row["at"][:10]


def _booked(connection: Connection, ids: str) -> list[tuple[int, LedgerEntry, Money, str]]:
    """The bookings of each watch with their sums as booked: home may have been another currency then."""
    rows = connection.execute(
        f"""SELECT booking.*,
                  EXISTS (SELECT 1 FROM booking AS later WHERE later.undoes = booking.id) AS undone,
                  coalesce(first.day, booking.day) AS rated_on
             FROM booking LEFT JOIN booking AS first ON first.id = booking.undoes
            WHERE booking.watch_id IN {ASKED} ORDER BY booking.id""",  # noqa: S608  # as above
        {"ids": ids},
    )
    return [
        (
            row["watch_id"],
            LedgerEntry(
                row["kind"], row["words"], 0, row["day"],
                0 if row["undone"] or row["undoes"] else row["minutes"] or 0, row["id"],
                bool(row["undone"]) or row["undoes"] is not None,
            ),
            Money(row["minor"], row["currency"]),
            row["rated_on"],
        )
        for row in rows
    ]  # fmt: skip


def mishap_bookings(connection: Connection) -> list[tuple[str, int, int]]:
    """Kind, minutes and minor units of home's currency of every mishap that was not taken back."""
    rows = connection.execute(
        """SELECT json_extract(detail, '$.kind') AS kind,
                  (SELECT coalesce(sum(minutes), 0) FROM booking WHERE id IN (
                          json_extract(detail, '$.hours'), json_extract(detail, '$.booked'))) AS minutes,
                  (SELECT coalesce(sum(minor), 0) FROM booking WHERE id IN (
                          json_extract(detail, '$.hours'), json_extract(detail, '$.booked'))) AS minor
             FROM bench_entry AS entry WHERE what = 'mishap' AND NOT EXISTS (
                  SELECT 1 FROM bench_entry AS undo WHERE undo.watch_id = entry.watch_id
                     AND undo.what = 'undo' AND undo.undoes = entry.key) ORDER BY at_ms, id"""
    )
    return [(str(row["kind"]), int(row["minutes"]), int(row["minor"])) for row in rows]
