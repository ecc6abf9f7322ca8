"""Runs the application with uvicorn and says where it is."""

from pathlib import Path

import uvicorn

from marquetry.core.fit.model import Model
from marquetry.store.database import connect, open_workshop
from marquetry.store.house import furnish
from marquetry.store.imports import clear_broken_off
from marquetry.web.site.app import create_app


def serve(model: Model, database: Path, host: str, port: int) -> int:
    """Serve the workshop in `database` until interrupted."""
    open_workshop(database, model)
    connection = connect(database, model)
    furnish(connection)
    clear_broken_off(connection)
    connection.close()
    app = create_app(database, model, allowed_host=host)
    print(f"Marquetry is at http://{host}:{port}/  (workshop: {database}; stop with Ctrl+C)", flush=True)  # noqa: T201  # the one line a builder needs
    uvicorn.run(
        app, host=host, port=port, log_level="warning", server_header=False, timeout_graceful_shutdown=2
    )
    return 0
