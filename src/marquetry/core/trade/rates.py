"""Rates of exchange, the builder's own: home currency for one of another, by the day from which they hold."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from fractions import Fraction
from functools import lru_cache

from marquetry.core.values.currency import decimals_of
from marquetry.core.values.errors import RateError
from marquetry.core.values.money import Money


@lru_cache(maxsize=1024)
def minor_ratio(rate: Decimal, currency: str, home: str) -> Fraction:
    """Minor units of home's for one minor unit of the currency: an exact ratio."""
    scale = Fraction(10 ** decimals_of(home), 10 ** decimals_of(currency))
    return Fraction(rate) * scale


@dataclass(frozen=True, slots=True)
class Rates:
    """Every rate that was entered: by currency, the day it holds from and the rate."""

    home: str
    by_currency: Mapping[str, Mapping[str, Decimal]] = field(default_factory=dict)

    def rate(self, currency: str, day: str) -> Decimal:
        """Home currency for one of the other: the newest rate not after the day. RateError without one."""
        if currency == self.home:
            return Decimal(1)
        known = self.by_currency.get(currency, {})
        days = [since for since in known if since <= day]
        if not days:
            raise RateError(currency, day)
        return known[max(days)]

    def knows(self, currency: str, day: str) -> bool:
        """Whether a sum in the currency can be converted on that day."""
        return currency == self.home or any(since <= day for since in self.by_currency.get(currency, {}))

    def converted(self, sum_: Money, day: str) -> Money:
        """The sum in home's currency, rounded half-even once. RateError without a rate so old."""
        if sum_.currency == self.home:
            return sum_
        ratio = minor_ratio(self.rate(sum_.currency, day), sum_.currency, self.home)
        return Money(round(sum_.minor * ratio), self.home)
