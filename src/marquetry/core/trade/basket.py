"""What is bought where, reckoned exactly: lines, an order a supplier, and the total in home's currency."""

from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.trade.offer import Demand, Offer, SupplierTerms
from marquetry.core.values.day import later


@dataclass(frozen=True, slots=True)
class BoughtLine:
    """So many packs of one offer; `total` in minor units of the supplier's currency."""

    offer: Offer
    packs: int

    @property
    def pieces(self) -> int:
        """Whole count of pieces."""
        return self.packs * self.offer.pack

    @property
    def total(self) -> int:
        """Pieces × price, rounded half-even, in minor units."""
        return self.offer.sum_of(self.packs)


@dataclass(frozen=True, slots=True)
class PlannedOrder:
    """One order of the plan. Sums in minor units of the supplier's currency, `total_home` in home's."""

    supplier: SupplierTerms
    lines: tuple[BoughtLine, ...]
    goods: int
    postage: int
    duty: int
    total_home: int
    arrives: str
    at_worst: str


def bought(demand: Demand, packs: Mapping[int, int]) -> tuple[PlannedOrder, ...]:
    """The orders that so many packs of each offer, named by its place in the demand, come to."""
    orders = []
    for supplier in demand.suppliers:
        lines = tuple(
            BoughtLine(offer, packs[place])
            for place, offer in enumerate(demand.offers)
            if offer.supplier == supplier.name and packs.get(place, 0) > 0
        )
        if lines:
            orders.append(_order(demand, supplier, lines))
    return tuple(orders)


def _order(demand: Demand, supplier: SupplierTerms, lines: tuple[BoughtLine, ...]) -> PlannedOrder:
    goods = sum(line.total for line in lines)
    postage, duty = supplier.postage_on(goods), supplier.duty_on(goods)
    return PlannedOrder(
        supplier,
        lines,
        goods,
        postage,
        duty,
        demand.home_total(supplier, goods + postage + duty),
        later(demand.today, supplier.days),
        later(demand.today, supplier.days if supplier.up_to is None else supplier.up_to),
    )


def keeps_minimum(order: PlannedOrder) -> bool:
    """Whether the supplier would send it."""
    return order.goods >= order.supplier.minimum
