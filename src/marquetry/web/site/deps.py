"""What routes ask for: one connection per request, and what the reader chose to look at."""

import re
from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Query, Request

from marquetry.core.fit.model import Model as _Model
from marquetry.drawing.sheet import MEASURED, STRETCHES, USUAL_TIME, VIEWS, Display, View
from marquetry.store.database import Connection as _Opened
from marquetry.store.open_connections import OpenConnections

TIME = re.compile(r"([01]?\d|2[0-3]):[0-5]?\d(:[0-5]?\d)?")
MOST_FIELDS = 600
FRAGMENT_HEADER = "marquetry-fragment"
"""Sent by the page's own script: answer with the parts of the page that changed, not with all of it."""


def opened(request: Request) -> Iterator[_Opened]:
    """A connection to the workshop for this one request."""
    connections: OpenConnections = request.app.state.connections
    connection = connections.take()
    try:
        yield connection
    finally:
        connections.give_back(connection)


# What waits for nothing is `async`: an ordinary function would cost a trip to a thread and back.
async def _model(request: Request) -> _Model:
    model: _Model = request.app.state.model
    return model


async def _display(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    model: Annotated[_Model, Depends(_model)],
    view: Annotated[str, Query()] = "half",
    stretch: Annotated[str, Query()] = "1.5",
    check: Annotated[str, Query()] = "",
    time: Annotated[str, Query(max_length=20)] = "",
    size: Annotated[str, Query(max_length=20)] = "",
    shown: Annotated[str, Query(max_length=20, alias="as")] = "",
) -> Display:
    """What the address asks for; what it cannot mean is read as the usual view, so old links still open."""
    chosen_view: View = next((known for known in VIEWS if known == view), "half")
    chosen_stretch = next((known for known in STRETCHES if f"{known:g}" == stretch), 1.5)
    return Display(
        chosen_view,
        chosen_stretch,
        check if check in model.check_by_name else "",
        time=time if TIME.fullmatch(time) else USUAL_TIME,
        true_size=size == "true",
        measured=shown == MEASURED,
    )


def wants_fragments(request: Request) -> str:
    """Whether the page's own script asks, and for how much: what changed, or what a slider moves."""
    return request.headers.get(FRAGMENT_HEADER, "")[:10]


async def _fragments(request: Request) -> str:
    return wants_fragments(request)


async def _sent(request: Request) -> dict[str, list[str]]:
    """Every value of every field of a form whose fields no model names; files are none of its business.

    Read here, so that the handler is an ordinary function: one that waits for the database holds up nobody.
    """
    async with request.form(max_files=0, max_fields=MOST_FIELDS) as form:
        return {
            key: [value for value in form.getlist(key) if isinstance(value, str)]
            for key in dict.fromkeys(form)
        }


Connection = Annotated[_Opened, Depends(opened)]
Model = Annotated[_Model, Depends(_model)]
Looking = Annotated[Display, Depends(_display)]
SentForm = Annotated[dict[str, list[str]], Depends(_sent)]
Fragments = Annotated[str, Depends(_fragments)]
