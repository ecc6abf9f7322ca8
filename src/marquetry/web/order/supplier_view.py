"""Suppliers: how each sells, how its orders went, what it offers; rates, pay and sundries beside them."""

from dataclasses import dataclass
from statistics import median

from marquetry.core.trade.series import SPARES
from marquetry.core.trade.supply import SupplyOrder
from marquetry.core.values.day import days_between
from marquetry.core.values.money import Money
from marquetry.store import supply_orders, terms_of_trade
from marquetry.store.database import Connection
from marquetry.store.mishaps import found_wrong
from marquetry.store.suppliers import KnownOffer, Supplier, offers_in_force, suppliers
from marquetry.store.terms_of_trade import HOUR_KINDS, Sundry, TradeTerms


@dataclass(frozen=True, slots=True)
class SupplierRecord:
    """How a supplier's orders went: what it really took, in days, and what became of its faults."""

    orders: int
    taken: tuple[int, ...]
    late: int
    faulty: int
    returned: int
    refunded: int
    lost: int
    at_bench: tuple[str, ...]
    """What the bench found of its parts: the day, the part, what was wrong."""

    @property
    def in_words(self) -> str:
        """The days it really took, in words."""
        if not self.taken:
            return "no order has arrived yet"
        least, most = min(self.taken), max(self.taken)
        span = (
            f"{least} days" if least == most else f"{least} to {most} days, mostly {median(self.taken):.0f}"
        )
        return f"took {span} in {len(self.taken)} {'order' if len(self.taken) == 1 else 'orders'}"


@dataclass(frozen=True, slots=True)
class SupplierView:
    """A supplier on the page, sums as its fields show them."""

    supplier: Supplier
    record: SupplierRecord
    offers: tuple[KnownOffer, ...]
    has_rate: bool

    def plain(self, minor: int | None) -> str:
        """A sum as a field shows it; nothing where there is none."""
        return Money(minor, self.supplier.terms.currency).plain if minor else ""

    def told(self, minor: int) -> Money:
        """A sum in its currency."""
        return Money(minor, self.supplier.terms.currency)


@dataclass(frozen=True, slots=True)
class RateRow:
    """A rate from a day on, as it was typed."""

    currency: str
    day: str
    rate: str


@dataclass(frozen=True, slots=True)
class TradePage:
    """All that the suppliers' page shows."""

    views: tuple[SupplierView, ...]
    rates: tuple[RateRow, ...]
    terms: TradeTerms
    sundries: tuple[Sundry, ...]
    today: str
    errors: dict[str, str]
    hour_kinds: tuple[str, ...] = HOUR_KINDS
    spare_kinds: tuple[str, ...] = tuple(SPARES)

    @property
    def missing_rates(self) -> tuple[str, ...]:
        """Currencies of suppliers that no rate of today is known for."""
        return tuple(sorted({v.supplier.terms.currency for v in self.views if not v.has_rate}))

    def pay(self, kind: str) -> str:
        """The pay of an hour as its field shows it; empty until it is set."""
        return self.terms.pay(kind).plain if self.terms.has_rate(kind) else ""


def record_of(orders: list[SupplyOrder], today: str, at_bench: tuple[str, ...] = ()) -> SupplierRecord:
    """How these orders went; days in whole numbers."""
    taken = tuple(
        days_between(order.bill.day, last) for order in orders if (last := order.days_taken()) is not None
    )
    counts = dict.fromkeys(("faulty", "returned", "refunded", "lost"), 0)
    for order in orders:
        for step in order.valid_steps:
            if step.what in counts:
                counts[step.what] += step.pieces
    late = sum(order.is_late(today) for order in orders)
    return SupplierRecord(len(orders), taken, late, at_bench=at_bench, **counts)


def trade_page(connection: Connection, today: str, errors: dict[str, str] | None = None) -> TradePage:
    """Compute the page of all suppliers."""
    every, rates = supply_orders.orders(connection), terms_of_trade.rates(connection)
    offers = offers_in_force(connection)
    views = tuple(
        SupplierView(
            one,
            record_of(
                [o for o in every if o.supplier_id == one.id],
                today,
                tuple(found_wrong(connection, one.terms.name)),
            ),
            tuple(offer for offer in offers if offer.supplier_id == one.id),
            rates.knows(one.terms.currency, today),
        )
        for one in suppliers(connection)
    )
    rows = tuple(
        RateRow(currency, day, f"{rate}")
        for currency, days in rates.by_currency.items()
        for day, rate in sorted(days.items(), reverse=True)
    )
    terms = terms_of_trade.trade_terms(connection)
    return TradePage(views, rows, terms, tuple(terms_of_trade.sundries(connection)), today, errors or {})
