"""The caliper stand-in: its own small window, and the local end of its cable."""

from typing import Annotated

from fastapi import APIRouter, Form, Request
from starlette.responses import JSONResponse, Response, StreamingResponse

from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import figure
from marquetry.devices.caliper import STAND_IN, keys_of
from marquetry.drawing.caliper_drawing import caliper_drawing
from marquetry.web.site.deps import wants_fragments
from marquetry.web.site.pages import render

router = APIRouter(prefix="/caliper")


def _page(request: Request, size: str, shown: float | None = None, told: str = "") -> Response:
    opened = 0.0 if shown is None else shown
    words = figure(opened, 2, "mm")
    drawing = caliper_drawing(opened, words)
    context = {"drawing": drawing, "size": size, "shown": shown, "told": told, "instrument": STAND_IN}
    fragment = wants_fragments(request)
    return render(
        request,
        "measuring/templates/_caliper.html" if fragment else "measuring/templates/caliper.html",
        context,
    )


@router.get("", name="caliper")
def show(request: Request, size: str = "") -> Response:
    """The window."""
    return _page(request, size[:40])


@router.post("/measured", name="measure_with_caliper")
async def measured(request: Request, size: Annotated[str, Form(max_length=40)] = "") -> Response:
    """Close the jaws on a thing of this size and press the cable's button."""
    try:
        reading = request.app.state.caliper.read(parse_figure("size", size, "mm"))
    except DimensionError as error:
        return _page(request, size, told=str(error))
    heard = request.app.state.wedge.type(keys_of(reading))
    told = "" if heard else "No page listens: put the cursor into a dimension's field first."
    return _page(request, size, reading, told)


@router.post("/readings", name="caliper_readings")
async def typed(
    request: Request, keys: Annotated[str, Form(pattern=r"^-?\d{1,3}(\.\d{1,4})?\s*$")]
) -> Response:
    """What the cable of the command line's stand-in types."""
    return JSONResponse({"heard": request.app.state.wedge.type(keys)})


@router.get("/stream", name="caliper_stream")
async def stream(request: Request) -> Response:
    """The keys as they are typed, for the page that has a field in focus."""
    return StreamingResponse(request.app.state.wedge.listen(), media_type="text/event-stream")
