"""The command line: one file a command, collected here.

Exit codes: 0 no clash, 1 a clash, 2 input that cannot be read or a place that cannot be used.
"""

import argparse
import sqlite3
from collections.abc import Sequence

from marquetry import __version__
from marquetry.cli import caliper, check, make, printer, read, remedies, serve
from marquetry.cli.telling import UNREADABLE, complain
from marquetry.core.values.errors import MarquetryError


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command and return its exit code."""
    options = _parser().parse_args(arguments)
    try:
        code: int = options.run(options)
    except (MarquetryError, OSError, sqlite3.Error) as error:
        complain(options.command, error)
        return UNREADABLE
    return code


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="marquetry", description="Will this watch go together?")
    parser.add_argument("--version", action="version", version=f"marquetry {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND", dest="command")
    for command in (check, read, remedies, make, printer, caliper, serve):
        command.add_to(commands)
    return parser
