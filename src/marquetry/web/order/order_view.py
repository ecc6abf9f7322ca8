"""One order's page: lines with every share, what each piece costs, steps, and what is still to come."""

from dataclasses import dataclass

from marquetry.core.sheet.part import Part
from marquetry.core.trade.landed import Landed, LandedLine
from marquetry.core.trade.supply import SupplyLine, SupplyOrder, SupplyStep
from marquetry.core.values.money import Money
from marquetry.drawing.scene import Scene
from marquetry.drawing.trade.lanes import Lane, lanes
from marquetry.store import pieces, shelf, supply_orders, watches
from marquetry.store.database import Connection
from marquetry.store.pieces import Piece
from marquetry.store.suppliers import Supplier, supplier


@dataclass(frozen=True, slots=True)
class LineView:
    """A line with its shares where they can be told, its counts and its pieces."""

    line: SupplyLine
    shares: LandedLine | None
    watch: str
    open: int
    arrived: int
    faulty: int
    returned: int
    refunded: int
    lost: int
    pieces: tuple[Piece, ...]
    back: Money
    part: Part | None
    error: str

    @property
    def can_return(self) -> int:
        """How many are here and could go back."""
        return self.arrived - self.returned

    @property
    def can_refund(self) -> int:
        """How many went back or were lost and are not refunded yet."""
        return self.returned + self.lost - self.refunded


@dataclass(frozen=True, slots=True)
class SupplyPage:
    """All that the template shows."""

    order: SupplyOrder
    seller: Supplier
    landed: Landed | None
    lines: tuple[LineView, ...]
    steps: tuple[tuple[SupplyStep, str, bool], ...]
    is_late: bool
    picture: Scene
    today: str
    errors: dict[str, str]

    def sum(self, minor: int) -> Money:
        """A sum in the order's currency."""
        return Money(minor, self.order.bill.currency)

    def plain(self, minor: int) -> str:
        """The same as a field shows it; nothing where there is none."""
        return self.sum(minor).plain if minor else ""


def supply_page(connection: Connection, number: int, today: str, told: tuple[str, str]) -> SupplyPage:
    """Compute the page; `told` is where something was refused, and why."""
    order = supply_orders.order(connection, number)
    found = supply_orders.landed_of(connection, order)
    names = {watch.id: watch.build.name for watch in watches.all_watches(connection)}
    shares = dict(zip((line.id for line in order.lines), found.lines, strict=True)) if found else {}
    lines = tuple(_line(connection, order, line, shares.get(line.id), names, told) for line in order.lines)
    by_line = {line.id: line.name for line in order.lines}
    valid = {step.id for step in order.valid_steps}
    steps = tuple(
        (step, by_line.get(step.line_id or 0, ""), step.id in valid) for step in reversed(order.steps)
    )
    return SupplyPage(
        order,
        supplier(connection, order.supplier_id),
        found,
        lines,
        steps,
        order.is_late(today),
        _picture(order, today),
        today,
        {told[0]: told[1]},
    )


def _picture(order: SupplyOrder, today: str) -> Scene:
    """The order over the days, with when it was awaited and when it came."""
    came = order.days_taken()
    lane = Lane(
        order.bill.supplier,
        order.bill.day,
        came or order.due,
        came or order.at_worst,
        f"arrived {came}" if came else "late" if order.is_late(today) else order.state.value,
        order.is_late(today),
        is_coming=True,
    )
    return lanes([lane], today, [(order.due, "awaited")] if came else [])


def _line(  # noqa: PLR0913, PLR0917  # what a line is told of
    connection: Connection,
    order: SupplyOrder,
    line: SupplyLine,
    shares: LandedLine | None,
    names: dict[int, str],
    told: tuple[str, str],
) -> LineView:
    rows = connection.execute("SELECT id FROM piece WHERE line_id = ? ORDER BY line_place", (line.id,))
    held = tuple(pieces.piece(connection, row["id"]) for row in rows.fetchall())
    back = sum(shares.returnable) // line.pieces if shares else 0
    where = f"line-{line.id}"
    return LineView(
        line,
        shares,
        names.get(line.watch_id or 0, ""),
        order.open_pieces(line),
        order.count(line, "arrived"),
        order.count(line, "faulty"),
        order.count(line, "returned"),
        order.count(line, "refunded"),
        order.count(line, "lost"),
        held,
        Money(back, order.bill.currency),
        None if line.part_id is None else shelf.part(connection, line.part_id).part,
        told[1] if told[0] == where else "",
    )
