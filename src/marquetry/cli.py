"""The command line: check build sheets, serve a workshop, serve the demo workshop.

Exit codes: 0 no clash, 1 a clash, 2 input that cannot be read.
"""

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path

from marquetry import __version__
from marquetry.core.build import Build
from marquetry.core.errors import MarquetryError
from marquetry.core.finding import Verdict
from marquetry.core.remedies.offers import offers
from marquetry.core.report import Report, report_on
from marquetry.formats import build_sheet
from marquetry.formats.findings import findings_of
from marquetry.formats.findings_table import table_of
from marquetry.formats.remedies import remedies_of, remedies_told

NO_CLASH, CLASH, UNREADABLE = 0, 1, 2
OWN_DATABASE, DEMO_DATABASE = Path("var/workshop.sqlite3"), Path("var/demo.sqlite3")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command and return its exit code."""
    options = _parser().parse_args(arguments)
    code: int = options.run(options)
    return code


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="marquetry", description="Will this watch go together?")
    parser.add_argument("--version", action="version", version=f"marquetry {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    check = commands.add_parser("check", help="check build sheets; exit 1 where one has a clash")
    check.add_argument("files", nargs="+", type=Path, metavar="FILE")
    check.add_argument("--json", action="store_true", help="print one JSON array")
    check.set_defaults(run=_check)
    remedies = commands.add_parser("remedies", help="what can be done about a build sheet's clashes")
    remedies.add_argument("file", type=Path, metavar="FILE")
    remedies.add_argument("--json", action="store_true", help="print one JSON array")
    remedies.set_defaults(run=_remedies)
    caliper = commands.add_parser("caliper", help="a simulated caliper that types into the page's field")
    caliper.add_argument(
        "sizes", nargs="*", metavar="SIZE", help="true sizes in mm; none: ask for one at a time"
    )
    caliper.add_argument(
        "--to", default="http://127.0.0.1:8765", help="where Marquetry is (default: %(default)s)"
    )
    caliper.add_argument("--seed", type=int, help="the same seed gives the same readings")
    caliper.set_defaults(run=_caliper)
    for name, database, words in (
        ("serve", OWN_DATABASE, "serve your workshop on this machine"),
        ("demo", DEMO_DATABASE, "serve the demo workshop"),
    ):
        serve = commands.add_parser(name, help=words)
        serve.add_argument("--host", default="127.0.0.1", help="address to listen on (default: %(default)s)")
        serve.add_argument("--port", type=int, default=8765)
        serve.add_argument("--database", type=Path, default=database, help="default: %(default)s")
        serve.set_defaults(run=_demo if name == "demo" else _serve)
        if name == "demo":
            serve.add_argument("--fresh", action="store_true", help="put the demo back as it was")
    return parser


def _check(options: argparse.Namespace) -> int:
    results: list[tuple[Path, Build, Report]] = []
    for file in options.files:
        try:
            build = build_sheet.loads(file.read_bytes())
            results.append((file, build, report_on(build)))
        except OSError as error:
            print(f"{file}: cannot be opened: {error.strerror}", file=sys.stderr)
            return UNREADABLE
        except MarquetryError as error:
            print(f"{file}: {error}", file=sys.stderr)
            return UNREADABLE
    if options.json:
        print(json.dumps([findings_of(b, r, str(f)) for f, b, r in results], ensure_ascii=False, indent=1))
    else:
        print("\n\n".join(table_of(build, report) for _, build, report in results))
    return CLASH if any(report.worst is Verdict.CLASH for _, _, report in results) else NO_CLASH


def _remedies(options: argparse.Namespace) -> int:
    try:
        found = offers(build_sheet.loads(options.file.read_bytes()))
    except OSError as error:
        print(f"{options.file}: cannot be opened: {error.strerror}", file=sys.stderr)
        return UNREADABLE
    except MarquetryError as error:
        print(f"{options.file}: {error}", file=sys.stderr)
        return UNREADABLE
    print(
        json.dumps(remedies_of(found), ensure_ascii=False, indent=1) if options.json else remedies_told(found)
    )
    return NO_CLASH


def _caliper(options: argparse.Namespace) -> int:
    from marquetry.devices.cable import send_readings  # noqa: PLC0415  # only this command goes through a socket

    try:
        for reading, heard in send_readings(options.to, options.sizes or iter(_asked, ""), options.seed):
            print(
                f"{reading:.2f}"
                if heard
                else f"{reading:.2f}  (no page listens: put the cursor into a field)"
            )
    except (MarquetryError, OSError, EOFError, KeyboardInterrupt) as error:
        print(f"caliper: {error}" if str(error) else "", file=sys.stderr)
        return NO_CLASH if isinstance(error, EOFError | KeyboardInterrupt) else UNREADABLE
    return NO_CLASH


def _asked() -> str:
    return input("true size between the jaws, in mm (Enter alone ends): ").strip()


def _serve(options: argparse.Namespace) -> int:
    from marquetry.web.server import serve  # noqa: PLC0415  # the web's imports cost a second; `check` needs none

    return serve(options.database, options.host, options.port)


def _demo(options: argparse.Namespace) -> int:
    from marquetry.demo.workshop import make_demo  # noqa: PLC0415  # as above

    make_demo(options.database, fresh=options.fresh)
    return _serve(options)


if __name__ == "__main__":
    sys.exit(main())
