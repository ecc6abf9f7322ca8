"""Runs the application with uvicorn and says where it is.

The port is bound and the workshop locked before any file is touched: a start that cannot succeed changes
nothing, and never disturbs a program that serves the workshop already.
"""

import gc
import os
import socket
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import uvicorn

from marquetry.core.fit.model import Model
from marquetry.store.database import connect, open_workshop
from marquetry.store.house import furnish
from marquetry.store.imports import clear_broken_off
from marquetry.store.opening import keep_private, locked, refuse_foreign
from marquetry.web.site.app import create_app

MOST_CONNECTIONS = 200
IDLE_SECONDS = 10
PRIVATE = 0o077
THIS_MACHINE = {"127.0.0.1", "localhost", "::1"}
SHARED = (
    "Warning: {host} can be reached from other machines, and Marquetry asks nobody who they are. "
    "Whoever reaches it can read and change this workshop."
)


def serve(
    model: Model, database: Path, host: str, port: int, prepare: Callable[[], None] = lambda: None
) -> int:
    """Serve the workshop in `database` until interrupted; `prepare` runs once it is ours alone.

    OSError where the port is taken, TakenError where the workshop is, SheetError where the file is none.
    """
    with closing(bound(host, port)) as listening, locked(database):
        os.umask(PRIVATE)
        refuse_foreign(database)
        prepare()
        open_workshop(database, model)
        with closing(connect(database, model)) as connection:
            furnish(connection)
            clear_broken_off(connection)
        keep_private(database)
        app = create_app(database, model, allowed_host=host)
        # What the program itself is made of stays for good: looking through it for rubbish took 77 ms.
        gc.collect()
        gc.freeze()
        if host not in THIS_MACHINE:
            print(SHARED.format(host=host), flush=True)  # noqa: T201  # a builder has to see it
        print(f"Marquetry is at http://{host}:{port}/  (workshop: {database}; stop with Ctrl+C)", flush=True)  # noqa: T201  # the one line a builder needs
        options = uvicorn.Config(
            app,
            log_level="warning",
            server_header=False,
            timeout_graceful_shutdown=2,
            timeout_keep_alive=IDLE_SECONDS,
            limit_concurrency=MOST_CONNECTIONS,
        )
        uvicorn.Server(options).run(sockets=[listening])
    return 0


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
