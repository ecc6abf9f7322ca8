"""`marquetry-orders/1`: needs, suppliers and offers in, the cheapest set of orders out."""

import json
from collections.abc import Sequence
from decimal import Decimal
from typing import Annotated, Literal

from pydantic import Field

from marquetry.core.trade.basket import PlannedOrder
from marquetry.core.trade.offer import Demand, Need, Offer, SupplierTerms
from marquetry.core.trade.plan import OrderPlan
from marquetry.core.values.errors import FaultsError
from marquetry.core.values.money import Money
from marquetry.formats.amounts import (
    Amount,
    Currency,
    Day,
    Fault,
    NameText,
    Pieces,
    ReadObject,
    StockPieces,
    in_minor,
    price_text,
    read_as,
)

FORMAT = "marquetry-orders/1"
MOST_BYTES = 5_000_000
MOST_ROWS = 5_000
Break = Annotated[tuple[Pieces, Amount], Field(strict=False)]
"""A pair that JSON writes as an array; what stands in it is as strict as the rest."""
Days = Annotated[int, Field(ge=0, le=3650)]


class NeedRead(ReadObject):
    """A need as the file has it."""

    part: NameText
    pieces: Pieces
    by: Day | None = None


class SupplierRead(ReadObject):
    """A supplier as the file has it."""

    name: NameText
    currency: Currency
    postage: Amount = Decimal(0)
    free_over: Amount | None = None
    minimum: Amount | None = None
    duty_percent: Amount | None = None
    days: Days
    up_to: Days | None = None


class OfferRead(ReadObject):
    """An offer as the file has it."""

    supplier: NameText
    part: NameText
    price: Amount
    pack: Pieces = 1
    breaks: Annotated[list[Break], Field(max_length=50)] = Field(default_factory=list)
    stock: StockPieces | None = None


class OrdersRead(ReadObject):
    """The whole file."""

    format: Literal["marquetry-orders/1"]
    home: Currency
    rates: dict[Currency, Amount] = Field(default_factory=dict)
    needs: Annotated[list[NeedRead], Field(max_length=MOST_ROWS)]
    stock: dict[NameText, StockPieces] = Field(default_factory=dict)
    suppliers: Annotated[list[SupplierRead], Field(max_length=200)]
    offers: Annotated[list[OfferRead], Field(max_length=MOST_ROWS)]
    today: Day


def read_demand(content: bytes) -> Demand:
    """A demand from a file's bytes. FaultsError tells every fault by its path."""
    return _demand(read_as(OrdersRead, json_in(content)))


def json_in(content: bytes) -> object:
    """The JSON in a file's bytes. FaultsError where it is none."""
    if len(content) > MOST_BYTES:
        raise FaultsError([(("file",), f"at most {MOST_BYTES // 1_000_000} MB")])
    try:
        return json.loads(content.decode("utf-8"), parse_constant=_no_constant)
    except (ValueError, RecursionError):
        raise FaultsError([(("file",), "expected JSON in UTF-8")]) from None


def _no_constant(name: str) -> None:
    raise ValueError(name)


def _demand(read: OrdersRead) -> Demand:
    faults: list[Fault] = [
        (("rates", code), "a rate must be greater than nothing")
        for code, rate in read.rates.items()
        if not rate
    ]
    if read.rates.get(read.home, Decimal(1)) != 1:
        faults.append((("rates", read.home), "one of the home currency is one"))
    terms, seen = [], set[str]()
    for place, supplier in enumerate(read.suppliers):
        at: Sequence[str | int] = ("suppliers", place)
        if supplier.name in seen:
            faults.append(((*at, "name"), f"a second supplier called “{supplier.name}”"))
        if supplier.currency not in {*read.rates, read.home}:
            faults.append(((*at, "currency"), f"no rate for {supplier.currency}"))
        if supplier.up_to is not None and supplier.up_to < supplier.days:
            faults.append(((*at, "up_to"), "fewer days than it usually takes"))
        seen.add(supplier.name)
        terms.append(_terms(supplier, at, faults))
    currencies = {supplier.name: supplier.currency for supplier in read.suppliers}
    for place, offer in enumerate(read.offers):
        if offer.supplier not in currencies:
            faults.append((("offers", place, "supplier"), f"no supplier called “{offer.supplier}”"))
    if faults:
        raise FaultsError(faults)
    offers = tuple(
        Offer(o.supplier, o.part, o.price, currencies[o.supplier], o.pack, tuple(o.breaks), o.stock)
        for o in read.offers
    )
    needs = tuple(Need(need.part, need.pieces, need.by) for need in read.needs)
    return Demand(read.home, read.rates, needs, read.stock, tuple(terms), offers, read.today)


def _terms(read: SupplierRead, at: Sequence[str | int], faults: list[Fault]) -> SupplierTerms:
    def minor(amount: Decimal | None, key: str) -> int | None:
        return None if amount is None else in_minor(amount, read.currency, (*at, key), faults)

    return SupplierTerms(
        read.name,
        read.currency,
        minor(read.postage, "postage") or 0,
        read.days,
        minor(read.free_over, "free_over"),
        minor(read.minimum, "minimum") or 0,
        read.duty_percent or Decimal(0),
        read.up_to,
    )


def plan_document(plan: OrderPlan) -> dict[str, object]:
    """The plan as the file tells it."""
    home = plan.demand.home
    return {
        "total": Money(plan.total, home).plain,
        "currency": home,
        "gap": plan.gap or 0,
        "orders": [_order_document(order, home) for order in plan.orders],
        "missing": list(plan.missing),
        "spare": plan.spare,
    }


def _order_document(order: PlannedOrder, home: str) -> dict[str, object]:
    currency = order.supplier.currency
    return {
        "supplier": order.supplier.name,
        "goods": Money(order.goods, currency).plain,
        "postage": Money(order.postage, currency).plain,
        "duty": Money(order.duty, currency).plain,
        "total_home": Money(order.total_home, home).plain,
        "arrives": order.arrives,
        "lines": [
            {
                "part": line.offer.part,
                "packs": line.packs,
                "pieces": line.pieces,
                "price": price_text(line.offer.price_at(line.pieces), currency),
                "sum": Money(line.total, currency).plain,
            }
            for line in order.lines
        ],
    }
