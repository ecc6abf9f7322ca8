"""The local ends of outside devices: the chamber's line, and stand-ins for chamber and microphone."""

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from starlette.responses import JSONResponse, Response, StreamingResponse

from marquetry.devices.chamber import Chamber, ChamberCase, line_of

router = APIRouter()
LINE = r"^[-+.0-9eE, \t]{1,80}$"


@router.post("/chamber/lines", name="chamber_lines")
async def line(request: Request, line: Annotated[str, Form(pattern=LINE)]) -> Response:
    """What a chamber's serial line brings: handed on to the pages that listen."""
    return JSONResponse({"heard": request.app.state.chamber_line.type(line)})


@router.get("/chamber/stream", name="chamber_stream")
async def stream(request: Request) -> Response:
    """The lines as they come."""
    return StreamingResponse(request.app.state.chamber_line.listen(), media_type="text/event-stream")


@router.get("/chamber/stand-in", name="chamber_stand_in")
async def stand_in(
    case: ChamberCase = "sound",
    bar: Annotated[float, Query(ge=0.5, le=25.0)] = 3.0,
    hold: Annotated[float, Query(ge=5.0, le=300.0)] = 60.0,
    faster: Annotated[float, Query(ge=1.0, le=1000.0)] = 5.0,
) -> Response:
    """The stand-in, on the same way: a line a reading."""
    chamber = Chamber(case, bar, hold)
    return StreamingResponse(_played(chamber, faster), media_type="text/event-stream")


async def _played(chamber: Chamber, faster: float) -> AsyncIterator[str]:
    before = 0.0
    for reading in chamber.readings():
        await asyncio.sleep((reading.time - before) / faster)
        before = reading.time
        yield f"event: keys\ndata: {line_of(reading).strip()}\n\n"
    yield "event: end\ndata: done\n\n"


@router.get("/watch-sound.wav", name="watch_sound")
def watch_sound(
    rate: float = 6.0,
    amplitude: float = 275.0,
    beat_error: float = 0.3,
    beats: int = 28_800,
    seconds: Annotated[int, Query(ge=1, le=60)] = 20,
) -> Response:
    """The stand-in: a simulated watch, for whoever has no microphone at hand."""
    from marquetry.devices.watch_sound import WatchSound  # noqa: PLC0415  # as above
    from marquetry.formats.wav import wav_bytes  # noqa: PLC0415  # as above

    rate_hz = 22_050
    watch = WatchSound(beats, rate, amplitude, beat_error)
    return Response(wav_bytes(watch.recorded(seconds, rate_hz), rate_hz), media_type="audio/wav")
