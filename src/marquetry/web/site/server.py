"""Runs the application with uvicorn and says where it is.

The port is bound and the workshop locked before any file is touched: a start that cannot succeed changes
nothing, and never disturbs a program that serves the workshop already.
"""

import gc
import os
import socket
from collections.abc import Callable
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

import uvicorn

from marquetry.core.fit.model import Model
from marquetry.core.values.errors import SheetError
from marquetry.store.access import PhraseKept, left_sessions, phrase_kept
from marquetry.store.database import connect, open_workshop
from marquetry.store.house import furnish
from marquetry.store.imports import clear_broken_off
from marquetry.store.opening import keep_private, locked, refuse_foreign
from marquetry.web.site.app import create_app
from marquetry.web.site.sharing import Sharing

MOST_CONNECTIONS = 200
IDLE_SECONDS = 10
PRIVATE = 0o077
THIS_MACHINE = {"127.0.0.1", "localhost", "::1"}
NOWHERE = ("192.0.2.1", 9)
"""A documentation address (RFC 5737): asking for the way there sends nothing, and tells our own address."""
PLAIN = (
    "Nobody comes in without the passphrase. The line itself is not encrypted: whoever is on the same\n"
    "network can read what goes over it. Use a network of your own, or give --certificate and --key."
)
ENCRYPTED = "Nobody comes in without the passphrase, and the line is encrypted."


@dataclass(frozen=True, slots=True)
class Listening:
    """Where to listen; `shared` on the local network behind the passphrase, with a certificate or without."""

    host: str
    port: int
    shared: bool = False
    certificate: Path | None = None
    key: Path | None = None

    @property
    def is_encrypted(self) -> bool:
        """Whether the line is."""
        return self.certificate is not None

    def refuse_impossible(self) -> None:
        """Raise SheetError for what could not be, or should not."""
        if self.host not in THIS_MACHINE and not self.shared:
            raise SheetError("--host", "this machine's own address, or --share beside it", self.host)
        if (self.certificate is None) != (self.key is None):
            raise SheetError("--certificate", "a certificate and its --key together")
        for name, file in (("--certificate", self.certificate), ("--key", self.key)):
            if file is not None and not file.is_file():
                raise SheetError(name, "a file in PEM", str(file))


def serve(
    model: Model, database: Path, listening: Listening, prepare: Callable[[], None] = lambda: None
) -> int:
    """Serve the workshop in `database` until interrupted; `prepare` runs once it is ours alone.

    OSError where the port is taken, TakenError where the workshop is, SheetError where the file is none, or
    where it shall be shared and has no passphrase.
    """
    listening.refuse_impossible()
    # A link to it is the same workshop: its lock, its pictures and its log lie beside the file itself.
    database = database.resolve()
    with closing(bound(listening.host, listening.port)) as sock, locked(database):
        os.umask(PRIVATE)
        refuse_foreign(database)
        prepare()
        open_workshop(database, model)
        with closing(connect(database, model)) as connection:
            furnish(connection)
            clear_broken_off(connection)
            kept, left = phrase_kept(connection), left_sessions(connection)
        keep_private(database)
        names = local_names() if listening.shared else ()
        sharing = _sharing(listening, names, kept, left) if listening.shared else None
        app = create_app(database, model, (*names, listening.host), sharing)
        # What the program itself is made of stays for good: looking through it for rubbish took 77 ms.
        gc.collect()
        gc.freeze()
        _tell(listening, database, sharing)
        options = uvicorn.Config(
            app,
            log_level="warning",
            server_header=False,
            timeout_graceful_shutdown=2,
            timeout_keep_alive=IDLE_SECONDS,
            limit_concurrency=MOST_CONNECTIONS,
            ssl_certfile=listening.certificate,
            ssl_keyfile=listening.key,
        )
        uvicorn.Server(options).run(sockets=[sock])
    return 0


def _sharing(
    listening: Listening, names: tuple[str, ...], kept: PhraseKept | None, left: set[str]
) -> Sharing:
    if kept is None:
        raise SheetError("--share", "a passphrase first: `marquetry passphrase` sets it")
    name = listening.host if listening.host not in {"0.0.0.0", "::"} else next(iter(names), "127.0.0.1")  # noqa: S104  # compared, not bound
    scheme = "https" if listening.is_encrypted else "http"
    return Sharing(f"{scheme}://{name}:{listening.port}/", listening.is_encrypted, kept=kept, left=left)


def _tell(listening: Listening, database: Path, sharing: Sharing | None) -> None:
    """Where it is, in the one line a builder needs; shared, as a code for a tablet's camera too."""
    here = f"http://{listening.host}:{listening.port}/"
    if sharing is not None:
        import segno  # noqa: PLC0415  # a shared workshop alone shows a code here

        here = sharing.address
        segno.make(here, micro=False).terminal(compact=True)
        print(ENCRYPTED if sharing.is_encrypted else PLAIN, flush=True)  # noqa: T201  # a builder has to see it
    print(f"Marquetry is at {here}  (workshop: {database}; stop with Ctrl+C)", flush=True)  # noqa: T201  # as above


def local_names() -> tuple[str, ...]:
    """The names and addresses by which other machines reach this one, the usual address first."""
    found: dict[str, None] = {}
    with closing(socket.socket(socket.AF_INET, socket.SOCK_DGRAM)) as probe:
        try:
            probe.connect(NOWHERE)
            found[probe.getsockname()[0]] = None
        except OSError:
            pass  # no network: this machine alone will find it
    name = socket.gethostname().lower()
    for known in (name, f"{name}.local"):
        found[known] = None
    try:
        for info in socket.getaddrinfo(name, None, socket.AF_INET):
            found[str(info[4][0])] = None
    except OSError:
        pass  # a name that nobody resolves is no address
    return tuple(found)


def bound(host: str, port: int) -> socket.socket:
    """A socket at the address, bound; OSError where something answers there already."""
    kind = socket.AF_INET6 if ":" in host else socket.AF_INET
    made = socket.socket(kind, socket.SOCK_STREAM)
    # asyncio sets this only on sockets it opened; without it a body waits 40 ms for its head's receipt.
    made.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        made.bind((host, port))
        made.listen(MOST_CONNECTIONS)
    except OSError:
        made.close()
        raise
    return made
