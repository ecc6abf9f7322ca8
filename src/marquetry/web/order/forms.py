"""What the forms of the order room send, and what they come to."""

from decimal import Decimal, InvalidOperation
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.trade.landed import Billed
from marquetry.core.trade.ledger import pay
from marquetry.core.trade.offer import Offer, SupplierTerms
from marquetry.core.trade.quote import STEPS, QuoteTerms
from marquetry.core.trade.supply import SupplyOrder, SupplyWhat
from marquetry.core.values.currency import is_currency
from marquetry.core.values.day import parse_day
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.money import Money, parse_money
from marquetry.store.bookings import NewBooking
from marquetry.store.terms_of_trade import TradeTerms
from marquetry.web.site.sent import FormKey

ShortWords = Annotated[str, Field(max_length=80)]
LongWords = Annotated[str, Field(max_length=400)]
Whole = Annotated[int, Field(ge=0, le=1_000_000)]
MOST_PERCENT = 100_000
MOST_DIGITS = 24


def decimal_of(field: str, text: str, most: int = MOST_PERCENT) -> Decimal:
    """The decimal typed, comma or point; nothing is 0. DimensionError, naming the field, where it is none."""
    typed = text.replace("\u00a0", " ").replace(",", ".").replace("%", "").strip()
    if not typed:
        return Decimal(0)
    try:
        found = Decimal(typed)
    except InvalidOperation:
        found = Decimal("NaN")
    if not found.is_finite() or not 0 <= found <= most or len(typed) > MOST_DIGITS or "e" in typed.lower():
        raise DimensionError(field, f"“{text.strip()[:40]}”", "", f"a number from 0 to {most}, such as 4.5")
    return found


def currency_of(text: str) -> str:
    """The currency typed. DimensionError where ISO 4217 has none such."""
    code = text.strip().upper()
    if not is_currency(code):
        raise DimensionError("currency", f"“{text.strip()[:40]}”", "", "a code such as EUR")
    return code


def refuse_home(currency: str, home: str) -> None:
    """Raise DimensionError for a rate of the home currency, which is one by itself."""
    if currency == home:
        raise DimensionError("rate", currency, "", f"another currency than {home}, which is home")


def minor_of(field: str, text: str, currency: str) -> int | None:
    """The sum typed in minor units of the currency; None where nothing was. DimensionError for another's."""
    found = parse_money(field, text, currency)
    if found is not None and found.currency != currency:
        raise DimensionError(field, f"“{text.strip()[:40]}”", "", f"a sum in {currency}")
    return None if found is None else found.minor


class OrderRoomForm(BaseModel):
    """Every form here leaves out what it does not know."""

    model_config = ConfigDict(extra="ignore")
    sent: FormKey = ""


class SupplierForm(OrderRoomForm):
    """How a supplier sells."""

    version: Whole = 0
    name: Annotated[str, Field(min_length=1, max_length=80)]
    currency: Annotated[str, Field(max_length=3)] = "EUR"
    postage: ShortWords = ""
    free_over: ShortWords = ""
    minimum: ShortWords = ""
    duty: ShortWords = ""
    days: Annotated[int, Field(ge=0, le=3650)] = 14
    up_to: Annotated[str, Field(max_length=4)] = ""
    notes: Annotated[str, Field(max_length=2000)] = ""

    def read(self) -> SupplierTerms:
        """The terms. DimensionError names the field."""
        currency = currency_of(self.currency)
        up_to = int(self.up_to) if self.up_to.strip().isdecimal() else None
        if up_to is not None and up_to < self.days:
            raise DimensionError("up to", up_to, "days", f"at least the usual {self.days}")
        return SupplierTerms(
            self.name.strip(),
            currency,
            minor_of("postage", self.postage, currency) or 0,
            self.days,
            minor_of("free over", self.free_over, currency),
            minor_of("minimum", self.minimum, currency) or 0,
            decimal_of("duty", self.duty),
            up_to,
        )


class OfferForm(OrderRoomForm):
    """What a supplier asks for a part or a sundry, by its key; `breaks` as `10: 0.55; 20: 0.45`."""

    supplier: Whole
    price: ShortWords = ""
    pack: Annotated[int, Field(ge=1, le=100_000)] = 1
    breaks: Annotated[str, Field(max_length=200)] = ""
    stock: Annotated[str, Field(max_length=7)] = ""
    seen: Annotated[str, Field(max_length=10)] = ""

    def read(self, supplier: str, currency: str, key: str) -> Offer:
        """The offer. DimensionError names the field."""
        price = decimal_of("price", self.price.upper().replace(currency, ""), 10**9)
        if not self.price.strip():
            raise DimensionError("price", "“”", "", f"the price of one in {currency}")
        stock = int(self.stock) if self.stock.strip().isdecimal() else None
        return Offer(supplier, key, price, currency, self.pack, tuple(self._breaks()), stock)

    def _breaks(self) -> list[tuple[int, Decimal]]:
        steps = []
        for step in filter(None, (part.strip() for part in self.breaks.split(";"))):
            pieces, _, price = step.partition(":")
            if not pieces.strip().isdecimal() or not price.strip():
                raise DimensionError(
                    "breaks", f"“{step[:40]}”", "", "pieces and price, such as 10: 0.55; 20: 0.45"
                )
            steps.append((int(pieces), decimal_of("breaks", price, 10**9)))
        return steps


class BillForm(OrderRoomForm):
    """What an order is billed, and when it is awaited."""

    version: Whole
    day: Annotated[str, Field(max_length=10)]
    due: Annotated[str, Field(max_length=10)]
    postage: ShortWords = ""
    charges: ShortWords = ""
    discount: ShortWords = ""
    duty: ShortWords = ""
    tax: ShortWords = ""
    tax_on_postage: bool = False
    notes: LongWords = ""

    def read(self, order: SupplyOrder) -> tuple[Billed, str]:
        """The bill and the day it is awaited. DimensionError names the field."""
        currency = order.bill.currency
        bill = Billed(
            order.bill.supplier,
            currency,
            parse_day("day", self.day),
            order.bill.lines,
            minor_of("postage", self.postage, currency) or 0,
            minor_of("charges", self.charges, currency) or 0,
            minor_of("discount", self.discount, currency) or 0,
            decimal_of("duty", self.duty),
            decimal_of("tax", self.tax),
            self.tax_on_postage,
        )
        return bill, parse_day("awaited", self.due)


class StepForm(OrderRoomForm):
    """A step of an order, or of some pieces of a line."""

    version: Whole | None = None
    what: SupplyWhat
    line: Whole | None = None
    pieces: Whole = 0
    amount: ShortWords = ""
    words: LongWords = ""


class ArriveForm(OrderRoomForm):
    """The first look over what arrived: the right part, measured, flaws seen."""

    version: Whole | None = None
    pieces: Annotated[int, Field(ge=1, le=1_000_000)]
    faulty: Whole = 0
    place: ShortWords = ""
    words: LongWords = ""
    right: bool = False


class BookForm(OrderRoomForm):
    """An entry for the books: hours by kind of work, or a sum."""

    kind: Literal["hours", "part", "consumable", "material", "other"]
    words: Annotated[str, Field(max_length=200)] = ""
    amount: ShortWords = ""
    work: ShortWords = "bench"
    time: Annotated[str, Field(max_length=12)] = ""

    def read(self, terms: TradeTerms, day: str) -> NewBooking:
        """The entry. DimensionError names the field."""
        said = self.words.strip()
        if self.kind == "hours":
            minutes = self.minutes()
            words = f"{self.work}: {said}" if said else self.work
            return NewBooking("hours", words, pay(minutes, terms.pay(self.work)), day, minutes)
        minor = minor_of("amount", self.amount, terms.home)
        if minor is None:
            raise DimensionError("amount", "“”", "", "a sum such as 12.50")
        if self.kind == "part":
            # A sum paid for a part that is no piece of the shelf: pieces come into the books by themselves.
            return NewBooking("other", f"part: {said}" if said else "part", Money(minor, terms.home), day)
        return NewBooking(self.kind, said or self.kind, Money(minor, terms.home), day)

    def minutes(self) -> int:
        """Whole minutes of `1:30`, `1.5 h` or `90`. DimensionError where it is no time."""
        typed = self.time.strip().lower().replace(",", ".")
        hours, colon, rest = typed.partition(":")
        if colon and hours.isdecimal() and rest.isdecimal():
            found = 60 * int(hours) + int(rest)
        elif typed.endswith("h"):
            found = round(60 * decimal_of("time", typed[:-1].strip(), 1000))
        else:
            found = int(decimal_of("time", typed.removesuffix("min").strip(), 60_000))
        if not found:
            raise DimensionError("time", f"“{self.time[:20]}”", "", "a time such as 1:30, 1.5 h or 90 min")
        return found


class QuoteLook(OrderRoomForm):
    """What a quote is reckoned with; the address's query, so that a reckoning can be shared."""

    count: Annotated[int, Field(ge=0, le=1000)] = 0
    """Nothing, as long as it was not said: then as many as the series has."""
    hours: Annotated[str, Field(max_length=12)] = ""
    setting_up: Annotated[str, Field(max_length=12)] = ""
    margin: ShortWords = ""
    step: Annotated[int, Field(ge=0, le=1000)] = 5
    deposit: ShortWords = ""
    days: Annotated[int, Field(ge=1, le=365)] = 30
    included: Annotated[str, Field(max_length=1000)] = ""

    def terms(self, home: str) -> QuoteTerms:
        """The terms. A margin is a per cent, `15 %`, or a sum, `80 EUR`. DimensionError names the field."""
        text = self.margin.strip()
        in_sum = text and not text.endswith("%") and not text.replace(",", ".").replace(".", "").isdecimal()
        margin = minor_of("margin", text, home) or 0 if in_sum else 0
        return QuoteTerms(
            self.count,
            _minutes("hours", self.hours),
            _minutes("setting up", self.setting_up),
            Decimal(0) if in_sum else decimal_of("margin", text),
            margin,
            self.step if self.step in STEPS else 5,
            decimal_of("deposit", self.deposit or "30", 100),
        )


def _minutes(field: str, text: str) -> int:
    """Whole minutes of hours typed as `6` or `6.5`."""
    return round(60 * decimal_of(field, text.lower().removesuffix("h").strip(), 10_000))


class DraftingLook(OrderRoomForm):
    """The price of a drafting job: a flat fee, and prints at so much each."""

    fee: ShortWords = ""
    prints: Annotated[int, Field(ge=0, le=1000)] = 0
    each: ShortWords = ""
    for_whom: Annotated[str, Field(max_length=80)] = ""
    what: Annotated[str, Field(max_length=200)] = ""

    def total(self, home: str) -> Money:
        """Fee and prints together. DimensionError names the field."""
        fee, each = minor_of("fee", self.fee, home) or 0, minor_of("a print", self.each, home) or 0
        return Money(fee + self.prints * each, home)
