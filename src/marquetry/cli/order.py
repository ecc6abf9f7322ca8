"""`marquetry order`: needs, suppliers and offers in; the cheapest set of orders out, proved."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import CLASH, NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.trade.plan import OrderPlan, plan
from marquetry.core.values.money import Money
from marquetry.formats.amounts import price_text
from marquetry.formats.orders import plan_document, read_demand


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("order", help="what to buy where; exit 1 where something is missing")
    parser.add_argument("file", type=Path, metavar="ORDERS", help="a file of marquetry-orders/1")
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """OrderPlan the orders and print them."""
    found = read_or_tell(options.file, lambda raw: plan(read_demand(raw)))
    if found is None:
        return UNREADABLE
    say(json.dumps(plan_document(found), ensure_ascii=False, indent=1) if options.json else _told(found))
    return CLASH if found.missing else NO_CLASH


def _told(found: OrderPlan) -> str:
    lines = [f"{found.demand.money(found.total)} in all, {_proof(found)}"]
    for order in found.orders:
        currency = order.supplier.currency
        sums = (Money(minor, currency) for minor in (order.goods, order.postage, order.duty))
        goods, postage, duty = map(str, sums)
        lines.append(
            f"{order.supplier.name}: goods {goods}, postage {postage}, duty {duty};"
            f" {found.demand.money(order.total_home)}, arrives {order.arrives}"
        )
        lines += [
            f"  {line.pieces} × {line.offer.part} at {price_text(line.offer.price_at(line.pieces), currency)}"
            f" = {Money(line.total, currency)}"
            for line in order.lines
        ]
    lines += [f"missing: {part}" for part in found.missing]
    lines += [f"spare: {pieces} × {part}" for part, pieces in found.spare.items()]
    return "\n".join(lines)


def _proof(found: OrderPlan) -> str:
    if found.gap:
        return f"at most {100 * found.gap:.2f} % over the least there is"
    return "and nothing is cheaper" if found.orders else "nothing to buy"
