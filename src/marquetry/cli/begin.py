"""`marquetry begin`: the build sheet of a watch begun from a family and sellers' texts."""

import argparse
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, complain, say
from marquetry.core.fit.model import usual_model
from marquetry.core.measuring.begun import begun
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import ready_family, usual_watch
from marquetry.core.values.errors import MarquetryError
from marquetry.formats import build_sheet


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("begin", help="begin a watch from a family and sellers' texts")
    parser.add_argument("--family", required=True, metavar="KEY", help="what it is like, such as diver-40")
    parser.add_argument(
        "--listing",
        action="append",
        type=Path,
        default=[],
        metavar="FILE",
        help="a seller's text; repeatable",
    )
    parser.add_argument("--name", help="what the watch is called")
    parser.add_argument("--out", type=Path, metavar="FILE", help="where to write it; else it is printed")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Write the sheet, or print it."""
    try:
        build = _begun(options)
    except (MarquetryError, OSError) as error:
        complain("begin", error)
        return UNREADABLE
    if options.out is None:
        say(build_sheet.dumps(build).rstrip("\n"))
    else:
        options.out.write_text(build_sheet.dumps(build), "utf-8")
    return NO_CLASH


def _begun(options: argparse.Namespace) -> Build:
    family = usual_watch(ready_family(options.family), usual_model().anatomy)
    texts = [file.read_bytes().decode("utf-8", "replace") for file in options.listing]
    build = begun(family, texts)
    return build.renamed(options.name) if options.name else build
