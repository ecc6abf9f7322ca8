"""`marquetry-order/1`: one order as it is billed in, its landed cost out."""

from decimal import Decimal
from typing import Annotated, Literal

from pydantic import Field

from marquetry.core.trade.landed import Billed, Landed, LandedLine, OrderedLine
from marquetry.core.trade.rates import Rates
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
    in_minor,
    price_text,
    read_as,
)
from marquetry.formats.orders import json_in

FORMAT = "marquetry-order/1"
MOST_LINES = 1_000
SHARES = ("goods", "discount", "postage", "charges", "duty", "tax")


class LineRead(ReadObject):
    """A line as the file has it."""

    part: NameText
    pieces: Pieces
    price: Amount


class BillRead(ReadObject):
    """The whole file. A rate is one for every day, or a mapping from the day it holds from."""

    format: Literal["marquetry-order/1"]
    home: Currency
    rates: dict[Currency, Amount | dict[Day, Amount]] = Field(default_factory=dict)
    supplier: NameText = "supplier"
    currency: Currency
    day: Day
    lines: Annotated[list[LineRead], Field(min_length=1, max_length=MOST_LINES)]
    postage: Amount = Decimal(0)
    charges: Amount = Decimal(0)
    discount: Amount = Decimal(0)
    duty_percent: Amount = Decimal(0)
    tax_percent: Amount = Decimal(0)
    tax_on: Literal["goods", "goods+postage"] = "goods"


def read_bill(content: bytes) -> tuple[Billed, Rates]:
    """An order and the rates beside it, from a file's bytes. FaultsError tells every fault by its path."""
    read = read_as(BillRead, json_in(content))
    faults: list[Fault] = []
    sums = {
        key: in_minor(getattr(read, key), read.currency, (key,), faults)
        for key in ("postage", "charges", "discount")
    }
    by_currency = {}
    for code, told in read.rates.items():
        by_currency[code] = told if isinstance(told, dict) else {"0001-01-01": told}
        faults += [
            (("rates", code), "a rate must be greater than nothing")
            for rate in by_currency[code].values()
            if not rate
        ]
    if faults:
        raise FaultsError(faults)
    billed = Billed(
        read.supplier,
        read.currency,
        read.day,
        tuple(OrderedLine(line.part, line.pieces, line.price) for line in read.lines),
        **sums,
        duty_percent=read.duty_percent,
        tax_percent=read.tax_percent,
        tax_on_postage=read.tax_on != "goods",
    )
    return billed, Rates(read.home, by_currency)


def landed_document(found: Landed) -> dict[str, object]:
    """The landed cost as the file tells it."""
    currency, home = found.billed.currency, found.total_home.currency
    pieces = [
        {
            "part": line.line.part,
            "landed": Money(cost, currency).plain,
            "landed_home": Money(at_home, home).plain,
        }
        for line in found.lines
        for cost, at_home in zip(line.pieces, line.pieces_home, strict=True)
    ]
    return {
        "supplier": found.billed.supplier,
        "day": found.billed.day,
        "currency": currency,
        "home": home,
        "lines": [_line_document(line, currency, home) for line in found.lines],
        "pieces": pieces,
        **{share: Money(found.sum_of(share), currency).plain for share in SHARES},
        "total": found.total.plain,
        "total_home": found.total_home.plain,
    }


def _line_document(line: LandedLine, currency: str, home: str) -> dict[str, object]:
    return {
        "part": line.line.part,
        "pieces": line.line.pieces,
        "price": price_text(line.line.price, currency),
        **{share: Money(getattr(line, share), currency).plain for share in SHARES},
        "landed": Money(line.landed, currency).plain,
        "landed_home": Money(sum(line.pieces_home), home).plain,
    }
