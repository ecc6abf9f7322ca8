"""`marquetry stem`: a stem's ledger followed to its end: what remains, and what to do next."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.bench.stem import StemLedger
from marquetry.core.bench.stem_words import ADVICE, advice_told, remaining_told
from marquetry.core.fit.model import usual_model
from marquetry.core.values.figures import figure
from marquetry.formats.stem_ledger import ledger_document, read_ledger


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("stem", help="what is still to come off a stem, and how")
    parser.add_argument("file", type=Path, metavar="LEDGER", help="a stem's ledger as JSON")
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Follow the ledger and print where the stem stands."""
    found = read_or_tell(options.file, lambda raw: read_ledger(raw, usual_model()).reckoned())
    if found is None:
        return UNREADABLE
    say(json.dumps(ledger_document(found), ensure_ascii=False, indent=1) if options.json else _told(found))
    return NO_CLASH


def _told(found: StemLedger) -> str:
    rows = [f"{place:3} {remaining_told(row)}" for place, row in enumerate(found.rows, 1)]
    amount = f" {figure(found.amount, 2, 'mm')}" if found.amount else ""
    advice = f"{ADVICE[found.advice]}{amount}."
    return "\n".join([*rows, remaining_told(found.now), advice, *advice_told(found)])
