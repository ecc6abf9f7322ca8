"""`marquetry check`: build sheets judged, as a table or as JSON."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import CLASH, NO_CLASH, UNREADABLE, complain, say
from marquetry.core.fit.model import usual_model
from marquetry.core.fit.report import Report, report_on
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import MarquetryError
from marquetry.core.values.verdict import Verdict
from marquetry.formats import build_sheet
from marquetry.formats.findings import findings_of
from marquetry.formats.findings_table import table_of


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("check", help="check build sheets; exit 1 where one has a clash")
    parser.add_argument("files", nargs="+", type=Path, metavar="FILE")
    parser.add_argument("--json", action="store_true", help="print one JSON array")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Judge every file; the first that cannot be read ends it."""
    model = usual_model()
    results: list[tuple[Path, Build, Report]] = []
    for file in options.files:
        try:
            build = build_sheet.loads(file.read_bytes(), model.anatomy)
            results.append((file, build, report_on(build, model.rules_of(build))))
        except (MarquetryError, OSError) as error:
            complain(file, error)
            return UNREADABLE
    if options.json:
        say(json.dumps([findings_of(b, r, str(f)) for f, b, r in results], ensure_ascii=False, indent=1))
    else:
        say("\n\n".join(table_of(build, report) for _, build, report in results))
    return CLASH if any(report.worst is Verdict.CLASH for _, _, report in results) else NO_CLASH
