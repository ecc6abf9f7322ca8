"""Orders as they are billed: taken from a plan, changed, read; what their pieces cost follows the bill."""

import json
import sqlite3
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from marquetry.core.trade.landed import Billed, Landed, landed
from marquetry.core.trade.rates import Rates
from marquetry.core.trade.supply import SupplyLine, SupplyOrder, SupplyStep, billed_lines
from marquetry.core.values.errors import NotFoundError, RateError, StaleVersionError
from marquetry.core.values.money import Money
from marquetry.store import terms_of_trade
from marquetry.store.database import Connection, transaction
from marquetry.store.suppliers import Supplier, key_of


@dataclass(frozen=True, slots=True)
class NewLine:
    """A line to be ordered: a part or a sundry by number, so many pieces at a price, for a watch or none."""

    part_id: int | None
    sundry_id: int | None
    pieces: int
    price: Decimal
    watch_id: int | None = None


def orders(connection: Connection) -> list[SupplyOrder]:
    """Every order, the newest first."""
    rows = connection.execute("SELECT * FROM supply_order ORDER BY day DESC, id DESC").fetchall()
    return _orders(connection, rows)


def order(connection: Connection, number: int) -> SupplyOrder:
    """One order; NotFoundError where there is none."""
    row = connection.execute("SELECT * FROM supply_order WHERE id = :id", {"id": number}).fetchone()
    if row is None:
        raise NotFoundError(f"order {number}")
    return _orders(connection, [row])[0]


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
        before = newest(connection, number, based_on)
        landed(replace(bill, lines=before.bill.lines), terms_of_trade.rates(connection))
        connection.execute(
            """UPDATE supply_order SET day = :day, due = :due, at_worst = max(at_worst, :due), notes = :notes,
                      postage_minor = :postage, charges_minor = :charges, discount_minor = :discount,
                      duty_percent = :duty, tax_percent = :tax, tax_on_postage = :on, version = version + 1
                WHERE id = :id""",
            {"id": number, "day": bill.day, "due": due, "notes": notes, **_sums(bill)},
        )
        _reprice(connection, order(connection, number))


def newest(connection: Connection, number: int, based_on: int | None = None) -> SupplyOrder:
    """The order as it is; StaleVersionError where a form was made from an older version of it."""
    found = order(connection, number)
    if based_on is not None and found.version != based_on:
        raise StaleVersionError(based_on, found.version, "order")
    return found


def landed_of(connection: Connection, found: SupplyOrder) -> Landed | None:
    """The order's landed cost; None where no rate is old enough."""
    return landed_by(connection, terms_of_trade.rates(connection), found)


def landed_by(connection: Connection, rates: Rates, found: SupplyOrder) -> Landed | None:
    """The same, by rates that were read already; worked out once for a bill and rates."""
    return connection.kept.pure(_landed, found.bill, rates)


def _landed(bill: Billed, rates: Rates) -> Landed | None:
    try:
        return landed(bill, rates)
    except RateError:
        return None


def costs_of(connection: Connection, found: SupplyOrder) -> dict[int, list[Money]]:
    """What each piece costs, by line: at home, or in the order's currency without a rate so old."""
    shares = landed_of(connection, found)
    if shares is None:
        return {line.id: [Money.of(line.price, found.bill.currency)] * line.pieces for line in found.lines}
    home = shares.total_home.currency
    return {
        line.id: [Money(cost, home) for cost in told.pieces_home]
        for line, told in zip(found.lines, shares.lines, strict=True)
    }


def _reprice(connection: Connection, found: SupplyOrder) -> None:
    """Tell the pieces of an order what they cost by now."""
    costs = costs_of(connection, found)
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


def awaited_orders(connection: Connection) -> list[SupplyOrder]:
    """The orders of which something is still to come."""
    return [each for each in orders(connection) if each.state.is_awaited]


def awaited(connection: Connection) -> Mapping[str, int]:
    """Pieces that are on their way to nobody in particular or to any watch, by the key of what they are."""
    return awaited_in(awaited_orders(connection))


def awaited_in(orders: Iterable[SupplyOrder]) -> Mapping[str, int]:
    """The same of orders that were read already and are awaited."""
    found: dict[str, int] = {}
    for each in orders:
        for line in each.lines:
            key = key_of(line.part_id, line.sundry_id)
            found[key] = found.get(key, 0) + each.open_pieces(line)
    return found


def _orders(connection: Connection, rows: Sequence[sqlite3.Row]) -> list[SupplyOrder]:
    """The orders of these rows with their lines and steps, each asked for once and not once an order."""
    ids = json.dumps([row["id"] for row in rows])
    lines, steps = _lines(connection, ids), _steps(connection, ids)
    sellers = {row["id"]: row["name"] for row in connection.execute("SELECT id, name FROM supplier")}
    return [
        SupplyOrder(
            row["id"], row["version"], row["supplier_id"],
            Billed(
                sellers[row["supplier_id"]], row["currency"], row["day"],
                billed_lines(tuple(lines[row["id"]])), row["postage_minor"], row["charges_minor"],
                row["discount_minor"], Decimal(row["duty_percent"]), Decimal(row["tax_percent"]),
                bool(row["tax_on_postage"]),
            ),
            row["due"], row["at_worst"], row["notes"], tuple(lines[row["id"]]), tuple(steps[row["id"]]),
        )
        for row in rows
    ]  # fmt: skip


def _lines(connection: Connection, ids: str) -> defaultdict[int, list[SupplyLine]]:
    found: defaultdict[int, list[SupplyLine]] = defaultdict(list)
    for line in connection.execute(
        """SELECT supply_line.*, coalesce(part.name, sundry.name) AS name FROM supply_line
             LEFT JOIN part ON part.id = part_id LEFT JOIN sundry ON sundry.id = sundry_id
            WHERE order_id IN (SELECT value FROM json_each(:ids)) ORDER BY supply_line.id""",
        {"ids": ids},
    ):
        found[line["order_id"]].append(
            SupplyLine(
                line["id"], line["name"], line["part_id"], line["sundry_id"], line["pieces"],
                Decimal(line["price"]), line["watch_id"],
            )
        )  # fmt: skip
    return found


STEP_COLUMNS = ("id", "what", "line_id", "pieces", "minor", "words", "day", "undoes")


def _steps(connection: Connection, ids: str) -> defaultdict[int, list[SupplyStep]]:
    found: defaultdict[int, list[SupplyStep]] = defaultdict(list)
    for step in connection.execute(
        """SELECT * FROM supply_step WHERE order_id IN (SELECT value FROM json_each(:ids)) ORDER BY id""",
        {"ids": ids},
    ):
        found[step["order_id"]].append(SupplyStep(*(step[name] for name in STEP_COLUMNS)))
    return found
