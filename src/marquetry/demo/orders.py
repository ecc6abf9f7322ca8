"""The demo's trade: how its four suppliers sell, offers, orders in every state, books, a series with its quote."""

import json
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from decimal import Decimal
from importlib.resources import files

from marquetry.core.trade.landed import Billed
from marquetry.core.trade.ledger import EntryKind, pay
from marquetry.core.trade.offer import Offer, SupplierTerms
from marquetry.core.trade.quote import QuoteLine, QuoteTerms, as_told, quoted
from marquetry.core.trade.supply import SupplyWhat
from marquetry.core.trade.terms import Terms
from marquetry.core.values.day import later
from marquetry.core.values.money import Money
from marquetry.store import bookings, pieces, quotes, suppliers, supply_orders, supply_steps, terms_of_trade
from marquetry.store.bookings import NewBooking
from marquetry.store.database import Connection
from marquetry.store.pieces import Stock
from marquetry.store.quotes import GivenNumber
from marquetry.store.supply_orders import NewLine
from marquetry.store.supply_steps import Arrival

RATES = {
    "GBP": (
        ("2023-01-01", "1.13"), ("2024-01-01", "1.155"), ("2025-01-01", "1.20"), ("2026-01-01", "1.155"),
        ("2026-09-01", "1.17"),
    ),
    "NOK": (("2023-01-01", "0.0950"), ("2024-01-01", "0.0890"), ("2025-01-01", "0.0850"), ("2026-01-01", "0.0855")),
}  # fmt: skip
SELLERS: Mapping[str, tuple[SupplierTerms, str]] = {
    terms.name: (terms, notes)
    for terms, notes in (
        (SupplierTerms("Sandbank Parts", "EUR", 650, 6, 9000, 0, Decimal(0), 10),
         "Took a scratched dial back without a word; the money came after a week."),
        (SupplierTerms("Longshore Horology", "GBP", 780, 11, None, 2500, Decimal("4.5"), 24),
         "Faults only with pictures, within fourteen days."),
        (SupplierTerms("Saltmarsh Tools", "EUR", 490, 4, 6000), "Answers the same day."),
        (SupplierTerms("Fjell & Tang", "NOK", 8900, 9, 90000, 0, Decimal("2.5"), 15), ""),
    )
}  # fmt: skip
OFFERS: tuple[tuple[str, str, str, int, tuple[tuple[int, str], ...], int | None], ...] = (
    ("Sandbank Parts", "Lantern set", "21.00", 1, ((3, "18.50"),), None),
    ("Sandbank Parts", "Stem blank, thread 0.90", "2.10", 5, (), 40),
    ("Sandbank Parts", "Waxed strap 20", "23.50", 1, (), None),
    ("Sandbank Parts", "Tern 27 automatic, date", "84.00", 1, (), 4),
    ("Longshore Horology", "Lamp-room white", "36.00", 1, (), 2),
    ("Longshore Horology", "Lantern set", "16.40", 1, (), None),
    ("Longshore Horology", "Tern 27 automatic, date", "68.00", 1, ((3, "62.00"),), None),
    ("Saltmarsh Tools", "Back O-ring", "1.10", 3, (), None),
    ("Saltmarsh Tools", "I-ring 30.0 x 0.50", "2.30", 1, ((5, "1.90"),), 12),
    ("Fjell & Tang", "Box-edge sapphire 30.0", "265.00", 1, ((3, "240.00"),), 5),
)
SUNDRY_OFFERS = (
    ("Saltmarsh Tools", "Gasket grease", "6.90"), ("Saltmarsh Tools", "Finger cots", "3.20"),
    ("Saltmarsh Tools", "Cleaning putty", "4.50"), ("Saltmarsh Tools", "Adhesive pads", "2.80"),
    ("Sandbank Parts", "Finger cots", "2.90"), ("Sandbank Parts", "Threadlocker, low strength", "7.40"),
)  # fmt: skip
HELD = ("Hand press", "Hand levers and foil", "Stem cutter", "Pin vice", "Crystal press", "Case-back wrench", "Loupe",
        "Sorting tray", "Dust cover", "Hand blower", "Movement rest", "Screwdrivers, 0.8 to 2.0", "Tweezers, brass",
        "Sharpened wood stick", "Press shims", "Caliper", "Eye protection", "Fine file or stone", "Side cutters for feet",
        "Spring-bar tool", "Gloves, powder-free", "Threadlocker, low strength", "Insert adhesive", "Abrasive paper, fine", "Print material, spool")  # fmt: skip


def watch_terms() -> dict[str, Terms]:
    """What the parts of the demo's watches cost, by name, and where they come from."""
    told = json.loads(files("marquetry.demo").joinpath("prices.json").read_text("utf-8"))
    return {
        name: Terms("", seller, Money.of(Decimal(price), SELLERS[seller][0].currency))
        for name, (seller, price) in told.items()
    }


def enter_rates(connection: Connection) -> None:
    """The workshop's rates of exchange, before anything is priced."""
    for currency, days in RATES.items():
        for day, rate in days:
            terms_of_trade.set_rate(connection, currency, day, Decimal(rate))


def trade(connection: Connection, numbers: Mapping[str, int]) -> None:
    """All of it; `numbers` are the watches by their names among the demo's sheets."""
    today = datetime.now(UTC).date().isoformat()
    terms_of_trade.set_terms(
        connection, {"maker": "Kittiwake Bench", "hours": dict.fromkeys(terms_of_trade.HOUR_KINDS, 3000)}
    )
    _sell(connection, today)
    _order(connection, numbers, today)
    _book(connection, numbers["skerry-light"], today)
    _series(connection, numbers["skerry-light"], today)


def _sell(connection: Connection, today: str) -> None:
    for one in suppliers.suppliers(connection):
        terms, notes = SELLERS[one.terms.name]
        suppliers.change_supplier(connection, one.id, one.version, terms, notes)
    known = {one.terms.name: one for one in suppliers.suppliers(connection)}
    terms_of_trade.furnish_sundries(connection)
    things = {one.name: one for one in terms_of_trade.sundries(connection)}
    for name in HELD:
        held = things[name]
        terms_of_trade.change_sundry(connection, held.id, held.version, 1, 1, "Bench, left")
    terms_of_trade.add_sundry(connection, "material", "Brass blanks 28.5 for the lamp-room dial")
    for seller, name, price, pack, breaks, stock in OFFERS:
        steps = tuple((count, Decimal(at)) for count, at in breaks)
        offer = Offer(seller, "", Decimal(price), known[seller].terms.currency, pack, steps, stock)
        suppliers.add_offer(
            connection, known[seller].id, f"part:{_part(connection, name)}", offer, later(today, -9)
        )
    for seller, name, price in SUNDRY_OFFERS:
        offer = Offer(seller, "", Decimal(price), known[seller].terms.currency)
        suppliers.add_offer(
            connection, known[seller].id, f"sundry:{things[name].id}", offer, later(today, -9)
        )


def _part(connection: Connection, name: str) -> int:
    row = connection.execute("SELECT id FROM part WHERE name = ? ORDER BY id", (name,)).fetchone()
    return int(row["id"])


def _placed(
    connection: Connection,
    seller: str,
    day: str,
    lines: list[tuple[str, int, str, int | None]],
) -> int:
    """An order of that day; each line a part, pieces, price and the watch it is for."""
    one = next(one for one in suppliers.suppliers(connection) if one.terms.name == seller)
    terms = one.terms
    bill = Billed(seller, terms.currency, day, (), terms.postage, duty_percent=terms.duty_percent)
    new = [
        NewLine(_part(connection, name), None, count, Decimal(price), watch)
        for name, count, price, watch in lines
    ]
    due = (later(day, terms.days), later(day, terms.up_to or terms.days))
    return supply_orders.add_order(connection, one, bill, due, new)


def arrived_order(  # from whom, when, what, for which watch
    connection: Connection,
    seller: str,
    day: str,
    here: str,
    lines: Sequence[tuple[str, int, str]],
    watch: int,
) -> None:
    """An order for a watch that came whole: sent on its day, here on another."""
    number = _placed(connection, seller, day, [(name, count, price, watch) for name, count, price in lines])
    supply_steps.take_step(connection, number, "sent", day)
    for place, (_, count, _) in enumerate(lines):
        supply_steps.arrive(connection, number, _line(connection, number, place), Arrival(count), here)


def _line(connection: Connection, number: int, place: int = 0) -> int:
    return supply_orders.order(connection, number).lines[place].id


def _order(connection: Connection, numbers: Mapping[str, int], today: str) -> None:
    """Orders in every state: arrived, part arrived and late, sent, open, lost, called off."""
    skerry, ferry, orchard = (numbers[name] for name in ("skerry-light", "night-ferry", "orchard"))

    def step(
        number: int,
        what: SupplyWhat,
        days: int,
        line: int | None = None,
        count: int = 0,
        minor: int = 0,
        words: str = "",
    ) -> None:
        supply_steps.take_step(connection, number, what, later(today, -days), line, count, minor, words)

    def here(number: int, place: int, days: int, look: Arrival) -> None:
        supply_steps.arrive(connection, number, _line(connection, number, place), look, later(today, -days))

    first = _placed(
        connection,
        "Sandbank Parts",
        later(today, -40),
        [
            ("Brass ring, slate", 1, "14.50", skerry),
            ("Grey insert, bare", 1, "12.00", None),
            ("Slate insert", 2, "12.00", skerry),
        ],
    )
    step(first, "sent", 40)
    seen = ((1, 0, "0.02 under the listing"), (1, 0, ""), (2, 1, "one scratched at the edge"))
    for place, (count, faulty, words) in enumerate(seen):
        here(first, place, 32, Arrival(count, faulty, "Drawer C1", words))
    line = _line(connection, first, 2)
    step(first, "returned", 30, line, 1, words="scratched")
    step(first, "refunded", 22, line, 1, 1200)
    second = _placed(
        connection,
        "Longshore Horology",
        later(today, -26),
        [("Coin-edge bezel", 2, "29.00", skerry), ("Rotor, skeleton", 1, "28.00", ferry)],
    )
    step(second, "sent", 26)
    here(second, 0, 12, Arrival(1, 0, "Cabinet K", "clicks firm"))
    third = _placed(
        connection,
        "Fjell & Tang",
        later(today, -3),
        [("Low-dome sapphire 30.1", 1, "297.00", ferry), ("Back O-ring 29.8 x 0.90", 2, "11.00", ferry)],
    )
    step(third, "sent", 3)
    _placed(
        connection,
        "Saltmarsh Tools",
        today,
        [("Brass ring 28.5 x 0.70", 1, "3.00", ferry), ("Spring bars 20.5", 2, "2.00", None)],
    )
    lost = _placed(
        connection, "Sandbank Parts", later(today, -70), [("Fluted crown 6.0, black", 1, "17.00", orchard)]
    )
    step(lost, "sent", 70)
    step(lost, "lost", 45, _line(connection, lost), 1, words="the parcel never came")
    step(lost, "refunded", 38, _line(connection, lost), 1, 1700)
    off = _placed(
        connection, "Longshore Horology", later(today, -15), [("Rotor, sunk waves", 1, "28.00", None)]
    )
    step(off, "called off", 14, words="there is one in the shelf's drawer")


def _book(connection: Connection, watch: int, today: str) -> None:
    terms = terms_of_trade.trade_terms(connection)
    for kind, words, minutes, days in (
        ("talking", "with the museum", 75, 60),
        ("drawing", "the window", 90, 55),
        ("bench", "dial and holder tried", 160, 30),
    ):
        money = pay(minutes, terms.pay(kind))
        bookings.book(
            connection, watch, NewBooking("hours", f"{kind}: {words}", money, later(today, -days), minutes)
        )
    spent: tuple[tuple[EntryKind, str, int, int], ...] = (
        ("consumable", "gasket grease, finger cots", 240, 30),
        ("material", "brass blanks, six of them", 2700, 58),
    )
    for what, on, minor, days in spent:
        bookings.book(connection, watch, NewBooking(what, on, Money(minor, terms.home), later(today, -days)))
    stem = pieces.add_piece(
        connection,
        _part(connection, "Stem blank, thread 0.90"),
        Stock("Drawer S1", paid=Money(420, "EUR"), kept_for=watch),
    )
    bookings.book_spoilt(connection, watch, stem, "cut 0.4 mm too short", later(today, -28))


def _series(connection: Connection, watch: int, today: str) -> None:
    """Three for the lighthouse museum: two numbers given out, and the quote as it was told."""
    quotes.set_series(connection, watch, 0, 3)
    quotes.give_number(
        connection,
        watch,
        GivenNumber(1, "The lamp-room volunteer", "strap for a narrow wrist", later(today, -50)),
    )
    quotes.give_number(connection, watch, GivenNumber(2, "The boathouse volunteer", "", later(today, -50)))
    terms = terms_of_trade.trade_terms(connection)
    lines = (
        QuoteLine("parts", 34900),
        QuoteLine("made parts and material", 940),
        QuoteLine("consumables", 240),
    )
    asked = QuoteTerms(3, 210, 360, Decimal(12), step=5, deposit_percent=Decimal(30))
    found = quoted(lines, asked, terms.pay("bench"))
    told = as_told(
        found,
        "Skerry Light",
        terms.maker,
        later(today, 14),
        "Three watches, numbered; waxed straps; tested before they are handed over.",
    )
    told["query"] = {"count": 3, "hours": "3.5", "setting_up": "6", "margin": "12 %"}
    quotes.tell_quote(connection, watch, told, later(today, -16))
