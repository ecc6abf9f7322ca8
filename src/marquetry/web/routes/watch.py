"""One watch: its fit page, and every edit of it."""

import sqlite3
from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from starlette.responses import RedirectResponse, Response

from marquetry.core.change import change_of_entry
from marquetry.core.errors import DimensionError, SheetError
from marquetry.core.parts import label_of
from marquetry.drawing.sheet import Display
from marquetry.store import watches
from marquetry.store.watches import StoredWatch
from marquetry.web.deps import Connection, Fragments, Looking
from marquetry.web.fit_page import changed_fragments, fit_page, whole_page
from marquetry.web.forms import Edit, EntryEdit, PathEdit, SpacerEdit
from marquetry.web.rows import Rejected

router = APIRouter(prefix="/watches/{watch_id}")


@router.get("", name="watch")
def show(
    request: Request, watch_id: int, connection: Connection, display: Looking, fragments: Fragments
) -> Response:
    """The watch in section with its findings, or only what another choice of view changes."""
    stored = watches.watch(connection, watch_id)
    page = fit_page(stored, display)
    return changed_fragments(request, stored.build, page) if fragments else whole_page(request, page)


@router.post("/entries", name="change_entry")
def change_entry(  # noqa: PLR0913, PLR0917  # FastAPI hands each in by name
    request: Request,
    watch_id: int,
    edit: Annotated[EntryEdit, Form()],
    connection: Connection,
    display: Looking,
    fragments: Fragments,
) -> Response:
    """Change one entry of a part; what is refused comes back beside its field, as it was typed."""
    before = watches.watch(connection, watch_id)
    try:
        build = edit.applied_to(before.build)
    except (DimensionError, SheetError) as error:
        rejected = Rejected(edit.path, edit.place, edit.value, edit.tol, edit.source.value, str(error))
        return _refused(request, before, display, rejected, fragments=fragments)
    if build == before.build:
        return _answer(request, before, before, display, fragments=fragments)
    change = change_of_entry(before.build, build, edit.path)
    after = watches.save(connection, watch_id, edit.version, build, change)
    return _answer(request, before, after, display, fragments=fragments)


@router.post("/spacers", name="add_spacer")
def add_spacer(  # noqa: PLR0913, PLR0917  # as above
    request: Request,
    watch_id: int,
    edit: Annotated[SpacerEdit, Form()],
    connection: Connection,
    display: Looking,
    fragments: Fragments,
) -> Response:
    """Put a spacer on one side of the dial."""
    before = watches.watch(connection, watch_id)
    try:
        build = edit.applied_to(before.build)
    except (DimensionError, SheetError) as error:
        rejected = Rejected("spacers", "tray", edit.value, edit.tol, edit.source.value, str(error))
        return _refused(request, before, display, rejected, fragments=fragments)
    words = f"spacer of {edit.value.strip()} on the {edit.side} side"
    after = watches.save(connection, watch_id, edit.version, build, words)
    return _answer(request, before, after, display, fragments=fragments)


@router.post("/parts", name="add_part")
def add_part(  # noqa: PLR0913, PLR0917  # as above
    request: Request,
    watch_id: int,
    edit: Annotated[PathEdit, Form()],
    connection: Connection,
    display: Looking,
    fragments: Fragments,
) -> Response:
    """Add a part, a hand, a foot: whatever the path names, with nothing known of it yet."""
    before = watches.watch(connection, watch_id)
    build = edit.added_to(before.build)
    words = f"added: {label_of(edit.path.removesuffix('.-'))}"
    after = watches.save(connection, watch_id, edit.version, build, words)
    return _answer(request, before, after, display, fragments=fragments)


@router.post("/parts/removed", name="remove_part")
def remove_part(  # noqa: PLR0913, PLR0917  # as above
    request: Request,
    watch_id: int,
    edit: Annotated[PathEdit, Form()],
    connection: Connection,
    display: Looking,
    fragments: Fragments,
) -> Response:
    """Take a part, a hand, a spacer out of the watch; undo brings it back."""
    before = watches.watch(connection, watch_id)
    build = edit.taken_from(before.build)
    after = watches.save(connection, watch_id, edit.version, build, f"removed: {label_of(edit.path)}")
    return _answer(request, before, after, display, fragments=fragments)


Step = Callable[[sqlite3.Connection, int, int], StoredWatch]
STEPS: dict[str, Step] = {"undo": watches.undo, "redo": watches.redo}


@router.post("/{step}", name="step")
def step(  # noqa: PLR0913, PLR0917  # as above
    request: Request,
    watch_id: int,
    step: Literal["undo", "redo"],
    edit: Annotated[Edit, Form()],
    connection: Connection,
    display: Looking,
    fragments: Fragments,
) -> Response:
    """Undo or redo one change."""
    before = watches.watch(connection, watch_id)
    after = STEPS[step](connection, watch_id, edit.version)
    return _answer(request, before, after, display, fragments=fragments)


def _answer(
    request: Request, before: StoredWatch, after: StoredWatch, display: Display, *, fragments: bool
) -> Response:
    """What changed, for the page's own script; a fresh page, for a form that was sent without it."""
    if fragments:
        return changed_fragments(request, before.build, fit_page(after, display))
    address = request.app.url_path_for("watch", watch_id=str(after.id))
    return RedirectResponse(f"{address}{fit_page(after, display).query()}", status_code=303)


def _refused(
    request: Request, before: StoredWatch, display: Display, rejected: Rejected, *, fragments: bool
) -> Response:
    page = fit_page(before, display, rejected)
    if fragments:
        return changed_fragments(request, before.build, page)
    return whole_page(request, page, 422)
