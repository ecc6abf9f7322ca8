"""`marquetry serve` and `marquetry demo`: a workshop of one's own or the demo's, here or shared."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from marquetry.cli.commands import Commands
from marquetry.core.fit.model import usual_model

if TYPE_CHECKING:  # the web's imports cost a second; `check` needs none
    from marquetry.web.site.server import Listening

OWN_DATABASE, DEMO_DATABASE = Path("var/workshop.sqlite3"), Path("var/demo.sqlite3")
THIS_MACHINE, EVERY_ADDRESS = "127.0.0.1", "0.0.0.0"  # noqa: S104  # only behind the passphrase


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe both commands."""
    for name, database, words in (
        ("serve", OWN_DATABASE, "serve your workshop on this machine, or with --share at the bench's tablet"),
        ("demo", DEMO_DATABASE, "serve the demo workshop"),
    ):
        parser = commands.add_parser(name, help=words)
        parser.add_argument("--host", default="", help="address to listen on (default: this machine's own)")
        parser.add_argument("--port", type=int, default=8765)
        parser.add_argument("--database", type=Path, default=database, help="default: %(default)s")
        parser.add_argument(
            "--share", action="store_true", help="listen on the local network, behind the passphrase"
        )
        parser.add_argument("--certificate", type=Path, help="a certificate in PEM: the line is encrypted")
        parser.add_argument("--key", type=Path, help="the certificate's key in PEM")
        parser.set_defaults(run=_demo if name == "demo" else _serve)
        if name == "demo":
            parser.add_argument("--fresh", action="store_true", help="put the demo back as it was")


def _listening(options: argparse.Namespace) -> "Listening":
    from marquetry.web.site.server import Listening  # noqa: PLC0415  # the web's imports cost a second

    host = options.host or (EVERY_ADDRESS if options.share else THIS_MACHINE)
    return Listening(host, options.port, options.share, options.certificate, options.key)


def _serve(options: argparse.Namespace) -> int:
    from marquetry.web.site.server import serve  # noqa: PLC0415  # as above

    return serve(usual_model(), options.database, _listening(options))


def _demo(options: argparse.Namespace) -> int:
    from marquetry.demo.workshop import make_demo  # noqa: PLC0415  # as above
    from marquetry.web.site.server import serve  # noqa: PLC0415  # as above

    model = usual_model()

    def prepare() -> None:
        make_demo(options.database, model, fresh=options.fresh)

    return serve(model, options.database, _listening(options), prepare)
