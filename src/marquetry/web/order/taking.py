"""A plan taken as orders: one an order of the plan, each line for the watch that lacks it."""

from dataclasses import replace
from decimal import Decimal

from marquetry.core.trade.basket import BoughtLine, PlannedOrder
from marquetry.core.trade.landed import Billed
from marquetry.core.values.errors import TakenError
from marquetry.store import supply_orders
from marquetry.store.database import Connection, transaction
from marquetry.store.suppliers import number_in, suppliers
from marquetry.store.supply_orders import NewLine
from marquetry.web.order.needed import Needed
from marquetry.web.order.plans import PlanWithAsides

CHANGED = (
    "What is lacking or offered changed since this plan was shown. Look at the new one. Nothing was ordered."
)


def take_orders(
    connection: Connection, told: PlanWithAsides, mark: str, needed: tuple[Needed, ...], today: str
) -> list[int]:
    """Write the plan's orders and return their numbers. TakenError where the plan is another by now."""
    if told.mark != mark or not told.plan.orders:
        raise TakenError(CHANGED)
    known = {one.terms.name: one for one in suppliers(connection)}
    open_by = _open_pieces(needed)
    with transaction(connection):
        return [
            supply_orders.add_order(
                connection,
                known[order.supplier.name],
                _bill(order, today),
                (order.arrives, order.at_worst),
                [line for bought in order.lines for line in _lines(bought, open_by)],
            )
            for order in told.plan.orders
        ]


def _bill(order: PlannedOrder, today: str) -> Billed:
    return Billed(
        order.supplier.name,
        order.supplier.currency,
        today,
        (),
        order.postage,
        duty_percent=order.supplier.duty_percent,
    )


def _open_pieces(needed: tuple[Needed, ...]) -> dict[str, list[tuple[int, int]]]:
    """What is open by key: for which watch how many, in the order of the days."""
    found: dict[str, list[tuple[int, int]]] = {}
    for one in sorted((one for one in needed if one.open), key=lambda one: one.by or "9999"):
        found.setdefault(one.lack.key, []).append((one.watch.id, one.open))
    return found


def _lines(bought: BoughtLine, open_by: dict[str, list[tuple[int, int]]]) -> list[NewLine]:
    """A bought line parted by watch; what is spare is for the shelf.

    Whole where parting would change its sum.
    """
    key, price = bought.offer.part, bought.offer.price_at(bought.pieces)
    part, sundry = number_in(key, "part"), number_in(key, "sundry")
    left, lines = bought.pieces, []
    waiting = open_by.get(key, [])
    while left and waiting and part is not None:
        watch, wanted = waiting[0]
        count = min(left, wanted)
        lines.append(NewLine(part, None, count, price, watch))
        left -= count
        waiting[0] = (watch, wanted - count)
        if wanted == count:
            waiting.pop(0)
    lines += [NewLine(part, sundry, left, price)] if left else []
    if len(lines) > 1 and not _is_whole(bought, price):
        return [replace(lines[0], pieces=bought.pieces)]
    return lines


def _is_whole(bought: BoughtLine, price: Decimal) -> bool:
    """Whether one piece costs whole minor units, so that parts of a line cost what the line does."""
    return bought.offer.minor_price(price).denominator == 1
