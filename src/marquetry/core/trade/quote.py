"""A price for a client, one watch or a batch: cost to finish, hours and a margin, rounded up to a step."""

from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from marquetry.core.sheet.entries import Json
from marquetry.core.trade.ledger import pay
from marquetry.core.trade.shares import shared
from marquetry.core.values.currency import decimals_of
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.money import Money

STEPS = (1, 5, 10, 50)
"""Whole main units a price is rounded up to."""


@dataclass(frozen=True, slots=True)
class QuoteTerms:
    """What a price is made of besides parts. Minutes of one watch, and of setting up once for the batch.

    The margin is a per cent of the cost, or a sum of home's minor units for each watch; `deposit_percent` is
    of the price.
    """

    count: int = 1
    minutes: int = 0
    setting_up: int = 0
    margin_percent: Decimal = Decimal(0)
    margin_minor: int = 0
    step: int = 5
    deposit_percent: Decimal = Decimal(30)


@dataclass(frozen=True, slots=True)
class QuoteLine:
    """A line of the reckoning, of all watches together, in home's minor units."""

    words: str
    minor: int


@dataclass(frozen=True, slots=True)
class Quote:
    """A price: the lines of its reckoning for the batch, what one and all of them cost, the deposit."""

    terms: QuoteTerms
    lines: tuple[QuoteLine, ...]
    each: Money
    total: Money
    deposit: Money

    @property
    def cost(self) -> Money:
        """All lines added: what the batch costs, margin included, before it is rounded up."""
        return Money(sum(line.minor for line in self.lines), self.each.currency)


def quoted(parts: tuple[QuoteLine, ...], terms: QuoteTerms, hour: Money) -> Quote:
    """The price: `parts` are of one watch. DimensionError where fewer than one is asked for.

    Setting up is shared equally over the batch, hours are rounded each by itself, the margin is added before
    the price of one watch is rounded up to the step.
    """
    if terms.count < 1:
        raise DimensionError("count", terms.count, "", "at least one watch")
    lines = [QuoteLine(line.words, line.minor * terms.count) for line in parts]
    work, setting_up = pay(terms.minutes, hour).minor, pay(terms.setting_up, hour).minor
    lines += [QuoteLine("hours at the bench", work * terms.count)] if terms.minutes else []
    lines += [QuoteLine("setting up, shared", setting_up)] if terms.setting_up else []
    share = max(shared(setting_up, [1] * terms.count))
    cost = sum(line.minor for line in parts) + work + share
    margin = round(cost * Fraction(terms.margin_percent) / 100) + terms.margin_minor
    lines += [QuoteLine("margin", margin * terms.count)] if margin else []
    each = _rounded_up(cost + margin, terms.step * 10 ** decimals_of(hour.currency))
    rest = each * terms.count - sum(line.minor for line in lines)
    lines += [QuoteLine("rounded up", rest)] if rest else []
    total = each * terms.count
    deposit = _rounded_up(
        round(total * Fraction(terms.deposit_percent) / 100), 10 ** decimals_of(hour.currency)
    )
    currency = hour.currency
    return Quote(
        terms,
        tuple(lines),
        Money(each, currency),
        Money(total, currency),
        Money(min(deposit, total), currency),
    )


def as_told(found: Quote, watch: str, maker: str, valid_until: str, included: str) -> dict[str, Json]:
    """The quote as it is kept: words and sums as they were told, whatever changes later."""
    currency = found.each.currency
    return {
        "lines": [[line.words, Money(line.minor, currency).plain] for line in found.lines],
        "count": found.terms.count,
        "each": str(found.each),
        "total": str(found.total),
        "deposit": str(found.deposit),
        "rest": str(found.total + -found.deposit),
        "cost": str(found.cost),
        "valid_until": valid_until,
        "included": included,
        "maker": maker,
        "watch": watch,
    }


def _rounded_up(minor: int, step: int) -> int:
    return -(-minor // step) * step if step else minor
