"""What becomes of an order: sent, arrived, faulty, returned, refunded, lost; steps are only ever added.

What arrives goes to its place at its landed cost. What is lost, or not refunded whole, is booked as a loss of
the watch it was bought for; a step is taken back by one that undoes it, with its pieces and its losses.
"""

from dataclasses import dataclass, replace

from marquetry.core.trade.supply import SupplyLine, SupplyOrder, SupplyStep, SupplyWhat
from marquetry.core.values.errors import RateError, TakenError
from marquetry.core.values.money import Money
from marquetry.store import bookings, pieces, terms_of_trade
from marquetry.store.database import Connection, transaction
from marquetry.store.pieces import Stock
from marquetry.store.suppliers import supplier
from marquetry.store.supply_orders import costs_of, landed_of, newest


@dataclass(frozen=True, slots=True)
class Arrival:
    """A first look over what arrived: how many, how many of them faulty, where they go, what was seen."""

    pieces: int
    faulty: int = 0
    place: str = ""
    words: str = ""


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
        found = newest(connection, number, based_on)
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
        found = newest(connection, number, based_on)
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


def _lay_down(
    connection: Connection, found: SupplyOrder, line: SupplyLine, look: Arrival, first: int
) -> list[int]:
    seller = supplier(connection, found.supplier_id).terms.name
    costs = costs_of(connection, found)[line.id]
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
    """What a refund leaves of the landed cost is a loss of the watch that it was bought for.

    Lost pieces were booked as one already, whole: they are refunded first, and the sum comes off.
    """
    if line.watch_id is None:
        return
    rates = terms_of_trade.rates(connection)
    back = rates.converted(Money(minor, found.bill.currency), found.bill.day)
    lost, refunded = found.count(line, "lost"), found.count(line, "refunded")
    returned = count - min(count, max(lost - refunded, 0))
    cost = sum(_returned_costs(connection, found, line)[max(refunded - lost, 0) :][:returned])
    words = f"{line.name}: {count} refunded with {Money(minor, found.bill.currency)}"
    _book_loss(connection, line.watch_id, words, Money(cost - back.minor, back.currency), step, day)


def _returned_costs(connection: Connection, found: SupplyOrder, line: SupplyLine) -> list[int]:
    """What the pieces of a line that went back cost, home's minor units, in their order."""
    costs = _home_costs(connection, found, line)
    if line.part_id is None:
        return costs[: found.count(line, "returned")]
    query = "SELECT line_place FROM piece WHERE line_id = :id AND state = 'returned' ORDER BY line_place"
    return [costs[row["line_place"]] for row in connection.execute(query, {"id": line.id})]


def _home_costs(connection: Connection, found: SupplyOrder, line: SupplyLine) -> list[int]:
    """What each piece of a line costs, home's minor units. RateError without a rate."""
    if landed_of(connection, found) is None:
        raise RateError(found.bill.currency, found.bill.day)
    return [money.minor for money in costs_of(connection, found)[line.id]]


def _lose(  # noqa: PLR0913, PLR0917  # what is lost of what
    connection: Connection, found: SupplyOrder, line: SupplyLine, count: int, step: int, day: str
) -> None:
    """Lost pieces cost what they cost: a loss of the watch they were bought for, until they are refunded."""
    if line.watch_id is None:
        return
    first = line.pieces - found.open_pieces(line)
    total = sum(_home_costs(connection, found, line)[first : first + count])
    words = f"{line.name}: {count} lost on the way"
    _book_loss(
        connection, line.watch_id, words, Money(total, terms_of_trade.rates(connection).home), step, day
    )


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
        found = newest(connection, number)
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
