"""Orders and books on disk: what arrives costs what it landed at, and nothing is made or lost by any move."""

import io
import random
import sqlite3
import zipfile
from collections.abc import Iterator
from contextlib import suppress
from decimal import Decimal
from pathlib import Path

import pytest

from marquetry.core.trade.landed import Billed
from marquetry.core.trade.offer import Offer, SupplierTerms
from marquetry.core.trade.supply import SupplyState
from marquetry.core.values.errors import (
    MarquetryError,
    NotFoundError,
    RateError,
    StaleVersionError,
    TakenError,
)
from marquetry.core.values.money import Money
from marquetry.store import (
    archive,
    archive_in,
    bookings,
    donors,
    pieces,
    pieces_in_watch,
    quotes,
    shelf,
    stock_takings,
    suppliers,
    supply_orders,
    supply_steps,
    terms_of_trade,
    watches,
)
from marquetry.store.bookings import NewBooking
from marquetry.store.database import Connection, connect, open_workshop
from marquetry.store.migrating import migrations
from marquetry.store.quotes import GivenNumber
from marquetry.store.supply_orders import NewLine
from marquetry.store.supply_steps import Arrival
from tests.store.test_shelf import dial
from tests.strategies import MODEL, case_build

DAY = "2026-11-10"


@pytest.fixture
def connection(tmp_path: Path) -> Iterator[Connection]:
    open_workshop(tmp_path / "w.sqlite3", MODEL)
    opened = connect(tmp_path / "w.sqlite3", MODEL)
    terms_of_trade.set_rate(opened, "GBP", "2026-11-01", Decimal("1.17"))
    yield opened
    opened.close()


def ordered(connection: Connection, count: int, watch: int | None = None, price: str = "10.00") -> int:
    """An order in pounds of so many dials, with postage, duty and tax, sent."""
    seller = next(iter(suppliers.suppliers(connection)), None)
    number = (
        seller.id if seller else suppliers.add_supplier(connection, SupplierTerms("Avocet", "GBP", 400, 9))
    )
    part = shelf.part_named(connection, "dial", "Gull grey")
    part_id = part.id if part else shelf.add_part(connection, dial("Gull grey"))
    bill = Billed("Avocet", "GBP", DAY, (), 400, 0, 100, Decimal("4.5"), Decimal(20), tax_on_postage=True)
    lines = [NewLine(part_id, None, count, Decimal(price), watch)]
    order = supply_orders.add_order(
        connection, suppliers.supplier(connection, number), bill, ("2026-11-19", "2026-11-22"), lines
    )
    supply_steps.take_step(connection, order, "sent", DAY)
    return order


def line_of(connection: Connection, number: int) -> int:
    return supply_orders.order(connection, number).lines[0].id


def test_pieces_cost_what_they_landed_at_and_follow_the_bill_and_the_rate(connection: Connection) -> None:
    watch = watches.add_watch(connection, case_build(1).renamed("Skerry"))
    number = ordered(connection, 3, watch)
    supply_steps.arrive(
        connection, number, line_of(connection, number), Arrival(2, 1, "Drawer D1", "a scratch"), DAY
    )
    order = supply_orders.order(connection, number)
    assert (order.state, order.is_late("2026-11-20"), order.is_late("2026-11-19")) == (
        SupplyState.PART_ARRIVED,
        True,
        False,
    )
    held = pieces.pieces_of_part(connection, order.lines[0].part_id or 0)
    assert [(p.stock.condition, p.stock.kept_for, p.stock.place) for p in held] == [
        ("new", watch, "Drawer D1"),
        ("faulty", None, "Drawer D1"),
    ]
    found = supply_orders.landed_of(connection, order)
    assert found is not None
    assert [p.stock.paid for p in held] == [Money(cost, "EUR") for cost in found.lines[0].pieces_home[:2]]
    supply_steps.arrive(connection, number, line_of(connection, number), Arrival(1), DAY)
    terms_of_trade.set_rate(connection, "GBP", "2026-11-05", Decimal("1.25"))
    supply_orders.reprice_all(connection)
    bill = Billed("Avocet", "GBP", DAY, order.bill.lines, 400, 250, 0, Decimal(0), Decimal(0))
    version = supply_orders.order(connection, number).version
    supply_orders.change_bill(connection, number, version, bill, "2026-11-25", "customs came later")
    paid = [p.stock.paid for p in pieces.pieces_of_part(connection, order.lines[0].part_id or 0)]
    assert sum(money.minor for money in paid if money) == round((3000 + 400 + 250) * 1.25)
    with pytest.raises(StaleVersionError):
        supply_orders.change_bill(connection, number, version, bill, "2026-11-25", "")


def test_a_return_that_is_half_refunded_leaves_its_rest_with_the_watch(connection: Connection) -> None:
    watch = watches.add_watch(connection, case_build(1).renamed("Skerry"))
    number = ordered(connection, 2, watch)
    line = line_of(connection, number)
    supply_steps.arrive(connection, number, line, Arrival(2, 1), DAY)
    for what, count in (("returned", 3), ("refunded", 1), ("lost", 1)):
        with pytest.raises(TakenError, match="at most"):
            supply_steps.take_step(connection, number, what, DAY, line, count)  # type: ignore[arg-type]  # from a table
    supply_steps.take_step(connection, number, "returned", DAY, line, 1)
    gone = next(p for p in pieces.pieces_of_part(connection, 1) if p.state == "returned")
    refund = supply_steps.take_step(connection, number, "refunded", DAY, line, 1, 950)
    cost, back = gone.stock.paid, Money(round(950 * 1.17), "EUR")
    assert cost is not None
    assert bookings.ledger_of(connection, watch, DAY).sum_of("loss").minor == cost.minor - back.minor
    supply_steps.undo_step(connection, number, refund, DAY)
    ledger = bookings.ledger_of(connection, watch, DAY)
    assert ledger.total.minor == 0
    assert len([entry for entry in ledger.entries if entry.undone]) == 2, (
        "what was booked stays, and is reversed"
    )
    with pytest.raises(TakenError, match="already"):
        supply_steps.undo_step(connection, number, refund, DAY)


@pytest.mark.parametrize("seed", range(4))
def test_losses_are_what_is_gone_less_what_came_back_in_any_order(connection: Connection, seed: int) -> None:
    """Lost and returned pieces of one line, refunded in any portions: no cent is made or lost."""
    draw = random.Random(seed)
    watch = watches.add_watch(connection, case_build(1).renamed("Skerry"))
    number = ordered(connection, 6, watch, f"{draw.randint(700, 1900) / 100}")
    line, back = line_of(connection, number), 0
    for _ in range(40):
        what = draw.choice(("arrived", "lost", "returned", "refunded"))
        minor = draw.randint(0, 900) if what == "refunded" else 0
        with suppress(TakenError):
            if what == "arrived":
                supply_steps.arrive(connection, number, line, Arrival(1), DAY)
            else:
                supply_steps.take_step(connection, number, what, DAY, line, draw.randint(1, 2), minor)  # type: ignore[arg-type]  # drawn
                back += round(minor * 1.17)
    order = supply_orders.order(connection, number)
    gone = order.count(order.lines[0], "returned") + order.count(order.lines[0], "lost")
    left = gone - order.count(order.lines[0], "refunded")
    if left:
        supply_steps.take_step(connection, number, "refunded", DAY, line, left, 0)
    found = supply_orders.landed_of(connection, order)
    here = connection.execute(
        "SELECT coalesce(sum(paid_minor), 0) FROM piece WHERE state = 'shelf'"
    ).fetchone()[0]
    assert found is not None
    awaited = (
        found.lines[0].pieces_home[-order.open_pieces(order.lines[0]) :]
        if order.open_pieces(order.lines[0])
        else ()
    )
    loss = bookings.ledger_of(connection, watch, DAY).sum_of("loss").minor
    assert loss == found.total_home.minor - sum(awaited) - here - back


def test_books_are_kept_at_home_and_a_loss_without_a_rate_is_refused(connection: Connection) -> None:
    watch = watches.add_watch(connection, case_build(1).renamed("Skerry"))
    number = ordered(connection, 1, watch)
    terms_of_trade.set_rate(connection, "GBP", "2026-11-01", None)
    with pytest.raises(RateError, match="GBP"):
        supply_steps.take_step(connection, number, "lost", DAY, line_of(connection, number), 1)
    assert supply_orders.order(connection, number).state is SupplyState.SENT
    booked = bookings.book(connection, watch, NewBooking("other", "paint", Money(1000, "EUR"), DAY))
    terms_of_trade.set_terms(connection, {"home": "GBP"})
    ledger = bookings.ledger_of(connection, watch, DAY)
    assert ledger.unpriced == ("paint: 10.00\u00a0EUR",), (
        "another home's sum is no home's until there is a rate"
    )
    terms_of_trade.set_rate(connection, "EUR", "2026-11-01", Decimal("0.85"))
    terms_of_trade.set_rate(connection, "EUR", "2026-11-20", Decimal("0.90"))
    assert bookings.ledger_of(connection, watch, DAY).total == Money(850, "GBP")
    bookings.reverse(connection, watch, booked, "2026-11-25")
    assert bookings.ledger_of(connection, watch, "2026-11-25").total.minor == 0


def test_a_lost_order_is_a_loss_until_it_is_refunded_and_one_called_off_is_none(
    connection: Connection,
) -> None:
    watch = watches.add_watch(connection, case_build(1).renamed("Skerry"))
    number = ordered(connection, 1, watch)
    line = line_of(connection, number)
    total = supply_orders.landed_of(connection, supply_orders.order(connection, number))
    assert total is not None
    supply_steps.take_step(connection, number, "lost", DAY, line, 1)
    assert supply_orders.order(connection, number).state is SupplyState.LOST
    assert bookings.ledger_of(connection, watch, DAY).total == total.total_home
    supply_steps.take_step(connection, number, "refunded", DAY, line, 1, total.total.minor)
    assert bookings.ledger_of(connection, watch, DAY).total.minor == 0
    other = ordered(connection, 1, watch)
    step = supply_steps.take_step(connection, other, "called off", DAY)
    with pytest.raises(TakenError, match="called off"):
        supply_steps.arrive(connection, other, line_of(connection, other), Arrival(1), DAY)
    supply_steps.undo_step(connection, other, step, DAY)
    assert supply_orders.awaited(connection) == {"part:1": 1}


def test_the_ledger_is_the_sum_of_its_entries_after_any_moves(connection: Connection) -> None:
    """Against a reckoning of our own: what lies in the watch, and every booking that was not reversed."""
    draw = random.Random(7)
    watch = watches.add_watch(connection, case_build(1).renamed("Skerry"))
    booked: dict[int, int] = {}
    for turn in range(160):
        kind = draw.choice(
            ("order", "arrive", "in", "out", "book", "reverse", "spoil", "lose", "undo", "rebill")
        )
        with suppress(MarquetryError):
            _move(connection, draw, (watch, kind), booked)
        ledger = bookings.ledger_of(connection, watch, DAY)
        inside = connection.execute(
            "SELECT coalesce(sum(paid_minor), 0) FROM piece JOIN in_watch ON piece_id = piece.id WHERE watch_id = ?",
            (watch,),
        ).fetchone()[0]
        losses = connection.execute(
            "SELECT coalesce(sum(minor), 0) FROM booking WHERE kind = 'loss'"
        ).fetchone()[0]
        assert ledger.total.minor == sum(entry.minor for entry in ledger.entries), (turn, kind)
        assert ledger.total.minor == inside + sum(booked.values()) + losses, (turn, kind)
        for order in supply_orders.orders(connection):
            found = supply_orders.landed_of(connection, order)
            held = connection.execute(
                "SELECT sum(paid_minor) FROM piece JOIN supply_line ON supply_line.id = line_id WHERE order_id = ?",
                (order.id,),
            ).fetchone()[0]
            if order.state is SupplyState.ARRIVED and not any(s.what == "lost" for s in order.valid_steps):
                assert found is not None
                assert held == found.total_home.minor, "the pieces cost what the order did"


def _move(connection: Connection, draw: random.Random, what: tuple[int, str], booked: dict[int, int]) -> None:
    watch, kind = what
    orders = supply_orders.orders(connection)
    order = draw.choice(orders) if orders else None
    owned = pieces.pieces_of_part(connection, 1) if orders else []
    stored = watches.watch(connection, watch)
    if kind == "order" or order is None:
        ordered(connection, draw.randint(1, 4), watch, str(draw.randint(100, 2000) / 100))
    elif kind == "arrive":
        supply_steps.arrive(
            connection, order.id, order.lines[0].id, Arrival(draw.randint(1, 2), draw.randint(0, 1)), DAY
        )
    elif kind == "rebill":
        bill = Billed(
            "Avocet",
            "GBP",
            DAY,
            order.bill.lines,
            draw.randint(0, 900),
            draw.randint(0, 300),
            0,
            Decimal(3),
            Decimal(19),
        )
        supply_orders.change_bill(connection, order.id, order.version, bill, order.due, "")
    elif kind == "in" and owned:
        build = pieces_in_watch.filled(stored.build, draw.choice(owned))
        watches.save(connection, watch, stored.version, build, "in")
    elif kind == "out":
        watches.save(connection, watch, stored.version, stored.build.without("dial"), "out")
    elif kind == "book":
        minor = draw.randint(1, 5000)
        booked[bookings.book(connection, watch, NewBooking("other", "x", Money(minor, "EUR"), DAY))] = minor
    elif kind == "reverse" and booked:
        number = draw.choice(list(booked))
        bookings.reverse(connection, watch, number, DAY)
        del booked[number]
    elif kind == "spoil" and owned:
        piece = draw.choice(owned)
        number = bookings.book_spoilt(connection, watch, piece.id, "cut", DAY)
        booked[number] = piece.stock.paid.minor if piece.stock.paid else 0
    elif kind == "lose":
        supply_steps.take_step(connection, order.id, "lost", DAY, order.lines[0].id, 1)
    elif kind == "undo" and order.valid_steps:
        supply_steps.undo_step(connection, order.id, draw.choice(order.valid_steps).id, DAY)


def test_a_donors_price_is_shared_by_the_catalogue_or_by_weight_and_sales_change_no_piece(
    connection: Connection,
) -> None:
    build = case_build(1).renamed("Turnstone")
    number = donors.take_apart(connection, build, Money(4501, "EUR"))
    held = pieces.pieces_of_donor(connection, number)
    assert sum(p.stock.paid.minor for p in held if p.stock.paid) == 4501
    donors.share_out(connection, number, {held[0].id: 2, held[1].id: 1})
    shares = [p.stock.paid.minor for p in pieces.pieces_of_donor(connection, number) if p.stock.paid]
    assert shares[:3] == [3001, 1500, 0]
    pieces.sell(connection, held[0].id, Money(1200, "EUR"), "to a friend")
    assert donors.balance_of(connection, number) == (Money(3301, "EUR"), ())
    assert [p.stock.paid.minor for p in pieces.pieces_of_donor(connection, number) if p.stock.paid] == shares
    pieces.change_state(connection, held[0].id, "shelf", "it came back")
    assert donors.balance_of(connection, number)[0] == Money(4501, "EUR")


def test_prices_are_remembered_and_an_ended_offer_is_in_no_plan(connection: Connection) -> None:
    ordered(connection, 1)
    seller = suppliers.suppliers(connection)[0]
    for price, day in (("10.00", "2026-10-01"), ("11.50", "2026-11-01"), ("9.00", "2026-09-01")):
        offer = Offer("Avocet", "part:1", Decimal(price), "GBP")
        last = suppliers.add_offer(connection, seller.id, "part:1", offer, day)
    assert [str(one.offer.price) for one in suppliers.offers_in_force(connection)] == ["11.50"]
    assert [str(one.offer.price) for one in suppliers.offers_of(connection, 1)] == ["11.50", "10.00", "9.00"]
    suppliers.end_offer(connection, last, "2026-11-20")
    assert suppliers.offers_in_force(connection) == []
    with pytest.raises(TakenError, match="already"):
        suppliers.add_supplier(connection, SupplierTerms("Avocet", "EUR", 0, 1))


def test_numbers_of_a_series_are_given_once_and_a_quote_stays_as_told(connection: Connection) -> None:
    watch = watches.add_watch(connection, case_build(1).renamed("Skerry"))
    quotes.set_series(connection, watch, 0, 3)
    quotes.give_number(connection, watch, GivenNumber(2, "the boathouse", "", DAY))
    for number in (2, 4):
        with pytest.raises(TakenError):
            quotes.give_number(connection, watch, GivenNumber(number, "another", "", DAY))
    version = quotes.series_of(connection, watch).version
    with pytest.raises(TakenError, match="given out"):
        quotes.set_series(connection, watch, version, 1)
    quotes.take_number_back(connection, watch, 2)
    quotes.set_series(connection, watch, version, 1)
    assert quotes.tell_quote(connection, watch, {"total": "90.00 EUR"}, DAY) == 1
    assert quotes.tell_quote(connection, watch, {"total": "95.00 EUR"}, DAY) == 2
    assert [told.told["total"] for told in quotes.quotes_of(connection, watch)] == ["95.00 EUR", "90.00 EUR"]
    with pytest.raises(NotFoundError):
        quotes.quote_of(connection, watch, 3)


def test_a_drawer_is_counted_and_what_is_not_found_leaves_the_books(connection: Connection) -> None:
    number = ordered(connection, 3)
    supply_steps.arrive(connection, number, line_of(connection, number), Arrival(3, 0, "Drawer D1"), DAY)
    first, second, third = pieces.pieces_of_part(connection, 1)
    count = stock_takings.begin_taking(connection, "Drawer D1", DAY)
    assert stock_takings.begin_taking(connection, "Drawer D1", DAY) == count, (
        "one that is not done is gone on with"
    )
    stock_takings.count_piece(connection, count, first.id, found=True)
    stock_takings.count_piece(connection, count, second.id, found=False)
    assert stock_takings.finish_taking(connection, count) == 1
    assert [pieces.piece(connection, p.id).state for p in (first, second, third)] == [
        "shelf",
        "scrapped",
        "shelf",
    ]
    with pytest.raises(TakenError, match="done"):
        stock_takings.count_piece(connection, count, third.id, found=True)
    (held,) = stock_takings.lying(connection)
    assert (held.place, len(held.pieces)) == ("Drawer D1", 2)


def test_hundredths_of_an_older_workshop_become_minor_units(tmp_path: Path) -> None:
    """In the database by its migration, in an archive as it comes in."""
    file = tmp_path / "old.sqlite3"
    old = sqlite3.connect(file)
    for number, script in migrations()[:8]:
        old.executescript(f"{script}\nPRAGMA user_version = {number};")
    sheet = '{"name": "Gull grey"}'
    for minor, currency in ((120000, "JPY"), (1250, "TND"), (990, "EUR")):
        old.execute(
            "INSERT INTO part (kind, name, sheet, price_minor, currency) VALUES ('dial', ?, ?, ?, ?)",
            (currency, sheet, minor, currency),
        )
    old.commit()
    old.close()
    open_workshop(file, MODEL)
    connection = connect(file, MODEL)
    prices = [stored.terms.price for stored in shelf.parts_of_kind(connection, "dial", 9)]
    assert prices == [Money(990, "EUR"), Money(1200, "JPY"), Money(12500, "TND")]
    packed = io.BytesIO()
    archive.pack(connection, file, packed)
    connection.close()
    older = io.BytesIO()
    with zipfile.ZipFile(packed) as now, zipfile.ZipFile(older, "w") as then:
        for name in now.namelist():
            text = now.read(name).decode()
            if name == archive.MANIFEST:
                text = text.replace('"supply_order": 0,', "")
            then.writestr(name, text)
    other = tmp_path / "new.sqlite3"
    open_workshop(other, MODEL)
    connection = connect(other, MODEL)
    archive_in.unpack(connection, other, older)
    assert [s.terms.price for s in shelf.parts_of_kind(connection, "dial", 9)] == [
        Money(990, "EUR"),
        Money(12, "JPY"),
        Money(125000, "TND"),
    ]
    connection.close()
