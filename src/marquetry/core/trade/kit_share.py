"""What each part of a kit costs, where the seller told a price of the whole: shared among them, and said how.

A whole that is less than its parts' own prices is a discount, and shared by those. What a whole leaves beyond
the priced parts is for those without a price. Postage and tools stand in the whole as well, and are taken off
first: shared among the parts they would make every offer dearer than it is.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from marquetry.core.trade.shares import shared
from marquetry.core.values.money import Money


@dataclass(frozen=True, slots=True)
class KitLine:
    """A part of a kit: its own price of one piece, where there is one, and how many pieces are sold."""

    price: Money | None
    pieces: int = 1


@dataclass(frozen=True, slots=True)
class KitPrice:
    """What one piece of a part costs, and how that is known: empty where it is its own price, or none."""

    price: Money | None
    how: str = ""


BY_THEIR_OWN = "shared from the price of the whole, by the parts' own prices"
EVENLY = "shared from the price of the whole, evenly"


def kit_prices(
    lines: Sequence[KitLine], whole: Money | None, beside: Sequence[Money] = (), *, is_offer: bool = True
) -> list[KitPrice]:
    """The price of one piece of each part; `beside` is what the whole holds that is no part of it.

    `is_offer`: whether the whole is a price of its own (“all together 95 €”). A sum of an order that is less
    than its parts is a slip, theirs or ours, and changes no price. Sums in another currency than the whole's
    are left alone: no rate of the seller's is known.
    """
    own = [KitPrice(line.price) for line in lines]
    if whole is None or any(line.price and line.price.currency != whole.currency for line in lines):
        return own
    other = sum(money.minor for money in beside if money.currency == whole.currency)
    told = sum(line.price.minor * line.pieces for line in lines if line.price)
    open_lines = [place for place, line in enumerate(lines) if line.price is None]
    left = whole.minor - other - told
    if not open_lines:
        return own if left >= 0 or not is_offer else _by_own(lines, whole.minor - other, whole.currency)
    if left <= 0:
        return own
    shares = shared(left, [lines[place].pieces for place in open_lines])
    for place, share in zip(open_lines, shares, strict=True):
        own[place] = KitPrice(Money(share // lines[place].pieces, whole.currency), EVENLY)
    return own


def _by_own(lines: Sequence[KitLine], minor: int, currency: str) -> list[KitPrice]:
    if minor <= 0:
        return [KitPrice(line.price) for line in lines]
    sums = [line.price.minor * line.pieces if line.price else 0 for line in lines]
    return [
        KitPrice(Money(share // line.pieces, currency), BY_THEIR_OWN)
        for share, line in zip(shared(minor, sums), lines, strict=True)
    ]
