"""`marquetry card`: the card to print for measuring from a picture."""

import argparse
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, say


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("card", help="the card to print for measuring from a picture, as a PDF")
    parser.add_argument("--out", type=Path, required=True, metavar="FILE.pdf")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Draw the card and write it."""
    from marquetry.drawing.pdf import pdf_bytes  # noqa: PLC0415  # wanted by this command alone
    from marquetry.drawing.picture_card import picture_card  # noqa: PLC0415  # as above

    options.out.write_bytes(pdf_bytes([picture_card()], "Card for measuring from a picture"))
    say(f"{options.out}: print it at 100 % on A6, then hold a caliper to its line of 60 mm.")
    return NO_CLASH
