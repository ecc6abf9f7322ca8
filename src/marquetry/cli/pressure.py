"""`marquetry pressure`: whether a case held in a dry test, from the chamber's file."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import CLASH, NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.proving.pressure import hold
from marquetry.core.proving.pressure_words import hold_words
from marquetry.formats.pressure_csv import hold_document, read_series


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("pressure", help="whether a case held in a dry pressure test")
    parser.add_argument("file", type=Path, metavar="FILE.csv", help="time_s,pressure_bar,deflection_um")
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Judge the series and print the verdict; 0 where it is tight, 1 else."""
    found = read_or_tell(options.file, lambda raw: hold(read_series(raw)))
    if found is None:
        return UNREADABLE
    say(json.dumps(hold_document(found), indent=1) if options.json else "\n".join(hold_words(found)))
    return NO_CLASH if found.verdict == "tight" else CLASH
