"""`marquetry remedies`: what can be done about a build sheet's clashes."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, complain, say
from marquetry.core.fit.model import usual_model
from marquetry.core.remedies.offers import offers
from marquetry.core.values.errors import MarquetryError
from marquetry.formats import build_sheet
from marquetry.formats.remedies import remedies_of, remedies_told


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("remedies", help="what can be done about a build sheet's clashes")
    parser.add_argument("file", type=Path, metavar="FILE")
    parser.add_argument("--json", action="store_true", help="print one JSON array")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Try everything and print what helps."""
    model = usual_model()
    try:
        build = build_sheet.loads(options.file.read_bytes(), model.anatomy)
        found = offers(build, model.rules_of(build))
    except (MarquetryError, OSError) as error:
        complain(options.file, error)
        return UNREADABLE
    told = (
        json.dumps(remedies_of(model, found), ensure_ascii=False, indent=1)
        if options.json
        else remedies_told(model, found)
    )
    say(told)
    return NO_CLASH
