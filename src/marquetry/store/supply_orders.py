"""Orders: taken from a plan, sent, arriving piece by piece with their landed cost.

Steps are only ever added.
"""

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from marquetry.core.trade.landed import Billed, Landed, landed
from marquetry.core.trade.supply import SupplyLine, SupplyOrder, SupplyStep, SupplyWhat, billed_lines
from marquetry.core.values.errors import NotFoundError, RateError, StaleVersionError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import bookings, pieces, terms_of_trade
from marquetry.store.database import Connection, transaction
from marquetry.store.pieces import Stock
from marquetry.store.suppliers import Supplier, key_of, supplier


@dataclass(frozen=True, slots=True)
class NewLine:
    """A line to be ordered: a part or a sundry by number, so many pieces at a price, for a watch or none."""

    part_id: int | None
    sundry_id: int | None
    pieces: int
    price: Decimal
    watch_id: int | None = None


@dataclass(frozen=True, slots=True)
class Arrival:
    """A first look over what arrived: how many pieces, of those how many faulty, where they go.

    What was seen.
    """

    pieces: int
    faulty: int = 0
    place: str = ""
    words: str = ""


def orders(connection: Connection) -> list[SupplyOrder]:
    """Every order, the newest first."""
    rows = connection.execute("SELECT * FROM supply_order ORDER BY day DESC, id DESC").fetchall()
    return [_order(connection, row) for row in rows]


def order(connection: Connection, number: int) -> SupplyOrder:
    """One order; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM supply_order WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"order {number}")
    return _order(connection, row)


def add_order(
    connection: Connection, seller: Supplier, bill: Billed, due: tuple[str, str], lines: Sequence[NewLine]
) -> int:
    """Write an order with its lines and return its number; within a transaction or alone."""
    with transaction(connection):
        cursor = connection.execute(
            """
            INSERT INTO supply_order (supplier_id, currency, day, due, at_worst, postage_minor, charges_minor,
                                      discount_minor, duty_percent, tax_percent, tax_on_postage)
            VALUES (:supplier, :currency, :day, :due, :worst, :postage, :charges, :discount, :duty, :tax, :on)
            """,
            {
                "supplier": seller.id,
                "day": bill.day,
                "currency": bill.currency,
                "due": due[0],
                "worst": due[1],
                **_sums(bill),
            },
        )
        number = int(cursor.lastrowid or 0)
        for line in lines:
            connection.execute(
                """INSERT INTO supply_line (order_id, part_id, sundry_id, pieces, price, watch_id)
                   VALUES (:order, :part, :sundry, :pieces, :price, :watch)""",
                {"order": number, "part": line.part_id, "sundry": line.sundry_id, "pieces": line.pieces,
                 "price": str(line.price), "watch": line.watch_id},
            )  # fmt: skip
    return number


def _sums(bill: Billed) -> dict[str, object]:
    return {
        "postage": bill.postage, "charges": bill.charges, "discount": bill.discount,
        "duty": str(bill.duty_percent), "tax": str(bill.tax_percent), "on": int(bill.tax_on_postage),
    }  # fmt: skip


def change_bill(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection, number: int, based_on: int, bill: Billed, due: str, notes: str
) -> None:
    """Note what an order is billed, and when it is awaited; what its pieces cost follows, all or nothing.

    StaleVersionError where it changed since.
    """
    with transaction(connection):
        before = _newest(connection, number, based_on)
        landed(replace(bill, lines=before.bill.lines), terms_of_trade.rates(connection))
        connection.execute(
            """UPDATE supply_order SET day = :day, due = :due, at_worst = max(at_worst, :due), notes = :notes,
                      postage_minor = :postage, charges_minor = :charges, discount_minor = :discount,
                      duty_percent = :duty, tax_percent = :tax, tax_on_postage = :on, version = version + 1
                WHERE id = :id""",
            {"id": number, "day": bill.day, "due": due, "notes": notes, **_sums(bill)},
        )
        _reprice(connection, order(connection, number))


def take_step(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection,
    number: int,
    what: SupplyWhat,
    day: str,
    line_id: int | None = None,
    count: int = 0,
    minor: int = 0,
    words: str = "",
    based_on: int | None = None,
) -> int:
    """Note a step of an order and return its number. TakenError, and nothing written, where it cannot be.

    StaleVersionError where the order is not the version that it is based on any more: a second click.
    """
    with transaction(connection):
        found = _newest(connection, number, based_on)
        line = None if line_id is None else found.line(line_id)
        found.refuse(what, line, count)
        step = _add_step(connection, number, SupplyStep(0, what, line_id, count, minor, words, day))
        if line is not None and what == "lost":
            _lose(connection, found, line, count, step, day)
        if line is not None and what == "returned":
            _return(connection, line, count)
        if line is not None and what == "refunded":
            _refund(connection, found, line, count, minor, step, day)
    return step


def arrive(  # noqa: PLR0913, PLR0917  # what arrives where
    connection: Connection, number: int, line_id: int, look: Arrival, day: str, based_on: int | None = None
) -> list[int]:
    """So many pieces of a line are here and were looked over: they go to their place, at what they cost.

    Returns the numbers of the pieces. TakenError where so many are not awaited; StaleVersionError as above.
    """
    with transaction(connection):
        found = _newest(connection, number, based_on)
        line = found.line(line_id)
        found.refuse("arrived", line, look.pieces)
        first = found.count(line, "arrived") + found.count(line, "lost")
        if look.faulty > look.pieces:
            raise TakenError("More are faulty than arrived. Nothing was changed.")
        _add_step(connection, number, SupplyStep(0, "arrived", line_id, look.pieces, 0, look.words, day))
        if look.faulty:
            _add_step(connection, number, SupplyStep(0, "faulty", line_id, look.faulty, 0, look.words, day))
        if line.sundry_id is not None:
            terms_of_trade.take_of(connection, line.sundry_id, look.pieces)
            return []
        return _lay_down(connection, found, line, look, first)


def _newest(connection: Connection, number: int, based_on: int | None) -> SupplyOrder:
    """The order as it is; StaleVersionError where a form was made from an older version of it."""
    found = order(connection, number)
    if based_on is not None and found.version != based_on:
        raise StaleVersionError(based_on, found.version, "order")
    return found


def _lay_down(
    connection: Connection, found: SupplyOrder, line: SupplyLine, look: Arrival, first: int
) -> list[int]:
    seller = supplier(connection, found.supplier_id).terms.name
    costs = _costs(connection, found)[line.id]
    numbers = []
    for place in range(first, first + look.pieces):
        is_faulty = place >= first + look.pieces - look.faulty
        stock = Stock(
            look.place,
            "faulty" if is_faulty else "new",
            look.words if is_faulty else "",
            costs[place],
            seller,
            None if is_faulty else line.watch_id,
        )
        piece = pieces.add_piece(connection, line.part_id or 0, stock)
        connection.execute(
            "UPDATE piece SET line_id = :line, line_place = :place WHERE id = :id",
            {"line": line.id, "place": place, "id": piece},
        )
        numbers.append(piece)
    return numbers


def _costs(connection: Connection, found: SupplyOrder) -> dict[int, list[Money]]:
    """What each piece of each line costs in home's currency.

    In the order's own where no rate is old enough.
    """
    try:
        shares = landed(found.bill, terms_of_trade.rates(connection))
    except RateError:
        return {line.id: [Money.of(line.price, found.bill.currency)] * line.pieces for line in found.lines}
    home = shares.total_home.currency
    return {
        line.id: [Money(cost, home) for cost in told.pieces_home]
        for line, told in zip(found.lines, shares.lines, strict=True)
    }


def landed_of(connection: Connection, found: SupplyOrder) -> Landed | None:
    """The order's landed cost; None where no rate is old enough."""
    try:
        return landed(found.bill, terms_of_trade.rates(connection))
    except RateError:
        return None


def _reprice(connection: Connection, found: SupplyOrder) -> None:
    """Tell the pieces of an order what they cost by now."""
    costs = _costs(connection, found)
    for line in found.lines:
        rows = connection.execute("SELECT id, line_place FROM piece WHERE line_id = :id", {"id": line.id})
        for row in rows.fetchall():
            cost = costs[line.id][row["line_place"]]
            connection.execute(
                "UPDATE piece SET paid_minor = :minor, currency = :currency WHERE id = :id",
                {"minor": cost.minor, "currency": cost.currency, "id": row["id"]},
            )


def reprice_all(connection: Connection) -> None:
    """The same for every order: after a rate was entered or changed."""
    for found in orders(connection):
        _reprice(connection, found)


def _return(connection: Connection, line: SupplyLine, count: int) -> None:
    """So many faulty pieces go back to the seller, the faulty ones first; those in watches stay."""
    rows = connection.execute(
        """SELECT piece.id FROM piece LEFT JOIN in_watch ON in_watch.piece_id = piece.id
            WHERE line_id = :id AND state = 'shelf' AND in_watch.watch_id IS NULL
            ORDER BY condition <> 'faulty', line_place LIMIT :count""",
        {"id": line.id, "count": count},
    ).fetchall()
    if line.part_id is not None and len(rows) < count:
        raise TakenError(f"{line.name}: take it out of its watch first. Nothing was changed.")
    if line.sundry_id is not None:
        terms_of_trade.take_of(connection, line.sundry_id, -count)
    for row in rows:
        pieces.change_state(connection, row["id"], "returned", "to the seller")


def _refund(  # noqa: PLR0913, PLR0917  # what a refund is of
    connection: Connection, found: SupplyOrder, line: SupplyLine, count: int, minor: int, step: int, day: str
) -> None:
    """What a refund leaves of the landed cost is a loss of the watch it was bought for; a lost piece's.

    Too.
    """
    if line.watch_id is None:
        return
    rates = terms_of_trade.rates(connection)
    back = rates.converted(Money(minor, found.bill.currency), found.bill.day)
    lost_before = found.count(line, "lost") > found.count(line, "refunded")
    cost = sum(money.minor for money in _gone(connection, found, line, count))
    amount = -back.minor if lost_before else cost - back.minor
    words = f"{line.name}: {count} refunded with {Money(minor, found.bill.currency)}"
    _book_loss(connection, line.watch_id, words, Money(amount, back.currency), step, day)


def _gone(connection: Connection, found: SupplyOrder, line: SupplyLine, count: int) -> list[Money]:
    """What so many pieces of the line cost that are not here any more, in home's currency.

    The next in turn.
    """
    first = found.count(line, "refunded")
    held = [
        row["line_place"]
        for row in connection.execute(
            "SELECT line_place FROM piece WHERE line_id = :id AND state = 'returned' ORDER BY line_place",
            {"id": line.id},
        )
    ]
    costs = _costs(connection, found)[line.id]
    places = held[first : first + count] if line.part_id is not None else list(range(first, first + count))
    return [costs[place] for place in places]


def _lose(  # noqa: PLR0913, PLR0917  # what is lost of what
    connection: Connection, found: SupplyOrder, line: SupplyLine, count: int, step: int, day: str
) -> None:
    """Lost pieces cost what they cost: a loss of the watch they were bought for, until they are refunded."""
    if line.watch_id is None:
        return
    first = line.pieces - found.open_pieces(line)
    costs = _costs(connection, found)[line.id][first : first + count]
    total = sum(money.minor for money in costs)
    words = f"{line.name}: {count} lost on the way"
    _book_loss(connection, line.watch_id, words, Money(total, costs[0].currency), step, day)


def _book_loss(  # noqa: PLR0913, PLR0917  # one argument a column
    connection: Connection, watch_id: int, words: str, money: Money, step: int, day: str
) -> None:
    if money.minor:
        bookings.book(connection, watch_id, bookings.NewBooking("loss", words, money, day=day, step_id=step))


def undo_step(connection: Connection, number: int, step_id: int, day: str) -> None:
    """Take a step back by one that undoes it; its pieces leave the shelf, its losses are reversed.

    TakenError where it cannot be: it was taken back, later steps rest on it, or a piece is in a watch.
    """
    with transaction(connection):
        found = order(connection, number)
        step = next((s for s in found.valid_steps if s.id == step_id), None)
        if step is None:
            raise TakenError("That step was taken back already. Nothing was changed.")
        later = [s for s in found.valid_steps if s.id > step.id and s.line_id == step.line_id and s.line_id]
        follows = [
            s for s in later if not (step.what == "arrived" and s.what == "faulty" and s.id == step.id + 1)
        ]
        if follows:
            raise TakenError(f"Take “{follows[-1].what}” back first. Nothing was changed.")
        for one in (*reversed([s for s in later if s not in follows]), step):
            _undo(connection, found, one, day)


def _undo(connection: Connection, found: SupplyOrder, step: SupplyStep, day: str) -> None:
    undoing = replace(step, id=0, words="taken back", day=day, undoes=step.id)
    _add_step(connection, found.id, undoing)
    bookings.reverse_of_step(connection, step.id, day)
    if step.line_id is None:
        return
    line = found.line(step.line_id)
    if line.sundry_id is not None and step.what in {"arrived", "returned"}:
        count = step.pieces if step.what == "returned" else -step.pieces
        terms_of_trade.take_of(connection, line.sundry_id, count)
    elif step.what == "arrived":
        _take_away(connection, line, step.pieces)
    elif step.what == "returned":
        rows = connection.execute(
            """SELECT id FROM piece WHERE line_id = :id AND state = 'returned'
                ORDER BY line_place DESC LIMIT :n""",
            {"id": line.id, "n": step.pieces},
        ).fetchall()
        for row in rows:
            pieces.change_state(connection, row["id"], "shelf", "the return was taken back")


def _take_away(connection: Connection, line: SupplyLine, count: int) -> None:
    """The last pieces of a line that came are not here: they leave the books, if nothing came of them."""
    rows = connection.execute(
        "SELECT id, line_place FROM piece WHERE line_id = :id ORDER BY line_place DESC LIMIT :n",
        {"id": line.id, "n": count},
    ).fetchall()
    for row in rows:
        held = pieces.piece(connection, row["id"])
        if held.watch_id is not None or held.state != "shelf":
            raise TakenError(f"{line.name}: a piece of it is in use by now. Nothing was changed.")
        pieces.change_state(connection, row["id"], "returned", "its arrival was taken back")
        connection.execute(
            "UPDATE piece SET line_id = NULL, line_place = NULL WHERE id = :id", {"id": row["id"]}
        )


def _add_step(connection: Connection, number: int, step: SupplyStep) -> int:
    cursor = connection.execute(
        """INSERT INTO supply_step (order_id, line_id, what, pieces, minor, words, day, undoes)
           VALUES (:order, :line, :what, :pieces, :minor, :words, :day, :undoes)""",
        {"order": number, "line": step.line_id, "what": step.what, "pieces": step.pieces, "minor": step.minor,
         "words": step.words, "day": step.day, "undoes": step.undoes},
    )  # fmt: skip
    connection.execute("UPDATE supply_order SET version = version + 1 WHERE id = :id", {"id": number})
    return int(cursor.lastrowid or 0)


def awaited_orders(connection: Connection) -> list[SupplyOrder]:
    """The orders of which something is still to come."""
    return [each for each in orders(connection) if each.state.is_awaited]


def awaited(connection: Connection) -> Mapping[str, int]:
    """Pieces that are on their way to nobody in particular or to any watch, by the key of what they are."""
    found: dict[str, int] = {}
    for each in awaited_orders(connection):
        for line in each.lines:
            key = key_of(line.part_id, line.sundry_id)
            found[key] = found.get(key, 0) + each.open_pieces(line)
    return found


def _order(connection: Connection, row: sqlite3.Row) -> SupplyOrder:
    lines = tuple(
        SupplyLine(
            line["id"], line["name"], line["part_id"], line["sundry_id"], line["pieces"],
            Decimal(line["price"]), line["watch_id"],
        )
        for line in connection.execute(
            """SELECT supply_line.*, coalesce(part.name, sundry.name) AS name FROM supply_line
                 LEFT JOIN part ON part.id = part_id LEFT JOIN sundry ON sundry.id = sundry_id
                WHERE order_id = :id ORDER BY supply_line.id""",
            {"id": row["id"]},
        )
    )  # fmt: skip
    names = ("id", "what", "line_id", "pieces", "minor", "words", "day", "undoes")
    steps = tuple(
        SupplyStep(*(step[name] for name in names))
        for step in connection.execute(
            "SELECT * FROM supply_step WHERE order_id = :id ORDER BY id", {"id": row["id"]}
        )
    )
    seller = connection.execute("SELECT name FROM supplier WHERE id = ?", (row["supplier_id"],)).fetchone()
    bill = Billed(
        seller["name"], row["currency"], row["day"], billed_lines(lines), row["postage_minor"],
        row["charges_minor"], row["discount_minor"], Decimal(row["duty_percent"]),
        Decimal(row["tax_percent"]), bool(row["tax_on_postage"]),
    )  # fmt: skip
    return SupplyOrder(
        row["id"],
        row["version"],
        row["supplier_id"],
        bill,
        row["due"],
        row["at_worst"],
        row["notes"],
        lines,
        steps,
    )
