"""Orders of one watch or of all: what is lacking, the cheapest plan for it, what is on its way."""

from collections.abc import Sequence
from dataclasses import dataclass

from marquetry.core.fit.rules import Rules
from marquetry.core.trade.basket import PlannedOrder
from marquetry.core.trade.supply import SupplyOrder, SupplyState
from marquetry.core.values.money import Money
from marquetry.drawing.scene import Scene
from marquetry.drawing.trade.lanes import Lane, lanes
from marquetry.store import fates, supply_orders, terms_of_trade, watches
from marquetry.store.database import Connection
from marquetry.store.house import rule_values
from marquetry.store.watches import StoredWatch
from marquetry.web.order.needed import Market, Needed, demand_of, market, needed_for
from marquetry.web.order.plans import Plans, PlanWithAsides
from marquetry.web.watch.way import WayThrough


@dataclass(frozen=True, slots=True)
class PlannedLine:
    """A line of the plan in words."""

    key: str
    name: str
    pieces: int
    packs: str
    price: str
    sum: Money
    spare: int


@dataclass(frozen=True, slots=True)
class PlannedSlip:
    """An order of the plan in words."""

    supplier: str
    lines: tuple[PlannedLine, ...]
    goods: Money
    postage: Money
    duty: Money
    total: Money
    total_home: Money
    arrives: str
    at_worst: str
    is_free: bool
    unsent: int | None
    """An order there that is written and not sent: on one bill with it the postage is paid once."""


@dataclass(frozen=True, slots=True)
class OrderRow:
    """An order as the list shows it."""

    order: SupplyOrder
    total: Money
    total_home: Money | None
    is_late: bool
    watches: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class LackRow:
    """Everything that is lacking of one thing for one watch."""

    needs: tuple[Needed, ...]

    @property
    def first(self) -> Needed:
        """What it is."""
        return self.needs[0]

    @property
    def open(self) -> int:
        """How many are still to be bought."""
        return sum(one.open for one in self.needs)

    @property
    def why(self) -> str:
        """What for, in words."""
        told = [f"{one.open} {one.lack.why}" if len(self.needs) > 1 else one.lack.why for one in self.needs]
        there = sum(one.there for one in self.needs)
        ways = (
            (self.first.kept, "kept aside"),
            (there, "on the shelf"),
            (sum(one.on_way for one in self.needs), "on the way"),
        )
        return " · ".join([*told, *(f"{count} {words}" for count, words in ways if count)])


@dataclass(frozen=True, slots=True)
class OrderPage:
    """All that the templates show; without a watch it is about all of them."""

    watch: StoredWatch | None
    way: WayThrough | None
    needed: tuple[Needed, ...]
    told: PlanWithAsides
    slips: tuple[PlannedSlip, ...]
    missing: tuple[tuple[Needed, str], ...]
    picture: Scene | None
    rows: tuple[OrderRow, ...]
    older: int
    """How many orders are not among the rows."""
    on: Market
    today: str
    fault: str = ""

    @property
    def lacking(self) -> tuple["LackRow", ...]:
        """What is still to be bought and can be named to a supplier, spares with what they are for."""
        rows: dict[tuple[str, int], list[Needed]] = {}
        for one in self.needed:
            if one.open and one.lack.what != "unknown" and one.lack.is_told:
                rows.setdefault((one.lack.key, one.watch.id), []).append(one)
        return tuple(LackRow(tuple(found)) for found in rows.values())

    @property
    def unknown(self) -> tuple[Needed, ...]:
        """What is lacking and is not in the catalogue."""
        return tuple(
            one for one in self.needed if one.open and one.lack.what == "unknown" and one.lack.is_told
        )

    @property
    def assumed(self) -> tuple[Needed, ...]:
        """Parts that only a family assumes: nobody chose one, or it comes with another."""
        return tuple(one for one in self.needed if one.lack.what == "unknown" and not one.lack.is_told)

    @property
    def uncounted(self) -> tuple[str, ...]:
        """Tools and consumables that the watches ask for and that nobody counted: they may be there."""
        names = (one.lack.name for one in self.needed if one.lack.what == "sundry" and not one.lack.is_told)
        return tuple(dict.fromkeys(names))

    @property
    def covered(self) -> tuple[Needed, ...]:
        """What the shelf or an order on its way covers."""
        return tuple(one for one in self.needed if not one.open and (one.there or one.on_way))

    @property
    def covered_shown(self) -> tuple[Needed, ...]:
        """Of that as much as a page of all watches can show; of one watch everything."""
        return self.covered if self.watch else self.covered[:MOST_COVERED]

    @property
    def total(self) -> Money:
        """The plan's total in home's currency."""
        return Money(self.told.plan.total, self.on.home)

    @property
    def gap(self) -> str:
        """What is left unproved, in per cent of the total."""
        return f"{100 * self.told.plan.gap:.2f}"

    def sum(self, minor: int) -> Money:
        """A sum in home's currency."""
        return Money(minor, self.on.home)


def order_page(  # noqa: PLR0913, PLR0917  # what a page is asked for
    connection: Connection,
    plans: Plans,
    today: str,
    watch: StoredWatch | None = None,
    way: WayThrough | None = None,
    fault: str = "",
    *,
    every: bool = False,
) -> OrderPage:
    """Compute the page; the plan is worked out once for a demand. `every` lists all orders."""
    chosen = [watch] if watch else fates.watches_at_work(connection)
    house = rule_values(connection)
    rules: dict[int, Rules] = {one.id: connection.model.rules_of(one.build, house) for one in chosen}
    on, orders = market(connection, today), supply_orders.orders(connection)
    needed = needed_for(
        connection,
        chosen,
        rules,
        (on, supply_orders.awaited_in(order for order in orders if order.state.is_awaited)),
        today,
    )
    told = plans.of(demand_of(needed, on, today))
    names = {one.lack.key: one.lack.name for one in needed}
    unsent = {order.bill.supplier: order.id for order in orders if order.state is SupplyState.OPEN}
    slips = tuple(_slip(order, on.home, names, told.plan.spare, unsent) for order in told.plan.orders)
    ours = [each for each in orders if watch is None or watch.id in {line.watch_id for line in each.lines}]
    awaited, past = ([o for o in ours if o.state.is_awaited is here] for here in (True, False))
    shown = [*awaited, *past]
    rows = order_rows(connection, shown if every else shown[:MOST_SHOWN], today)
    missing = tuple((one, _card(one)) for one in needed if one.open and one.lack.key in told.plan.missing)
    picture = _picture(slips, rows, needed, today)
    return OrderPage(
        watch, way, needed, told, slips, missing, picture, rows, len(ours) - len(rows), on, today,
        fault or told.fault,
    )  # fmt: skip


def _card(one: Needed) -> str:
    """The kind for whose shopping card the Finder is asked; nothing for what is no part."""
    return one.lack.slot.partition(".")[0] if one.lack.what == "part" else ""


def _slip(
    order: PlannedOrder, home: str, names: dict[str, str], spare: dict[str, int], unsent: dict[str, int]
) -> PlannedSlip:
    currency = order.supplier.currency
    sums = (order.goods, order.postage, order.duty, order.goods + order.postage + order.duty)
    goods, postage, duty, total = (Money(minor, currency) for minor in sums)
    lines = tuple(
        PlannedLine(
            line.offer.part,
            names.get(line.offer.part, line.offer.part),
            line.pieces,
            f"{line.packs} × {line.offer.pack}" if line.offer.pack > 1 else "",
            f"{line.offer.price_at(line.pieces)}",
            Money(line.total, currency),
            spare.get(line.offer.part, 0),
        )
        for line in order.lines
    )
    free = order.postage == 0 and order.supplier.postage > 0
    return PlannedSlip(
        order.supplier.name, lines, goods, postage, duty, total, Money(order.total_home, home), order.arrives,
        order.at_worst, free, unsent.get(order.supplier.name),
    )  # fmt: skip


MOST_COVERED = 60
MOST_SHOWN = 40
"""How many orders stand in the list, those that are awaited first, until all are asked for."""


def order_rows(connection: Connection, orders: Sequence[SupplyOrder], today: str) -> tuple[OrderRow, ...]:
    """A row for each of these orders."""
    names, rates = dict(watches.watch_names(connection)), terms_of_trade.rates(connection)
    rows = []
    for order in orders:
        ids = {line.watch_id for line in order.lines}
        found = supply_orders.landed_by(connection, rates, order)
        minor = sum(order.bill.goods()) + order.bill.postage + order.bill.charges - order.bill.discount
        total = found.total if found else Money(minor, order.bill.currency)
        rows.append(
            OrderRow(
                order,
                total,
                found.total_home if found else None,
                order.is_late(today),
                tuple(sorted(names[number] for number in ids if number in names)),
            )
        )
    return tuple(rows)


def _picture(
    slips: Sequence[PlannedSlip], rows: Sequence[OrderRow], needed: Sequence[Needed], today: str
) -> Scene | None:
    """What is planned and what is on its way, over the days, with the deadlines of what is lacking."""
    planned = [
        Lane(slip.supplier, today, slip.arrives, slip.at_worst, str(slip.total_home)) for slip in slips
    ]
    coming = [
        Lane(
            f"{row.order.bill.supplier}, sent", row.order.bill.day, row.order.due, row.order.at_worst,
            "late" if row.is_late else row.order.state.value, row.is_late, is_coming=True,
        )
        for row in rows
        if row.order.state in {SupplyState.SENT, SupplyState.PART_ARRIVED}
    ]  # fmt: skip
    days = {one.by: one.watch.build.name for one in needed if one.by and one.open}
    every = [*planned, *coming]
    return lanes(every, today, sorted(days.items())) if every else None
