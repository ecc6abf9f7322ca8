"""`marquetry serve` and `marquetry demo`: a workshop of one's own, or the demo's, served on this machine."""

import argparse
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.core.fit.model import usual_model

OWN_DATABASE, DEMO_DATABASE = Path("var/workshop.sqlite3"), Path("var/demo.sqlite3")


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe both commands."""
    for name, database, words in (
        ("serve", OWN_DATABASE, "serve your workshop on this machine"),
        ("demo", DEMO_DATABASE, "serve the demo workshop"),
    ):
        parser = commands.add_parser(name, help=words)
        parser.add_argument("--host", default="127.0.0.1", help="address to listen on (default: %(default)s)")
        parser.add_argument("--port", type=int, default=8765)
        parser.add_argument("--database", type=Path, default=database, help="default: %(default)s")
        parser.set_defaults(run=_demo if name == "demo" else _serve)
        if name == "demo":
            parser.add_argument("--fresh", action="store_true", help="put the demo back as it was")


def _serve(options: argparse.Namespace) -> int:
    from marquetry.web.site.server import serve  # noqa: PLC0415  # the web's imports cost a second; `check` needs none

    return serve(usual_model(), options.database, options.host, options.port)


def _demo(options: argparse.Namespace) -> int:
    from marquetry.demo.workshop import make_demo  # noqa: PLC0415  # as above
    from marquetry.web.site.server import serve  # noqa: PLC0415  # as above

    model = usual_model()

    def prepare() -> None:
        make_demo(options.database, model, fresh=options.fresh)

    return serve(model, options.database, options.host, options.port, prepare)
