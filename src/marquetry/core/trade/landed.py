"""What ordered pieces really cost: goods with their shares of postage, charges, discount, duty and tax.

Every share is made in the order's currency, by the largest remainder, so that shares add up exactly; the
total is converted once, and the home sum shared over the pieces by what they cost.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from marquetry.core.trade.rates import Rates
from marquetry.core.trade.shares import shared
from marquetry.core.values.currency import decimals_of
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.money import Money


@dataclass(frozen=True, slots=True)
class OrderedLine:
    """So many pieces of a part; `price` of one in the order's main unit, finer if need be."""

    part: str
    pieces: int
    price: Decimal


@dataclass(frozen=True, slots=True)
class Billed:
    """An order as it is billed. Sums in minor units of its currency, duty and tax in per cent.

    Discount is a positive sum. Duty and tax are on goods after discount, tax with postage where it says so.
    """

    supplier: str
    currency: str
    day: str
    lines: tuple[OrderedLine, ...]
    postage: int = 0
    charges: int = 0
    discount: int = 0
    duty_percent: Decimal = Decimal(0)
    tax_percent: Decimal = Decimal(0)
    tax_on_postage: bool = False

    def goods(self) -> list[int]:
        """Pieces × price of each line, rounded half-even, in minor units."""
        scale = 10 ** decimals_of(self.currency)
        return [round(line.pieces * Fraction(line.price) * scale) for line in self.lines]


@dataclass(frozen=True, slots=True)
class LandedLine:
    """A line with every share, minor units of the order's currency; and what each piece cost in both."""

    line: OrderedLine
    goods: int
    discount: int
    postage: int
    charges: int
    duty: int
    tax: int
    pieces: tuple[int, ...]
    pieces_home: tuple[int, ...]

    @property
    def landed(self) -> int:
        """Goods and all shares, in minor units."""
        return self.goods - self.discount + self.postage + self.charges + self.duty + self.tax

    @property
    def returnable(self) -> tuple[int, ...]:
        """What a refund gives back for each piece, minor units: goods less discount's share, duty and tax."""
        back = self.goods - self.discount + self.duty + self.tax
        return tuple(shared(back, [1] * self.line.pieces))


@dataclass(frozen=True, slots=True)
class Landed:
    """An order's landed cost: its lines, and its total in both currencies."""

    billed: Billed
    lines: tuple[LandedLine, ...]
    total: Money
    total_home: Money

    def sum_of(self, what: str) -> int:
        """The sum of a share over all lines, by its name, in minor units."""
        return sum(int(getattr(line, what)) for line in self.lines)


def landed(billed: Billed, rates: Rates) -> Landed:
    """Share everything out.

    RateError without a rate for the order's day; DimensionError for a discount of more than the goods.
    """
    goods = billed.goods()
    if billed.discount > sum(goods):
        most = Money(sum(goods), billed.currency)
        raise DimensionError("discount", Money(billed.discount, billed.currency), "", f"at most {most}")
    by_value = _weights(goods, billed.lines)
    discount, postage = shared(billed.discount, by_value), shared(billed.postage, by_value)
    charges = shared(billed.charges, by_value)
    after = [value - less for value, less in zip(goods, discount, strict=True)]
    taxed = [a + p for a, p in zip(after, postage, strict=True)] if billed.tax_on_postage else after
    duty, tax = (
        shared(round(sum(on) * Fraction(percent) / 100), _weights(on, billed.lines))
        for on, percent in ((after, billed.duty_percent), (taxed, billed.tax_percent))
    )
    whole = [sum(parts) for parts in zip(after, postage, charges, duty, tax, strict=True)]
    pieces = [shared(cost, [1] * line.pieces) for cost, line in zip(whole, billed.lines, strict=True)]
    total = Money(sum(whole), billed.currency)
    total_home = rates.converted(total, billed.day)
    home = iter(_home_shares(total_home.minor, pieces))
    lines = tuple(
        LandedLine(
            line,
            goods[place],
            discount[place],
            postage[place],
            charges[place],
            duty[place],
            tax[place],
            tuple(pieces[place]),
            tuple(next(home) for _ in pieces[place]),
        )
        for place, line in enumerate(billed.lines)
    )
    return Landed(billed, lines, total, total_home)


def _home_shares(minor: int, pieces: Sequence[Sequence[int]]) -> list[int]:
    return shared(minor, [cost for each in pieces for cost in each])


def _weights(values: Sequence[int], lines: Sequence[OrderedLine]) -> list[int]:
    """Values to share by; where all are worth nothing, pieces."""
    return list(values) if any(values) else [line.pieces for line in lines]
