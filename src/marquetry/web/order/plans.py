"""Plans with what is told beside them: kept in mind, because each costs a moment."""

from dataclasses import dataclass
from hashlib import sha256
from threading import Thread
from time import monotonic

from marquetry.core.trade.offer import Demand
from marquetry.core.trade.plan import OrderPlan, plan
from marquetry.core.trade.solver import UnsolvedError, warm_up
from marquetry.store.statecache import StateCache
from marquetry.web.order.needed import only_from, without_days

SECONDS_ASIDE = 1.5
"""As long as what is told beside a plan may take; what was not worked out by then is left out."""


@dataclass(frozen=True, slots=True)
class BesidePlan:
    """Something told beside a plan: in words, and what it costs more (or less) in home's minor units."""

    words: str
    more: int


@dataclass(frozen=True, slots=True)
class PlanWithAsides:
    """A plan, what splitting, waiting and each deadline cost, and a mark by which a form names it."""

    plan: OrderPlan
    asides: tuple[BesidePlan, ...]
    mark: str
    fault: str = ""


class Plans:
    """Plans by their demands, as long as the program keeps them in mind."""

    def __init__(self, kept: StateCache) -> None:
        self._kept, self._is_warm = kept, False

    def warm(self) -> None:
        """Bring the solver in beside the request, once: that alone costs a second."""
        if not self._is_warm:
            self._is_warm = True
            Thread(target=warm_up, daemon=True).start()

    def of(self, demand: Demand) -> PlanWithAsides:
        """The plan for a demand, worked out once."""
        return self._kept.pure(_planned, demand)


def _planned(demand: Demand) -> PlanWithAsides:
    mark = sha256(repr(demand).encode()).hexdigest()[:16]
    try:
        made = plan(demand)
    except UnsolvedError as error:
        nothing = OrderPlan(demand, (), 0, 0.0, tuple(need.part for need in demand.needs), {})
        return PlanWithAsides(nothing, (), mark, str(error))
    return PlanWithAsides(made, tuple(_asides(demand, made)), mark)


def _asides(demand: Demand, made: OrderPlan) -> list[BesidePlan]:
    until = monotonic() + SECONDS_ASIDE
    if not made.orders:
        return []
    found = []
    alone = _from_one(demand, made, until)
    if alone is not None:
        found.append(alone)
    days = sorted({need.by for need in demand.needs if need.by})
    for day in days if len(days) > 1 else []:
        later = plan(without_days(demand, day)) if monotonic() < until else None
        if later is not None and _saves(made, later):
            found.append(BesidePlan(f"the deadline of {day}", made.total - later.total))
    waited = plan(without_days(demand)) if days and monotonic() < until else None
    if waited is not None and _saves(made, waited):
        last = max(order.arrives for order in waited.orders)
        found.append(
            BesidePlan(
                f"not waiting: everything by its day, where waiting would end on {last}",
                made.total - waited.total,
            )
        )
    return found


def _saves(made: OrderPlan, other: OrderPlan) -> bool:
    return other.missing == made.missing and bool(other.orders) and other.total < made.total


def _from_one(demand: Demand, made: OrderPlan, until: float) -> BesidePlan | None:
    """The cheapest single supplier that has everything, against the plan's several."""
    if len(made.orders) == 1:
        return None
    best: tuple[int, str] | None = None
    for terms in demand.suppliers:
        if monotonic() > until:
            break
        alone = plan(only_from(demand, terms.name))
        if alone.missing == made.missing and alone.orders and (best is None or alone.total < best[0]):
            best = (alone.total, terms.name)
    if best is None:
        return BesidePlan("nobody has everything: splitting cannot be helped", 0)
    return BesidePlan(f"all from {best[1]} instead", best[0] - made.total)
