"""`marquetry follow`: a build sheet with every assumed size settled by what is known beside it."""

import argparse
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.evidence.follow import Followed, followed, what_follows
from marquetry.core.fit.model import usual_model
from marquetry.core.sheet.build import Build
from marquetry.core.values.figures import figure
from marquetry.formats import build_sheet


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("follow", help="settle what is assumed of a watch by what is known of it")
    parser.add_argument("file", type=Path, metavar="SHEET", help="a build sheet")
    parser.add_argument("--json", action="store_true", help="print the sheet itself")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Print the sheet, or a line for each size that was settled."""
    build = read_or_tell(options.file, lambda raw: build_sheet.loads(raw, usual_model().anatomy))
    if build is None:
        return UNREADABLE
    if options.json:
        say(build_sheet.dumps(followed(build)).rstrip("\n"))
    else:
        say("\n".join(_line(build, found) for found in what_follows(build)) or "Nothing follows.")
    return NO_CLASH


def _line(build: Build, found: Followed) -> str:
    label_of, unit = build.anatomy.label_of, build.anatomy.quantity_at(found.path).unit
    return f"  {label_of(found.path):<44}{figure(found.value, 2, unit):>10}  to suit {label_of(found.suits)}"
