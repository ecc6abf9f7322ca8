"""`marquetry landed`: what the pieces of an order really cost, every share told."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.trade.landed import Landed, landed
from marquetry.core.values.money import Money
from marquetry.formats.order_bill import SHARES, landed_document, read_bill


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("landed", help="what an order's pieces cost with every share")
    parser.add_argument("file", type=Path, metavar="ORDER", help="a file of marquetry-order/1")
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Share the order's costs out and print them."""
    found = read_or_tell(options.file, lambda raw: landed(*read_bill(raw)))
    if found is None:
        return UNREADABLE
    say(json.dumps(landed_document(found), ensure_ascii=False, indent=1) if options.json else _told(found))
    return NO_CLASH


def _told(found: Landed) -> str:
    currency, home = found.billed.currency, found.total_home.currency
    lines = [f"{found.billed.supplier}, {found.billed.day}: {found.total}, that is {found.total_home}"]
    for line in found.lines:
        shares = ", ".join(f"{share} {Money(getattr(line, share), currency).plain}" for share in SHARES)
        lines.append(
            f"{line.line.pieces} × {line.line.part}: {shares}; landed {Money(line.landed, currency)}"
        )
        lines += [
            f"  {number}: {Money(cost, currency)}, {Money(at_home, home)}"
            for number, (cost, at_home) in enumerate(zip(line.pieces, line.pieces_home, strict=True), 1)
        ]
    return "\n".join(lines)
