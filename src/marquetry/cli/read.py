"""`marquetry read`: what a seller's text tells, as proposals."""

import argparse
import json
import sys
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, complain, say
from marquetry.core.fit.model import usual_model
from marquetry.core.measuring.listing.read import read_listing
from marquetry.core.measuring.listing.result import Listing
from marquetry.core.values.errors import MarquetryError

STANDARD_INPUT = Path("-")


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser(
        "read", help="read a seller's text; propose fields with the words they came from"
    )
    parser.add_argument("file", type=Path, metavar="FILE", help="a text file, or - for standard input")
    parser.add_argument("--kind", help="what kind of part it is, such as dial")
    parser.add_argument(
        "--json", action="store_true", help="print one JSON object, or an array for several parts"
    )
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Read the text and print what it tells."""
    try:
        raw = sys.stdin.buffer.read() if options.file == STANDARD_INPUT else options.file.read_bytes()
        found = read_listing(raw.decode("utf-8", "replace"), usual_model().anatomy, options.kind)
    except (MarquetryError, OSError) as error:
        complain(options.file, error)
        return UNREADABLE
    if options.json:
        told = [listing.as_dict() for listing in found]
        say(json.dumps(told if len(told) > 1 else told[0], ensure_ascii=False, indent=1))
    else:
        say("\n\n".join(map(_told, found)))
    return NO_CLASH


def _told(listing: Listing) -> str:
    lines = [f"{listing.name or 'A part'}: {listing.kind or 'kind not told'} ({listing.kind_sure or 'ask'})"]
    lines += [f"  {one.sure:<7}{one.path:<22}{one.shown:<12} “{one.words}”" for one in listing.fields]
    lines += [f"  {key:<29}{words}" for key, words in listing.looks.items()]
    for what, names in (
        ("functions", listing.functions),
        ("windows", listing.windows),
        ("sold for", listing.suits),
        ("calibre", listing.calibres),
        ("driven by", [listing.drive] if listing.drive else []),
        ("notes", listing.notes),
    ):
        lines += [f"  {what:<29}{', '.join(names)}"] if names else []
    for what, price in (("price", listing.price), ("price of all", listing.kit_price)):
        lines += [f"  {what:<29}{price[0]:.2f} {price[1]}"] if price else []
    lines += [f"  {'pieces':<29}{listing.quantity}"] if listing.quantity > 1 else []
    lines += [f"  asks: {slip.path}: {slip.words}" for slip in listing.asks]
    lines += [f"  not read: {words}" for words in listing.unread]
    return "\n".join(lines)
