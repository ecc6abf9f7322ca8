"""`marquetry caliper`: the caliper stand-in, typing into the page's field."""

import argparse

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, complain, say
from marquetry.core.values.errors import MarquetryError


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("caliper", help="a simulated caliper that types into the page's field")
    parser.add_argument(
        "sizes", nargs="*", metavar="SIZE", help="true sizes in mm; none: ask for one at a time"
    )
    parser.add_argument(
        "--to", default="http://127.0.0.1:8765", help="where Marquetry is (default: %(default)s)"
    )
    parser.add_argument("--seed", type=int, help="the same seed gives the same readings")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Read each size and type the reading."""
    from marquetry.devices.cable import send_readings  # noqa: PLC0415  # only this command goes through a socket

    try:
        for reading, heard in send_readings(options.to, options.sizes or iter(_asked, ""), options.seed):
            say(
                f"{reading:.2f}"
                if heard
                else f"{reading:.2f}  (no page listens: put the cursor into a field)"
            )
    except (EOFError, KeyboardInterrupt):
        return NO_CLASH
    except (MarquetryError, OSError) as error:
        complain("caliper", error)
        return UNREADABLE
    return NO_CLASH


def _asked() -> str:
    return input("true size between the jaws, in mm (Enter alone ends): ").strip()
