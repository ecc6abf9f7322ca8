"""The ways to buy one part: how many packs of which offers, those near the cheapest."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from marquetry.core.trade.lacking import Lacking
from marquetry.core.trade.offer import Offer
from marquetry.core.trade.purchase import tiers_of


@dataclass(frozen=True, slots=True)
class Packs:
    """So many packs of an offer, named by its place, with the goods they are in minor units."""

    place: int
    packs: int
    goods: int


Buying = tuple[tuple[Packs, ...], float]
"""What is bought, and what it costs in home's minor units where every limit has its price."""


class OfferedPart:
    """A part in a corner: its offers there, each with its goods by packs up to the most, in minor units."""

    def __init__(self, part: Lacking, offers: list[tuple[int, str, Offer, int]]) -> None:
        self.part = part
        self.known = [
            (place, day, offer, list(goods_by_packs(offer, most))) for place, day, offer, most in offers
        ]
        self.suppliers = {offer.supplier for _, _, offer, _ in offers}

    def priced(self, each: Mapping[str, float]) -> "PricedPart":
        """The same where a minor unit of goods costs so much of home's at each supplier."""
        return PricedPart(self, each)


class PricedPart:
    """A part whose offers have their costs by packs, the cheapest piece first."""

    def __init__(self, offered: OfferedPart, each: Mapping[str, float]) -> None:
        self.part = offered.part
        rows = []
        for place, day, offer, goods in offered.known:
            costs = [each[offer.supplier] * minor for minor in goods]
            piece = min((cost / (offer.pack * n) for n, cost in enumerate(costs) if n), default=0.0)
            rows.append((piece, place, day, offer, goods, costs))
        rows.sort(key=lambda row: row[:2])
        self.offers = [(place, day, offer) for _, place, day, offer, _, _ in rows]
        self.goods = [row[4] for row in rows]
        self.costs = [row[5] for row in rows]
        self.cheapest = [row[0] for row in rows]
        self.later = [_least_from(costs) for costs in self.costs]

    def least(self) -> Buying | None:
        """The cheapest way; None where none brings all in time. What just covers the need is tried first."""
        best: list[Buying] = []
        self._improve(0, self.part.pieces, 0.0, (), best)
        return best[0] if best else None

    def _improve(
        self, number: int, open_pieces: int, cost: float, taken: tuple[Packs, ...], best: list[Buying]
    ) -> None:
        if number == len(self.offers):
            if open_pieces <= 0 and (not best or cost < best[0][1]) and self._comes_in_time(taken):
                best[:] = [(taken, cost)]
            return
        place, _, offer = self.offers[number]
        costs, enough = self.costs[number], -(-max(open_pieces, 0) // offer.pack)
        for packs in (
            (enough, *self._counts(number, open_pieces)) if enough < len(costs) else range(len(costs))
        ):
            if best and packs and cost + self.later[number][packs] >= best[0][1]:
                if packs == enough:
                    continue
                break
            left = open_pieces - packs * offer.pack
            if best and cost + costs[packs] + self._rest(number, left) >= best[0][1]:
                continue
            more = (Packs(place, packs, self.goods[number][packs]),) if packs else ()
            self._improve(number + 1, left, cost + costs[packs], (*taken, *more), best)

    def _rest(self, number: int, left: int) -> float:
        """What the pieces still open cost at least at the offers after this one, home's minor units."""
        return max(left, 0) * self.cheapest[number + 1] if number + 1 < len(self.offers) else 0.0

    def within(self, limit: float) -> Iterator[Buying]:
        """Every way that costs no more, home's minor units."""
        yield from self._within(limit)

    def _within(self, limit: float) -> Iterator[Buying]:
        yield from self._from(0, self.part.pieces, 0.0, limit, ())

    def _from(
        self, number: int, open_pieces: int, cost: float, limit: float, taken: tuple[Packs, ...]
    ) -> Iterator[Buying]:
        if number == len(self.offers):
            if open_pieces <= 0 and self._comes_in_time(taken):
                yield taken, cost
            return
        place, _, offer = self.offers[number]
        costs, later = self.costs[number], self.later[number]
        for packs in self._counts(number, open_pieces):
            if cost + later[packs] > limit and packs:
                break
            left = open_pieces - packs * offer.pack
            if cost + costs[packs] + self._rest(number, left) > limit:
                continue
            more = (Packs(place, packs, self.goods[number][packs]),) if packs else ()
            yield from self._from(number + 1, left, cost + costs[packs], limit, (*taken, *more))

    def _counts(self, number: int, open_pieces: int) -> Iterator[int]:
        """Counts of packs to try: all of what there is, but none too few where no other offer is left."""
        offer, most = self.offers[number][2], len(self.costs[number]) - 1
        least = -(-open_pieces // offer.pack) if number + 1 == len(self.offers) else 0
        yield from range(max(least, 0), most + 1)

    def _comes_in_time(self, taken: tuple[Packs, ...]) -> bool:
        days = {place: (day, offer.pack) for place, day, offer in self.offers}
        return all(
            sum(days[p.place][1] * p.packs for p in taken if days[p.place][0] <= day) >= pieces
            for day, pieces in self.part.until
        )


def goods_by_packs(offer: Offer, most: int) -> Iterator[int]:
    """What 0, 1, 2 … packs of the offer cost, minor units."""
    yield 0
    for tier in tiers_of(offer, most):
        each = offer.minor_price(tier.price) * offer.pack
        counts = range(tier.first, tier.reach + 1)
        if each.denominator == 1:
            yield from (each.numerator * count for count in counts)
        else:
            yield from (round(each * count) for count in counts)


def _least_from(costs: list[float]) -> list[float]:
    """The least of the costs from each place on."""
    found, least = [], float("inf")
    for cost in reversed(costs):
        least = min(least, cost)
        found.append(least)
    return found[::-1]
