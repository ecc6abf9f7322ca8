"""Who sells what on which terms: a supplier's postage, limits and duty, and one offer of a part."""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from marquetry.core.trade.rates import minor_ratio
from marquetry.core.values.currency import decimals_of
from marquetry.core.values.money import Money


@dataclass(frozen=True, slots=True)
class SupplierTerms:
    """How a supplier sells. Sums are minor units of its currency, `days` calendar days until it arrives.

    `free_over`: goods of as much travel free; `minimum`: goods of as much are the least it sends;
    `up_to`: days it may take at worst, shown as the risk.
    """

    name: str
    currency: str
    postage: int
    days: int
    free_over: int | None = None
    minimum: int = 0
    duty_percent: Decimal = Decimal(0)
    up_to: int | None = None

    def postage_on(self, goods: int) -> int:
        """Postage of an order of so many minor units of goods, in minor units."""
        return 0 if self.free_over is not None and goods >= self.free_over else self.postage

    def duty_on(self, goods: int) -> int:
        """Duty on goods alone, rounded half-even, in minor units."""
        return round(goods * Fraction(self.duty_percent) / 100)


NO_END = 10**9
"""More packs than anybody buys."""


@dataclass(frozen=True, slots=True)
class Tier:
    """A price that holds from so many packs to so many; `reach` is NO_END where nothing ends it."""

    first: int
    reach: int
    price: Decimal


@dataclass(frozen=True, slots=True)
class Offer:
    """A part at a supplier's. `price` is of one piece in the currency's main unit, also in a pack.

    `breaks`: from so many pieces of the line on, spare ones included, all of it costs that price a piece.
    `stock` is pieces, of which whole packs are sold.
    """

    supplier: str
    part: str
    price: Decimal
    currency: str
    pack: int = 1
    breaks: tuple[tuple[int, Decimal], ...] = ()
    stock: int | None = None

    @property
    def most_packs(self) -> int | None:
        """Whole count of packs that there are; None where it is not said."""
        return None if self.stock is None else self.stock // self.pack

    def price_at(self, pieces: int) -> Decimal:
        """The price of one piece where the line has so many, in the currency's main unit."""
        reached = [step for step in self.breaks if step[0] <= pieces]
        return max(reached, key=lambda step: step[0])[1] if reached else self.price

    def sum_of(self, packs: int) -> int:
        """What so many packs cost, rounded half-even, in minor units."""
        pieces = packs * self.pack
        return round(pieces * self.minor_price(self.price_at(pieces)))

    def minor_price(self, price: Decimal) -> Fraction:
        """A price of one piece in minor units; it may be finer than one."""
        return Fraction(price) * Fraction(10 ** decimals_of(self.currency))

    def tiers(self) -> Iterator[Tier]:
        """Its prices by packs, from the first pack on."""
        starts = sorted({1, *(max(-(-pieces // self.pack), 1) for pieces, _ in self.breaks)})
        for place, first in enumerate(starts):
            reach = starts[place + 1] - 1 if place + 1 < len(starts) else NO_END
            yield Tier(first, reach, self.price_at(first * self.pack))


@dataclass(frozen=True, slots=True)
class Need:
    """So many pieces of a part, wanted by a day or whenever they come."""

    part: str
    pieces: int
    by: str | None = None


@dataclass(frozen=True, slots=True)
class Demand:
    """All that a plan is made from. `rates` are home currency per unit of another, those of `today`."""

    home: str
    rates: dict[str, Decimal]
    needs: tuple[Need, ...]
    stock: dict[str, int]
    suppliers: tuple[SupplierTerms, ...]
    offers: tuple[Offer, ...]
    today: str

    def home_total(self, supplier: SupplierTerms, total: int) -> int:
        """A supplier's minor units as home's, rounded half-even once."""
        return round(total * self.rate(supplier.currency))

    def rate(self, currency: str) -> Fraction:
        """Minor units of home's currency for one minor unit of the other: an exact ratio."""
        rate = Decimal(1) if currency == self.home else self.rates[currency]
        return minor_ratio(rate, currency, self.home)

    def money(self, minor: int) -> Money:
        """A sum in home's currency."""
        return Money(minor, self.home)
