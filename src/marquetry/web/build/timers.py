"""Timers of every watch, for the strip that rings on every page; one that was heard is quiet."""

import uuid
from typing import Annotated

from fastapi import APIRouter, Form, Request
from starlette.responses import JSONResponse, Response

from marquetry.core.bench.log import LogEntry
from marquetry.store import bench_log, watches
from marquetry.web.build.bench_run import now_ms
from marquetry.web.build.forms import STEP
from marquetry.web.site.deps import Connection

router = APIRouter()


@router.get("/timers", name="timers")
def timers(request: Request, connection: Connection) -> Response:
    """What sets now, and what has rung and nobody heard: milliseconds left, its words and its page."""
    now = now_ms()
    told = [
        {
            "id": f"{one.watch_id}-{one.timer.step}-{one.timer.begun_ms}",
            "watch": one.watch_id,
            "name": one.watch,
            "step": one.timer.step,
            "words": one.timer.words,
            "left": one.timer.rings_ms - now,
            "page": str(
                request.app.url_path_for("build_step", watch_id=str(one.watch_id), step=one.timer.step)
            ),
            "quiet": str(request.app.url_path_for("quiet_timer", watch_id=str(one.watch_id))),
        }
        for one in bench_log.timers(connection)
    ]
    return JSONResponse({"timers": told, "sounds": bench_log.settings(connection)["sounds"]})


@router.post("/watches/{watch_id}/build/quiet", name="quiet_timer")
def quiet(
    request: Request,
    connection: Connection,
    watch_id: int,
    step: Annotated[str, Form(pattern=STEP)],
    words: Annotated[str, Form(max_length=200)] = "",
) -> Response:
    """It was heard, or what it holds is gone on with before; either stays in the log."""
    watches.watch(connection, watch_id)
    entry = LogEntry(uuid.uuid4().hex, step, "quiet", now_ms(), words=words)
    bench_log.add_entries(connection, watch_id, [entry])
    request.app.state.bench_lines.tell(watch_id, "measured")
    return JSONResponse({"quiet": step})
