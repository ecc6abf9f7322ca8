"""The cheapest set of orders, exactly: fewest suppliers among equals, then by name, fewest pieces."""

from dataclasses import dataclass

from marquetry.core.trade.basket import PlannedOrder
from marquetry.core.trade.corner import MARGIN, Best, CornerSearch, reckoned
from marquetry.core.trade.lacking import Lacking, can_be_had, lacking
from marquetry.core.trade.offer import Demand, SupplierTerms
from marquetry.core.trade.purchase import LEAST_ON, Purchase
from marquetry.core.trade.solver import Solution, UnsolvedError

MOST_CORNERS = 60
FAR = 200
"""Minor units over the program's own answer within which the first orders are looked for."""


@dataclass(frozen=True, slots=True)
class OrderPlan:
    """Orders with the total in minor units of home's currency; `gap` is a share of it left unproved."""

    demand: Demand
    orders: tuple[PlannedOrder, ...]
    total: int
    gap: float
    missing: tuple[str, ...]
    spare: dict[str, int]


def plan(demand: Demand) -> OrderPlan:
    """What to order where. UnsolvedError where no answer was found in the solver's time."""
    parts = lacking(demand)
    wanted, purchase = _possible(demand, tuple(part for part in parts if can_be_had(demand, part)))
    missing = tuple(part.part for part in parts if part not in wanted)
    if purchase is None:
        return OrderPlan(demand, (), 0, 0.0, missing, {})
    best, gap = _cheapest(purchase)
    return OrderPlan(demand, best.orders, best.total, gap, missing, _spare(wanted, best.orders))


def _possible(demand: Demand, wanted: tuple[Lacking, ...]) -> tuple[tuple[Lacking, ...], Purchase | None]:
    """The parts that can be had together: all, or the most where minimum orders stand against some."""
    if not wanted:
        return (), None
    if all(_reaches_minimum(demand, terms, wanted) for terms in demand.suppliers):
        return wanted, Purchase(demand, wanted)
    purchase = Purchase(demand, wanted, may_miss=True)
    found = purchase.program.least(dict.fromkeys(purchase.missing.values(), 1.0))
    if found is None:
        raise UnsolvedError("No set of orders was found.")
    kept = tuple(part for part in wanted if found.values[purchase.missing[part.part]] < LEAST_ON)
    return kept, Purchase(demand, kept) if kept else None


def _reaches_minimum(demand: Demand, terms: SupplierTerms, wanted: tuple[Lacking, ...]) -> bool:
    """Whether the supplier has enough of one part alone for its minimum, as most have."""
    parts = {part.part for part in wanted}
    return not terms.minimum or any(
        offer.supplier == terms.name and offer.part in parts and offer.stock is None and offer.price > 0
        for offer in demand.offers
    )


def _cheapest(purchase: Purchase) -> tuple[Best, float]:
    """The best orders, corner by corner, until no other can be as good; and the share left unproved."""
    best: Best | None = None
    bound = 0.0
    cheaper = purchase.program.hold(purchase.cost)
    for _ in range(MOST_CORNERS):
        if best is not None:
            purchase.program.cap(cheaper, best.total + 2 * MARGIN)
        found = purchase.least()
        if found is None:
            return _proved(best), 0.0
        bound = found.bound
        if best is not None and bound > best.total + MARGIN:
            return best, 0.0
        here = reckoned(purchase, purchase.packs_in(found))
        if here is not None and (best is None or here.rank < best.rank):
            best = here
        try:
            best = CornerSearch(purchase, purchase.corner_of(found), best or _at_most(found)).search()
        except UnsolvedError:
            break
        best = best if best.orders else None
        if not purchase.forbid(found):
            return _proved(best), 0.0
    best = _proved(best)
    return best, max(best.total - bound, 0.0) / max(best.total, 1)


def _at_most(found: Solution) -> Best:
    """Nothing yet, where the program's answer keeps a minimum only before its lines are rounded."""
    return Best((), round(found.objective) + FAR, (), 0)


def _proved(best: Best | None) -> Best:
    if best is None:
        raise UnsolvedError("No set of orders was found.")
    return best


def _spare(wanted: tuple[Lacking, ...], orders: tuple[PlannedOrder, ...]) -> dict[str, int]:
    """Pieces beyond what was lacking, by part."""
    found = {}
    for part in wanted:
        pieces = sum(line.pieces for order in orders for line in order.lines if line.offer.part == part.part)
        if pieces > part.pieces:
            found[part.part] = pieces - part.pieces
    return found
