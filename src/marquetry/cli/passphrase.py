"""`marquetry passphrase`: set what a shared workshop asks for; whoever was in has to give the new one."""

import argparse
import getpass
import sys
from contextlib import closing
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.serve import OWN_DATABASE
from marquetry.cli.telling import NO_CLASH, say
from marquetry.core.fit.model import usual_model
from marquetry.core.values.errors import SheetError
from marquetry.store.access import set_phrase
from marquetry.store.database import connect, open_workshop
from marquetry.store.opening import keep_private, locked, refuse_foreign


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("passphrase", help="set the passphrase of a shared workshop")
    parser.add_argument("--database", type=Path, default=OWN_DATABASE, help="default: %(default)s")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Ask twice at a terminal, or read one line; it is never an argument, which others could see."""
    model, database = usual_model(), options.database.resolve()
    phrase = _asked()
    with locked(database):
        refuse_foreign(database)
        open_workshop(database, model)
        with closing(connect(database, model)) as connection:
            set_phrase(connection, phrase)
        keep_private(database)
    say("The passphrase is set. `marquetry serve --share` asks everybody for it.")
    return NO_CLASH


def _asked() -> str:
    if not sys.stdin.isatty():
        return sys.stdin.readline().rstrip("\n")
    try:
        phrase, again = getpass.getpass("Passphrase: "), getpass.getpass("Once more: ")
    except EOFError:
        raise SheetError("passphrase", "a passphrase, typed twice") from None
    if again != phrase:
        raise SheetError("passphrase", "the same twice")
    return phrase
