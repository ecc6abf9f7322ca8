"""`marquetry chamber`: the stand-in for a pressure chamber, as a file or sent to the page line by line."""

import argparse
import sys
from collections.abc import Iterable
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, say
from marquetry.core.values.errors import SheetError
from marquetry.devices.chamber import LOSSES, Chamber
from marquetry.formats.pressure_csv import series_text

USUAL_ADDRESS = "http://127.0.0.1:8765"
SLOWEST, FASTEST = 0.1, 1000.0


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("chamber", help="a simulated pressure chamber")
    parser.add_argument("--case", choices=tuple(LOSSES), default="sound", help="what the case does")
    parser.add_argument("--bar", type=float, default=3.0, metavar="BAR", help="pressure that is held")
    parser.add_argument("--hold", type=float, default=90.0, metavar="S", help="how long it is held")
    parser.add_argument("--seed", type=int, metavar="N", help="the same again")
    parser.add_argument("--out", type=Path, metavar="FILE.csv", help="write the series")
    parser.add_argument(
        "--from", dest="source", metavar="FILE", help="hand on a real chamber's lines; - reads standard input"
    )
    parser.add_argument(
        "--to", metavar="ADDRESS", help="send it to the open page of Marquetry at this address"
    )
    parser.add_argument("--faster", type=float, default=1.0, metavar="N", help="play it N times as fast")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Play the test into a file, into the page, or onto standard output; or hand a real one's lines on."""
    chamber = Chamber(options.case, options.bar, options.hold, options.seed)
    if options.source:
        return _handed_on(options.source, options.to or USUAL_ADDRESS)
    if options.to:
        return _played(chamber, options.to, options.faster)
    text = series_text(list(chamber.readings()), ["chamber stand-in (simulated)"])
    if options.out:
        options.out.write_text(text, encoding="utf-8")
        say(f"{options.out}: {chamber.case} at {chamber.bar:g} bar")
    else:
        say(text.rstrip("\n"))
    return NO_CLASH


def _played(chamber: Chamber, to: str, faster: float) -> int:
    if not SLOWEST <= faster <= FASTEST:
        raise SheetError("--faster", f"a factor from {SLOWEST:g} to {FASTEST:g}", f"{faster:g}")
    return _sent(chamber.lines(faster), to)


def _handed_on(source: str, to: str) -> int:
    if source == "-":
        return _sent(sys.stdin, to)
    with Path(source).open(encoding="utf-8", errors="replace") as lines:
        return _sent(lines, to)


def _sent(lines: Iterable[str], to: str) -> int:
    from marquetry.devices.cable import send_line  # noqa: PLC0415  # only this way goes through a socket

    heard = [send_line(to, line.strip()) for line in lines if line.strip()]
    if any(heard):
        say(f"{len(heard)} lines sent")
    else:
        say("no page listens: open Water among the proofs of a watch")
    return NO_CLASH
