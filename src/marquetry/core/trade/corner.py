"""Within a corner: every set of lines whose total may be the least, reckoned exactly.

There the parts have nothing to do with each other but that goods must reach free postage and minimum. Those
limits get prices: then each part has a cheapest way to be bought, what those cost together is a bound, and a
way that costs more than the room between the bound and the best known total serves nobody (a Lagrangian
bound: Fisher, Management Science 27, 1981). Where too many sets of ways are left, one part's ways are parted
in two and the prices found anew for either half, until few enough are left to be reckoned one by one (branch
and bound).
"""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from marquetry.core.trade.basket import PlannedOrder, bought, keeps_minimum
from marquetry.core.trade.lacking import in_time
from marquetry.core.trade.near import Near, Rows, grown
from marquetry.core.trade.purchase import WHOLE, OrderCorner, Purchase
from marquetry.core.trade.solver import UnsolvedError
from marquetry.core.trade.ways import Buying, OfferedPart, PricedPart

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Whole = NDArray[np.int64]
    Real = NDArray[np.float64]

MARGIN = 0.05
"""Of a minor unit: what the solver's and our own floats may be off together."""
MOST_NODES = 4_000
STEPS = 12
ENOUGH = 1e-4
"""A limit's price found so closely, as a share of the goods' own, is not looked for further."""


@dataclass(frozen=True, slots=True)
class Best:
    """Orders with what decides among equals; `total` in home's minor units."""

    orders: tuple[PlannedOrder, ...]
    total: int
    suppliers: tuple[str, ...]
    pieces: int

    @property
    def rank(self) -> tuple[int, int, tuple[str, ...], int]:
        """Least total first, then fewest suppliers, the earliest names, the fewest pieces."""
        return self.total, len(self.suppliers), self.suppliers, self.pieces


def reckoned(purchase: Purchase, packs: dict[int, int]) -> Best | None:
    """So many packs of each offer, reckoned exactly; None where a minimum is not kept."""
    orders = bought(purchase.demand, packs)
    if not all(map(keeps_minimum, orders)):
        return None
    pieces = sum(line.pieces for order in orders for line in order.lines)
    names = tuple(sorted(order.supplier.name for order in orders))
    return Best(orders, sum(order.total_home for order in orders), names, pieces)


class CornerSearch:
    """One corner of a purchase, searched for orders that beat the best ones known."""

    def __init__(self, purchase: Purchase, corner: OrderCorner, best: Best) -> None:
        import numpy as np  # noqa: PLC0415  # heavy

        self.purchase, self.best, self.nodes = purchase, best, 0
        self.names = sorted(corner.used)
        self.suppliers = [purchase.suppliers[name] for name in self.names]
        self.wants = np.array([corner.wants(s.terms) for s in self.suppliers], dtype=np.int64)
        self.each = np.array([s.of_goods for s in self.suppliers])
        paid = [0.0 if s.terms.name in corner.free else s.of_postage for s in self.suppliers]
        self.base = float(sum(paid) - sum(s.lucky for s in self.suppliers))
        self.limited = [place for place, wanted in enumerate(self.wants) if wanted]
        self.prices: Real = np.zeros(len(self.names))
        for name, price in purchase.limit_prices(corner).items():
            self.prices[self.names.index(name)] = price
        self.corner = corner

    @property
    def limit(self) -> float:
        """What a set of lines may cost to be of interest, unrounded, in home's minor units."""
        return self.best.total + MARGIN

    def search(self) -> Best:
        """The best orders, those known or better ones. UnsolvedError where the corner is too wide."""
        ways = self._ways()
        if ways is not None:
            whole = Near.of(ways, self.names, self.purchase.demand.offers, self.each)
            self._look(whole, self.prices)
        return self.best

    def _ways(self) -> list[list[Buying]] | None:
        """Every way of each part that the room leaves, by the first prices; None where it leaves none."""
        parts = self._priced(self.prices)
        least = [part.least() for part in parts]
        known = [way[1] for way in least if way]
        if len(known) < len(parts):
            return None
        room = self.limit - self.base - float(self.prices @ self.wants) - sum(known)
        if room < 0:
            return None
        return [list(part.within(cost + room)) for part, cost in zip(parts, known, strict=True)]

    def _priced(self, prices: "Real") -> list[PricedPart]:
        demand = self.purchase.demand
        each = dict(zip(self.names, (self.each - prices).tolist(), strict=True))
        return [
            OfferedPart(
                part,
                [
                    (place, day, demand.offers[place], self.purchase.most[place])
                    for place, day in in_time(demand, part)
                    if demand.offers[place].supplier in each
                ],
            ).priced(each)
            for part in self.purchase.parts
        ]

    def _look(self, near: Near, prices: "Real") -> None:
        """One node: raise its bound, drop what the room leaves out, then reckon it or part it."""
        self.nodes += 1
        if self.nodes > MOST_NODES:
            raise UnsolvedError("Too many sets of lines cost nearly the same.")
        if not near.can_reach(self.wants):
            return
        prices = self._raised(near, prices)
        room = self.limit - self._bound(near, prices)
        if room < 0:
            return
        left = near.within(prices, room, self.wants)
        if left is None:
            return
        rows = grown(left, prices, room, self.wants)
        if rows is not None:
            self._reckon(left, rows)
            return
        halves = left.parted(prices)
        for half in sorted(halves, key=lambda half: self._bound(half, prices)):
            self._look(half, prices)

    def _bound(self, near: Near, prices: "Real") -> float:
        return self.base + float(prices @ self.wants) + near.least(prices)

    def _raised(self, near: Near, prices: "Real") -> "Real":
        """The prices moved, one after the other, to where the cheapest ways just reach the limit."""
        prices = prices.copy()
        for place in self.limited:
            top = self.each[place] * WHOLE
            low, high, first = 0.0, top, prices[place] or top / 16
            best = (self._bound(near, prices), prices[place])
            price = first
            for _ in range(STEPS):
                prices[place] = price
                bound, goods = near.cheapest(prices)
                best = max(best, (bound + self.base + float(prices @ self.wants), price))
                if goods[place] < self.wants[place]:
                    low = price
                    price = min(price * 2, (price + top) / 2) if high == top else (low + high) / 2
                else:
                    high = price
                    price = (low + high) / 2
                if high - low < ENOUGH * self.each[place]:
                    break
            prices[place] = best[1]
        return prices

    def _reckon(self, near: Near, rows: Rows) -> None:
        """The exact totals of rows; the best of them where it beats the one known."""
        import numpy as np  # noqa: PLC0415  # heavy

        if not len(rows.pieces):
            return
        totals, sent = np.zeros(len(rows.pieces), dtype=np.int64), np.ones(len(rows.pieces), dtype=bool)
        for column, supplier in enumerate(self.suppliers):
            terms, used = supplier.terms, rows.used[:, column] > 0
            sums, place = np.unique(rows.goods[:, column], return_inverse=True)
            home = np.array([self._home_total(column, int(goods)) for goods in sums], dtype=np.int64)
            totals += np.where(used, home[place], 0)
            sent &= ~used | (rows.goods[:, column] >= terms.minimum)
        if not sent.any() or totals[sent].min() > self.best.total:
            return
        among = np.flatnonzero(sent & (totals == totals[sent].min()))
        row = min(among, key=lambda row: (rows.used[row].sum(), *-rows.used[row], rows.pieces[row]))
        found = reckoned(self.purchase, rows.packs_of(near, int(row)))
        if found is not None and found.rank < self.best.rank:
            self.best = found

    def _home_total(self, column: int, goods: int) -> int:
        terms = self.suppliers[column].terms
        total = goods + terms.postage_on(goods) + terms.duty_on(goods)
        return self.purchase.demand.home_total(terms, total)
