"""The command line: one file a command, collected here; only the one that is asked for is imported.

Exit codes: 0 no clash, 1 a clash or something missing, 2 input that cannot be read or a place that cannot be
used.
"""

import argparse
import importlib
import sqlite3
import sys
from collections.abc import Sequence

from marquetry import __version__
from marquetry.cli.telling import UNREADABLE, complain
from marquetry.core.values.errors import MarquetryError

COMMANDS = {
    "begin": "begin", "follow": "follow", "check": "check", "next": "next_step", "read": "read",
    "remedies": "remedies", "make": "make", "order": "order",
    "landed": "landed", "steps": "steps", "stem": "stem", "pressed": "pressed", "timing": "timing",
    "card": "card", "picture": "picture", "watch-sound": "watch_sound",
    "pressure": "pressure", "chamber": "chamber", "printer": "printer",
    "caliper": "caliper", "serve": "serve", "demo": "serve", "passphrase": "passphrase",
}  # fmt: skip
"""The file of each command."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command and return its exit code."""
    given = sys.argv[1:] if arguments is None else list(arguments)
    options = _parser(given).parse_args(given)
    try:
        code: int = options.run(options)
    except (MarquetryError, OSError, sqlite3.Error) as error:
        complain(options.command, error)
        return UNREADABLE
    return code


def _parser(given: Sequence[str]) -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="marquetry", description="Will this watch go together?")
    parser.add_argument("--version", action="version", version=f"marquetry {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND", dest="command")
    asked = [COMMANDS[word] for word in given[:1] if word in COMMANDS]
    for file in asked or dict.fromkeys(COMMANDS.values()):
        importlib.import_module(f"marquetry.cli.{file}").add_to(commands)
    return parser
