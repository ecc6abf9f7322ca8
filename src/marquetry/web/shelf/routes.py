"""The shelf: drawers by kind, slips found by words and filters, and new parts."""

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.sheet.part import Part
from marquetry.core.values.errors import SheetError
from marquetry.store import fates, pieces, shelf
from marquetry.store.database import transaction
from marquetry.store.shelf_search import choices, kind_counts, search
from marquetry.web.shelf.view import Drawer, ShelfLook, ShelfPage
from marquetry.web.site.deps import Connection, Fragments
from marquetry.web.site.pages import render

router = APIRouter()
LONGEST_NAME = 120


@router.get("/shelf", name="shelf")
def show(
    request: Request, connection: Connection, fragments: Fragments, look: Annotated[ShelfLook, Query()]
) -> Response:
    """The drawers and what was found, or only the latter for the page's own script."""
    counts = kind_counts(connection)
    on_bench = fates.watches_at_work(connection)
    page = ShelfPage(
        look,
        search(connection, look.query()),
        tuple(Drawer(kind, counts.get(kind.key, 0)) for kind in connection.model.anatomy.kinds),
        choices(connection, look.kind),
        shelf.suppliers(connection),
        next((watch for watch in on_bench if watch.id == look.watch), None),
        on_bench,
        connection.model.anatomy,
    )
    template = "shelf/templates/_shelf_found.html" if fragments else "shelf/templates/shelf.html"
    return render(request, template, {"page": page})


@router.post("/shelf/parts", name="new_part")
def new_part(
    request: Request,
    connection: Connection,
    kind: Annotated[str, Form()],
    name: Annotated[str, Form(max_length=LONGEST_NAME)] = "",
    owned: Annotated[Literal["yes", ""], Form()] = "",
) -> Response:
    """Begin a part of which nothing is known but kind and name; with a piece of it, if one is owned."""
    described = connection.model.anatomy.kind(kind)
    if not name.strip():
        raise SheetError("name", f"a name of at most {LONGEST_NAME} letters", "nothing")
    with transaction(connection):
        number = shelf.add_part(connection, Part.of(described, {"name": name.strip()}))
        if owned:
            pieces.add_piece(connection, number)
    return RedirectResponse(request.app.url_path_for("part", part_id=str(number)), status_code=303)
